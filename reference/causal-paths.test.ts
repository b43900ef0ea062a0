import { describe, expect, it } from "vitest";
import { expectedCausal, off, responsesOf, runCausal } from "./causal-kit";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

describe("several mediators among straight lines", () => {
  it.each<[string, string, Record<string, string>]>([
    [
      "two-mediators-parallel",
      "H1: course raises wellbeing through skill and advice\nadjust skill, advice, wellbeing for age",
      {
        indirect_skill: "indirect course > skill > wellbeing",
        indirect_advice: "indirect course > advice > wellbeing",
        indirect_joint: "total indirect course > wellbeing",
      },
    ],
    [
      "two-mediators-sequential",
      "H1: mentor raises wellbeing through advice then skill\nalso mentor to skill, advice to wellbeing\nadjust advice, skill, wellbeing for age",
      {
        path_advice_only: "indirect mentor > advice > wellbeing",
        path_skill_only: "indirect mentor > skill > wellbeing",
        path_advice_then_skill: "indirect mentor > advice > skill > wellbeing",
      },
    ],
  ])("%s", (name, theory, ids) => {
    const e = expectedCausal(name);
    const evidence = runCausal(name, theory.split("\n"));
    for (const [key, id] of Object.entries(ids)) {
      const found = evidence.effects.find((f) => f.id === id)!;
      const wanted = e.effects[key];
      expect([
        ...off(found.estimate, wanted.estimate, id),
        ...off(found.delta.joint.classical!.se, wanted.se_model, `${id} se`, 1e-5),
        ...off(found.delta.joint.HC0!.se, wanted.se_robust, `${id} robust`, 1e-5),
      ]).toEqual([]);
    }
  });
});

describe("a block of mediators on the way to a response that is no straight line", () => {
  const name = "two-mediators-block-logistic";
  const e = expectedCausal(name);
  const theory = [
    "H1: mentor raises stays through advice then skill",
    "also mentor to skill, advice to stays",
    "H2: mentor alters advice to stays",
    "adjust advice, skill, stays for age",
    "control advice at 4",
    "control skill at 45",
    "model stays as logistic",
  ];
  const NAMES: Record<string, ["difference" | "risk_ratio", string]> = {
    total_effect: ["difference", "total_effect"],
    pure_natural_direct: ["difference", "pure_natural_direct"],
    total_natural_direct: ["difference", "total_natural_direct"],
    total_natural_indirect_block: ["difference", "total_natural_indirect"],
    pure_natural_indirect_block: ["difference", "pure_natural_indirect"],
    "controlled_direct[advice=4,skill=45]": ["difference", "controlled_direct[m=4,45]"],
    proportion_mediated_block: ["difference", "proportion_mediated"],
    log_risk_ratio_pure_natural_direct: ["risk_ratio", "pure_natural_direct"],
    log_risk_ratio_total_natural_indirect_block: ["risk_ratio", "total_natural_indirect"],
  };

  it("effects of the block with both errors", () => {
    const evidence = runCausal(name, theory);
    const natural = responsesOf(evidence).natural.find((n) => n.at === null)!;
    for (const [key, wanted] of Object.entries<any>(e.effects)) {
      const [scale, own] = NAMES[key]!;
      const found = natural.effects[scale]!.find((f) => f.name === own)!;
      const estimate = scale === "risk_ratio" ? Math.log(found.estimate) : found.estimate;
      expect([
        ...off(estimate, wanted.estimate, key),
        ...off(found.model!.se, wanted.se_model, `${key} se`, 1e-5),
        ...off(found.robust!.se, wanted.se_robust, `${key} robust`, 1e-5),
      ]).toEqual([]);
    }
  });

  it("limits of resamples", () => {
    const evidence = runCausal(name, theory, { replications: 1500, interval: "percentile" });
    const natural = responsesOf(evidence).natural.find((n) => n.at === null)!;
    for (const key of ["total_effect", "total_natural_indirect_block", "pure_natural_direct"]) {
      const [scale, own] = NAMES[key]!;
      const limits = natural.effects[scale]!.find((f) => f.name === own)!.bootstrap!.percentile!;
      const { percentile, percentile_tolerance: near } = e.effects[key].bootstrap;
      expect(Math.abs(limits.lower - percentile[0])).toBeLessThan(near[0]);
      expect(Math.abs(limits.upper - percentile[1])).toBeLessThan(near[1]);
    }
  }, 60_000);
});

describe("products of coefficients with a yes/no response", () => {
  const name = "log-odds-product";
  const e = expectedCausal(name);
  const { x, mediator, outcome } = e.settings;
  const theory = [`H1: ${x} raises ${outcome} through ${mediator}`];

  it.each(["in", "out"])("whether the product of treatment and mediator is %s", (product) => {
    const evidence = runCausal(name, theory, { options: { treatment_product: product } });
    const [own] = responsesOf(evidence).products;
    expect([
      ...off(own!.a.estimate, e.a, "a"),
      ...off(own!.a.se, e.se_a, "se a", 1e-5),
      ...off(own!.b.estimate, e.b, "b"),
      ...off(own!.b.se, e.se_b, "se b", 1e-5),
      ...off(own!.total.estimate, e.c_total, "c"),
      ...off(own!.total.se, e.se_c_total, "se c", 1e-5),
      ...off(own!.direct.estimate, e.c_direct, "c'"),
      ...off(own!.direct.se, e.se_c_direct, "se c'", 1e-5),
      ...off(own!.product.estimate, e.product_ab, "ab"),
      ...off(own!.product.se, e.sobel_se, "se ab", 1e-5),
      ...off(own!.product.z, e.sobel_z, "z", 1e-5),
      ...off(own!.product.robustSe, e.robust_se, "robust", 1e-5),
      ...off(own!.difference, e.difference_c_minus_c_direct_raw, "c - c'"),
      ...off(own!.latentSd.total, e.latent_sd_total_model, "latent SD, total"),
      ...off(own!.latentSd.full, e.latent_sd_full_model, "latent SD, full"),
      ...off(own!.rescaled.b, e.rescaled.b, "rescaled b"),
      ...off(own!.rescaled.product, e.rescaled.product_ab, "rescaled ab"),
      ...off(own!.rescaled.difference, e.rescaled.difference_c_minus_c_direct, "rescaled c - c'"),
      ...off(own!.rescaled.proportionProduct, e.rescaled.proportion_mediated_product, "share"),
      ...off(
        own!.rescaled.proportionDifference,
        e.rescaled.proportion_mediated_difference,
        "share of the difference",
      ),
    ]).toEqual([]);
    expect(evidence.warnings.map((w) => w.code)).toContain("not_collapsible");
  });

  it("with limits of resamples where the outcome has no product", () => {
    const evidence = runCausal(name, theory, {
      options: { treatment_product: "out" },
      replications: 1500,
      interval: "bca",
    });
    const { bootstrap } = responsesOf(evidence).products[0]!;
    const { percentile, percentile_tolerance: near } = e.bootstrap_product_ab;
    expect(Math.abs(bootstrap!.percentile!.lower - percentile[0])).toBeLessThan(near[0]);
    expect(Math.abs(bootstrap!.percentile!.upper - percentile[1])).toBeLessThan(near[1]);
  }, 60_000);
});
