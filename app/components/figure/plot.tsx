import { styled } from "@mui/material/styles";
import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  Filler,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  ScatterController,
  Tooltip,
  type ChartConfiguration,
} from "chart.js";
import { useEffect, useMemo, useRef } from "react";
import { Chart as Drawn } from "react-chartjs-2";
import { useLook } from "../../theme/theme";
import { LOOKS } from "../../theme/tokens";
import { registerMarkup } from "./drawing";
import type { Colours } from "./plot-config";
import { plotMarkup } from "./plot-markup";

Chart.register(
  BarController,
  BarElement,
  CategoryScale,
  Filler,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  ScatterController,
  Tooltip,
);

interface Props {
  /** What a reader who does not see it is told. */
  label: string;
  height: number;
  /** Pixels; the whole width of its place where none is given. */
  width?: number;
  /** The plot in these colours: those of the look on the screen, or those of print. */
  make: (colours: Colours) => ChartConfiguration;
}

const Place = styled("div")({ position: "relative", maxWidth: "100%", minWidth: 0 });

/**
 * An ordinary chart in the house's look. A file of it is drawn once more as lines, black on white.
 */
export function Plot({ label, height, width, make }: Props) {
  const place = useRef<HTMLDivElement>(null);
  const { look } = useLook();
  const config = useMemo(() => make(LOOKS[look]), [make, look]);
  useEffect(() => {
    const canvas = place.current?.querySelector("canvas");
    if (!canvas) return;
    return registerMarkup(canvas, () =>
      plotMarkup(make(LOOKS.light), canvas.clientWidth, canvas.clientHeight),
    );
  }, [make]);
  return (
    <Place ref={place} style={{ height, width: width ?? "100%" }}>
      <Drawn {...config} redraw role="img" aria-label={label} />
    </Place>
  );
}
