import { describe, expect, it } from "vitest";
import { prepare } from "../../preparation";
import { madeStudy, normals } from "../../test-kit";

const N = 120;
const [f, w, d, ...noise] = Array.from({ length: 9 }, (_, k) => normals(N, 300 + k)) as [
  number[],
  number[],
  number[],
  ...number[][],
];
const support = w.map((v) => 3 + v);
const h = f.map((v, i) => 0.5 * v + 0.3 * v * w[i]! + 0.6 * d[i]!);
const items = (of: number[], from: number): number[][] =>
  [0, 1, 2].map((j) => of.map((v, i) => 0.8 * v + 0.4 * noise[from + j]![i]!));
const [x, y] = [items(f, 0), items(h, 3)];
const gap = (values: number[], every: number): (number | null)[] =>
  values.map((v, i) => (i % every === 2 ? null : v));

/** What Probe draws of the outcome: columns by key. */
function pointsOf(moderator: (number | null)[]): Record<"F" | "support", Float64Array> {
  const { definition, table } = madeStudy({
    columns: {
      ...Object.fromEntries(x.map((c, j) => [`x${j + 1}`, gap(c, 11 + j)])),
      ...Object.fromEntries(y.map((c, j) => [`y${j + 1}`, c])),
      support: moderator,
    },
    theory: [
      "measure F reflects x1, x2, x3",
      "measure H reflects y1, y2, y3",
      "H1: F raises H",
      "H2: support alters F to H",
    ].join("\n"),
    settings: { interval: "delta", options: { missing: "everybody" } },
  });
  const { columns } = prepare(definition, table).fit.points!("H")!;
  const of = (key: string): Float64Array => columns.find((c) => c.key === key)!.values;
  return { F: of("F"), support: of("support") };
}

describe("points of a moderation where values are missing", () => {
  it("put the moderator of a person beside the scores of the same person", () => {
    const points = pointsOf(gap(support, 9));
    const known = gap(support, 9).flatMap((v, i) => (v === null ? [] : [i]));
    expect(points.support).toHaveLength(known.length);
    points.support.forEach((value, at) => expect(value).toBeCloseTo(support[known[at]!]!, 9));
    // Scores of the predictor follow what the person answered, in the same order.
    const truth = known.map((i) => f[i]!);
    const scores = [...points.F];
    const centre = (v: number[]): number => v.reduce((a, b) => a + b, 0) / v.length;
    const [a, b] = [centre(truth), centre(scores)];
    const cross = truth.reduce((sum, t, i) => sum + (t - a) * (scores[i]! - b), 0);
    const size = (v: number[], c: number): number =>
      Math.sqrt(v.reduce((sum, t) => sum + (t - c) * (t - c), 0));
    expect(cross / size(truth, a) / size(scores, b)).toBeGreaterThan(0.85);
  });

  it("are those of everybody where the moderator is known of everybody", () => {
    expect(pointsOf(support).support).toHaveLength(N);
  });
});
