import fc from "fast-check";
import standard from "@stdlib/math-base-special-exp";
import { describe, expect, it } from "vitest";
import { exp } from "./exponential";

describe("exp", () => {
  it("has the bits of the standard package everywhere", () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.double(),
          fc.double({ min: -760, max: 760, noNaN: true }),
          fc.double({ min: -2, max: 2, noNaN: true }),
        ),
        (x) => Object.is(exp(x), standard(x)),
      ),
      { numRuns: 20_000 },
    );
  });

  it("has them at the edges of its parts", () => {
    const edges = [
      0,
      -0,
      700,
      -700,
      2 ** -28,
      -(2 ** -28),
      709.78,
      -745.13,
      Infinity,
      -Infinity,
      NaN,
    ];
    for (const x of edges) expect(exp(x)).toBe(standard(x));
    // Where another multiple of ln 2 is taken off.
    for (let k = -1000; k <= 1000; k++) {
      const x = (k + 0.5) * Math.LN2;
      for (const at of [x - 1e-12, x, x + 1e-12]) expect(exp(at)).toBe(standard(at));
    }
  });
});
