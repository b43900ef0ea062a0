import type { ChartConfiguration } from "chart.js";
import { plain, type EffectEvidence } from "../../../core";
import { plotConfig, type Colours } from "../figure/plot-config";
import type { Guide } from "../figure/plot-marks";

/** Words under the bars stay apart by this share of the width. */
const APART = 0.15;

/**
 * Bars of the bootstrap distribution: inside the interval dark, outside pale, with zero, the
 * estimate and the limits beneath.
 */
export const distributionPlot =
  ({ bootstrap, shown, estimate }: EffectEvidence) =>
  (colours: Colours): ChartConfiguration => {
    const { min, max, counts } = bootstrap!.histogram;
    const step = (max - min) / counts.length || 1;
    const [lower, upper] = [shown?.lower ?? null, shown?.upper ?? null];
    const bars = counts.map((count, i) => ({ x: min + (i + 0.5) * step, y: count }));
    const inside = ({ x }: { x: number }): boolean =>
      lower !== null && upper !== null && x >= lower && x <= upper;
    return plotConfig<"bar">(
      {
        type: "bar",
        data: {
          datasets: [
            {
              // The library's types know bars by place in a list only; it draws them by place on
              // the axis as well.
              data: bars as unknown as number[],
              backgroundColor: bars.map((bar) =>
                inside(bar) ? colours.petrol : colours["muted-bar"],
              ),
              barPercentage: 1,
              categoryPercentage: 0.92,
              grouped: false,
            },
          ],
        },
        options: {
          layout: { padding: { bottom: 22 } },
          plugins: {
            tooltip: {
              callbacks: {
                title: ([item]) => `around ${plain(item?.parsed.x ?? 0)}`,
                label: (item) => `${item.parsed.y} bootstrap samples`,
              },
            },
          },
          scales: {
            x: {
              type: "linear",
              min,
              max,
              offset: false,
              grid: { display: false },
              ticks: { display: false },
              border: { color: colours.ink },
            },
            y: { display: false, beginAtZero: true },
          },
        },
      },
      {
        guides: placed(
          [
            { at: lower, colour: colours.ink, line: false },
            { at: upper, colour: colours.ink, line: false },
            { at: 0, colour: colours.rust, line: true },
            { at: estimate, colour: colours.quiet, line: false },
          ],
          min,
          max,
        ),
      },
    );
  };

/**
 * Marks in the order of their weight; the words of one that would cover another are left out, its
 * line stays.
 */
function placed(
  marks: { at: number | null; colour: string; line: boolean }[],
  min: number,
  max: number,
): Guide[] {
  const taken: number[] = [];
  return marks.flatMap(({ at, colour, line }): Guide[] => {
    if (at === null || at < min || at > max) return [];
    const share = (at - min) / (max - min || 1);
    const free = taken.every((other) => Math.abs(other - share) >= APART);
    if (free) taken.push(share);
    else if (!line) return [];
    return [
      {
        axis: "x",
        at,
        colour,
        width: line ? 2 : 0,
        dash: [4, 4],
        ...(free ? { label: at === 0 ? "0" : plain(at) } : {}),
      },
    ];
  });
}
