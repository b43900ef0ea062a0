import { plain } from "../../../core";
import { mixed } from "../figure/colour";
import type { Pen, Point } from "../figure/pen";
import { PLANE } from "./plane-map";

const CELLS = 22;
const SIZE = 168;
const LIFT = 215;
/** The floor reaches further down than the surface reaches up. */
const RAISE = 22;

/**
 * A surface over two variables, the people above or below it, and lines across it where something
 * changes.
 */
export interface Surface {
  xName: string;
  yName: string;
  zName: string;
  xRange: [number, number];
  yRange: [number, number];
  at: (x: number, y: number) => number;
  people: { x: ArrayLike<number>; y: ArrayLike<number>; z: ArrayLike<number> } | null;
  edges: number[];
}

/** Corners of the floor, in unit coordinates. */
const CORNERS: [number, number][] = [
  [-1, -1],
  [1, -1],
  [1, 1],
  [-1, 1],
];
/** Where the scales of the floor are written. */
const NAMES: [number, number][] = [
  [0, -1.32],
  [1.34, 0],
];
const ENDS: [number, number][] = [
  [-0.92, -1.16],
  [0.92, -1.16],
  [1.18, -0.92],
  [1.18, 0.92],
];

interface Item {
  depth: number;
  paint: (pen: Pen) => void;
}

interface Spot {
  x: number;
  y: number;
  depth: number;
}

/** Where things of the data stand in the picture, seen from an angle. */
class View {
  readonly low: number;
  readonly high: number;
  /** Below 1 where a corner would leave the picture at this angle. */
  private readonly zoom: number;

  constructor(
    readonly surface: Surface,
    private readonly turn: number,
    private readonly tilt: number,
  ) {
    const { xRange, yRange, at, people } = surface;
    // The surface of two straight lines has its extremes in its corners.
    const corners = xRange.flatMap((x) => yRange.map((y) => at(x, y)));
    let [low, high] = [Math.min(...corners), Math.max(...corners)];
    for (let i = 0; i < (people?.z.length ?? 0); i++) {
      low = Math.min(low, people!.z[i]!);
      high = Math.max(high, people!.z[i]!);
    }
    this.low = low;
    this.high = high;
    this.zoom = this.fittingZoom();
  }

  /** The corner furthest left, where the height is written. */
  get leftCorner(): [number, number] {
    const x = ([u, v]: [number, number]): number =>
      u * Math.cos(this.turn) - v * Math.sin(this.turn);
    return CORNERS.reduce((best, corner) => (x(corner) < x(best) - 1e-6 ? corner : best));
  }

  /** At most 1, and small enough for every corner and every word to stay in the picture. */
  private fittingZoom(): number {
    const [up, down] = [PLANE.height / 2 - RAISE, PLANE.height / 2 + RAISE];
    const fit = ([u, v]: [number, number], share: number, room: number): number => {
      const rise = this.rise(u * Math.sin(this.turn) + v * Math.cos(this.turn), share);
      return rise > 0 ? (up - room) / rise : rise < 0 ? (down - room) / -rise : 1;
    };
    return Math.min(
      1,
      ...CORNERS.flatMap((corner) => [fit(corner, 0, 4), fit(corner, 1, 4)]),
      ...[...NAMES, ...ENDS].map((place) => fit(place, 0, 16)),
      fit(this.leftCorner, 1, 28),
    );
  }

  /** Pixels above the middle, before zooming. */
  private rise(depth: number, share: number): number {
    return depth * SIZE * Math.sin(this.tilt) + (share - 0.5) * LIFT * Math.cos(this.tilt);
  }

  share(z: number): number {
    return this.high > this.low ? (z - this.low) / (this.high - this.low) : 0.5;
  }

  /** From unit coordinates, -1 to 1 on the floor and 0 to 1 upwards. */
  unit(u: number, v: number, share: number): Spot {
    const { turn, zoom } = this;
    const a = u * Math.cos(turn) - v * Math.sin(turn);
    const b = u * Math.sin(turn) + v * Math.cos(turn);
    return {
      x: PLANE.width / 2 + zoom * a * SIZE,
      y: PLANE.height / 2 - RAISE - zoom * this.rise(b, share),
      depth: b,
    };
  }

  spot(x: number, y: number, z: number): Spot {
    const along = (v: number, [min, max]: [number, number]): number =>
      max > min ? (2 * (v - min)) / (max - min) - 1 : 0;
    return this.unit(along(x, this.surface.xRange), along(y, this.surface.yRange), this.share(z));
  }
}

const at = ({ x, y }: Spot): Point => [x, y];

/** Draws what is far first. */
export function drawSurface(
  pen: Pen,
  style: CSSStyleDeclaration,
  surface: Surface,
  turn: number,
  tilt: number,
): void {
  const view = new View(surface, turn, tilt);
  frame(pen, style, view);
  const items = [...cells(view, style), ...people(view, style), ...edges(view, style)].sort(
    (a, b) => b.depth - a.depth,
  );
  for (const item of items) item.paint(pen);
}

function cells(view: View, style: CSSStyleDeclaration): Item[] {
  const { xRange, yRange, at: value } = view.surface;
  const [paper, petrol, line] = ["--sheet", "--petrol", "--quiet"].map((name) =>
    style.getPropertyValue(name),
  ) as [string, string, string];
  const edge = mixed(paper, line, 0.6);
  const x = (i: number): number => xRange[0] + ((xRange[1] - xRange[0]) * i) / CELLS;
  const y = (j: number): number => yRange[0] + ((yRange[1] - yRange[0]) * j) / CELLS;
  const spots = Array.from({ length: CELLS + 1 }, (_, i) =>
    Array.from({ length: CELLS + 1 }, (__, j) => view.spot(x(i), y(j), value(x(i), y(j)))),
  );
  return Array.from({ length: CELLS * CELLS }, (_, k) => {
    const [i, j] = [Math.floor(k / CELLS), k % CELLS];
    const corners = [spots[i]![j]!, spots[i + 1]![j]!, spots[i + 1]![j + 1]!, spots[i]![j + 1]!];
    const fill = mixed(paper, petrol, 0.1 + 0.7 * view.share(value(x(i + 0.5), y(j + 0.5))));
    return {
      depth: corners.reduce((sum, c) => sum + c.depth, 0) / 4,
      paint: (pen) =>
        pen.shape(corners.map(at), true, { fill, stroke: edge, width: 0.5, opacity: 0.88 }),
    };
  });
}

/**
 * Every person as a dot at what was observed, with a thread to what is predicted: petrol above,
 * rust below.
 */
function people(view: View, style: CSSStyleDeclaration): Item[] {
  const { people: shown, at: value } = view.surface;
  if (!shown) return [];
  const [above, below] = [style.getPropertyValue("--ink"), style.getPropertyValue("--rust")];
  return Array.from(shown.x, (x, i) => {
    const [y, z] = [shown.y[i]!, shown.z[i]!];
    const predicted = value(x, y);
    const [dot, foot] = [view.spot(x, y, z), view.spot(x, y, predicted)];
    const colour = z >= predicted ? above : below;
    return {
      // What hangs beneath the surface is drawn before the cell it hangs from.
      depth: foot.depth + (z >= predicted ? -1.5 / CELLS : 1.5 / CELLS),
      paint: (pen) => {
        pen.shape([at(foot), at(dot)], false, { stroke: colour, width: 0.8, opacity: 0.4 });
        pen.circle(dot.x, dot.y, 2.2, { fill: colour, opacity: 0.85 });
      },
    };
  });
}

/** Where the effect begins or ceases to be told apart from zero, along the surface. */
function edges(view: View, style: CSSStyleDeclaration): Item[] {
  const { xRange, at: value } = view.surface;
  const stroke = style.getPropertyValue("--rust");
  return view.surface.edges.flatMap((edge) =>
    Array.from({ length: CELLS }, (_, i) => {
      const ends = [i, i + 1].map((k) => {
        const x = xRange[0] + ((xRange[1] - xRange[0]) * k) / CELLS;
        return view.spot(x, edge, value(x, edge));
      });
      return {
        depth: (ends[0]!.depth + ends[1]!.depth) / 2 - 1.5 / CELLS,
        paint: (pen: Pen) => pen.shape(ends.map(at), false, { stroke, width: 2.2 }),
      };
    }),
  );
}

/** The floor, its two scales, and the height at the corner that stands furthest left. */
function frame(pen: Pen, style: CSSStyleDeclaration, view: View): void {
  const { xName, yName, zName, xRange, yRange } = view.surface;
  const [line, quiet] = [style.getPropertyValue("--line"), style.getPropertyValue("--quiet")];
  const floor = CORNERS.map(([u, v]) => view.unit(u, v, 0));
  pen.shape(floor.map(at), true, { stroke: line, width: 1 });
  const write = (words: string, [u, v]: [number, number], strong = false): void => {
    const spot = view.unit(u, v, 0);
    pen.text(spot.x, spot.y + 5, words, {
      fill: strong ? style.color : quiet,
      size: strong ? 13.5 : 12.5,
      align: "middle",
    });
  };
  [xName, yName].forEach((name, i) => write(name, NAMES[i]!, true));
  [...xRange, ...yRange].forEach((value, i) => write(plain(value, 1), ENDS[i]!));
  const [u, v] = view.leftCorner;
  pen.shape(
    [0, 1].map((h) => at(view.unit(u, v, h))),
    false,
    { stroke: line, width: 1 },
  );
  for (const h of [0, 0.5, 1]) {
    const spot = view.unit(u, v, h);
    pen.text(spot.x - 7, spot.y + 4, plain(view.low + (view.high - view.low) * h, 1), {
      fill: quiet,
      size: 12.5,
      align: "end",
    });
  }
  const top = view.unit(u, v, 1);
  pen.text(top.x - 7, top.y - 14, zName, { fill: style.color, size: 13.5, align: "start" });
}
