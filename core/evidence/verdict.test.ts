import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { ClaimTest } from "./types";
import { adjustedFor, afterHolm } from "./several";
import { verdictOf } from "./verdict";
import { claim } from "./verdict-kit";

const verdict = (patch: Partial<ClaimTest>) => verdictOf(claim(patch), null, 1000).verdict;

describe("a two-tailed verdict", () => {
  it.each([
    [1, 0.1, 0.3, "supported"],
    [1, -0.3, -0.1, "opposite"],
    [1, -0.1, 0.3, "not_supported"],
    [-1, -0.3, -0.1, "supported"],
    [-1, 0.1, 0.3, "opposite"],
    [0, -0.3, -0.1, "supported"],
    [0, 0.1, 0.3, "supported"],
    [0, -0.1, 0.2, "not_supported"],
  ] as const)("of direction %d with [%d, %d] is %s", (direction, lower, upper, wanted) =>
    expect(verdict({ direction, lower, upper })).toBe(wanted),
  );

  it("names the values that the interval leaves possible, and never calls the evidence absent", () => {
    const { reason } = verdictOf(claim({ lower: -0.02, upper: 0.31 }), null, 1000);
    expect(reason).toContain("from −0.020 to 0.310 possible");
    expect(reason).not.toMatch(/no evidence|either way/);
  });

  it("is that of the mirrored claim on the mirrored interval", () =>
    fc.assert(
      fc.property(
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: 0.001, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 0.1, noNaN: true }),
        fc.constantFrom(-1, 0, 1),
        (lower, width, error, direction) => {
          const upper = lower + width;
          const here = {
            lower,
            upper,
            mcseLower: error,
            mcseUpper: error / 2,
            direction: direction as -1 | 0 | 1,
            estimate: (lower + upper) / 2,
          };
          const there = {
            ...here,
            lower: -upper,
            upper: -lower,
            mcseLower: error / 2,
            mcseUpper: error,
            direction: -direction as -1 | 0 | 1,
            estimate: -here.estimate,
          };
          expect(verdict(there)).toBe(verdict(here));
        },
      ),
    ));
});

describe("a one-tailed verdict", () => {
  const up = { tail: "one", direction: 1, upper: null } as const;
  it("reads the bound that counts and knows no opposite", () => {
    expect(verdict({ ...up, lower: 0.013 })).toBe("supported");
    expect(verdict({ ...up, lower: -0.5, estimate: -0.4 })).toBe("not_supported");
    expect(
      verdict({ tail: "one", direction: -1, lower: null, upper: -0.013, estimate: -0.2 }),
    ).toBe("supported");
    expect(verdict({ tail: "one", direction: -1, lower: null, upper: 0.2 })).toBe("not_supported");
  });
  it("says that the estimate points the other way only where it does", () => {
    expect(verdictOf(claim({ ...up, lower: -0.5, estimate: -0.4 }), null, 1000).reason).toContain(
      "other way",
    );
    expect(
      verdictOf(claim({ ...up, lower: -0.5, estimate: 0.4 }), null, 1000).reason,
    ).not.toContain("other way");
  });
});

describe("an unsettled verdict", () => {
  it("needs a limit within two Monte Carlo errors of the null, either limit of a two-tailed interval", () => {
    expect(verdict({ lower: 0.019, mcseLower: 0.01 })).toBe("unsettled");
    expect(verdict({ lower: 0.021, mcseLower: 0.01 })).toBe("supported");
    expect(verdict({ lower: -0.3, upper: -0.019, mcseUpper: 0.01 })).toBe("unsettled");
    expect(verdict({ lower: -0.019, upper: 0.5, mcseLower: 0.01 })).toBe("unsettled");
    // The other limit is far away, however uncertain it is.
    expect(verdict({ lower: 0.1, mcseLower: 0.01, upper: 0.9, mcseUpper: 0.3 })).toBe("supported");
    expect(verdict({ lower: 0, mcseLower: 0 })).not.toBe("unsettled");
  });
  it("in one tail knows only the bound that counts", () => {
    expect(verdict({ tail: "one", lower: 0.019, upper: null, mcseLower: 0.01 })).toBe("unsettled");
    expect(verdict({ tail: "one", lower: 0.1, upper: null, mcseLower: 0.01, mcseUpper: 9 })).toBe(
      "supported",
    );
  });
  it("says how many resamples would settle it: error falls with their root", () =>
    expect(verdictOf(claim({ lower: 0.01, mcseLower: 0.01 }), null, 1000).reason).toContain(
      "about 4,000 bootstrap samples",
    ));
});

describe("a claim about three or more groups", () => {
  const joint = {
    reference: "bootstrap",
    statistic: 9,
    df1: 2,
    df2: null,
    p: 0.01,
    mcse: 0.001,
  } as const;
  const together = { joint, direction: 0, estimate: null, lower: null, upper: null } as const;
  it("without a direction rests on the joint test", () => {
    expect(verdict(together)).toBe("supported");
    expect(verdict({ ...together, joint: { ...joint, p: 0.2 } })).toBe("not_supported");
    expect(verdict({ ...together, joint: { ...joint, p: 0.0505 } })).toBe("unsettled");
    expect(verdict({ ...together, joint: { ...joint, p: 0.0505, mcse: 0 } })).toBe("not_supported");
    expect(verdict({ ...together, joint: { ...joint, p: 0.049, mcse: 0.0001 } })).toBe("supported");
  });
  it("with a direction needs a comparison, and says which sentence would name one", () => {
    const { verdict: found, reason } = verdictOf(
      claim({ ...together, direction: 1 }),
      { variable: "group", levels: ["none", "weekly", "daily"] },
      1000,
    );
    expect(found).toBe("undirected");
    expect(reason).toContain('group ("weekly" against "none")');
    expect(reason).toContain("T = 9.00, p = .010");
  });
});

const adjusted = (p: number, error = 0, isBound = false) => ({ p, error, isBound });

it("Holm's correction takes a verdict away and never gives one", () => {
  const found = verdictOf(claim({}), null, 1000);
  expect(afterHolm(found, adjusted(0.04), 0.05, 1000)).toEqual(found);
  expect(afterHolm(found, adjusted(0.06), 0.05, 1000)).toMatchObject({
    verdict: "not_supported",
    reason: expect.stringContaining("Holm"),
  });
  const not = verdictOf(claim({ lower: -1 }), null, 1000);
  expect(afterHolm(not, adjusted(0.01), 0.05, 1000)).toEqual(not);
  expect(verdictOf(null, null, null).verdict).toBe("pending");
  expect(verdict({ lower: null, upper: null })).toBe("pending");
});

describe("Holm's decision by resamples", () => {
  const found = verdictOf(claim({}), null, 1000);
  it("is open within two errors of the adjusted p from the limit", () => {
    expect(afterHolm(found, adjusted(0.06, 0.006), 0.05, 1000).verdict).toBe("unsettled");
    expect(afterHolm(found, adjusted(0.04, 0.006), 0.05, 1000).verdict).toBe("unsettled");
    expect(afterHolm(found, adjusted(0.04, 0.004), 0.05, 1000).verdict).toBe("supported");
  });
  it("is open where p is only known to be below what the correction asks for", () => {
    const { verdict: open, reason } = afterHolm(found, adjusted(0.12, 0.06, true), 0.05, 199);
    expect(open).toBe("unsettled");
    expect(reason).toContain("p < .120");
    expect(reason).toContain("about 600 bootstrap samples");
    expect(afterHolm(found, adjusted(0.04, 0, true), 0.05, 199).verdict).toBe("supported");
  });
  it("settles a limit near zero whose p is far from what the correction asks for, and no open sign", () => {
    const near = verdictOf(claim({ lower: 0.01, mcseLower: 0.01 }), null, 1000);
    expect(afterHolm(near, adjusted(0.2, 0.01), 0.05, 1000).verdict).toBe("not_supported");
    const sign = { verdict: "unsettled", why: "sign", reason: "" } as const;
    expect(afterHolm(sign, adjusted(0.2, 0.01), 0.05, 1000)).toEqual(sign);
  });
  it("takes error and bound of the p that decides, times its multiplier", () =>
    expect(
      adjustedFor([
        { p: 0.02, error: 0.001, isBound: false },
        { p: null, error: 0, isBound: false },
        { p: 0.01, error: 0.002, isBound: true },
        { p: 0.011, error: 0.003, isBound: false },
      ]),
    ).toEqual([
      { p: 0.03, error: 0.006, isBound: true },
      null,
      { p: 0.03, error: 0.006, isBound: true },
      { p: 0.03, error: 0.006, isBound: true },
    ]));
});

describe("a limit among the most extreme resamples", () => {
  const few = (patch: Partial<ClaimTest>) => verdictOf(claim(patch), null, 50);
  it("decides nothing, whatever its Monte Carlo error", () => {
    expect(few({ beyondLower: 1.275 })).toMatchObject({ verdict: "unsettled", why: "few" });
    expect(few({ beyondLower: 1.275 }).reason).toContain("one lies beyond it");
    // 50 samples have 1.275 beyond; 196 have 4.9 rounded to 5.
    expect(few({ beyondLower: 1.275 }).reason).toContain("about 200 bootstrap samples");
    expect(few({ beyondLower: 0.4 }).reason).toContain("none lies beyond it");
    expect(few({ beyondLower: 5 }).verdict).toBe("supported");
    expect(few({ lower: -0.1, beyondUpper: 4.9 }).verdict).toBe("unsettled");
  });
  it("decides nothing either where no number of resamples could fill it, unless the null is far inside", () => {
    const far = { lower: -0.3, upper: 0.5, beyondUpper: 1e-4 };
    expect(few({ ...far, p: 0.4 }).verdict).toBe("not_supported");
    expect(few({ ...far, p: 0.06 }).verdict).toBe("unsettled");
    expect(few({ beyondLower: 1e-4, p: 0.001 }).verdict).toBe("unsettled");
    expect(few({ beyondLower: 1e-4, p: 0.001 }).reason).toContain("more than can be made here");
  });
  it("is let be where the other one decides", () => {
    expect(few({ beyondUpper: 0.1 }).verdict).toBe("supported");
    expect(few({ lower: -0.3, upper: -0.1, beyondLower: 0.1 }).verdict).toBe("opposite");
    expect(few({ tail: "one", upper: null, beyondUpper: null }).verdict).toBe("supported");
    expect(few({ beyondLower: null, beyondUpper: null }).verdict).toBe("supported");
  });
});

describe("what a verdict says", () => {
  const reason = (patch: Partial<ClaimTest>, replicates: number | null = 1000): string =>
    verdictOf(claim(patch), null, replicates).reason;

  it("two-tailed: limits, side and null by name", () => {
    expect(reason({})).toBe("The interval, 0.100 to 0.300, lies wholly above zero, as stated.");
    expect(reason({ direction: -1, lower: -0.3, upper: -0.1 })).toBe(
      "The interval, −0.300 to −0.100, lies wholly below zero, as stated.",
    );
    expect(reason({ direction: -1 })).toBe(
      "The interval, 0.100 to 0.300, lies wholly above zero: the opposite of what was stated.",
    );
    expect(reason({ direction: 0 })).toBe("The interval, 0.100 to 0.300, excludes zero.");
    expect(reason({ nullValue: 1, lower: 1.2, upper: 1.5 })).toBe(
      "The interval, 1.200 to 1.500, lies wholly above 1.000, as stated.",
    );
  });

  it("one-tailed: the bound, and what it leaves possible", () => {
    const up = { tail: "one", upper: null } as const;
    expect(reason({ ...up, lower: 0.013 })).toBe(
      "The effect is above 0.013 (95 % one-sided bound), so above zero, as stated.",
    );
    expect(reason({ ...up, lower: -0.2 })).toBe(
      "The effect is above −0.200 (95 % one-sided bound), which leaves zero possible.",
    );
    const down = { tail: "one", direction: -1, lower: null, estimate: -0.2 } as const;
    expect(reason({ ...down, upper: -0.1 })).toBe(
      "The effect is below −0.100 (95 % one-sided bound), so below zero, as stated.",
    );
    expect(reason({ ...down, upper: 0.4, estimate: 0.1 })).toContain("the other way");
    expect(reason({ ...down, upper: 0.4, estimate: 0 })).not.toContain("the other way");
    // About a null value of one everything moves with it.
    expect(verdict({ ...up, nullValue: 1, lower: 1.1, estimate: 1.4 })).toBe("supported");
    expect(verdict({ ...up, nullValue: 1, lower: 0.9, estimate: 1.4 })).toBe("not_supported");
    expect(reason({ ...up, nullValue: 1, lower: 0.5, estimate: 0.8 })).toContain("the other way");
    expect(reason({ ...up, nullValue: 1, lower: 0.5, estimate: 1.2 })).not.toContain(
      "the other way",
    );
  });

  it("a limit exactly at the null does not exclude it", () => {
    expect(verdict({ lower: 0 })).toBe("not_supported");
    expect(verdict({ direction: -1, lower: -1, upper: 0 })).toBe("not_supported");
    expect(verdict({ tail: "one", lower: 0, upper: null })).toBe("not_supported");
  });

  it("that the delta method stands in, only while it does", () => {
    const waiting = ", by the delta method until the bootstrap samples arrive";
    expect(reason({ provisional: true, reference: "z" })).toContain(waiting);
    expect(reason({ provisional: true, reference: "bootstrap" })).not.toContain(waiting);
    expect(reason({ provisional: false, reference: "z" })).not.toContain(waiting);
    expect(reason({ provisional: true, reference: "t", tail: "one", upper: null })).toContain(
      waiting,
    );
  });

  it("which limit is unsettled: the one nearer the null in its own errors", () => {
    const both = { lower: -0.02, upper: 0.01, estimate: -0.005 } as const;
    expect(reason({ ...both, mcseLower: 0.02, mcseUpper: 0.006 })).toMatch(
      /^The lower limit \(−0\.020\).* Monte Carlo error is 0\.0200/,
    );
    expect(reason({ ...both, mcseLower: 0.011, mcseUpper: 0.02 })).toMatch(
      /^The upper limit \(0\.010\)/,
    );
    // Exactly two errors away is still within them.
    expect(verdict({ lower: 0.02, mcseLower: 0.01 })).toBe("unsettled");
    expect(reason({ tail: "one", lower: 0.01, upper: null, mcseLower: 0.01 })).toMatch(
      /^The one-sided bound/,
    );
    expect(verdict({ nullValue: 1, lower: 1.019, upper: 2, mcseLower: 0.01 })).toBe("unsettled");
    expect(verdict({ nullValue: 1, lower: 0.019, upper: 2, mcseLower: 0.01 })).toBe(
      "not_supported",
    );
    expect(reason({ nullValue: 1, lower: 1.01, upper: 2, mcseLower: 0.01 })).toContain(
      "near 1.000 that",
    );
    expect(reason({ nullValue: 1, lower: 1.01, upper: 2, mcseLower: 0.01 })).toContain(
      "about 4,000 bootstrap samples",
    );
  });

  it("how many resamples would settle it, where that is a number worth naming", () => {
    expect(reason({ lower: 0, mcseLower: 0.01 })).not.toContain("would settle");
    expect(reason({ lower: 0.01, mcseLower: 0.01 }, null)).not.toContain("would settle");
    expect(reason({ lower: 1e-9, mcseLower: 0.01 })).not.toContain("would settle");
    // 12,346 is rounded up to three figures' worth of hundreds, 700 stays in hundreds.
    expect(reason({ lower: 0.01, mcseLower: 0.0175678 })).toContain(
      "about 13,000 bootstrap samples",
    );
    expect(reason({ lower: 0.01, mcseLower: 0.01 }, 160)).toContain("about 700 bootstrap samples");
    expect(reason({ lower: 0.01, mcseLower: 0.01 }, 300_000)).toContain(
      "about 1,200,000 bootstrap samples",
    );
  });

  it("a joint test: what it found, and when another seed could change it", () => {
    const joint = {
      reference: "bootstrap",
      statistic: 7,
      df1: 2,
      df2: null,
      p: 0.045,
      mcse: 0.005,
    } as const;
    const together = { joint, direction: 0, estimate: null, lower: null, upper: null } as const;
    expect(reason(together)).toBe(
      "Joint bootstrap test of the 2 effects, T = 7.00, p = .045: p is so near .05 that another seed could move it across; about 4,000 bootstrap samples would settle it.",
    );
    expect(reason(together, null)).not.toContain("would settle");
    expect(reason({ ...together, joint: { ...joint, p: 0.05 } })).not.toContain("would settle");
    expect(verdict({ ...together, joint: { ...joint, p: 0.06, mcse: 0.005 } })).toBe("unsettled");
    expect(verdict({ ...together, joint: { ...joint, p: 0.0501, mcse: 0 } })).toBe("not_supported");
    const F = { reference: "F", statistic: 4.5, df1: 2, df2: 96.5, p: 0.012, mcse: 0 } as const;
    expect(reason({ ...together, joint: F })).toMatch(
      /^Joint test F\(2, 96\.5\) = 4\.50, p = \.012: the groups differ/,
    );
    expect(reason({ ...together, joint: { ...F, errors: "HC3" } })).toMatch(
      /^Joint test F\(2, 96\.5\) = 4\.50, p = \.012, HC3 errors: the groups differ/,
    );
    expect(
      reason({
        ...together,
        joint: { ...F, reference: "chi2", df2: null, p: 0.4 },
        provisional: true,
      }),
    ).toMatch(
      /χ²\(2\) = 4\.50, p = \.400: no difference .* \(delta method, until the bootstrap samples arrive\)\.$/,
    );
  });

  it("an open comparison needs a direction to be missing one", () => {
    const open = { variable: "group", levels: ["a", "b", "c"] };
    expect(verdictOf(claim({ direction: 0 }), open, 1000).verdict).toBe("supported");
    expect(verdictOf(claim({}), open, 1000)).toMatchObject({
      verdict: "undirected",
      reason: expect.not.stringContaining("Without a direction"),
    });
  });

  it("Holm's p at the level does not reach it; a missing one decides nothing; only what was found can fall", () => {
    const found = verdictOf(claim({}), null, 1000);
    expect(afterHolm(found, adjusted(0.05), 0.05, 1000).verdict).toBe("not_supported");
    expect(afterHolm(found, null, 0.05, 1000)).toEqual(found);
    const opposite = verdictOf(claim({ direction: -1 }), null, 1000);
    expect(afterHolm(opposite, adjusted(0.2), 0.05, 1000).verdict).toBe("not_supported");
  });

  it("nothing is said of what could not be estimated", () => {
    expect(verdictOf(claim({ estimate: null }), null, 1000)).toEqual({
      verdict: "pending",
      reason: "No interval is available yet.",
    });
    expect(verdictOf(claim({ lower: null, upper: null }), null, 1000).verdict).toBe("pending");
  });
});
