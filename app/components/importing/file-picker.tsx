import Button, { type ButtonProps } from "@mui/material/Button";
import { useRef, type ReactNode } from "react";
import { FileInput } from "../ui/file-input";

interface Props extends Pick<ButtonProps, "variant" | "size"> {
  /** Name of the hidden field, for screen readers and tests. */
  label: string;
  accept: string;
  pick: (file: File) => void;
  children: ReactNode;
}

/** A button that opens the system's file dialog. */
export function FilePicker({ label, accept, pick, children, ...button }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <FileInput ref={input} label={label} accept={accept} pick={pick} />
      <Button {...button} onClick={() => input.current?.click()}>
        {children}
      </Button>
    </>
  );
}
