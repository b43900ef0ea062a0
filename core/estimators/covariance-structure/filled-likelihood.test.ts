import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { RandomStream } from "../../numerics/random";
import { compileArrows } from "./arrows";
import { arrow } from "./case-kit";
import { FilledLikelihood } from "./filled-likelihood";
import { NormalLikelihood } from "./normal-likelihood";
import type { PatternMoments } from "./pattern";

const ITEMS = ["a", "b", "c", "d"];
/** One factor of four items with means; two of the items share more than the factor. */
const model = compileArrows(
  ITEMS,
  ["F"],
  [
    arrow("path", "F", "a", null),
    ...["b", "c", "d"].map((item) => arrow("path", "F", item, `to ${item}`)),
    ...[...ITEMS, "F"].map((v) => arrow("covariance", v, v, `var ${v}`)),
    arrow("covariance", "c", "d", "c with d"),
    ...ITEMS.map((v) => arrow("intercept", "", v, `mean ${v}`)),
  ],
);

/** Moments of `cases` made-up cases that have these items. */
function pattern(indices: number[], cases: number, seed: number): PatternMoments {
  const stream = new RandomStream(seed, 0);
  const k = indices.length;
  const rows = Array.from({ length: cases }, () => indices.map(() => 2 * stream.uniform() - 1));
  const mean = (of: (row: number[]) => number): number =>
    rows.reduce((sum, row) => sum + of(row), 0) / cases;
  const means = Float64Array.from(indices, (_, i) => mean((row) => row[i]!));
  const covariance = new Float64Array(k * k);
  for (let i = 0; i < k; i++)
    for (let j = 0; j < k; j++)
      covariance[i * k + j] = mean((row) => (row[i]! - means[i]!) * (row[j]! - means[j]!));
  return { n: cases, indices: Int32Array.from(indices), means, covariance };
}

const start = model.parameters.map((label) =>
  label.startsWith("var") ? 0.8 : label === "c with d" ? 0.1 : label.startsWith("to") ? 0.7 : 0.2,
);

describe("the likelihood of filled moments", () => {
  it("has the value and the slope of the patterns one by one, in any number of groups", () => {
    const patterns = fc.uniqueArray(fc.subarray([0, 1, 2, 3], { minLength: 1 }), {
      selector: String,
      minLength: 1,
      maxLength: 6,
    });
    fc.assert(
      fc.property(
        fc.array(patterns, { minLength: 1, maxLength: 2 }),
        fc.integer({ min: 1, max: 1e6 }),
        fc.array(fc.double({ min: -0.15, max: 0.15, noNaN: true }), {
          minLength: start.length,
          maxLength: start.length,
        }),
        (groups, seed, shift) => {
          const moments = groups.map((list, g) =>
            list.map((indices, t) => pattern(indices, 1 + ((seed + t) % 4), seed + 10 * g + t)),
          );
          const models = groups.map(() => model);
          const filled = new FilledLikelihood(
            models,
            moments.map((list) => ({ patterns: list, single: list.map(({ n }) => n === 1) })),
          );
          const plain = new NormalLikelihood(
            models,
            moments.map((list) => ({ patterns: list })),
          );
          const theta = start.map((value, a) => value + shift[a]!);
          const value = plain.valueAt(theta);
          expect(filled.valueAt(theta) / value).toBeCloseTo(1, 12);
          plain.slope();
          filled.slope();
          plain.score.forEach((s, a) => expect(filled.score[a]).toBeCloseTo(s, 9));
          expect(filled.n).toBe(plain.n);
        },
      ),
    );
  });

  it("leaves out patterns that no case of a resample has, and has no value at a singular matrix", () => {
    const all = [pattern([0, 1, 2, 3], 5, 1), { ...pattern([0, 2], 1, 2), n: 0 }];
    const of = (patterns: PatternMoments[]) =>
      new FilledLikelihood([model], [{ patterns, single: patterns.map(() => false) }]);
    expect(of(all).valueAt(start)).toBe(of([all[0]!]).valueAt(start));
    const singular = start.map((v, a) => (model.parameters[a] === "var a" ? -0.8 : v));
    expect(of(all).valueAt(singular)).toBe(-Infinity);
  });
});
