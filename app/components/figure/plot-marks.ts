import type { Chart, Plugin } from "chart.js";

/**
 * A straight line across the plot: at a value of one axis, with a word at its end where one is
 * given, or where both axes agree.
 */
export interface Guide {
  axis: "x" | "y" | "both";
  /** Without meaning where both axes agree. */
  at: number;
  colour: string;
  /** 0 for the word alone. */
  width?: number;
  dash?: [number, number];
  label?: string;
  /** Within the plot, at its upper end, where numbers of the axis may stand near the lower one. */
  labelled?: "above";
}

/** Words at a place, in values of the axes; `shift` moves them in pixels. */
export interface Words {
  x: number;
  y: number;
  text: string;
  colour: string;
  shift: [number, number];
  align?: CanvasTextAlign;
  /**
   * Where the words stand across: at their place, or in the room beside the plot (pixels from its
   * right edge).
   */
  beside?: number;
}

/** What a plot shows besides its data. */
export interface Marks {
  guides?: Guide[];
  words?: Words[];
}

/** Lines beneath the data, words above them. */
export function marksPlugin({ guides = [], words = [] }: Marks, font: string): Plugin {
  return {
    id: "marks",
    beforeDatasetsDraw: (chart) => guides.forEach((guide) => drawGuide(chart, guide, font)),
    afterDatasetsDraw: (chart) => {
      const { ctx, scales, chartArea } = chart;
      ctx.save();
      ctx.font = `13px ${font}`;
      ctx.textBaseline = "middle";
      for (const { x, y, text, colour, shift, align = "left", beside } of words) {
        ctx.fillStyle = colour;
        ctx.textAlign = align;
        const across =
          beside === undefined ? scales.x!.getPixelForValue(x) : chartArea.right + beside;
        ctx.fillText(text, across + shift[0], scales.y!.getPixelForValue(y) + shift[1]);
      }
      ctx.restore();
    },
  };
}

function drawGuide(chart: Chart, guide: Guide, font: string): void {
  const { ctx, scales, chartArea } = chart;
  const { axis, at, colour, width = 1, dash = [0, 0], label, labelled } = guide;
  const ends = endsOf(chart, guide);
  if (!ends) return;
  ctx.save();
  ctx.strokeStyle = colour;
  ctx.lineWidth = width;
  ctx.setLineDash(dash[0] > 0 ? dash : []);
  ctx.beginPath();
  ctx.moveTo(...ends[0]);
  ctx.lineTo(...ends[1]);
  if (width > 0) ctx.stroke();
  if (label !== undefined && axis === "x") {
    ctx.font = `13px ${font}`;
    ctx.fillStyle = colour;
    ctx.textAlign = labelled ? "left" : "center";
    ctx.textBaseline = "top";
    const across = scales.x!.getPixelForValue(at);
    if (labelled) ctx.fillText(label, across + 5, chartArea.top + 4);
    else ctx.fillText(label, across, chartArea.bottom + 5);
  }
  ctx.restore();
}

/** Both ends of a guide in pixels; null where it lies outside. */
function endsOf(
  { scales, chartArea }: Chart,
  { axis, at }: Guide,
): [[number, number], [number, number]] | null {
  const { left, right, top, bottom } = chartArea;
  const [x, y] = [scales.x!, scales.y!];
  if (axis === "both") {
    const [low, high] = [Math.max(x.min, y.min), Math.min(x.max, y.max)];
    const place = (v: number): [number, number] => [x.getPixelForValue(v), y.getPixelForValue(v)];
    return low < high ? [place(low), place(high)] : null;
  }
  const scale = axis === "x" ? x : y;
  if (at < Math.min(scale.min, scale.max) || at > Math.max(scale.min, scale.max)) return null;
  const pixel = scale.getPixelForValue(at);
  return axis === "x"
    ? [
        [pixel, top],
        [pixel, bottom],
      ]
    : [
        [left, pixel],
        [right, pixel],
      ];
}
