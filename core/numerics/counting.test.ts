import { describe, expect, it } from "vitest";
import { analyseMade, normals } from "../test-kit";
import { logFactorial, logRising, reciprocalSums } from "./counting";

/** Term by term, the small ones first. */
const summed = (count: number, term: (k: number) => number): number => {
  let sum = 0;
  for (let k = count - 1; k >= 0; k--) sum += term(k);
  return sum;
};

describe("sums over counts", () => {
  it.each([0, 1, 7, 999, 1000, 1001, 4000, 250_000])("of %i are those of its terms", (count) => {
    const near = (found: number, expected: number) =>
      expect(Math.abs(found - expected)).toBeLessThan(1e-12 * (1 + Math.abs(expected)));
    near(
      logFactorial(count),
      summed(count, (k) => Math.log(k + 1)),
    );
    for (const x of [0.02, 1.7, 29.5, 400, 1e6]) {
      near(
        logRising(x, count) / (1 + count),
        summed(count, (k) => Math.log1p((x - 1) / (k + 1))) / (1 + count),
      );
      const { first, second } = reciprocalSums(x, count);
      near(
        first,
        summed(count, (k) => 1 / (x + k)),
      );
      near(
        second,
        summed(count, (k) => 1 / (x + k) ** 2),
      );
    }
  });

  it("answer for counts near a million as for small ones", () => {
    const x = normals(200, 5);
    const noise = normals(200, 6);
    const y = x.map((v, i) => Math.round(1e6 * Math.exp(0.1 * v + 0.05 * noise[i]!)));
    for (const family of ["poisson", "negative binomial"]) {
      const { hypotheses } = analyseMade({
        columns: { x, y },
        theory: `H1: x raises y\nmodel y as ${family}`,
        settings: { interval: "delta" },
      });
      expect(hypotheses[0]!.verdict).toBe("supported");
    }
  });
});
