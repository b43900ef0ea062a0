import type { ChartConfiguration } from "chart.js";
import { useMemo } from "react";
import type { ColumnSummary } from "../../../core";
import { SANS } from "../../theme/tokens";
import { Plot } from "../figure/plot";
import { plotConfig, type Colours } from "../figure/plot-config";

/** How the values of a column are distributed: counts of levels, or of equal bins. */
export function Histogram({ summary, names }: { summary: ColumnSummary; names: string[] }) {
  const key = JSON.stringify([summary.bars, names]);
  const make = useMemo(
    () => histogramPlot(summary, names),
    // The bars are what is drawn.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [key],
  );
  if (summary.bars.length === 0) return null;
  const words = summary.bars.map((b, i) => `${names[i]}: ${b.count}`).join(", ");
  return <Plot label={`Distribution of ${summary.name}: ${words}`} height={112} make={make} />;
}

const histogramPlot =
  ({ bars }: ColumnSummary, names: string[]) =>
  (colours: Colours): ChartConfiguration =>
    plotConfig<"bar">(
      {
        type: "bar",
        data: {
          labels: names,
          datasets: [
            {
              data: bars.map((b) => b.count),
              backgroundColor: colours.petrol,
              barPercentage: 1,
              categoryPercentage: 0.92,
              maxBarThickness: 48,
            },
          ],
        },
        options: {
          scales: {
            x: {
              grid: { display: false },
              border: { color: colours.line },
              ticks: {
                color: colours.quiet,
                font: { family: SANS, size: 12 },
                maxRotation: 0,
                autoSkipPadding: 12,
              },
            },
            y: { display: false, beginAtZero: true },
          },
        },
      },
      {},
    );
