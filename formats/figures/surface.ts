import { textWidth } from "./fitted";
import { plain, predictAt, responseOf, type Evidence, type ModerationEvidence } from "../../core";
import { labelledTicks } from "./scale";
import { figureFile, Pen, POINTS_PER_MM, type DrawnFigure, type FigureStyle } from "./svg";

/** Cells along each side of the surface. */
const CELLS = 14;
/** From where it is seen: turned about the vertical, and tilted towards the reader, in radians. */
const TURN = 0.62;
const TILT = 0.5;
/** Height of the surface as a share of the figure's width. */
const LIFT = 0.34;
/** White at the lowest prediction, this grey at the highest. */
const DARKEST = 150;

type Point = [number, number];

/** From unit coordinates, -1 to 1 on the floor and 0 to 1 upwards, to the page. */
class Projection {
  constructor(
    private readonly middle: number,
    private readonly side: number,
    private readonly lift: number,
    public top = 0,
  ) {}

  depth(u: number, v: number): number {
    return u * Math.sin(TURN) + v * Math.cos(TURN);
  }

  at(u: number, v: number, share: number): Point {
    const across = u * Math.cos(TURN) - v * Math.sin(TURN);
    const rise = this.depth(u, v) * this.side * Math.sin(TILT) + share * this.lift * Math.cos(TILT);
    return [this.middle + across * this.side, this.top - rise];
  }
}

/**
 * What is predicted of the outcome over a predictor and its one moderator, as a surface in greys,
 * other predictors at their means. Lines across it stand where the interval of the slope begins or
 * ceases to contain zero.
 * @returns null where there are several moderators, or one of levels
 */
export function surfaceFigure(
  moderation: ModerationEvidence,
  evidence: Evidence,
  title: string,
  style: FigureStyle,
): DrawnFigure | null {
  const { model, focal, focalLabel, outcome, moderators, lines } = moderation;
  const [moderator] = moderators;
  const set = moderation.johnsonNeyman.find((s) => s.tests[evidence.errors]);
  const region = set?.tests[evidence.errors]?.pointwise;
  const ends = lines[0]?.points.map((p) => p.at[focal]) ?? [];
  const [from, to] = [ends[0], ends.at(-1)];
  if (moderators.length !== 1 || moderator?.columns.length !== 1 || !region) return null;
  if (typeof from !== "number" || typeof to !== "number" || from === to) return null;
  const [key] = moderator.columns as [string];
  const [low, high] = region.range as [number, number];
  const value = (x: number, w: number): number =>
    responseOf(
      model,
      predictAt(
        model,
        new Map([
          [focal, x],
          [key, w],
        ]),
      ).estimate,
    );
  const pen = new Pen(style.fontPt);
  const height = drawOn(
    pen,
    {
      x: { name: focalLabel, range: [from, to] },
      w: { name: moderator.name, range: [low, high] },
      z: { name: outcome, value },
      edges: region.rootsInRange,
    },
    style,
  );
  return figureFile(pen.body, height, title, style);
}

interface Axis {
  name: string;
  range: [number, number];
}

interface Surface {
  x: Axis;
  w: Axis;
  z: { name: string; value: (x: number, w: number) => number };
  /** Values of the moderator at which a line crosses the surface. */
  edges: readonly number[];
}

/** @returns the height of the figure, in points */
function drawOn(pen: Pen, { x, w, z, edges }: Surface, style: FigureStyle): number {
  const f = style.fontPt;
  const width = style.widthMm * POINTS_PER_MM;
  const along = ([min, max]: [number, number], unit: number): number =>
    min + ((max - min) * (unit + 1)) / 2;
  const units = Array.from({ length: CELLS + 1 }, (_, i) => (2 * i) / CELLS - 1);
  const heights = units.map((u) => units.map((v) => z.value(along(x.range, u), along(w.range, v))));
  const all = heights.flat();
  const [least, most] = [Math.min(...all), Math.max(...all)];
  const share = (value: number): number => (most > least ? (value - least) / (most - least) : 0.5);
  const write = (text: string): string => (style.decimal === "," ? text.replace(".", ",") : text);
  const zTicks = labelledTicks([least, most], 5).filter(([v]) => v >= least && v <= most);
  const room = Math.max(...zTicks.map(([, t]) => textWidth(t, f))) + 1.6 * f;
  const reach = Math.cos(TURN) + Math.sin(TURN);
  // The last number of the floor stands beyond its corner.
  const beyond = textWidth(plain(x.range[1], 2), f) + 0.5 * f;
  const side = (width - room - beyond) / (2 * reach);
  const page = new Projection(room + reach * side, side, width * LIFT);
  page.top = 2.2 * f - page.at(1, 1, 1)[1];
  const floor: Point[] = [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ].map(([u, v]) => page.at(u!, v!, 0));
  pen.polyline([...floor, floor[0]!], 0.5);
  drawCells(pen, page, units, heights, share);
  for (const edge of edges) {
    const v = (2 * (edge - w.range[0])) / (w.range[1] - w.range[0]) - 1;
    pen.polyline(
      units.map((u) => page.at(u, v, share(z.value(along(x.range, u), edge)))),
      1.2,
      "4 2",
    );
  }
  heightAxis(pen, page, zTicks, share, { name: z.name, write });
  const bottom = page.at(-1, -1, 0)[1];
  floorAxis(pen, x, (u, out) => page.at(u, -1 - out, 0), "start", write, width);
  floorAxis(pen, w, (v, out) => page.at(-1 - out, v, 0), "end", write, width);
  return bottom + 4.6 * f;
}

/** What is far first, so that what is near lies over it. */
function drawCells(
  pen: Pen,
  page: Projection,
  units: readonly number[],
  heights: readonly number[][],
  share: (value: number) => number,
): void {
  const cells = Array.from({ length: CELLS * CELLS }, (_, k) => [Math.floor(k / CELLS), k % CELLS]);
  const depth = ([i, j]: number[]): number => page.depth(units[i!]!, units[j!]!);
  for (const [i, j] of cells.sort((a, b) => depth(b) - depth(a)) as Point[]) {
    const corners = [
      [i, j],
      [i + 1, j],
      [i + 1, j + 1],
      [i, j + 1],
    ].map(([a, b]) => [a!, b!] as const);
    const mean = corners.reduce((sum, [a, b]) => sum + share(heights[a]![b]!), 0) / 4;
    const grey = Math.round(255 - (255 - DARKEST) * mean).toString(16);
    const points = corners.map(([a, b]) => page.at(units[a]!, units[b]!, share(heights[a]![b]!)));
    pen.area(points, `#${grey}${grey}${grey}`);
    pen.polyline([...points, points[0]!], 0.25);
  }
}

function heightAxis(
  pen: Pen,
  page: Projection,
  ticks: readonly (readonly [number, string])[],
  share: (value: number) => number,
  { name, write }: { name: string; write: (text: string) => string },
): void {
  const f = pen.size;
  const [foot, top] = [page.at(-1, 1, 0), page.at(-1, 1, 1)];
  pen.line(...foot, ...top);
  for (const [value, text] of ticks) {
    const [x, y] = page.at(-1, 1, share(value));
    pen.line(x - f * 0.35, y, x, y);
    pen.text(x - f * 0.6, y + f * 0.34, write(text), { anchor: "end" });
  }
  pen.text(f * 0.5, top[1] - f * 0.9, name, { most: page.at(1, 1, 0)[0] });
}

/**
 * The ends of a scale and its name beside an edge of the floor.
 * @param place along the edge, and away from it
 */
function floorAxis(
  pen: Pen,
  { name, range }: Axis,
  place: (along: number, out: number) => Point,
  anchor: "start" | "end",
  write: (text: string) => string,
  width: number,
): void {
  const f = pen.size;
  const lead = anchor === "start" ? f * 0.3 : -f * 0.3;
  range.forEach((value, end) => {
    const [x, y] = place(end === 0 ? -0.9 : 0.9, 0.05);
    pen.text(x + lead, y + f * 0.9, write(plain(value, 2)), { anchor });
  });
  const [x, y] = place(0, 0.05);
  pen.text(x + lead, y + f * 2.1, name, {
    anchor,
    most: anchor === "start" ? width - x - f : x - f,
  });
}
