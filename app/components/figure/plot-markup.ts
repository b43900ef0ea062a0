import { BasicPlatform, Chart, type ChartConfiguration } from "chart.js";
import { Context } from "svgcanvas";

/**
 * The same plot as marks of SVG: the library draws once more, on a context that writes down what is
 * drawn.
 */
export function plotMarkup(config: ChartConfiguration, width: number, height: number): string {
  const context = new Context(width, height);
  const canvas = { getContext: () => context, width, height, style: {} };
  context.canvas = canvas;
  const chart = new Chart(canvas as unknown as HTMLCanvasElement, {
    ...config,
    platform: BasicPlatform,
    options: { ...config.options, responsive: false, animation: false, devicePixelRatio: 1 },
  });
  const markup = context.getSvg().innerHTML;
  chart.destroy();
  return markup;
}
