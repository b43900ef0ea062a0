import { describe, expect, it } from "vitest";
import {
  checkArrows,
  checkChanges,
  checkEffects,
  checkFit,
  expectedOf,
  Ledger,
  run,
} from "./latent-kit";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

const ADVICE = "measure advice reflects adv1, adv2, adv3, adv4";
const SKILL = "measure skill reflects skl1, skl2, skl3, skl4";
const WELLBEING = "measure wellbeing reflects wel1, wel2, wel3";
const THREE = [
  "measure advice reflects adv1, adv2, adv3",
  "measure skill reflects skl1, skl2, skl3",
  WELLBEING,
];

describe("latent cases stated in words, through the entry of app and command line", () => {
  it.each<[string, string, string[], object, (e: any) => any]>([
    [
      "latent-simple-mediation",
      "whole",
      [ADVICE, SKILL, WELLBEING, "H1: advice raises wellbeing through skill"],
      {},
      (e) => e.result,
    ],
    [
      "latent-simple-mediation",
      "without the direct path",
      [ADVICE, SKILL, WELLBEING, "H1: advice raises wellbeing only through skill"],
      {},
      (e) => e.without_direct_path,
    ],
    [
      "latent-parallel-mediation",
      "mediators covary",
      [
        "measure advice reflects adv1, adv2, adv3",
        "measure skill reflects skl1, skl2, skl3",
        "measure strain reflects str1, str2, str3, str4",
        WELLBEING,
        "H1: advice raises wellbeing through skill",
        "H2: advice raises wellbeing through strain",
        "adjust skill, strain, wellbeing for age",
        "covary skill with strain",
      ],
      {},
      (e) => e.result,
    ],
    [
      "fiml-15-percent",
      "keep everybody",
      [ADVICE, SKILL, WELLBEING, "H1: advice raises wellbeing through skill"],
      { options: { missing: "everybody" } },
      (e) => e.result,
    ],
    [
      "robust-skewed-items",
      "robust errors",
      [
        "measure advice reflects adv1, adv2, adv3",
        SKILL,
        WELLBEING,
        "H1: advice raises wellbeing through skill",
      ],
      { errors: "robust" },
      (e) => e.result,
    ],
    [
      "one-factor-wellbeing",
      "measurement alone",
      ["measure wellbeing reflects wel1, wel2, wel3, wel4, wel5"],
      {},
      (e) => e.marker,
    ],
    [
      "one-factor-wellbeing",
      "unit variance",
      ["measure wellbeing reflects wel1, wel2, wel3, wel4, wel5 with variance 1"],
      {},
      (e) => e.unit_variance,
    ],
    [
      "one-factor-wellbeing",
      "loadings held equal",
      [
        "measure wellbeing reflects wel1, wel2, wel3, wel4, wel5",
        "hold wellbeing to wel2, wellbeing to wel3, wellbeing to wel4, wellbeing to wel5 at 1",
      ],
      {},
      (e) => e.equal_loadings,
    ],
    [
      "three-factor-measurement",
      "misfit and its tests",
      [
        "measure skill reflects skl1, skl2, skl3, skl4",
        "measure advice reflects adv1, adv2, adv3, adv4",
        "measure wellbeing reflects wel1, wel2, wel3, wel4",
      ],
      { options: { scaling: "variance" } },
      (e) => e.step1,
    ],
    [
      "three-factor-measurement",
      "a residual covariance and a cross-loading",
      [
        "measure skill reflects skl1, skl2, skl3, skl4",
        "measure advice reflects adv1, adv2, adv3, adv4",
        "measure wellbeing reflects wel1, wel2, wel3, wel4, skl4",
        "covary adv1 with adv2",
      ],
      { options: { scaling: "variance" } },
      (e) => e.step3_with_cross_loading,
    ],
    [
      "single-indicator-reliability",
      "reliability given",
      [
        "measure Advice reflects advice with reliability 0.8",
        "measure Noise reflects noise_db with reliability 0.75",
        "measure Skill reflects skl1, skl2, skl3",
        "measure Wellbeing reflects wel1, wel2, wel3",
        "H1: Advice raises Wellbeing through Skill",
        "H2: Noise affects Wellbeing through Skill",
      ],
      {},
      (e) => e.reliability_given,
    ],
    [
      "single-indicator-reliability",
      "reliability of one",
      [
        "measure Advice reflects advice",
        "measure Noise reflects noise_db with reliability 1",
        "measure Skill reflects skl1, skl2, skl3",
        "measure Wellbeing reflects wel1, wel2, wel3",
        "H1: Advice raises Wellbeing through Skill",
        "H2: Noise affects Wellbeing through Skill",
      ],
      {},
      (e) => e.reliability_one,
    ],
    [
      "observed-saturated-path",
      "observed variables",
      ["H1: plot_hours raises wellbeing through skill", "adjust skill, wellbeing for age"],
      { engine: "covariance_structure" },
      (e) => e.result,
    ],
    [
      "observed-path-modification",
      "first step",
      [
        "H1: plot_hours raises wellbeing only through skill then harvest",
        "adjust skill for years_member, age",
      ],
      { engine: "covariance_structure" },
      (e) => e.step1,
    ],
    [
      "observed-path-modification",
      "third step",
      [
        "H1: plot_hours raises wellbeing only through skill then harvest",
        "adjust skill for years_member, age",
        "also plot_hours to harvest, skill to wellbeing",
      ],
      { engine: "covariance_structure" },
      (e) => e.step3,
    ],
    [
      "heywood-case",
      "one factor",
      ["measure wellbeing reflects wel1, wel2, wel3, wel4"],
      {},
      (e) => e.model_one.result,
    ],
    [
      "heywood-case",
      "two factors",
      [
        "measure wellbeing reflects wel1, wel2, wel3, wel4",
        "measure skill reflects skl1, skl2, skl3",
      ],
      {},
      (e) => e.model_two.result,
    ],
    [
      "standardised-path-beyond-one",
      "legitimate",
      [...THREE, "H1: advice raises wellbeing", "H2: skill affects wellbeing"],
      {},
      (e) => e.result,
    ],
  ])("%s: %s", (name, _, theory, settings, pick) => {
    const wanted = pick(expectedOf(name));
    const { evidence, section } = run(name, theory, settings);
    const ledger = new Ledger();
    checkFit(ledger, section, wanted.fit);
    checkArrows(ledger, section, wanted.estimates);
    checkChanges(ledger, section, wanted.modification_indices);
    checkEffects(ledger, evidence, wanted.effects);
    for (const [variable, value] of Object.entries<any>(wanted.r2 ?? {}))
      ledger.same(`r2 ${variable}`, section.r2.find((r) => r.variable === variable)?.value, value);
    if (wanted.warnings)
      expect(section.improper.map((w) => w.code).sort()).toEqual(
        wanted.warnings.map((w: any) => w.code).sort(),
      );
    if (wanted.counts) expect(section.counts.parameters).toBe(wanted.counts.free_parameters);
    expect(ledger.off).toEqual([]);
    expect(ledger.checked).toBeGreaterThan(30);
  });
});

describe("bootstrap with resamples made elsewhere", () => {
  const expected = expectedOf("latent-simple-mediation");
  const { evidence, section } = run(
    "latent-simple-mediation",
    [ADVICE, SKILL, WELLBEING, "H1: advice raises wellbeing through skill"],
    { replications: 5000, interval: "bc", options: { bollen_stine: 200 } },
    { resamples: "resamples.csv" },
  );
  it("has every limit to the digit", () => {
    const ledger = new Ledger();
    const wanted = expected.bootstrap_supplied_indices;
    for (const [id, numbers] of [
      ["indirect advice > skill > wellbeing", wanted.indirect],
      ["direct advice > wellbeing", wanted.direct],
    ] as const) {
      const boot = evidence.effects.find((e) => e.id === id)!.bootstrap!;
      ledger.same(`${id} se`, boot.se, numbers.boot_se);
      ledger.same(`${id} z0`, boot.z0, numbers.z0);
      ledger.same(`${id} lower`, boot.percentile?.lower, numbers.percentile[0]);
      ledger.same(`${id} upper`, boot.percentile?.upper, numbers.percentile[1]);
      ledger.same(`${id} bc lower`, boot.bc?.lower, numbers.bias_corrected[0]);
      ledger.same(`${id} bc upper`, boot.bc?.upper, numbers.bias_corrected[1]);
    }
    expect(ledger.off).toEqual([]);
    expect(evidence.bootstrap).toMatchObject({ done: 200, failed: 0, improper: 0 });
  });
  it("has the Bollen-Stine test", () => {
    const found = section.fit!.bollenStine!;
    const wanted = expected.bollen_stine.supplied_indices;
    const ledger = new Ledger();
    ledger.same("p", found.p, wanted.p);
    ledger.same("mean", found.meanChi2, wanted.mean_chi2);
    found.first.forEach((x, i) => ledger.same(`chi2 ${i}`, x, wanted.first_five_chi2[i]));
    expect(ledger.off).toEqual([]);
  });
});

describe("weighted moments", () => {
  it.each([
    ["GLS", "gls", "with_means", "yes"],
    ["ULS", "uls", "with_means", "yes"],
    ["WLS", "adf", "with_means", "yes"],
    ["DWLS", "dwls", "with_means", "yes"],
    ["GLS", "gls", "covariances_only", "no"],
    ["WLS", "adf", "covariances_only", "no"],
  ])("%s %s %s", (key, estimator, part, means) => {
    const wanted = expectedOf("estimators-gls-uls-adf-dwls")[part][key];
    const { section } = run(
      "estimators-gls-uls-adf-dwls",
      [
        "measure skill reflects skl1, skl2, skl3",
        "measure wellbeing reflects wel1, wel2, wel3, wel4",
        "H1: skill raises wellbeing",
      ],
      { options: { estimator, means } },
    );
    const ledger = new Ledger();
    checkArrows(ledger, section, wanted.estimates);
    ledger.same("T", section.fit?.plain.chi2, wanted.fit.T);
    ledger.same("scaled", section.fit?.scaled?.chi2, wanted.fit.scaled.chi2);
    ledger.same("scaled p", section.fit?.scaled?.p, wanted.fit.scaled.p);
    expect(section.fit?.chiSquared).toBe(wanted.fit.p !== undefined);
    expect(ledger.off).toEqual([]);
  });
});

describe("two groups", () => {
  const expected = expectedOf("two-group-invariance");
  const paths = [...THREE, "H1: advice raises wellbeing through skill"];
  const more = {
    variables: { site: { level: "categorical", labels: { "1": "town", "2": "village" } } },
  };
  it.each([
    ["configural", "groups by site", ""],
    ["metric", "groups by site with loadings equal", ""],
    ["scalar", "groups by site with loadings and intercepts equal", ""],
    [
      "partial_scalar",
      "groups by site with loadings and intercepts equal but intercept of skl2 free",
      "",
    ],
  ])("%s", (step, line) => {
    const { section } = run("two-group-invariance", [...paths, line], {}, more);
    const ledger = new Ledger();
    checkFit(ledger, section, expected[step].fit);
    for (const group of ["town", "village"])
      checkArrows(ledger, section, expected[step].estimates[group], group);
    expect(ledger.off).toEqual([]);
    expect(ledger.checked).toBeGreaterThan(300);
  });

  it("differ in a path or not, as a difference of fits and by a Wald test; the steps of invariance stand beside", () => {
    const { section, evidence } = run(
      "two-group-invariance",
      [...paths, "H2: site alters skill to wellbeing", "groups by site with loadings equal"],
      {},
      more,
    );
    const ledger = new Ledger();
    const own = section.differences.find((d) => d.hypothesis === "H2");
    const wanted = expected.differences.equal_b_against_metric;
    ledger.same("chi2", own?.chi2, wanted.chi2);
    ledger.same("scaled", own?.scaled?.chi2, wanted.scaled.chi2);
    ledger.same("wald", own?.wald?.wald, expected.wald_equal_b.expected.wald);
    const [, metric, scalar] = section.invariance;
    ledger.same(
      "metric",
      metric?.difference?.chi2,
      expected.differences.metric_against_configural.chi2,
    );
    ledger.same(
      "scalar",
      scalar?.difference?.chi2,
      expected.differences.scalar_against_metric.chi2,
    );
    const indirect = (level: string) =>
      evidence.effects.find((e) => e.kind === "conditional_indirect" && e.at?.site === level);
    const { defined } = expected.metric;
    ledger.same("town", indirect("1")?.estimate, defined.indirect_town.est);
    ledger.same("town se", indirect("1")?.delta.joint.expected?.se, defined.indirect_town.se);
    ledger.same("village", indirect("2")?.estimate, defined.indirect_village.est);
    const contrast = evidence.effects.find(
      (e) => e.kind === "conditional_contrast" && e.via.includes("skill"),
    );
    ledger.same("difference", contrast?.estimate, defined.difference_of_indirect.est);
    ledger.same(
      "difference se",
      contrast?.delta.joint.expected?.se,
      defined.difference_of_indirect.se,
    );
    expect(ledger.off).toEqual([]);
  });
});
