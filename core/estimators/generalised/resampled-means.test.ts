import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { RandomStream } from "../../numerics/random";
import { FAMILIES, type FamilyId } from "./families";
import type { Functional } from "./functional";
import { Functionals } from "./functionals";
import type { Shape } from "./shape";

const N = 40;

/**
 * Rows of intercept, x set to a value, m or zero, x m, and a covariate; with the covariate's
 * product with x in the last column.
 */
const designOf = (x: number, m: boolean, varying: boolean): Float64Array =>
  Float64Array.from({ length: N * 6 }, () => 0).map((_, at) => {
    const [i, k] = [Math.floor(at / 6), at % 6];
    const c = covariate[i]!;
    return [1, x, m ? measured[i]! : 0, m ? x * measured[i]! : 0, c, varying ? c * x : 0][k]!;
  });

const stream = new RandomStream(5, 1);
const covariate = Array.from({ length: N }, () => stream.normal());
const measured = Array.from({ length: N }, () => stream.normal());

/** What a unit of the mediator adds to the predictor of the outcome where x has a value. */
const slopeOf = (x: number, varying: boolean): Float64Array =>
  Float64Array.from({ length: N * 6 }, (_, at) => {
    const c = covariate[Math.floor(at / 6)]!;
    return [0, 0, 1, x, varying ? c : 0, 0][at % 6]!;
  });

function shapeOf(mediator: FamilyId, outcome: FamilyId, offset: boolean): Shape {
  const families = [mediator, outcome];
  let next = 12;
  return {
    n: N,
    families,
    columns: [6, 6],
    start: [0, 6],
    offsets: [null, offset ? Float64Array.from(covariate, (c) => 0.3 * c) : null],
    variance: families.map((f) => (f === "linear" ? next++ : -1)),
    covariance: new Map(),
  };
}

const listOf = (varying: boolean): Functional[] =>
  [0, 1, 2.5].flatMap((x): Functional[] => [
    { kind: "response", equation: 1, design: designOf(x, true, varying) },
    {
      kind: "controlled",
      equation: 1,
      base: designOf(x, false, varying),
      slope: slopeOf(x, varying),
      at: 0.7,
    },
    ...[0, 1].map((w): Functional => ({
      kind: "nested",
      outcome: 1,
      mediator: 0,
      base: designOf(x, false, varying),
      slope: slopeOf(x, varying),
      design: designOf(w, false, varying),
    })),
  ]);

const family = fc.constantFrom(...FAMILIES);

describe("means for resamples", () => {
  it("are the means row by row, whatever the models and whatever varies with covariates", () => {
    fc.assert(
      fc.property(
        family,
        family,
        fc.boolean(),
        fc.boolean(),
        fc.array(fc.double({ min: -0.8, max: 0.8, noNaN: true }), { minLength: 12, maxLength: 12 }),
        fc.array(fc.integer({ min: 0, max: 3 }), { minLength: N, maxLength: N }),
        fc.integer({ min: 0, max: 3 }),
        (mediator, outcome, varying, offset, coefficients, counts, at) => {
          const weights = Float64Array.from(counts);
          weights[0] = 1;
          const total = weights.reduce((a, b) => a + b, 0);
          const shape = shapeOf(mediator, outcome, offset);
          const list = listOf(varying);
          const theta = new Float64Array(at + 14);
          theta.set(coefficients, at);
          theta.fill(0.6, at + 12);
          const [fine, quick] = [new Float64Array(list.length), new Float64Array(list.length)];
          new Functionals(shape, list, true).values(theta, at, weights, total, fine, 0);
          const means = new Functionals(shape, list, false);
          // Nothing of other parameters is left over.
          means.values(new Float64Array(at + 14).fill(0.1), at, weights, total, quick, 0);
          means.values(theta, at, weights, total, quick, 0);
          fine.forEach((value, k) =>
            expect(Math.abs(quick[k]! - value)).toBeLessThan(1e-6 * (1 + Math.abs(value))),
          );
        },
      ),
      { numRuns: 300 },
    );
  });

  it("stay probabilities where predictors leave the range of exponentials", () => {
    const shape = shapeOf("linear", "logistic", false);
    const list = listOf(false);
    const theta = new Float64Array(14).fill(0.5);
    // The first slope of the outcome beyond any exponential, its intercept against it.
    for (const [intercept, slope] of [
      [-2000, 2000],
      [500, -500],
      [-5000, 1],
    ] as const) {
      theta[6] = intercept;
      theta[10] = slope;
      const [fine, quick] = [new Float64Array(list.length), new Float64Array(list.length)];
      const ones = new Float64Array(N).fill(1);
      new Functionals(shape, list, true).values(theta, 0, ones, N, fine, 0);
      new Functionals(shape, list, false).values(theta, 0, ones, N, quick, 0);
      fine.forEach((value, k) => expect(quick[k]).toBeCloseTo(value, 6));
    }
  });
});
