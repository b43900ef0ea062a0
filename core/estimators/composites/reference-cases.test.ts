import { describe, expect, it } from "vitest";
import { columnsOf, expectedOf, compared } from "../../../reference/composite-kit";
import { buildComposite } from "./model";
import { recordOf } from "./record";
import { solve } from "./solution";
import type { CompositeModel, Construct } from "./specification";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are read as they stand in the files */

/** Estimated from complete columns of a case. */
function estimated(name: string, model: CompositeModel): any {
  const solution = solve(buildComposite({ model, columns: columnsOf(name) }));
  if (typeof solution === "string") throw new Error(solution);
  const scores = solution.built.model.constructs.map((c, j) => [c.name, solution.scores[j]]);
  return { ...recordOf(solution), scores: Object.fromEntries(scores) };
}

const MODES: Record<string, Construct["mode"]> = {
  A: "correlation",
  B: "regression",
  equal: "equal",
  single: "single",
};

/** The model of a case as it is stated there. */
function modelOf(stated: any): CompositeModel {
  return {
    constructs: stated.constructs.map((c: any): Construct => ({
      name: c.name,
      mode: MODES[c.mode]!,
      indicators: c.indicators,
      corrected: c.mode === "A",
      reliability: c.reliability ?? null,
      dominant: c.dominant ?? null,
    })),
    paths: stated.paths,
    products: stated.products ?? [],
    scheme: stated.scheme,
    approach: "two_stage",
    consistent: false,
  };
}

describe("weights, loadings, paths, quality and fit", () => {
  it.each<[string, (e: any) => [any, any, Partial<CompositeModel>?][]]>([
    [
      "mediation-reflective",
      (e) => [
        [e.model, e.path_scheme],
        [{ ...e.model, scheme: "factor" }, e.factor_scheme],
        [{ ...e.model, scheme: "centroid" }, e.centroid_scheme],
        [
          { ...e.model, constructs: e.model.constructs.map((c: any) => ({ ...c, mode: "equal" })) },
          e.equal_weights,
        ],
      ],
    ],
    [
      "two-block-identities",
      (e) => [e.mode_b_both, e.mode_a_both, e.b_then_a].map((s) => [s.model, s]),
    ],
    ["formative-predictor", (e) => [e.with_direct_path, e.full_mediation].map((s) => [s.model, s])],
    ["collinear-indicators", (e) => [e.before, e.after, e.mode_a].map((s) => [s.model, s])],
    [
      "consistent-mediation",
      (e) => [
        [e.model, e.plain, { consistent: true }],
        [e["age_reliability_0.9"].model, e["age_reliability_0.9"], { consistent: true }],
      ],
    ],
    [
      "mixed-sign-construct",
      (e) => [
        [e.model, e.majority, { consistent: true }],
        [e.dominant.model, e.dominant],
      ],
    ],
    ["single-items", (e) => [[e.model, e, { consistent: true }]]],
    ["mixed-two-moderators", (e) => [[e.model, e.stage_one]]],
    ["moderated-mediation-two-stage", (e) => [[e.model, e.stage_one, { consistent: true }]]],
    ["binary-moderator-product-indicator", (e) => [[e.model, e.stage_one]]],
  ])("%s", (name, steps) => {
    for (const [model, wanted, more] of steps(expectedOf(name))) {
      const found = estimated(name, { ...modelOf(model), products: [], ...more });
      expect(compared(found, wanted)).toEqual([]);
    }
  });
});

describe("interactions", () => {
  it.each([
    "binary-moderator-product-indicator",
    "mixed-two-moderators",
    "moderated-mediation-two-stage",
  ])("%s by two stages", (name) => {
    const e = expectedOf(name);
    const found = estimated(name, modelOf(e.model));
    expect(compared(found.stageTwo, e.two_stage ?? e.stage_two)).toEqual([]);
  });

  it("by two stages, corrected", () => {
    const e = expectedOf("moderated-mediation-two-stage");
    const found = estimated("moderated-mediation-two-stage", {
      ...modelOf(e.model),
      consistent: true,
    });
    expect(compared(found.stageTwo, e.consistent_two_stage)).toEqual([]);
  });

  it.each(["standardised", "centred", "raw", "orthogonal"] as const)(
    "by products of indicators: %s",
    (approach) => {
      const e = expectedOf("binary-moderator-product-indicator");
      const wanted = e[`product_indicator_${approach}`];
      const found = estimated("binary-moderator-product-indicator", {
        ...modelOf(e.model),
        approach,
      });
      expect(compared(found, wanted)).toEqual([]);
      expect(found.f2.Skill["Advice x Newcomer"]).toBeCloseTo(wanted.interaction_f2, 8);
      if (wanted.rescaled_interaction === undefined) return;
      const [rescaled] = found.rescaledInteractions["Advice x Newcomer"];
      expect(rescaled.estimate).toBeCloseTo(wanted.rescaled_interaction, 8);
      expect(rescaled.sdOfScoreProduct).toBeCloseTo(wanted.sd_of_score_product, 8);
    },
  );
});
