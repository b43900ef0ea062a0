import { equationsOf } from "../evidence";
import { analyseMade, normals, type MadeStudy } from ".";

/**
 * Tests only: a made-up study, and every effect of it once more from the printed equations alone: a
 * step of a path is how far the predicted outcome moves when the column before it moves by one,
 * with everything else where it stands. Nothing here knows of polynomials or expressions.
 */
export const N = 90;
const [a, b, c, d, e] = [11, 12, 13, 14, 15].map((seed) => normals(N, seed)) as [
  number[],
  number[],
  number[],
  number[],
  number[],
];
const x = a.map((v) => 10 + 2 * v);
const w = b.map((v) => 5 + v);
const v = c.map((u) => 50 + 8 * u);
const z = x.map((_, i) => (i % 3 === 0 ? 1 : 0));
const g = x.map((_, i) => ["low", "middle", "high"][(i * 7) % 3]!);
const m = x.map(
  (u, i) =>
    0.4 * u + 0.3 * w[i]! + 0.1 * u * w[i]! + 0.5 * z[i]! * u + (g[i] === "high" ? 2 : 0) + d[i]!,
);
const k = m.map((u, i) => 0.5 * u + 0.2 * x[i]! + e[i]!);
const y = k.map(
  (u, i) => 0.3 * u + 0.4 * m[i]! + 0.05 * m[i]! * v[i]! - 0.3 * x[i]! + 2 * c[(i + 1) % N]!,
);
export const COLUMNS = { x, w, v, z, g, m, k, y };
export const CODES: Record<string, Record<string, number>> = {
  low: { "g.1": 0, "g.2": 0 },
  middle: { "g.1": 0, "g.2": 1 },
  high: { "g.1": 1, "g.2": 0 },
};

export const made = (theory: string, settings: MadeStudy["settings"] = {}): MadeStudy => ({
  columns: COLUMNS,
  theory,
  settings,
  variables: {
    g: {
      level: "categorical",
      coding: "indicator",
      reference: "low",
      levels: ["low", "high", "middle"],
    },
    z: { level: "binary" },
  },
});

export type Values = Record<string, number>;

/** The numbers of one case, code columns included. */
export const caseAt = (i: number): Values => ({
  x: x[i]!,
  w: w[i]!,
  v: v[i]!,
  z: z[i]!,
  m: m[i]!,
  k: k[i]!,
  ...CODES[g[i]!],
});

export function readerOf(study: MadeStudy) {
  const equations = equationsOf(analyseMade(study));
  const predicted = (outcome: string, values: Values): number =>
    equations
      .find((q) => q.outcome === outcome)!
      .coefficients.reduce((sum, { term, b: slope }) => {
        const parts = term === "intercept" ? [] : term.split(":");
        return sum + slope * parts.reduce((all, part) => all * values[part]!, 1);
      }, 0);
  /** One step: half the difference between one above and one below, exact for a square too. */
  const step = (outcome: string, from: string, values: Values): number =>
    (predicted(outcome, { ...values, [from]: values[from]! + 1 }) -
      predicted(outcome, { ...values, [from]: values[from]! - 1 })) /
    2;
  const path = (nodes: string[], values: Values): number =>
    nodes.slice(1).reduce((all, to, i) => all * step(to, nodes[i]!, values), 1);
  const average = (nodes: string[]): number =>
    x.reduce((sum, _, i) => sum + path(nodes, caseAt(i)), 0) / N;
  return { step, path, average };
}

export const mean = (u: number[]): number => u.reduce((s, t) => s + t, 0) / u.length;
export const sd = (u: number[]): number =>
  Math.sqrt(u.reduce((s, t) => s + (t - mean(u)) ** 2, 0) / (u.length - 1));

/** Where a probe stands, in raw units. */
export function probeValues(moderator: string, label: string): Values {
  if (moderator === "g") return CODES[label]!;
  const column = COLUMNS[moderator as "w"] as number[];
  if (moderator === "z") return { z: Number(label.replace("=", "")) };
  const shift = label === "mean" ? 0 : label === "mean-sd" ? -1 : label === "mean+sd" ? 1 : NaN;
  return {
    [moderator]: Number.isNaN(shift)
      ? Number(label.replace("=", ""))
      : mean(column) + shift * sd(column),
  };
}
