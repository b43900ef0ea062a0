import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { innerMean, innerRule } from "./inner-means";
import { tabledLogistic, WIDEST } from "./logistic-table";

const value = (mediator: "linear" | "poisson", fine: boolean, ...at: number[]): number => {
  const out = innerMean();
  innerRule(mediator, "logistic", fine)(at[0]!, at[1]!, at[2]!, at[3]!, out);
  return out.value;
};
const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });

describe("the mean of a logistic response over a normal predictor, from its table", () => {
  it("is that of the fine integral", () =>
    fc.assert(
      fc.property(number(-40, 40), number(0, WIDEST - 1e-9), (eta, spread) => {
        expect(
          Math.abs(tabledLogistic(eta, spread) - value("linear", true, eta, spread, 0, 1)),
        ).toBeLessThan(1e-7);
      }),
      { numRuns: 2000 },
    ));

  it("is the response itself without any spread, and mirrors itself", () => {
    for (const eta of [-23.99, -3, -0.05, 0, 0.03, 1, 7.77, 23.99, 24, 500]) {
      expect(tabledLogistic(eta, 0)).toBeCloseTo(1 / (1 + Math.exp(-eta)), 7);
      expect(tabledLogistic(-eta, 1.3)).toBeCloseTo(1 - tabledLogistic(eta, 1.3), 12);
    }
  });
});

describe("means for resamples", () => {
  it("are those of the sample, steep slopes and rare counts included", () =>
    fc.assert(
      fc.property(number(-6, 6), number(-3, 3), number(-3, 3), number(0.01, 9), (a, b, l, s2) => {
        expect(
          Math.abs(value("linear", false, a, b, l, s2) - value("linear", true, a, b, l, s2)),
        ).toBeLessThan(1e-7);
        expect(
          Math.abs(value("poisson", false, a, b, l, 0) - value("poisson", true, a, b, l, 0)),
        ).toBeLessThan(1e-9);
      }),
      { numRuns: 1000 },
    ));

  it("stay numbers where exponentials leave the range of numbers", () => {
    for (const [a, b, l] of [
      [800, -3, 2],
      [-800, 3, 5],
      [0, 90, 2],
      [0, -90, 6],
    ] as const) {
      const found = value("poisson", false, a, b, l, 0);
      expect(found).toBeCloseTo(value("poisson", true, a, b, l, 0), 9);
    }
  });
});
