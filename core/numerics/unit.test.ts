import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { mean, standardDeviation } from "./moments";
import { inUnitOf, powerOf, timesPower } from "./unit";

describe("moments at the ends of the range", () => {
  it("are found where sums and squares are not, and end where a value is no number", () => {
    expect(mean([1.5e308, 1.1e308])).toBeCloseTo(1.3e308, -300);
    expect(standardDeviation([1e-200, 3e-200]) / 1e-200).toBeCloseTo(Math.SQRT2, 12);
    expect(Number.isFinite(mean([1e308, Infinity]))).toBe(false);
    expect(Number.isFinite(mean([Infinity, 1]))).toBe(false);
  });
});

describe("units that are powers of two", () => {
  it("leave ordinary numbers alone, missing ones and zeros too", () => {
    expect(powerOf([1e-20, NaN, 3e20])).toBe(0);
    expect(powerOf([0, 0])).toBe(0);
    expect(powerOf([])).toBe(0);
    const values = Float64Array.of(1, 2);
    expect(inUnitOf(values, powerOf(values))).toBe(values);
  });

  it("bring the largest value near one, without losing a digit of it, and back", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-307, max: 1.7e308, noNaN: true }),
        fc.boolean(),
        (size, negative) => {
          const value = negative ? -size : size;
          const power = powerOf([value]);
          if (power === 0) return Math.abs(value) > 1e-31 && Math.abs(value) < 1e31;
          const [scaled] = inUnitOf(Float64Array.of(value), power);
          expect(Math.abs(scaled!)).toBeGreaterThan(0.6);
          expect(Math.abs(scaled!)).toBeLessThan(1.5);
          return timesPower(scaled!, power) === value;
        },
      ),
    );
  });
});
