import type { ChartConfiguration, ChartType, ScaleOptionsByType } from "chart.js";
import { LOOKS, SANS, type Look } from "../../theme/tokens";
import { marksPlugin, type Marks } from "./plot-marks";
import { labelledTicks } from "../../../formats/figures";

export type Colours = (typeof LOOKS)[Look];

/**
 * One axis as all plots draw it: round values in the house's digits, hairlines, its name beneath or
 * beside.
 */
export function axisOf(
  colours: Colours,
  { domain, name, wanted = 6 }: { domain: [number, number]; name?: string; wanted?: number },
): Partial<ScaleOptionsByType<"linear">> & { type: "linear" } {
  const ticks = labelledTicks(domain, wanted);
  return {
    type: "linear",
    min: domain[0],
    max: domain[1],
    // The scale of the library rounds as it likes; ours are set whole.
    afterBuildTicks: (axis: { ticks: { value: number; label?: string }[] }) => {
      axis.ticks = ticks.map(([value, label]) => ({ value, label }));
    },
    ticks: {
      color: colours.quiet,
      font: { family: SANS, size: 12.5 },
      autoSkip: false,
      maxRotation: 0,
      callback: (_: unknown, at: number) => ticks[at]?.[1] ?? "",
    },
    grid: { color: colours.hair, drawTicks: false },
    border: { color: colours.line },
    title: {
      display: name !== undefined,
      text: name ?? "",
      color: colours.ink,
      font: { family: SANS, size: 13 },
    },
  } as unknown as Partial<ScaleOptionsByType<"linear">> & { type: "linear" };
}

/**
 * What all plots have in common: no movement, no legend, the type of the house, marks above the
 * data.
 */
export function plotConfig<T extends ChartType>(
  config: ChartConfiguration<T>,
  marks: Marks,
): ChartConfiguration {
  const whole = config as unknown as ChartConfiguration;
  return {
    ...whole,
    options: {
      animation: false,
      maintainAspectRatio: false,
      responsive: true,
      ...whole.options,
      plugins: { legend: { display: false }, ...whole.options?.plugins },
    },
    plugins: [...(whole.plugins ?? []), marksPlugin(marks, SANS)],
  };
}
