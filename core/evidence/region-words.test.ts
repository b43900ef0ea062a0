import { describe, expect, it } from "vitest";
import type { JohnsonNeyman, Region } from "../inference";
import { regionSentence, regionWords } from "./region-words";

const region = (from: number, to: number, percent: number, sign: 1 | -1 | null): Region =>
  ({ from, to, percent, significant: sign !== null, sign: sign ?? 1 }) as Region;
const sentence = (regions: Region[]): string => {
  const percentSignificant = regions.filter((r) => r.significant).reduce((sum, r) => sum + r.percent, 0);
  return regionSentence({ regions, range: [1, 5], percentSignificant } as JohnsonNeyman, "hours", "confidence", "support", 200, "people");
};

describe("regions in words", () => {
  it("say from where on, up to where, between where, and for how many", () => {
    expect(sentence([region(1, 2.52, 24, null), region(2.52, 5, 76, 1)])).toBe(
      "With more hours comes more confidence from a support of 2.52 on (76 % of the 200 people). Elsewhere the interval of the slope contains zero.",
    );
    expect(sentence([region(1, 2, 30, -1), region(2, 5, 70, null)])).toContain("less confidence up to a support of 2.00 (30 %");
    expect(sentence([region(1, 2, 20, null), region(2, 3, 50, -1), region(3, 5, 30, null)])).toContain(
      "between a support of 2.00 and 3.00",
    );
  });

  it("tell two directions apart", () =>
    expect(sentence([region(1, 2, 20, -1), region(2, 4, 50, null), region(4, 5, 30, 1)])).toMatch(
      /less confidence up to a support of 2\.00 .*, and more confidence from a support of 4\.00 on/,
    ));

  it("cover the whole range without a word about elsewhere", () =>
    expect(sentence([region(1, 5, 100, 1)])).toBe(
      "With more hours comes more confidence at every value of support that was observed (100 % of the 200 people).",
    ));

  it("never say that there is no effect", () => {
    expect(sentence([region(1, 5, 100, null)])).toBe(
      "At no value of support between 1.00 and 5.00 is there evidence that hours and confidence go together.",
    );
    expect(regionWords({ significant: false, sign: 1 }, "hours", "confidence")).toBe("unclear");
    expect(regionWords({ significant: true, sign: -1 }, "hours", "confidence")).toBe("more hours, less confidence");
  });
});
