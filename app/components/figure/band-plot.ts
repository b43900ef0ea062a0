import type { ChartConfiguration } from "chart.js";
import { axisOf, plotConfig, type Colours } from "./plot-config";
import type { Guide } from "./plot-marks";
import { padded } from "../../../formats/figures";

/** A curve with its band. */
export interface BandCurve {
  x: number[];
  estimate: number[];
  lower: number[];
  upper: number[];
  /** Names of the axes. */
  across: string;
  up: string;
  /** Lines across the plot, in the colours of the look. */
  guides?: (colours: Colours) => Guide[];
}

/** A curve over a number, with the band of its interval and a line at zero. */
export const bandPlot =
  ({ x, estimate, lower, upper, across, up, guides }: BandCurve) =>
  (colours: Colours): ChartConfiguration => {
    const points = (values: number[]) => values.map((y, i) => ({ x: x[i]!, y }));
    const bare = { pointRadius: 0, borderWidth: 0, tension: 0 };
    return plotConfig<"line">(
      {
        type: "line",
        data: {
          datasets: [
            // The first data set lies on top.
            { ...bare, data: points(estimate), borderColor: colours.petrol, borderWidth: 2.5 },
            { ...bare, data: points(lower), fill: false },
            {
              ...bare,
              data: points(upper),
              fill: "-1",
              backgroundColor: `${colours["muted-bar"]}80`,
            },
          ],
        },
        options: {
          scales: {
            x: axisOf(colours, { domain: [x[0]!, x.at(-1)!], name: across }),
            y: axisOf(colours, { domain: padded([...lower, ...upper, 0], 0.05), name: up }),
          },
        },
      },
      {
        guides: [
          { axis: "y", at: 0, colour: colours.quiet, width: 1 },
          ...(guides?.(colours) ?? []),
        ],
      },
    );
  };
