import { describe, expect, it } from "vitest";
import { analyseReplicates } from "../cli/replicates";
import { agrees, expectedOf, readCase } from "./load";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

const CASES = [
  "plain",
  "b1999",
  "failed-replicates",
  "one-sided-replicates",
  "skewed",
  "small-b",
  "ties",
];

const FIELDS = {
  low: "lower",
  high: "upper",
  p_two_sided: "pTwoSided",
  p_one_sided_greater: "pGreater",
  p_one_sided_less: "pLess",
  one_sided_lower_bound: "oneSidedLower",
  one_sided_upper_bound: "oneSidedUpper",
  mcse_low: "mcseLower",
  mcse_high: "mcseUpper",
};

describe.each(CASES)("interval methods, %s", (short) => {
  const name = `intervals-${short}`;
  const expected = expectedOf(name);
  const found = analyseReplicates(JSON.parse(readCase(name, "replicates.hebel.json")), (path) =>
    readCase(name, path),
  );
  const exactly = (a: any, b: any): boolean => agrees(a, b, 1e-9, 1e-12);

  it("agrees in every limit, bound, p value and Monte Carlo error", () => {
    const e = expected.intervals;
    const off: string[] = [];
    const same = (what: string, a: any, b: any): void => {
      if (!exactly(a, b)) off.push(`${what}: ${a} instead of ${b}`);
    };
    same("used", found.intervals.used, e.B_used);
    for (const [mine, theirs] of [
      ["se", "se"],
      ["bias", "bias"],
      ["below", "P_below"],
      ["z0", "z0"],
      ["acceleration", "acceleration"],
    ] as const) {
      same(theirs, found.intervals[mine], e[theirs]);
    }
    for (const method of ["percentile", "bc", "bca"] as const) {
      const mine: any = found.intervals[method];
      expect(mine === null).toBe(e[method] === null);
      if (!mine) continue;
      for (const [theirs, key] of Object.entries(FIELDS))
        same(`${method} ${theirs}`, mine[key], e[method][theirs]);
      same(`${method} tail`, mine.adjusted[0], e[method].adjusted_probability[0]);
      same(`${method} tail`, mine.adjusted[1], e[method].adjusted_probability[1]);
      expect([mine.pIsBound, mine.tooFewReplicates, mine.unsettled]).toEqual([
        e[method].p_is_bound,
        e[method].b_too_small,
        e[method].verdict_unstable,
      ]);
    }
    for (const [mine, theirs] of [
      ["basic", "basic"],
      ["normal", "normal"],
      ["bootstrapT", "bootstrap_t"],
    ] as const) {
      if (!e[theirs]) continue;
      same(`${theirs} low`, found.intervals[mine]?.lower, e[theirs].low);
      same(`${theirs} high`, found.intervals[mine]?.upper, e[theirs].high);
    }
    expect(off).toEqual([]);
  });

  it("raises the expected warnings", () => {
    expect(found.warnings.sort()).toEqual([...expected.warnings_expected].sort());
  });
});
