import Button, { type ButtonProps } from "@mui/material/Button";
import type { RefObject } from "react";
import { useLeftOutWords } from "../ui/left-out";
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
  const said = [caption, useLeftOutWords()].filter(Boolean).join(" ");
  return (
    <>
      <Button
        {...button}
        {...taking}
        onClick={() => target.current && void saveSvg(target.current, said, name)}
      >
        SVG
      </Button>
      <Button
        {...button}
        {...taking}
        onClick={() => target.current && void savePng(target.current, said, name)}
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
