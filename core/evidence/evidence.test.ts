import { describe, expect, it } from "vitest";
import { analyseCase } from "../../reference/load";
import { combine, mediationPattern, verdictOf } from "./verdict";
import type { EffectEvidence } from "./types";
import { plain, pValue } from "./wording";

const effect = (lower: number, upper: number, estimate = (lower + upper) / 2): EffectEvidence =>
  ({
    estimate,
    label: "x on y",
    bootstrap: null,
    shown: { method: "delta", se: 1, lower, upper, p: 0.01, pIsBound: false, level: 0.95, provisional: false },
  }) as unknown as EffectEvidence;

describe("verdicts", () => {
  it.each([
    ["raises", 0.1, 0.3, "supported"],
    ["raises", -0.3, -0.1, "opposite"],
    ["raises", -0.1, 0.3, "not_supported"],
    ["lowers", -0.3, -0.1, "supported"],
    ["lowers", 0.1, 0.3, "opposite"],
    ["affects", -0.3, -0.1, "supported"],
    ["affects", -0.1, 0.2, "not_supported"],
  ] as const)("%s with [%d, %d] is %s", (verb, lower, upper, verdict) =>
    expect(verdictOf(effect(lower, upper), verb, false).verdict).toBe(verdict),
  );

  it("never calls an effect absent", () => {
    expect(verdictOf(effect(-0.1, 0.3), "raises", false).reason).toContain("no evidence either way");
  });

  it("combines relative effects: one in the stated direction suffices", () => {
    const parts = [verdictOf(effect(-1, 1), "raises", false), verdictOf(effect(0.1, 1), "raises", false)];
    expect(combine(parts, ["a", "b"])).toMatchObject({ verdict: "supported", reason: expect.stringContaining("b") });
  });

  it.each([
    [effect(0.1, 0.3), effect(0.1, 0.3), "complementary"],
    [effect(0.1, 0.3), effect(-0.3, -0.1), "competitive"],
    [effect(0.1, 0.3), effect(-0.3, 0.4), "indirect_only"],
    [effect(-0.1, 0.3), effect(0.3, 0.4), "direct_only"],
    [effect(-0.1, 0.3), effect(-0.3, 0.4), "no_effect"],
  ] as const)("pattern %#", (indirect, direct, kind) => expect(mediationPattern(indirect, direct)!.kind).toBe(kind));
});

describe("a whole analysis", () => {
  it("is unsettled when zero lies within the Monte Carlo error of a limit, and says what would settle it", () => {
    const evidence = analyseCase("heteroskedastic", (json) => {
      json.settings = { ...json.settings, replications: 400, interval: "bca", seed: 3 };
      json.theory = ["H1: plot_hours raises harvest through skill"];
    });
    const [h] = evidence.hypotheses;
    const interval = evidence.effects.find((e) => e.id === h!.effects[0])!.bootstrap!.bca!;
    expect(interval.unsettled).toBe(
      Math.min(Math.abs(interval.lower), Math.abs(interval.upper)) <=
        2 * (Math.abs(interval.lower) < Math.abs(interval.upper) ? interval.mcseLower : interval.mcseUpper),
    );
    expect(h!.verdict).toBe("unsettled");
    expect(h!.report).toContain("another seed could change this finding");
    expect(h!.reason).toMatch(/another seed.*resamples would settle it/);
  });

  it("tests a directional claim in one tail at the stated side", () => {
    const two = analyseCase("simple-mediation", (json) => (json.theory[0] = "H1: plot_hours raises harvest through skill"));
    const one = analyseCase("simple-mediation", (json) => {
      json.theory[0] = "H1: plot_hours raises harvest through skill";
      json.settings.tail = "one";
    });
    const id = two.hypotheses[0]!.effects[0]!;
    const [a, b] = [two, one].map((e) => e.effects.find((x) => x.id === id)!);
    expect(b!.shown.level).toBeCloseTo(0.9, 12);
    expect(b!.shown.lower).toBeCloseTo(a!.bootstrap!.bca!.oneSidedLower, 12);
    expect(b!.shown.p).toBeCloseTo(a!.bootstrap!.bca!.pGreater, 12);
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
          ...Array.from({ length: 24 }, (_, i) => `${i < 2 ? 3 : 1 + (i % 2)},${(i * 7) % 11},${((i * 5) % 13) + i}`),
        ].join("\n"),
      };
      json.theory = ["H1: site affects harvest through skill"];
    });
    expect(evidence.bootstrap!.failed).toBeGreaterThan(0);
    expect(evidence.effects[0]!.bootstrap!.used).toBe(300 - evidence.bootstrap!.failed);
    expect(evidence.warnings.map((w) => w.code)).toContain("replicates_failed");
  });
});

it("numbers read well", () => {
  expect([plain(0.0484), plain(-0.0001), plain(12.345), plain(1234.5), plain(null), plain(-0.00004)]).toEqual([
    "0.048",
    "0.000",
    "12.35",
    "1235",
    "–",
    "−4.00e−5",
  ]);
  expect([pValue(0.0004), pValue(0.0312), pValue(1), pValue(0.002, true)]).toEqual(["< .001", ".031", "1.000", "< .002"]);
});
