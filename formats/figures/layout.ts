import type { Evidence } from "../../core";
import type { Box, Point } from "./shapes";
import { moderatorBoxes, moderatorLines, type ModeratorLine } from "./moderators";

export interface Arrow {
  from: string;
  to: string;
  /** SVG path. */
  d: string;
  /** Where its label stands. */
  label: { x: number; y: number };
  /** Tip and direction of the head, in radians. */
  tip: { x: number; y: number; angle: number };
}

export interface DiagramLayout {
  width: number;
  height: number;
  boxes: Box[];
  arrows: Arrow[];
  moderators: ModeratorLine[];
  /** Headings over the columns of cards. */
  heads: { text: string; x: number }[];
}

const BOX_WIDTH = 136;
const BOX_HEIGHT = 52;
/** With items above and below the card. */
const ITEM_ROOM = 48;
export const UNFOLDED = BOX_HEIGHT + 2 * ITEM_ROOM;
const LABEL = { width: 98, height: 36 };
const GAP_Y = 108;
/** Room between two columns that a label needs. */
const GAP_X = 104;

/**
 * Lays a path model out by role, left to right: a card stands right of everything that affects it;
 * curves bend around cards, and every label looks for a place free of cards, other labels and other
 * curves.
 * @param unfolded cards that show their items above and below
 */
export function layoutDiagram(
  evidence: Pick<Evidence, "paths" | "roles">,
  width: number,
  height: number,
  unfolded: ReadonlySet<string> = new Set(),
): DiagramLayout {
  const { paths } = evidence;
  const names = [...new Set(paths.flatMap((p) => [p.from, p.to]))];
  const depth = columnsOf(depths(names, paths), width);
  const layers = Math.max(...depth.values()) + 1;
  const boxes = placeBoxes(names, depth, layers, paths, width, height, unfolded);
  const byName = new Map(boxes.map((b) => [b.name, b]));
  const curves = paths.map((p) => routeCurve(byName.get(p.from)!, byName.get(p.to)!, boxes));
  const placed: Box[] = [];
  const arrows = paths.map((p, i): Arrow => {
    const curve = curves[i]!;
    const label = placeLabel(
      curve,
      curves.filter((_, j) => j !== i),
      boxes,
      placed,
    );
    placed.push({
      name: "",
      x: label.x - LABEL.width / 2,
      y: label.y - LABEL.height / 2,
      ...LABEL,
    });
    const tip = curve.at(-1)!;
    const before = curve.at(-4)!;
    return {
      from: p.from,
      to: p.to,
      d: smooth(curve),
      label,
      tip: { ...tip, angle: Math.atan2(tip.y - before.y, tip.x - before.x) },
    };
  });
  const steps = paths.map((p, i) => ({
    from: p.from,
    to: p.to,
    curve: curves[i]!,
    label: arrows[i]!.label,
  }));
  const all = [
    ...boxes,
    ...moderatorBoxes(evidence, steps, boxes, { width: BOX_WIDTH, height: BOX_HEIGHT }, width),
  ];
  const moderators = moderatorLines(evidence, steps, all);
  const heads = headings(evidence, byName);
  return {
    width,
    height: Math.max(height, ...all.map((b) => b.y + b.height + 40)),
    boxes: all,
    arrows,
    moderators,
    heads,
  };
}

/** Longest path from a card without incoming arrows. */
function depths(names: string[], paths: { from: string; to: string }[]): Map<string, number> {
  const depth = new Map(names.map((n) => [n, 0]));
  for (let pass = 0; pass < names.length; pass++) {
    for (const { from, to } of paths)
      depth.set(to, Math.max(depth.get(to)!, Math.min(names.length, depth.get(from)! + 1)));
  }
  // A final outcome stands in the last column even when its path is short.
  const last = Math.max(...depth.values());
  for (const name of names)
    if (!paths.some((p) => p.from === name) && paths.some((p) => p.to === name))
      depth.set(name, last);
  return depth;
}

/**
 * Puts inner columns together where the picture is too narrow for all of them: cards in series then
 * stand above each other.
 */
function columnsOf(depth: Map<string, number>, width: number): Map<string, number> {
  const last = Math.max(...depth.values());
  const room = Math.max(3, Math.floor((width - 56 - BOX_WIDTH) / (BOX_WIDTH + GAP_X)) + 1);
  if (last + 1 <= room) return depth;
  const inner = room - 2;
  const column = (d: number): number =>
    d === 0 ? 0 : d === last ? room - 1 : 1 + Math.floor(((d - 1) * inner) / (last - 1));
  return new Map([...depth].map(([name, d]) => [name, column(d)]));
}

function placeBoxes(
  names: string[],
  depth: Map<string, number>,
  layers: number,
  paths: { from: string; to: string }[],
  width: number,
  height: number,
  unfolded: ReadonlySet<string>,
): Box[] {
  const heightOf = (name: string): number => (unfolded.has(name) ? UNFOLDED : BOX_HEIGHT);
  const tallest = Math.max(...names.map(heightOf));
  const margin = 28;
  const stepX = layers > 1 ? (width - 2 * margin - BOX_WIDTH) / (layers - 1) : 0;
  const middle = height / 2 + 6;
  const y = new Map<string, number>();
  for (let layer = 0; layer < layers; layer++) {
    const members = names.filter((n) => depth.get(n) === layer);
    const pull = (name: string): number => {
      const sources = paths.filter((p) => p.to === name).map((p) => y.get(p.from) ?? middle);
      return sources.reduce((a, b) => a + b, 0) / (sources.length || 1);
    };
    members.sort((a, b) => pull(a) - pull(b));
    const inner = layer > 0 && layer < layers - 1;
    // An odd middle column would put a card on the straight line of the direct path; inner columns
    // alternate above and below it.
    const shift =
      inner && members.length % 2 === 1 ? (layer % 2 === 1 ? -GAP_Y * 1.1 : GAP_Y * 1.1) : 0;
    const gap = Math.min(inner ? 270 : 190, (height - 150) / Math.max(1, members.length - 1));
    members.forEach((name, i) =>
      y.set(name, middle + shift + (i - (members.length - 1) / 2) * Math.max(gap, tallest + 18)),
    );
  }
  const lowest = Math.min(...names.map((name) => y.get(name)! - heightOf(name) / 2));
  const push = Math.max(0, 52 - lowest);
  return names.map((name) => ({
    name,
    x: margin + depth.get(name)! * stepX,
    y: y.get(name)! + push - heightOf(name) / 2,
    width: BOX_WIDTH,
    height: heightOf(name),
  }));
}

const STEPS = 32;

/**
 * A curve from the right side of one card to the left of another, bent as little as keeps it off
 * other cards.
 */
function routeCurve(from: Box, to: Box, boxes: Box[]): Point[] {
  const others = boxes.filter((b) => b !== from && b !== to);
  const vertical = Math.abs(to.x - from.x) < from.width;
  const start = vertical
    ? { x: from.x + from.width / 2, y: from.y + (to.y > from.y ? from.height : 0) }
    : { x: from.x + from.width, y: from.y + from.height / 2 };
  const end = vertical
    ? { x: to.x + to.width / 2, y: to.y + (to.y > from.y ? 0 : to.height) }
    : { x: to.x, y: to.y + to.height / 2 };
  let best: Point[] = [];
  let bestCost = Infinity;
  for (const bend of [0, 40, -40, 80, -80, 125, -125, 175, -175, 230, -230]) {
    const curve = bezier(start, end, bend);
    const hits = curve.filter((p) => others.some((b) => inside(p, b, 12))).length;
    const cost = hits * 40 + Math.abs(bend) / 10;
    if (cost < bestCost) {
      best = curve;
      bestCost = cost;
    }
  }
  return best;
}

/** A cubic curve whose handles lie along the way of the arrow and are pushed aside by `bend`. */
function bezier(a: Point, d: Point, bend: number): Point[] {
  const length = Math.hypot(d.x - a.x, d.y - a.y) || 1;
  const vertical = Math.abs(d.x - a.x) < 1;
  const aside = {
    x: (-(d.y - a.y) / length) * bend * 1.33,
    y: ((d.x - a.x) / length) * bend * 1.33,
  };
  const reach = 0.42;
  // Between columns the curve leaves and arrives level; within a column it runs straight.
  const level = vertical ? reach : 0.08;
  const b = { x: a.x + (d.x - a.x) * reach + aside.x, y: a.y + (d.y - a.y) * level + aside.y };
  const c = { x: d.x - (d.x - a.x) * reach + aside.x, y: d.y - (d.y - a.y) * level + aside.y };
  return Array.from({ length: STEPS + 1 }, (_, i) => {
    const t = i / STEPS;
    const u = 1 - t;
    const mix = (k: "x" | "y"): number =>
      u ** 3 * a[k] + 3 * u * u * t * b[k] + 3 * u * t * t * c[k] + t ** 3 * d[k];
    return { x: mix("x"), y: mix("y") };
  });
}

const smooth = (points: Point[]): string =>
  points.map((p, i) => `${i === 0 ? "M" : "L"}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join("");

const inside = (p: Point, b: Box, pad: number): boolean =>
  p.x > b.x - pad && p.x < b.x + b.width + pad && p.y > b.y - pad && p.y < b.y + b.height + pad;

const overlap = (a: Box, b: Box): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

/** The point along a curve, or just beside it, that disturbs least. */
function placeLabel(curve: Point[], others: Point[][], boxes: Box[], placed: Box[]): Point {
  let best = curve[STEPS / 2]!;
  let bestCost = Infinity;
  for (const at of [16, 14, 18, 12, 20, 10, 22, 9, 24, 8]) {
    for (const lift of [0, -24, 24]) {
      const p = { x: curve[at]!.x, y: curve[at]!.y + lift };
      const area: Box = { name: "", x: p.x - LABEL.width / 2, y: p.y - LABEL.height / 2, ...LABEL };
      const crossed = others.reduce(
        (sum, other) => sum + other.filter((q) => inside(q, area, 3)).length,
        0,
      );
      const onBoxes = boxes.filter((b) => overlap(area, b)).length;
      const onLabels = placed.filter((b) => overlap(area, b)).length;
      const cost =
        onBoxes * 60 + onLabels * 60 + crossed * 9 + Math.abs(at - 16) * 0.5 + (lift === 0 ? 0 : 5);
      if (cost < bestCost) {
        best = p;
        bestCost = cost;
      }
    }
  }
  return best;
}

function headings(
  { roles }: Pick<Evidence, "roles">,
  byName: Map<string, Box>,
): { text: string; x: number }[] {
  const centre = (list: string[]): number =>
    list.reduce((sum, n) => sum + byName.get(n)!.x + BOX_WIDTH / 2, 0) / list.length;
  return [
    { text: roles.predictors.length > 1 ? "predictors" : "predictor", list: roles.predictors },
    { text: roles.mediators.length > 1 ? "mediators" : "mediator", list: roles.mediators },
    { text: roles.outcomes.length > 1 ? "outcomes" : "outcome", list: roles.outcomes },
  ]
    .filter(({ list }) => list.length > 0)
    .map(({ text, list }) => ({ text, x: centre(list) }));
}
