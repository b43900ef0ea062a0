import Button, { type ButtonProps } from "@mui/material/Button";
import type { RefObject } from "react";
import { useTaking } from "../ui/numbers-of-before";
import { savePng, saveSvg } from "./export-picture";

export interface PictureProps {
  /** Holds the pictures, one beneath the other. */
  target: RefObject<HTMLElement | null>;
  /** Of the files. */
  name: string;
  caption: string;
}

/** A picture as a file: the two buttons, wherever they stand. */
export function PictureButtons({
  target,
  name,
  caption,
  ...button
}: PictureProps & Pick<ButtonProps, "variant" | "size">) {
  const taking = useTaking();
  return (
    <>
      <Button
        {...button}
        {...taking}
        onClick={() => target.current && saveSvg(target.current, caption, name)}
      >
        SVG
      </Button>
      <Button
        {...button}
        {...taking}
        onClick={() => target.current && void savePng(target.current, caption, name)}
      >
        PNG
      </Button>
    </>
  );
}

/** The same as a small group in the head of a picture. */
export const PictureTools = (props: PictureProps) => (
  <span role="group" aria-label={`Take along: ${props.name}`}>
    <PictureButtons {...props} variant="text" size="small" />
  </span>
);
