import { describe, expect, it } from "vitest";
import type { JohnsonNeyman, Region } from "../inference";
import {
  regionSentence,
  regionWords,
  zeroIndirectSentence,
  zeroSlopeSentence,
} from "./region-words";
import type { Band, RegionEvidence } from "./region-types";

const region = (from: number, to: number, percent: number, sign: 1 | -1 | null): Region =>
  ({ from, to, percent, significant: sign !== null, sign: sign ?? 1 }) as Region;
const sentence = (regions: Region[]): string => {
  const percentSignificant = regions
    .filter((r) => r.significant)
    .reduce((sum, r) => sum + r.percent, 0);
  return regionSentence(
    { regions, range: [1, 5], percentSignificant } as JohnsonNeyman,
    "hours",
    "confidence",
    "support",
    200,
    "people",
  );
};

describe("regions in words", () => {
  it("say from where on, up to where, between where, and for how many", () => {
    expect(sentence([region(1, 2.52, 24, null), region(2.52, 5, 76, 1)])).toBe(
      "With more hours comes more confidence where support is at least 2.52 (76 % of the 200 people). Elsewhere the interval of the slope contains zero.",
    );
    expect(sentence([region(1, 2, 30, -1), region(2, 5, 70, null)])).toContain(
      "less confidence where support is at most 2.00 (30 %",
    );
    expect(
      sentence([region(1, 2, 20, null), region(2, 3, 50, -1), region(3, 5, 30, null)]),
    ).toContain("where support is between 2.00 and 3.00");
  });

  it("tell two directions apart", () =>
    expect(sentence([region(1, 2, 20, -1), region(2, 4, 50, null), region(4, 5, 30, 1)])).toMatch(
      /less confidence where support is at most 2\.00 .*, and more confidence where support is at least 4\.00/,
    ));

  it("cover the whole range without a word about elsewhere", () =>
    expect(sentence([region(1, 5, 100, 1)])).toBe(
      "With more hours comes more confidence at every value of support that was observed (100 % of the 200 people).",
    ));

  it("never say that there is no effect", () => {
    expect(sentence([region(1, 5, 100, null)])).toBe(
      "At no value of support between 1.00 and 5.00 is there evidence that hours and confidence go together.",
    );
    expect(regionWords({ significant: false, sign: 1 }, "hours", "confidence")).toBe(
      "not significant",
    );
    expect(regionWords({ significant: true, sign: -1 }, "hours", "confidence")).toBe(
      "more hours, less confidence",
    );
  });
});

describe("where an effect is zero", () => {
  const crossing = { at: 4.82, insideRange: true };
  it("is said with what Fieller's method leaves possible", () => {
    expect(
      zeroSlopeSentence(crossing, { kind: "interval", lower: 4.2, upper: 6.27 }, "support", 0.95),
    ).toBe("The slope is zero at support = 4.82; 95 % CI 4.20 to 6.27 (Fieller).");
    expect(
      zeroSlopeSentence(crossing, { kind: "outside", lower: 1, upper: 3 }, "support", 0.9),
    ).toMatch(/90 %: any value below 1\.00 or above 3\.00 .* interaction itself may be zero/);
    expect(
      zeroSlopeSentence(
        { at: 9, insideRange: false },
        { kind: "everywhere", lower: null, upper: null },
        "support",
        0.95,
      ),
    ).toMatch(/9\.00, outside the observed values; 95 %: any value/);
    // In the units of the screen.
    expect(
      zeroSlopeSentence(
        crossing,
        { kind: "interval", lower: 4, upper: 6 },
        "support",
        0.95,
        (v) => v - 4,
      ),
    ).toContain("support = 0.82; 95 % CI 0.00 to 2.00");
  });

  const grid = [0, 1, 2, 3, 4];
  const region = { grid, estimate: [-2, -1, 1, 2, 3], over: "w" } as unknown as RegionEvidence;
  const band = (lower: number[], upper: number[]): Band => ({ lower, upper, boundaries: [] });
  it("and for an indirect effect by its band", () => {
    expect(zeroIndirectSentence(region, band([-3, -2, -1, 1, 2], [-1, 1, 2, 3, 4]))).toBe(
      "The indirect effect is zero at w = 1.50. Its band contains zero for w from 1.00 to 2.00.",
    );
    expect(zeroIndirectSentence(region, band([-3, -2, -1, -1, -1], [1, 1, 2, 3, 4]))).toContain(
      "At every observed value of w its band contains zero.",
    );
    const clear = { ...region, estimate: [1, 2, 3, 4, 5] };
    expect(zeroIndirectSentence(clear, band([0.5, 1, 2, 3, 4], [2, 3, 4, 5, 6]))).toBe(
      "At no observed value of w does its band contain zero.",
    );
    expect(zeroIndirectSentence(clear, band([-1, 1, 2, 3, -4], [2, 3, 4, 5, 6]))).toContain(
      "from 0.00 to 0.00 and from 4.00 to 4.00",
    );
  });
});
