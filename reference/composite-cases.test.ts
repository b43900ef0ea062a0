import { describe, expect, it } from "vitest";
import type { Evidence } from "../core";
import { compared, expectedOf } from "./composite-kit";
import { runComposite, sectionOf, theoryOf } from "./composite-study";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

/** The first group's numbers, with scores where the files have them. */
const recordOf = (evidence: Evidence): any => {
  const { groups, scores } = sectionOf(evidence);
  return { ...groups[0]!.result, scores: scores.standardised };
};

/** Warnings of the files by the names they have here. */
const warned = ({ warnings }: Evidence): string[] => warnings.map((w) => w.code.toUpperCase());

describe("composite models stated in words, through the entry of app and command line", () => {
  it.each<[string, boolean, (e: any) => [any, any, object?][]]>([
    [
      "mediation-reflective",
      false,
      (e) => [
        [e.model, e.path_scheme],
        [e.model, e.factor_scheme, { scheme: "factor" }],
        [e.model, e.centroid_scheme, { scheme: "centroid" }],
        [
          { ...e.model, constructs: e.model.constructs.map((c: any) => ({ ...c, mode: "equal" })) },
          e.equal_weights,
        ],
      ],
    ],
    [
      "formative-predictor",
      false,
      (e) => [e.with_direct_path, e.full_mediation].map((s) => [s.model, s]),
    ],
    ["collinear-indicators", false, (e) => [e.before, e.after, e.mode_a].map((s) => [s.model, s])],
    [
      "two-block-identities",
      false,
      (e) =>
        [e.mode_b_both, e.mode_a_both, e.b_then_a].map((s) => [s.model, s, { scheme: "factor" }]),
    ],
    [
      "consistent-mediation",
      true,
      (e) => [
        [e.model, e.plain],
        [e["age_reliability_0.9"].model, e["age_reliability_0.9"]],
      ],
    ],
    [
      "mixed-sign-construct",
      true,
      (e) => [
        [e.model, e.majority],
        [e.dominant.model, e.dominant],
      ],
    ],
    ["mixed-two-moderators", false, (e) => [[{ ...e.model, products: [] }, e.stage_one]]],
  ])("%s", (name, factors, steps) => {
    for (const [model, wanted, options] of steps(expectedOf(name))) {
      const evidence = runComposite(name, theoryOf(model, factors), {
        options: { scheme: model.scheme, ...options },
      });
      expect(compared(recordOf(evidence), wanted)).toEqual([]);
      const codes = (wanted.warnings ?? []).map((w: any) => w.code as string);
      for (const code of codes) expect(warned(evidence)).toContain(code);
    }
  });

  it("all single items", () => {
    const e = expectedOf("single-items");
    const evidence = runComposite("single-items", theoryOf(e.model), {
      options: { scheme: e.model.scheme },
    });
    const wanted = { ...e };
    delete wanted.consistent;
    expect(compared(recordOf(evidence), wanted)).toEqual([]);
  });

  it("with cells missing", () => {
    const e = expectedOf("missing-values");
    const complete = runComposite("missing-values", theoryOf(e.model));
    expect(compared(recordOf(complete), e.listwise)).toEqual([]);
    expect(warned(complete)).toContain("ROWS_DROPPED");
    const filled = runComposite("missing-values", theoryOf(e.model), {
      options: { missing: "means" },
    });
    expect(compared(recordOf(filled), e.mean_replacement)).toEqual([]);
    expect(filled.warnings.find((w) => w.code === "mean_replaced")!.data).toEqual({
      columns: Object.entries(
        e.mean_replacement.warnings.find((w: any) => w.code === "MEAN_REPLACED").cells ?? {},
      ).map(([column, cells]) => ({ name: column, cells })),
    });
  });

  it.each([
    "mixed-two-moderators",
    "moderated-mediation-two-stage",
    "binary-moderator-product-indicator",
  ])("interactions by two stages: %s", (name) => {
    const e = expectedOf(name);
    const evidence = runComposite(name, theoryOf(e.model));
    const wanted = e.stage_two ?? e.two_stage;
    expect(compared(recordOf(evidence).stageTwo, wanted)).toEqual([]);
  });

  it("corrected interactions", () => {
    const e = expectedOf("moderated-mediation-two-stage");
    const evidence = runComposite("moderated-mediation-two-stage", theoryOf(e.model, true));
    const wanted = e.consistent_two_stage;
    expect(compared(recordOf(evidence).stageTwo, wanted)).toEqual([]);
    const index = evidence.effects.find((f) => f.kind === "index")!;
    expect(index.estimate).toBeCloseTo(wanted.index_of_moderated_mediation, 9);
  });
});
