import type { ChartConfiguration, Plugin } from "chart.js";
import { plain, pValue, type EffectEvidence, type ShownInterval } from "../../../core";
import { SANS } from "../../theme/tokens";
import { axisOf, plotConfig, type Colours } from "../figure/plot-config";
import { padded } from "../../../formats/figures";

/** With an estimate and both limits, and nothing withheld. */
export type DrawnEffect = EffectEvidence & { shown: ShownInterval };

export const FOREST_ROW = 25;
/** Room beside the plot, in pixels: the names, and the numbers. */
const ROOM = { left: 500, right: 250 };
/** Letters of a name that have room. */
const MOST = 74;

const shortened = (text: string): string =>
  text.length > MOST ? `${text.slice(0, MOST - 1)}…` : text;

const isClear = ({ shown: { lower, upper } }: DrawnEffect): boolean => lower! > 0 || upper! < 0;

/** Estimates as marks and intervals as lines between caps, one row each, names before and numbers behind. */
export const forestPlot =
  (effects: readonly DrawnEffect[], words: (effect: EffectEvidence) => string) =>
  (colours: Colours): ChartConfiguration => {
    const domain = padded([...effects.flatMap((e) => [e.shown.lower!, e.shown.upper!]), 0]);
    const colourOf = (e: DrawnEffect): string => (isClear(e) ? colours.petrol : colours.quiet);
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
              data: effects.map((e, i) => ({ x: e.estimate!, y: i })),
              pointStyle: "rectRot",
              pointRadius: 5.5,
              pointHoverRadius: 6.5,
              backgroundColor: effects.map((e) => (isClear(e) ? colours.petrol : colours.paper)),
              borderColor: effects.map(colourOf),
              borderWidth: 1.5,
            },
          ],
        },
        options: {
          layout: { padding: { left: ROOM.left, right: ROOM.right } },
          plugins: {
            tooltip: { callbacks: { label: ({ dataIndex }) => words(effects[dataIndex]!) } },
          },
          scales: {
            x: axisOf(colours, { domain }),
            y: {
              type: "linear",
              display: false,
              min: -0.7,
              max: effects.length - 0.3,
              reverse: true,
            },
          },
        },
        plugins: [
          reaches(effects, colourOf),
          rowNames(
            effects.map((e) => shortened(words(e))),
            colours.ink,
          ),
        ],
      },
      {
        guides: [{ axis: "x", at: 0, colour: colours.quiet, dash: [3, 3] }],
        words: effects.flatMap((e, i) => {
          const { lower, upper, p, pIsBound } = e.shown;
          const numbers = `${plain(e.estimate)} [${plain(lower)}, ${plain(upper)}]`;
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
  effects: readonly DrawnEffect[],
  colourOf: (effect: DrawnEffect) => string,
): Plugin<"scatter"> => ({
  id: "reaches",
  beforeDatasetsDraw: ({ ctx, scales }) => {
    ctx.save();
    ctx.lineWidth = 2;
    effects.forEach((effect, i) => {
      const { lower, upper, provisional } = effect.shown;
      const [from, to] = [lower!, upper!].map((v) => scales.x!.getPixelForValue(v)) as [
        number,
        number,
      ];
      const y = scales.y!.getPixelForValue(i);
      ctx.strokeStyle = colourOf(effect);
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
