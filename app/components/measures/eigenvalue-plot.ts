import type { ChartConfiguration } from "chart.js";
import { plain, type Exploration } from "../../../core";
import { axisOf, plotConfig, type Colours } from "../figure/plot-config";

/** Roots of the sample with what data without common factors would have, as two lines beneath. */
export const eigenvaluePlot =
  ({ parallel, factors }: Exploration) =>
  (colours: Colours): ChartConfiguration => {
    const { eigenvalues, permuted, normal } = parallel;
    const most = Math.max(...eigenvalues, ...permuted);
    const points = (values: readonly number[]) => values.map((y, m) => ({ x: m + 1, y }));
    return plotConfig<"line">(
      {
        type: "line",
        data: {
          datasets: [
            {
              label: "this sample",
              data: points(eigenvalues),
              borderColor: colours.petrol,
              borderWidth: 2,
              pointRadius: 4.5,
              pointBackgroundColor: eigenvalues.map((_, m) =>
                m < factors ? colours.petrol : colours.sheet,
              ),
              pointBorderColor: colours.petrol,
            },
            {
              label: "columns permuted, 95 %",
              data: points(permuted),
              borderColor: colours.rust,
              borderWidth: 1.5,
              borderDash: [6, 4],
              pointRadius: 0,
            },
            {
              label: "normal data, 95 %",
              data: points(normal),
              borderColor: colours.quiet,
              borderWidth: 1.2,
              borderDash: [2, 3],
              pointRadius: 0,
            },
          ],
        },
        options: {
          scales: {
            x: axisOf(colours, {
              domain: [0.5, eigenvalues.length + 0.5],
              name: "factor",
              wanted: Math.min(12, eigenvalues.length),
            }),
            y: axisOf(colours, { domain: [0, most * 1.08], name: "eigenvalue" }),
          },
          plugins: {
            tooltip: {
              callbacks: {
                title: ([item]) => `factor ${item?.parsed.x ?? ""}`,
                label: ({ dataset, parsed }) => `${dataset.label}: ${plain(parsed.y)}`,
              },
            },
          },
        },
      },
      {
        guides: [],
        words: [
          word(1, eigenvalues[0]!, "this sample", colours.petrol, [10, 0]),
          word(
            Math.ceil(permuted.length / 2),
            permuted[Math.ceil(permuted.length / 2) - 1]!,
            "without common factors (95 %)",
            colours.rust,
            [4, -14],
          ),
        ],
      },
    );
  };

const word = (x: number, y: number, text: string, colour: string, shift: [number, number]) => ({
  x,
  y,
  text,
  colour,
  shift,
  align: "left" as CanvasTextAlign,
});
