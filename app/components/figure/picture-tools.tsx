import Button from "@mui/material/Button";
import type { RefObject } from "react";
import { savePng, saveSvg } from "./export-picture";

interface Props {
  /** Holds the pictures, one beneath the other. */
  target: RefObject<HTMLElement | null>;
  /** Of the files. */
  name: string;
  caption: string;
}

/** A picture as a file. */
export function PictureTools({ target, name, caption }: Props) {
  return (
    <span role="group" aria-label={`Take along: ${name}`}>
      <Button
        variant="text"
        size="small"
        onClick={() => target.current && saveSvg(target.current, caption, name)}
      >
        SVG
      </Button>
      <Button
        variant="text"
        size="small"
        onClick={() => target.current && void savePng(target.current, caption, name)}
      >
        PNG
      </Button>
    </span>
  );
}
