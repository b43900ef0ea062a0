import { useRef, type ReactNode } from "react";

interface Props {
  /** Name of the hidden field, for screen readers and tests. */
  label: string;
  accept: string;
  className: string;
  pick: (file: File) => void;
  children: ReactNode;
}

/** A button that opens the system's file dialog; choosing the same file twice counts twice. */
export function FilePicker({ label, accept, className, pick, children }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        className="visually-hidden"
        tabIndex={-1}
        aria-label={label}
        accept={accept}
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) pick(file);
          e.target.value = "";
        }}
      />
      <button type="button" className={className} onClick={() => input.current?.click()}>
        {children}
      </button>
    </>
  );
}
