import { equationsOf } from "./equations-of";
import { describe, expect, it } from "vitest";
import { analyseCase } from "../../reference/load";
import { plain, pValue } from "../wording/numbers";
import type { BootstrapRun } from "./types";
import { failedWarning } from "./warnings";

describe("a whole analysis", () => {
  it("is unsettled when zero lies within the Monte Carlo error of a limit, and says what would settle it", () => {
    const evidence = analyseCase("heteroskedastic", (json) => {
      json.settings = { ...json.settings, replications: 400, interval: "bca", seed: 3 };
      json.theory = ["H1: plot_hours raises harvest through skill"];
    });
    const [h] = evidence.hypotheses;
    const { lower, upper, mcseLower, mcseUpper } = h!.claim!;
    expect(
      Math.min(Math.abs(lower!) / mcseLower, Math.abs(upper!) / mcseUpper),
    ).toBeLessThanOrEqual(2);
    expect(h!.verdict).toBe("unsettled");
    expect(h!.pattern?.kind).toBe("open");
    expect(h!.report).toContain(
      "Another seed, or more bootstrap samples, could change this finding",
    );
    expect(h!.reason).toMatch(/another seed.*bootstrap samples would settle it/);
  });

  it("tests a directional claim in one tail by one bound, and leaves everything else two-sided", () => {
    const change =
      (tail: string) => (json: { theory: string[]; settings: Record<string, unknown> }) => {
        json.theory = [
          "H1: plot_hours raises harvest through skill",
          "H2: plot_hours lowers harvest through skill",
          "H3: plot_hours affects harvest",
        ];
        json.settings.tail = tail;
      };
    const [two, one] = [change("two"), change("one")].map((c) =>
      analyseCase("simple-mediation", c),
    );
    // Effects tables, equations and checks do not know of tails.
    expect(one!.effects).toEqual(two!.effects);
    expect(equationsOf(one!)).toEqual(equationsOf(two!));
    const bca = one!.effects.find((e) => e.kind === "specific_indirect")!.bootstrap!.bca!;
    const [up, down, either] = one!.hypotheses;
    expect(up!.claim).toMatchObject({
      tail: "one",
      level: 0.95,
      lower: bca.oneSidedLower,
      upper: null,
      // All replicates lie above zero: no p below this is known of them.
      p: Math.max(bca.pGreater, 1 / 10001),
      pIsBound: true,
    });
    expect(down!.claim).toMatchObject({
      tail: "one",
      lower: null,
      upper: bca.oneSidedUpper,
      p: bca.pLess,
    });
    expect(either!.claim).toMatchObject({ tail: "two", level: 0.95 });
    expect(either!.claim!.lower).toBe(
      one!.effects.find((e) => e.id === "direct plot_hours > harvest")!.shown!.lower,
    );
    expect([up!.verdict, down!.verdict]).toEqual(["supported", "not_supported"]);
    expect(down!.reason).toContain("points the other way");
    expect(up!.reason).toContain("95 % one-sided bound");
  });

  it("is plain data: serialising loses nothing", () => {
    const evidence = analyseCase("simple-mediation", (json) => (json.settings.replications = 200));
    expect(JSON.parse(JSON.stringify(evidence))).toEqual(evidence);
  });

  it("counts failed resamples and goes on without them", () => {
    const evidence = analyseCase("multicategorical-predictor", (json) => {
      json.settings.replications = 300;
      json.data = {
        text: [
          "site,skill,harvest",
          ...Array.from(
            { length: 24 },
            (_, i) => `${i < 2 ? 3 : 1 + (i % 2)},${(i * 7) % 11},${((i * 5) % 13) + i}`,
          ),
        ].join("\n"),
      };
      json.theory = ["H1: site affects harvest through skill"];
    });
    expect(evidence.bootstrap!.failed).toBeGreaterThan(0);
    expect(evidence.effects[0]!.bootstrap!.used).toBe(300 - evidence.bootstrap!.failed);
    expect(evidence.warnings.map((w) => w.code)).toContain("replicates_failed");
  });
});

it.each([
  // Closed solutions fail only where a resample is degenerate; fits that go by steps may miss now
  // and then.
  [null, 0, undefined, false],
  [null, 50, "replicates_failed", false],
  [null, 51, "replicates_failed", true],
  [0, 100, "replicates_failed", false],
  [3, 101, "many_failed_replicates", true],
])("improper %s, %i of 1,000 failed: %s", (improper, failed, code, many) => {
  const [warning] = failedWarning({ improper, failed, done: 1000 } as BootstrapRun);
  expect(warning?.code).toBe(code);
  expect(warning?.message.includes("too many") ?? false).toBe(many);
});

it("numbers read well", () => {
  expect([
    plain(0.0484),
    plain(-0.0001),
    plain(12.345),
    plain(1234.5),
    plain(null),
    plain(-0.00004),
    plain(0.0034, 2),
    plain(0.000004),
    plain(0, 2),
  ]).toEqual(["0.048", "−0.00010", "12.35", "1235", "–", "−0.000040", "0.0034", "4.00e−6", "0.00"]);
  expect([pValue(0.0004), pValue(0.0312), pValue(1)]).toEqual(["< .001", ".031", "1.000"]);
  // A bound is rounded up: “p < .0123” is true, “p < .012” is not known.
  expect([pValue(0.002, true), pValue(0.0123, true), pValue(0.0002, true)]).toEqual([
    "< .002",
    "< .013",
    "< .001",
  ]);
});
