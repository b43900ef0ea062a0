import { beforeAll, describe, expect, it } from "vitest";
import {
  analyse,
  compareRuns,
  completePlan,
  differenceWorking,
  exactFitWorking,
  inThisThread,
  invarianceWorking,
  keptRun,
  measuredAlikeWorking,
  permutationWorking,
  plain,
  plannedWorking,
  Planner,
  predictionWorking,
  robustness,
  runEffectWorking,
  specificationWorking,
  VERDICT_WORDS,
  type CompositeSection,
  type PlanFound,
  type StudyDefinition,
} from "..";
import { demoCompositesStudy } from "../../demo/composites";
import { demoFactorsStudy } from "../../demo/factors";
import { demoPlannedStudy } from "../../demo/planned";
import { demoStudy } from "../../demo/study";
import { countWorked, numbersOf } from "../test-kit/workings";

describe("the working of groups of factors", () => {
  const { definition, table } = demoFactorsStudy();
  const study: StudyDefinition = {
    ...definition,
    theory: `${definition.theory}\ngroups by site`,
    settings: { ...definition.settings, replications: 0, errors: "robust" },
  };
  const section = analyse(study, table).sections.find((s) => s.kind === "structure")!;

  it("of each step tests it against the one before", () => {
    expect(section.invariance.length).toBeGreaterThan(2);
    section.invariance.forEach(({ difference, fit }, at) => {
      const working = invarianceWorking(section, at)!;
      countWorked(working);
      expect(working.steps[0]!.numbers).toContain(fit!.plain.chi2.toFixed(2));
      if (at === 0) expect(working.steps).toHaveLength(1);
      else {
        expect(numbersOf(working, "Δχ²")).toMatch(/^[\d.,]+ − [\d.,]+ = /);
        expect(numbersOf(working, "Δdf, p")).toContain(`= ${difference!.df};`);
        expect(numbersOf(working, "Scaling factor")).toContain(
          ` = ${plain(difference!.scaled!.scaling)}`,
        );
      }
    });
    expect(invarianceWorking(section, 99)).toBeNull();
  });

  it("of a path held equal says the difference alone where only that is known", () => {
    const difference = {
      chi2: 7.5,
      df: 3,
      p: 0.058,
      scaled: { scaling: 1.25, chi2: 6, p: 0.11 },
      wald: { wald: 7.1, df: 3, p: 0.07 },
    };
    const working = differenceWorking("a -> b", difference, { tight: null, loose: null }, 200);
    expect(numbersOf(working, "Δχ²")).toBe("7.50");
    expect(numbersOf(working, "Scaled Δχ²")).toBe("7.50 / 1.250 = 6.00, p = .110");
    expect(working.steps.map((s) => s.what)).not.toContain("Scaling factor");
    expect(numbersOf(working, "Wald χ²")).toContain("χ²(3) = 7.10");
    expect(countWorked(working)).toBe(1);
  });
});

describe("the working of composites that are resampled", () => {
  const { definition, table } = demoCompositesStudy();
  const sectionOf = (theory: string): CompositeSection =>
    analyse(
      {
        ...definition,
        theory,
        settings: {
          ...definition.settings,
          replications: 60,
          options: { exact_fit: 60, permutations: 60, folds: 5 },
        },
      },
      table,
    ).sections.find((s) => s.kind === "composites")!;

  it("of prediction and exact fit", () => {
    const section = sectionOf(definition.theory);
    for (const { item, q2 } of section.prediction!.items) {
      const working = predictionWorking(section.prediction!, item)!;
      expect(countWorked(working)).toBe(3);
      expect(numbersOf(working, "Q² of prediction")).toMatch(
        new RegExp(` = ${plain(q2).replace(".", "\\.")}$`),
      );
    }
    expect(predictionWorking(section.prediction!, "not there")).toBeNull();
    expect(section.exactFit!.measures.length).toBeGreaterThan(0);
    for (const found of section.exactFit!.measures) {
      const working = exactFitWorking(section.exactFit!, found);
      const used = section.exactFit!.replicates - section.exactFit!.failed;
      const [, most] = /^(\d+) of/.exec(numbersOf(working, "p"))!;
      expect(Number(most) / used).toBeCloseTo(found.p, 9);
    }
  });

  it("of groups compared by permutation", () => {
    const { comparisons } = sectionOf(
      `${definition.theory.replace(/^H\d+: .*(strengthens|weakens|alters).*$/gm, "")}\ngroups by site`,
    );
    expect(comparisons).toHaveLength(1);
    for (const path of comparisons[0]!.paths)
      expect(countWorked(permutationWorking(comparisons[0]!, path))).toBe(1);
    for (const construct of comparisons[0]!.constructs)
      expect(numbersOf(measuredAlikeWorking(comparisons[0]!, construct), "Same scores")).toContain(
        plain(construct.compositional.estimate),
      );
  });
});

describe("the working of what is compared", () => {
  const { definition, table } = demoStudy();
  const study = { ...definition, settings: { ...definition.settings, replications: 100 } };

  it("of a specification stands beside the main analysis", () => {
    const found = robustness(study, table, "errors");
    expect(found.length).toBeGreaterThan(1);
    for (const one of found) {
      const working = specificationWorking(one, found[0]);
      expect(working.steps.map((s) => s.what)).toEqual(one.claims.map((c) => c.label));
      expect(countWorked(working)).toBe(one === found[0] ? 0 : one.claims.length);
      one.claims.forEach((c, i) =>
        expect(working.steps[i]!.numbers).toContain(VERDICT_WORDS[c.verdict]),
      );
    }
  });

  it("of an effect in two runs is their difference, or that it was not there", () => {
    const fewer = { ...study, theory: study.theory.replace(/^H4.*$/m, "") };
    const [a, b] = [study, fewer].map((s) => keptRun(analyse(s, table), s));
    const { effects } = compareRuns(a!, b!);
    let missing = 0;
    for (const effect of effects) {
      const working = runEffectWorking(effect, ["before", "after"]);
      const [one, other] = effect.runs;
      if (!one || !other) {
        missing += 1;
        expect(working.steps.map((s) => s.numbers).join()).toContain("does not exist");
      } else if (one.estimate !== null && other.estimate !== null)
        expect(countWorked(working)).toBe(1);
    }
    expect(missing).toBeGreaterThan(0);
  });
});

describe("the working of a plan", () => {
  const { definition } = demoPlannedStudy();
  const plan = completePlan({ ...definition.plan!, samples: 40, replications: 40 });
  const study = { ...definition, settings: { ...definition.settings, replications: 40 } };
  let found: PlanFound;
  beforeAll(async () => {
    const planner = new Planner({ study, plan, every: true }, inThisThread);
    await planner.evaluate(80);
    found = planner.pointAt(80)!;
  });

  it("counts samples, and says what exact power is of", () => {
    found.point.sentences.forEach((sentence, at) => {
      const working = plannedWorking(found, at, 0.95);
      expect(countWorked(working)).toBeGreaterThanOrEqual(4);
      expect(numbersOf(working, "Power")).toMatch(
        new RegExp(`^${Math.round(sentence.power.share * 40)} / 40 = `),
      );
      expect(working.steps.some((s) => s.what === "Exact power")).toBe(
        found.exact[at] !== null && found.exact[at] !== undefined,
      );
      expect(numbersOf(working, "Bias")).toContain(plain(sentence.truth));
    });
  });

  it("works without the form of exact power, as plans of the command line are kept", () => {
    const without = { point: found.point, exact: found.exact };
    expect(plannedWorking(without, 0, 0.95).steps.some((s) => s.what === "Exact power")).toBe(
      false,
    );
  });
});
