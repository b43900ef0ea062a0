import { describe, expect, it } from "vitest";
import { measuresOf, restsOn } from "./table-notes";
import type { ClaimTest } from "./types";

const claim = (more: Partial<ClaimTest> = {}): ClaimTest =>
  ({
    reference: "bootstrap",
    method: "bca",
    df: null,
    tail: "two",
    joint: null,
    p: 0.01,
    ...more,
  }) as ClaimTest;
const told = (label: string, measure: string, of: ClaimTest | null = claim()) => ({
  label,
  measure,
  claim: of,
});

describe("notes beneath a table of claims", () => {
  it("say what estimates are, where they are not all coefficients", () => {
    expect(measuresOf([told("H1", "b"), told("H2", "b")])).toBe("");
    expect(
      measuresOf([
        told("H1", "difference in probability"),
        told("H2", "b in log odds"),
        told("H3", "b in log odds"),
      ]),
    ).toBe("Estimates: difference in probability (H1); b in log odds (H2 and H3).");
    expect(measuresOf([told("H1", "difference in mean count")])).toBe(
      "Estimates: difference in mean count.",
    );
    // What is tested jointly, or not at all, has no estimate.
    const joint = claim({ joint: { reference: "chi2" } as ClaimTest["joint"] });
    expect(measuresOf([told("H1", "b"), told("H2", "odds", joint), told("H3", "x", null)])).toBe(
      "",
    );
  });

  it("say what limits rest on, and how many tails were looked at", () => {
    expect(restsOn([{ claim: claim() }, { claim: null }])).toBe(
      "Intervals and p by bootstrap; two-tailed.",
    );
    expect(restsOn([{ claim: claim() }, { claim: claim({ reference: "t", tail: "one" }) }])).toBe(
      "Intervals and p by bootstrap and t; directional hypotheses one-tailed, the others two-tailed.",
    );
    expect(restsOn([])).toBe("");
    // What could not be tested rests on nothing.
    expect(restsOn([{ claim: claim({ reference: "z", p: null }) }])).toBe("");
  });

  it("name every test that stands there, and robust ones as robust", () => {
    const joint = (reference: "F" | "chi2" | "bootstrap") => ({
      claim: claim({ joint: { reference } as ClaimTest["joint"] }),
    });
    const t = { claim: claim({ reference: "t" }) };
    expect(restsOn([joint("F")])).toBe("p by F; two-tailed.");
    expect(restsOn([t, joint("F")], "HC3")).toBe(
      "Intervals and p by t (HC3 errors) and robust Wald F (HC3 errors); two-tailed.",
    );
    expect(restsOn([joint("chi2"), joint("bootstrap")])).toBe(
      "p by Wald χ² and a joint bootstrap test (T); two-tailed.",
    );
    expect(restsOn([{ claim: claim() }], "HC3")).toBe("Intervals and p by bootstrap; two-tailed.");
  });
});
