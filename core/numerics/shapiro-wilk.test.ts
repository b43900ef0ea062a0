import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { SHAPIRO_WILK_MOST, shapiroWilk } from "./shapiro-wilk";

const values = fc
  .array(fc.integer({ min: -1000, max: 1000 }), { minLength: 3, maxLength: 60 })
  .filter((v) => new Set(v).size > 1);

describe("Shapiro and Wilk's test", () => {
  it("does not depend on origin, unit or order", () => {
    fc.assert(
      fc.property(
        values,
        fc.integer({ min: -50, max: 50 }),
        fc.integer({ min: 1, max: 40 }),
        (v, shift, scale) => {
          const [own, moved] = [
            shapiroWilk(v)!,
            shapiroWilk([...v].reverse().map((x) => shift - scale * x))!,
          ];
          expect(moved.W).toBeCloseTo(own.W, 9);
          expect(own.W).toBeGreaterThan(0);
          expect(own.W).toBeLessThanOrEqual(1);
          expect(own.p).toBeGreaterThanOrEqual(0);
          expect(own.p).toBeLessThanOrEqual(1);
        },
      ),
    );
  });

  it("is exact for three values: W = 3/4 at the least, where p is 0, and 1 for values evenly spaced", () => {
    expect(shapiroWilk([0, 0, 1])!.W).toBeCloseTo(0.75, 12);
    expect(shapiroWilk([0, 0, 1])!.p).toBeCloseTo(0, 7);
    expect(shapiroWilk([1, 2, 3])!).toEqual({ W: 1, p: 1 });
  });

  // Weights of men in pounds: the worked example of Shapiro & Wilk 1965, whose W by exact weights
  // is 0.79.
  it("comes near the published example, which used exact weights", () => {
    const { W, p } = shapiroWilk([148, 154, 158, 160, 161, 162, 166, 170, 182, 195, 236])!;
    expect(W).toBeCloseTo(0.79, 2);
    expect(p).toBeLessThan(0.01);
  });

  it("says nothing of values too few, too many or all alike", () => {
    expect(shapiroWilk([1, 2])).toBeNull();
    expect(shapiroWilk([4, 4, 4, 4])).toBeNull();
    expect(shapiroWilk(new Float64Array(SHAPIRO_WILK_MOST + 1).map((_, i) => i))).toBeNull();
  });
});
