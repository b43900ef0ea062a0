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
  const still = Object.assign({}, config.options, {
    responsive: false,
    animation: false,
    devicePixelRatio: 1,
  });
  const printed: ChartConfiguration = Object.assign({}, config, {
    platform: BasicPlatform,
    options: still,
  });
  const chart = new Chart(canvas as unknown as HTMLCanvasElement, printed);
  const markup = context.getSvg().innerHTML;
  chart.destroy();
  return markup;
}
