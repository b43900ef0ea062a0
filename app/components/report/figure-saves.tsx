import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useTaking } from "../ui/numbers-of-before";
import type { DrawnFigure } from "../../../formats/figures";

/** A figure for print as a file: vectors, or points at two resolutions. */
export function FigureSaves({ save }: { save: (as: "svg" | 300 | 600) => void }) {
  const taking = useTaking();
  return (
    <>
      <Button size="small" variant="text" onClick={() => save("svg")} {...taking}>
        SVG
      </Button>
      <Button size="small" variant="text" onClick={() => save(300)} {...taking}>
        PNG 300 dpi
      </Button>
      <Button size="small" variant="text" onClick={() => save(600)} {...taking}>
        600 dpi
      </Button>
    </>
  );
}

/**
 * A figure for print on the screen: our own drawing, so names in it are escaped where it is made.
 */
export const Drawn = ({ figure, sx }: { figure: DrawnFigure; sx: object }) => (
  <Box sx={sx} dangerouslySetInnerHTML={{ __html: figure.svg }} />
);
