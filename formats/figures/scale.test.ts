import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { labelledTicks, linear, padded, ticks } from "./scale";

const texts = (domain: [number, number], wanted = 4): string[] =>
  labelledTicks(domain, wanted).map(([, text]) => text);

describe("what stands at an axis", () => {
  it.each<[[number, number], string[]]>([
    [
      [0, 20],
      ["0", "5", "10", "15", "20"],
    ],
    [
      [0, 2],
      ["0.0", "0.5", "1.0", "1.5", "2.0"],
    ],
    [
      [-1, 1],
      ["−1.0", "−0.5", "0.0", "0.5", "1.0"],
    ],
    [
      [0, 3e8],
      ["0", "100 M", "200 M", "300 M"],
    ],
    [
      [0, 6e6],
      ["0", "2 M", "4 M", "6 M"],
    ],
    [
      [-4e9, 4e9],
      ["−4 bn", "−2 bn", "0", "2 bn", "4 bn"],
    ],
    [
      [0, 1e6],
      ["0", "0.5 M", "1.0 M"],
    ],
    [
      [0, 4e16],
      ["0", "1.00e+16", "2.00e+16", "3.00e+16", "4.00e+16"],
    ],
  ])("from %j reads %j", (domain, wanted) => {
    expect(texts(domain)).toEqual(wanted);
  });

  it("is a round number within the domain, evenly spaced, and no two read alike", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e9, max: 1e9, noNaN: true }),
        fc.double({ min: 1e-3, max: 1e9, noNaN: true }),
        fc.integer({ min: 2, max: 8 }),
        (min, width, wanted) => {
          fc.pre(width > 1e-6 * Math.abs(min));
          const found = ticks([min, min + width], wanted);
          expect(found.length).toBeGreaterThan(0);
          expect(found.length).toBeLessThanOrEqual(wanted + 1);
          for (const v of found) {
            expect(v).toBeGreaterThanOrEqual(min - 1e-6 * width);
            expect(v).toBeLessThanOrEqual(min + width * (1 + 1e-6));
          }
        },
      ),
    );
  });

  it("is there even where few are wanted within a narrow domain", () => {
    expect(ticks([0.5, 4.52], 2)).toEqual([2, 4]);
    expect(ticks([3, 3], 2)).toEqual([3]);
  });

  it("lies where the scale says, and the scale can be read backwards", () => {
    const scale = linear([10, 20], [100, 0]);
    expect([scale(10), scale(15), scale(20)]).toEqual([100, 50, 0]);
    expect(scale.invert(scale(12.5))).toBeCloseTo(12.5, 12);
    // A variable without spread still has a place.
    expect(Number.isFinite(linear([3, 3], [0, 100])(3))).toBe(true);
  });

  it("has room beyond the outermost values, whatever else is among them", () => {
    expect(padded([1, NaN, 3, Infinity], 0.1)).toEqual([0.8, 3.2]);
    expect(padded([5, 5])).toEqual([4.96, 5.04]);
  });
});
