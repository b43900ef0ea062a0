import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { ClaimTest } from "./types";
import { afterHolm, verdictOf } from "./verdict";

const claim = (patch: Partial<ClaimTest>): ClaimTest => ({
  estimate: 0.2,
  nullValue: 0,
  direction: 1,
  tail: "two",
  joint: null,
  method: "bca",
  reference: "bootstrap",
  df: null,
  se: 0.1,
  lower: 0.1,
  upper: 0.3,
  p: 0.01,
  pIsBound: false,
  level: 0.95,
  provisional: false,
  mcseLower: 0,
  mcseUpper: 0,
  ...patch,
});

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
    expect(verdict({ tail: "one", direction: -1, lower: null, upper: -0.013, estimate: -0.2 })).toBe("supported");
    expect(verdict({ tail: "one", direction: -1, lower: null, upper: 0.2 })).toBe("not_supported");
  });
  it("says that the estimate points the other way only where it does", () => {
    expect(verdictOf(claim({ ...up, lower: -0.5, estimate: -0.4 }), null, 1000).reason).toContain("other way");
    expect(verdictOf(claim({ ...up, lower: -0.5, estimate: 0.4 }), null, 1000).reason).not.toContain("other way");
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
    expect(verdict({ tail: "one", lower: 0.1, upper: null, mcseLower: 0.01, mcseUpper: 9 })).toBe("supported");
  });
  it("says how many resamples would settle it: error falls with their root", () =>
    expect(verdictOf(claim({ lower: 0.01, mcseLower: 0.01 }), null, 1000).reason).toContain("about 4,000 resamples"));
});

describe("a claim about three or more groups", () => {
  const joint = { reference: "bootstrap", statistic: 9, df1: 2, df2: null, p: 0.01, mcse: 0.001 } as const;
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

it("Holm's correction takes a verdict away and never gives one", () => {
  const found = verdictOf(claim({}), null, 1000);
  expect(afterHolm(found, 0.04, 0.05)).toEqual(found);
  expect(afterHolm(found, 0.06, 0.05)).toMatchObject({ verdict: "not_supported", reason: expect.stringContaining("Holm") });
  const not = verdictOf(claim({ lower: -1 }), null, 1000);
  expect(afterHolm(not, 0.01, 0.05)).toEqual(not);
  expect(verdictOf(null, null, null).verdict).toBe("pending");
  expect(verdict({ lower: null, upper: null })).toBe("pending");
});
