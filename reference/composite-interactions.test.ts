import { describe, expect, it } from "vitest";
import { StudyProblem, type EffectEvidence, type Evidence } from "../core";
import { compared, expectedOf } from "./composite-kit";
import { runComposite, sectionOf, theoryOf } from "./composite-study";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

/** Where a file holds moderators (`Noise=-1,Years=+0`), as effects have it: by the label of the probe. */
const LABELS: Record<string, string> = { "-1": "mean-sd", "+0": "mean", "+1": "mean+sd" };

function at(effects: EffectEvidence[], place: string): EffectEvidence {
  const wanted = place.split(",").map((one) => one.split("=") as [string, string]);
  return effects.find((e) =>
    wanted.every(([name, value]) => {
      const label = e.at?.[name];
      return label !== undefined && label === (LABELS[value] ?? `=${value}`);
    }),
  )!;
}

const conditional = (
  { effects }: Evidence,
  kind: EffectEvidence["kind"],
  from: string,
  to: string,
) => effects.filter((e) => e.kind === kind && e.from === from && e.to === to);

describe("interactions by products of items, stated in words", () => {
  const name = "binary-moderator-product-indicator";
  const e = expectedOf(name);

  it.each(["standardised", "centred", "raw", "orthogonal"])("%s", (interactions) => {
    const evidence = runComposite(name, theoryOf(e.model), { options: { interactions } });
    const wanted = e[`product_indicator_${interactions}`];
    expect(compared(sectionOf(evidence).groups[0]!.result, wanted)).toEqual([]);
    expect(evidence.warnings.map((w) => w.code)).toContain("fit_not_defined_with_products");
    const slopes = conditional(evidence, "conditional_direct", "Advice", "Skill");
    if (!wanted.slopes) {
      expect(slopes).toEqual([]);
      return;
    }
    // A moderator of two values is looked at where it is 0 and where it is 1, and one step is what it changes.
    expect(slopes.map((s) => s.at!.Newcomer)).toEqual(["=0", "=1"]);
    expect(slopes[0]!.estimate).toBeCloseTo(wanted.slopes["newcomer=0"], 8);
    expect(slopes[1]!.estimate).toBeCloseTo(wanted.slopes["newcomer=1"], 8);
    expect(evidence.effects.find((f) => f.kind === "interaction")!.estimate).toBeCloseTo(
      wanted.slope_difference,
      8,
    );
  });

  it("two stages: slopes at both values of the moderator", () => {
    const evidence = runComposite(name, theoryOf(e.model));
    const slopes = conditional(evidence, "conditional_direct", "Advice", "Skill");
    expect(slopes.map((s) => s.estimate!).sort()).toEqual(
      Object.values<number>(e.two_stage.slopes)
        .sort()
        .map((v) => expect.closeTo(v, 8)),
    );
  });
});

describe("interactions by two stages, as effects", () => {
  it("of two moderators: slopes and indirect effects at every combination, an index for each", () => {
    const e = expectedOf("mixed-two-moderators").stage_two;
    const evidence = runComposite(
      "mixed-two-moderators",
      theoryOf(expectedOf("mixed-two-moderators").model),
    );
    const slopes = conditional(evidence, "conditional_direct", "Advice", "Skill");
    for (const [place, value] of Object.entries<number>(e.simple_slopes_advice_to_skill))
      expect(at(slopes, place).estimate, place).toBeCloseTo(value, 8);
    const indirect = conditional(evidence, "conditional_indirect", "Advice", "Wellbeing");
    for (const [place, value] of Object.entries<number>(
      e.conditional_indirect_advice_skill_wellbeing,
    ))
      expect(at(indirect, place).estimate, place).toBeCloseTo(value, 8);
    for (const [moderator, value] of Object.entries<number>(e.partial_index_of_moderated_mediation))
      expect(
        evidence.effects.find((f) => f.kind === "index" && f.by?.includes(moderator))!.estimate,
      ).toBeCloseTo(value, 8);
  });

  it("have regions conditional on the scores, and lines", () => {
    const name = "moderated-mediation-two-stage";
    const e = expectedOf(name).stage_two;
    const evidence = runComposite(name, theoryOf(expectedOf(name).model));
    const moderation = evidence.moderations.find((m) => m.focal === "Advice")!;
    const { roots } = e.johnson_neyman_conditional_on_the_scores;
    const found = moderation.johnsonNeyman[0]!.tests.classical!.pointwise;
    expect(found.rootsAll).toEqual(roots.map((root: number) => expect.closeTo(root, 6)));
    expect(found.range).toEqual([
      expect.closeTo(e.johnson_neyman_conditional_on_the_scores.moderator_min, 8),
      expect.closeTo(e.johnson_neyman_conditional_on_the_scores.moderator_max, 8),
    ]);
    // The ends of the drawn lines, as the file has them.
    const drawn = moderation.lines.map(({ points }) => points.map((p) => p.predicted));
    const wanted = Object.values<any>(e.plot_lines_predicted_skill).map((line) => [
      line["Advice=-1"],
      line["Advice=+1"],
    ]);
    expect(drawn).toEqual(wanted.map((line) => line.map((v: number) => expect.closeTo(v, 8))));
  });
});

describe("what stops a composite model", () => {
  const { attempts } = expectedOf("bad-inputs");
  const CODES: Record<string, string> = {
    ZERO_VARIANCE: "constant_variable",
    SINGULAR_BLOCK: "collinear",
    SINGULAR_EQUATION: "collinear",
    CYCLIC_MODEL: "cyclic_model",
    INDICATOR_USED_TWICE: "item_used_twice",
    UNKNOWN_VARIABLE: "unknown_variable",
  };
  const stopped = (theory: string[]): StudyProblem => {
    try {
      runComposite("bad-inputs", theory);
    } catch (error) {
      if (error instanceof StudyProblem) return error;
      throw error;
    }
    throw new Error("The analysis was expected to stop.");
  };

  it.each(Object.entries<any>(attempts).filter(([, a]) => a.error !== undefined && CODES[a.error]))(
    "%s",
    (_, { model, error, names }) => {
      const problem = stopped(theoryOf(model));
      expect(problem.code).toBe(CODES[error]);
      for (const name of names)
        expect([...problem.place.variables!, problem.message].join(" ")).toContain(name);
    },
  );

  it("is not a measure without a sentence: it takes no part", () => {
    const { model } = attempts.unconnected;
    const evidence = runComposite("bad-inputs", theoryOf(model));
    expect(evidence.latent.map((l) => l.name)).toEqual(["Advice", "Skill"]);
  });

  it("is not a product without its main effect: that is added, and said", () => {
    const { model, stage_two: wanted, warnings } = attempts.product_without_main_effect;
    const evidence = runComposite("bad-inputs", theoryOf(model));
    expect(compared(sectionOf(evidence).groups[0]!.result.stageTwo, wanted)).toEqual([]);
    const added = evidence.warnings.find((w) => w.code === "main_effect_added")!;
    expect(added.about).toEqual(warnings[0].names);
  });
});
