import { describe, expect, it } from "vitest";
import type { JohnsonNeyman, Region } from "../inference";
import {
  changeShown,
  regionSentence,
  regionWords,
  zeroIndirectSentence,
  zeroSlopeSentence,
} from "./region-words";
import type { Band, RegionEvidence } from "./region-types";

const region = (from: number, to: number, percent: number, sign: 1 | -1 | null): Region =>
  ({ from, to, percent, significant: sign !== null, sign: sign ?? 1 }) as Region;
const HOURS = {
  focal: "hours",
  focalLabel: "hours",
  focalVariable: "hours",
  outcome: "confidence",
};
const GROUP = {
  focal: "group.1",
  focalLabel: "group: weekly against none",
  focalVariable: "group",
  outcome: "confidence",
};
const HOW = { rule: "pointwise", errors: "classical", level: 0.95, shown: true } as const;
const sentence = (regions: Region[], slope = HOURS, how: object = {}): string => {
  const percentSignificant = regions
    .filter((r) => r.significant)
    .reduce((sum, r) => sum + r.percent, 0);
  return regionSentence(
    { regions, range: [1, 5], percentSignificant } as JohnsonNeyman,
    slope,
    "support",
    { n: 200, unit: "people" },
    { ...HOW, ...how },
  );
};

describe("regions in words", () => {
  it("say from where on, up to where, between where, and for how many", () => {
    expect(sentence([region(1, 2.52, 24, null), region(2.52, 5, 76, 1)])).toBe(
      "The slope of hours on confidence is positive where support is at least 2.52 (76 % of the 200 people). Elsewhere its interval contains zero. Regions at 95 %, pointwise, not corrected for looking at every value.",
    );
    expect(sentence([region(1, 2, 30, -1), region(2, 5, 70, null)])).toContain(
      "negative where support is at most 2.00 (30 %",
    );
    expect(
      sentence([region(1, 2, 20, null), region(2, 3, 50, -1), region(3, 5, 30, null)]),
    ).toContain("where support is between 2.00 and 3.00");
  });

  it("tell two directions apart", () =>
    expect(sentence([region(1, 2, 20, -1), region(2, 4, 50, null), region(4, 5, 30, 1)])).toMatch(
      /negative where support is at most 2\.00 .*, and positive where support is at least 4\.00/,
    ));

  it("cover the whole range without a word about elsewhere", () =>
    expect(sentence([region(1, 5, 100, 1)])).toBe(
      "The slope of hours on confidence is positive at every value of support that was observed (100 % of the 200 people). Regions at 95 %, pointwise, not corrected for looking at every value.",
    ));

  it("never say that there is no effect", () => {
    expect(sentence([region(1, 5, 100, null)])).toBe(
      "The slope of hours on confidence has an interval that contains zero at every value of support between 1.00 and 5.00. Regions at 95 %, pointwise, not corrected for looking at every value.",
    );
    expect(regionWords({ significant: false, sign: 1 }, HOURS)).toBe("not significant");
    expect(regionWords({ significant: true, sign: -1 }, HOURS)).toBe("more hours, less confidence");
  });
});

describe("what regions are told of, and how they were found", () => {
  it("groups are compared: nobody has more of one", () => {
    const words = sentence([region(1, 5, 100, -1)], GROUP);
    expect(words).toContain(
      "The difference in confidence (group: weekly against none) is negative",
    );
    expect(regionWords({ significant: true, sign: 1 }, GROUP)).toBe(
      "more confidence (group: weekly against none)",
    );
  });
  it("corrections and errors are named", () => {
    const found = [region(1, 5, 100, 1)];
    expect(sentence(found, HOURS, { rule: "simultaneous", errors: "CR2", level: 0.9 })).toContain(
      "Regions at 90 %, corrected for all values together; cluster-robust (CR2) errors.",
    );
    expect(sentence(found, HOURS, { rule: "falseDiscovery", errors: "HC3" })).toContain(
      "corrected by the false discovery rate; HC3 errors",
    );
  });
  it("are no finding where the slope is not shown to change", () => {
    const words = sentence([region(1, 2, 30, 1), region(2, 5, 70, null)], HOURS, { shown: false });
    expect(words).toContain("changes with support is not shown");
    expect(words).not.toMatch(/positive|at most/);
  });
  it("whose change is shown is told by the interval of the product", () => {
    const product = (lower: number, from = "hours:support") =>
      ({
        effects: [{ kind: "interaction", to: "confidence", from, shown: { lower, upper: 1 } }],
      }) as never;
    expect(changeShown(product(0.1), HOURS, "support")).toBe(true);
    expect(changeShown(product(-0.1, "support:hours"), HOURS, "support")).toBe(false);
    expect(changeShown(product(0.1, "hours:age"), HOURS, "support")).toBeNull();
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
