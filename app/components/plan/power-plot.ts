import { apart } from "../figure/apart";
import type { ChartConfiguration, Plugin } from "chart.js";
import { plain, type SimulatedShare } from "../../../core";
import { SANS } from "../../theme/tokens";
import { axisOf, plotConfig, type Colours } from "../figure/plot-config";

/** A curve of power: one sentence, or all of them. */
export interface PowerCurve {
  label: string;
  points: { x: number; power: SimulatedShare }[];
  /** Without simulation, where there is a closed form. */
  exact: { x: number; y: number }[];
}

const DASHES = [[], [7, 4], [2, 3], [10, 3, 2, 3], [4, 4], [1, 4]];
const MARKS = ["circle", "rect", "triangle", "rectRot", "crossRot", "star"] as const;

/**
 * Power over people or over size, with the error of the simulation at every point and the wanted
 * power as a line.
 */
export const powerPlot =
  (curves: readonly PowerCurve[], target: number, name: string) =>
  (colours: Colours): ChartConfiguration => {
    const xs = curves.flatMap((c) => c.points.map((p) => p.x));
    const [low, high] = [Math.min(...xs), Math.max(...xs)];
    const room = (high - low || Math.abs(high) || 1) * 0.06;
    const domain: [number, number] = [low - room, high + 2.4 * room];
    const colourOf = (i: number): string =>
      [colours.petrol, colours.rust, colours.ink, colours.quiet][i % 4]!;
    return plotConfig<"line">(
      {
        type: "line",
        data: {
          datasets: [
            ...curves.map((curve, i) => ({
              label: curve.label,
              data: curve.points.map((p) => ({ x: p.x, y: p.power.share })),
              borderColor: colourOf(i),
              backgroundColor: colourOf(i),
              borderDash: DASHES[i % DASHES.length]!,
              borderWidth: 2,
              pointStyle: MARKS[i % MARKS.length]!,
              pointRadius: 4.5,
            })),
            ...curves
              .map((curve, i) => ({
                label: `${curve.label}, exact`,
                data: curve.exact,
                borderColor: colourOf(i),
                borderWidth: 1,
                pointRadius: 0,
                pointHitRadius: 0,
              }))
              .filter((c) => c.data.length > 1),
          ],
        },
        options: {
          scales: {
            x: axisOf(colours, { domain, name }),
            y: axisOf(colours, { domain: [0, 1.02], name: "power" }),
          },
          plugins: {
            tooltip: {
              callbacks: {
                title: ([item]) => `${name}: ${plain(item?.parsed.x ?? null)}`,
                label: ({ datasetIndex, dataIndex, parsed }) => {
                  const point = curves[datasetIndex]?.points[dataIndex];
                  const error = point ? ` ± ${plain(196 * point.power.se, 2)}` : "";
                  return `${curves[datasetIndex]?.label ?? "exact"}: ${plain(100 * (parsed.y ?? 0), 3)} %${error}`;
                },
              },
            },
          },
        },
        plugins: [errorBars(curves, colourOf)],
      },
      {
        guides: [{ axis: "y", at: target, colour: colours.rust, dash: [3, 3] }],
        words: apart(
          curves.map((c) => c.points.at(-1)?.power.share ?? 0),
          WORD,
        ).map((y, i) => ({
          x: curves[i]!.points.at(-1)?.x ?? 0,
          y,
          text: curves[i]!.label,
          colour: colourOf(i),
          shift: [11, 0] as [number, number],
          align: "left" as CanvasTextAlign,
        })),
      },
    );
  };

/** Room of one line of words, as a share of the whole height. */
const WORD = 0.065;

/** From 1.96 simulation errors below to as many above. */
const errorBars = (
  curves: readonly PowerCurve[],
  colourOf: (i: number) => string,
): Plugin<"line"> => ({
  id: "errors",
  beforeDatasetsDraw: ({ ctx, scales }) => {
    ctx.save();
    ctx.font = `12px ${SANS}`;
    curves.forEach((curve, i) => {
      ctx.strokeStyle = colourOf(i);
      ctx.lineWidth = 1.2;
      for (const { x, power } of curve.points) {
        const at = scales.x!.getPixelForValue(x);
        const reach = 1.96 * power.se;
        ctx.beginPath();
        ctx.moveTo(at, scales.y!.getPixelForValue(Math.max(0, power.share - reach)));
        ctx.lineTo(at, scales.y!.getPixelForValue(Math.min(1, power.share + reach)));
        ctx.stroke();
      }
    });
    ctx.restore();
  },
});
