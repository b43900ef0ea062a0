import { describe, expect, it } from "vitest";
import type { ClaimTest } from "./types";
import { verdictOf } from "./verdict";
import { claim } from "./verdict-kit";

describe("a limit that is one of the most extreme resamples", () => {
  const judged = (patch: Partial<ClaimTest>, replicates: number | null = 1000) =>
    verdictOf(claim(patch), null, replicates);
  /** Zero lies far within, and p says so. */
  const within = { lower: -0.3, upper: 0.5, p: 0.6 } as const;

  it.each([
    [0, "none lies beyond it"],
    [1, "one lies beyond it"],
    [3, "3 lie beyond it"],
    [4, "4 lie beyond it"],
  ])("with %d beyond it leaves the verdict open, and says so", (beyondLower, words) => {
    const { verdict: found, why, reason } = judged({ beyondLower });
    expect([found, why]).toEqual(["unsettled", "few"]);
    expect(reason).toContain(`The lower limit (0.100) is one of the most extreme`);
    expect(reason).toContain(words);
  });

  it("with five beyond it is settled, as is one that does not decide", () => {
    expect(judged({ beyondLower: 5 }).verdict).toBe("supported");
    expect(judged({ beyondUpper: 0 }).verdict).toBe("supported");
    expect(judged({ lower: -0.3, upper: -0.1, beyondLower: 0 }).verdict).toBe("opposite");
    expect(judged({ lower: 0, upper: 0.3, beyondUpper: 0 }).verdict).toBe("unsettled");
    expect(judged({ lower: -0.3, upper: 0, beyondLower: 0 }).verdict).toBe("unsettled");
  });

  it("names the more extreme of two, and how many would settle it where that can be made", () => {
    const both = { ...within, beyondLower: 4, beyondUpper: 2 };
    expect(judged(both).reason).toContain("The upper limit (0.500)");
    expect(judged({ ...both, beyondLower: 2, beyondUpper: 4 }).reason).toContain("The lower limit");
    // 1,000 replicates have 2 beyond it, so five times as many halves as many again: 2,500.
    expect(judged(both).reason).toContain("about 2,500 bootstrap samples would settle it");
    expect(judged({ ...both, reference: "monte_carlo" }).reason).toContain("about 2,500 draws");
    // 20,000 with one beyond the limit want 100,000, which can just be made.
    const one = { ...within, beyondLower: 1 };
    expect(judged(one, 20_000).reason).toContain("about 100,000 bootstrap samples");
    expect(judged({ ...one, p: 0.05 }, 20_001).reason).toContain("more than can be made here");
    expect(judged({ beyondLower: 1 }, null).reason).toContain("more than can be made here");
  });

  it("is no matter where more than can be made would be needed, and p is far from its limit", () => {
    const far = { ...within, beyondLower: 0 };
    expect(judged(far).verdict).toBe("not_supported");
    // Each of these leaves room for doubt.
    for (const doubt of [
      { p: 0.055 },
      { p: 0.01 },
      { p: null },
      { lower: 0, upper: 0.5 },
      { lower: -0.3, upper: 0 },
      { lower: 0.1, upper: 0.5 },
      { tail: "one" as const, upper: null },
    ])
      expect([doubt, judged({ ...far, beyondUpper: 0, ...doubt }).verdict]).toEqual([
        doubt,
        "unsettled",
      ]);
    expect(judged({ ...far, lower: -0.5, upper: -0.3, beyondUpper: 0 }).verdict).toBe("unsettled");
    expect(judged(far, null).verdict).toBe("unsettled");
    expect(judged(far, 0).verdict).toBe("unsettled");
    // The error of p among so few: .3 lies within two of them of .05 for 8 replicates, not for 40.
    expect(judged({ ...far, p: 0.3 }, 8).verdict).toBe("unsettled");
    expect(judged({ ...far, p: 0.3 }, 40).verdict).toBe("not_supported");
    expect(judged({ ...far, p: 0.97, level: 0.9 }, 10).verdict).toBe("not_supported");
  });

  it("gives way to the nearer of two limits by its own error where none is extreme", () => {
    const near = { lower: 0.99, upper: 1.03, nullValue: 1, mcseLower: 0.01, mcseUpper: 0.02 };
    expect(judged(near).reason).toContain("The lower limit (0.990)");
    expect(judged({ ...near, mcseUpper: 0.06 }).reason).toContain("The upper limit (1.030)");
  });
});
