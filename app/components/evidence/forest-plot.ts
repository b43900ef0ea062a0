import type { ChartConfiguration, Plugin } from "chart.js";
import { plain, pValue } from "../../../core";
import { SANS } from "../../theme/tokens";
import { axisOf, plotConfig, type Colours } from "../figure/plot-config";
import { padded } from "../../../formats/figures";

/** One estimate with both limits, under its name. */
export interface IntervalRow {
  words: string;
  estimate: number;
  lower: number;
  upper: number;
  /** Not the limits that were asked for: those are still to come. */
  provisional: boolean;
  p: number | null;
  pIsBound: boolean;
}

export const FOREST_ROW = 25;
/** Room beside the plot, in pixels: the names, and the numbers. */
const ROOM = { left: 500, right: 250 };
/** Letters of a name that have room. */
const MOST = 74;

const shortened = (text: string): string =>
  text.length > MOST ? `${text.slice(0, MOST - 1)}…` : text;

const isClear = ({ lower, upper }: IntervalRow): boolean => lower > 0 || upper < 0;

/**
 * Estimates as marks and intervals as lines between caps, one row each, names before and numbers
 * behind.
 */
export const forestPlot =
  (rows: readonly IntervalRow[]) =>
  (colours: Colours): ChartConfiguration => {
    const domain = padded([...rows.flatMap((e) => [e.lower, e.upper]), 0]);
    const colourOf = (e: IntervalRow): string => (isClear(e) ? colours.petrol : colours.quiet);
    const beside = (at: number, text: string, align: CanvasTextAlign, y: number) => ({
      x: 0,
      y,
      text,
      colour: colours.ink,
      shift: [0, 0] as [number, number],
      align,
      beside: at,
    });
    return plotConfig<"scatter">(
      {
        type: "scatter",
        data: {
          datasets: [
            {
              data: rows.map((e, i) => ({ x: e.estimate, y: i })),
              pointStyle: "rectRot",
              pointRadius: 5.5,
              pointHoverRadius: 6.5,
              backgroundColor: rows.map((e) => (isClear(e) ? colours.petrol : colours.paper)),
              borderColor: rows.map(colourOf),
              borderWidth: 1.5,
            },
          ],
        },
        options: {
          layout: { padding: { left: ROOM.left, right: ROOM.right } },
          plugins: {
            tooltip: { callbacks: { label: ({ dataIndex }) => rows[dataIndex]!.words } },
          },
          scales: {
            x: axisOf(colours, { domain }),
            y: {
              type: "linear",
              display: false,
              min: -0.7,
              max: rows.length - 0.3,
              reverse: true,
            },
          },
        },
        plugins: [
          reaches(rows, colourOf),
          rowNames(
            rows.map((e) => shortened(e.words)),
            colours.ink,
          ),
        ],
      },
      {
        guides: [{ axis: "x", at: 0, colour: colours.quiet, dash: [3, 3] }],
        words: rows.flatMap(({ estimate, lower, upper, p, pIsBound }, i) => {
          const numbers = `${plain(estimate)} [${plain(lower)}, ${plain(upper)}]`;
          const sign = p !== null && (pIsBound || p < 0.001) ? "" : "= ";
          return [
            beside(20, numbers, "left", i),
            ...(p === null
              ? []
              : [beside(ROOM.right - 4, `p ${sign}${pValue(p, pIsBound)}`, "right", i)]),
          ];
        }),
      },
    );
  };

/** The lines from limit to limit; dashed while the interval is provisional. */
const reaches = (
  rows: readonly IntervalRow[],
  colourOf: (row: IntervalRow) => string,
): Plugin<"scatter"> => ({
  id: "reaches",
  beforeDatasetsDraw: ({ ctx, scales }) => {
    ctx.save();
    ctx.lineWidth = 2;
    rows.forEach((row, i) => {
      const { lower, upper, provisional } = row;
      const [from, to] = [lower, upper].map((v) => scales.x!.getPixelForValue(v)) as [
        number,
        number,
      ];
      const y = scales.y!.getPixelForValue(i);
      ctx.strokeStyle = colourOf(row);
      ctx.setLineDash(provisional ? [4, 3] : []);
      line(ctx, from, y, to, y);
      ctx.setLineDash([]);
      for (const end of [from, to]) line(ctx, end, y - 4, end, y + 4);
    });
    ctx.restore();
  },
});

function line(ctx: CanvasRenderingContext2D, x1: number, y1: number, x2: number, y2: number): void {
  ctx.beginPath();
  ctx.moveTo(x1, y1);
  ctx.lineTo(x2, y2);
  ctx.stroke();
}

/** The names of the rows, at the left edge. */
const rowNames = (names: string[], colour: string): Plugin<"scatter"> => ({
  id: "names",
  afterDatasetsDraw: ({ ctx, scales }) => {
    ctx.save();
    ctx.font = `13px ${SANS}`;
    ctx.fillStyle = colour;
    ctx.textAlign = "left";
    ctx.textBaseline = "middle";
    names.forEach((name, i) => ctx.fillText(name, 0, scales.y!.getPixelForValue(i)));
    ctx.restore();
  },
});
