import type { GroupPart } from "../../theory";
import type { DifferenceEvidence, InvarianceEvidence } from "./types";
import { StudyProblem } from "../../problems";
import { writeStatement } from "../../theory";
import { ModelFault, type Arrow } from "./arrows";
import { buildModel } from "./build-model";
import type { Estimates } from "./estimates";
import { fitModel, type FittedModel } from "./fit-model";
import type { StructureErrors } from "./error-matrices";
import { differenceTest, scalingOf, type NestedFit } from "../../model";
import { waldTest } from "./wald-test";
import { orderedDifference } from "./ordered/difference";
import { modelContext, type TheoryModel } from "./theory-model";
import { faultProblem } from "./wording";

/**
 * What groups have in common, step by step, and whether moderated paths differ.
 * @param errors that Wald tests rest on
 */
export function comparisonsOfGroups(
  model: TheoryModel,
  { fitted }: Estimates,
  errors: StructureErrors,
): { differences: DifferenceEvidence[]; invariance: InvarianceEvidence[] } {
  if (fitted.spec.groups.length < 2) return { differences: [], invariance: [] };
  return {
    differences: equalPaths(model, fitted, errors),
    invariance: invarianceSteps(model, fitted),
  };
}

/**
 * What the lines that hold arrows cost: the model against the one without the line, each line by
 * itself. What holds a scale in place has no such test.
 */
export function testsOfHolds(model: TheoryModel, { fitted }: Estimates): DifferenceEvidence[] {
  const { theory } = model;
  return theory.holds.flatMap((line): DifferenceEvidence[] => {
    const holds = theory.holds.filter((other) => other !== line);
    const what = writeStatement(line);
    try {
      const { spec } = buildModel({ ...theory, holds }, modelContext(model));
      const { means, ordered } = fitted.spec;
      const loose = refit(model, { ...spec, means, ...(ordered ? { ordered } : {}) });
      const test =
        loose instanceof Error
          ? null
          : fitted.ordered
            ? orderedDifference(fitted, loose)
            : differenceTest(nested(fitted), nested(loose));
      if (!test || test.df <= 0) return [];
      return [{ what, hypothesis: null, ...test, wald: null, warnings: warningsOf(test) }];
    } catch (error) {
      if (error instanceof ModelFault || error instanceof StudyProblem) return [];
      throw error;
    }
  });
}

const nested = ({ n, spec, fit }: FittedModel): NestedFit => ({
  n,
  observed: spec.observed,
  estimator: spec.estimator,
  chi2: fit.plain.chi2,
  df: fit.plain.df,
  scaling: scalingOf(fit),
});

/**
 * For each moderated step: the same model with its path held equal, as a difference of fits and as
 * a Wald test.
 */
function equalPaths(
  model: TheoryModel,
  fitted: FittedModel,
  errors: StructureErrors,
): DifferenceEvidence[] {
  const { theory, grouping } = model;
  const by = grouping.variable!;
  const steps = theory.moderated.filter((s) => s.moderators.includes(by));
  return steps.flatMap(({ from, to }) => {
    const labels = fitted.spec.groups.map(
      ({ arrows }) => arrows.find((a) => isPath(a, from, to))?.label ?? null,
    );
    if (labels.some((label) => label === null) || new Set(labels).size < 2) return [];
    const groups = fitted.spec.groups.map((group) => ({
      ...group,
      arrows: group.arrows.map((a) => (isPath(a, from, to) ? { ...a, label: labels[0]! } : a)),
    }));
    const tight = refit(model, { ...fitted.spec, groups });
    const test = tight instanceof Error ? null : differenceTest(nested(tight), nested(fitted));
    if (!test) return [];
    const places = labels.map((label) => fitted.models[0]!.parameters.indexOf(label!));
    const hypothesis = theory.moderations.find(
      (m) =>
        m.moderators.some((r) => r.name === by) &&
        (m.steps.length > 0
          ? m.steps.some((s) => s.from.name === from && s.to.name === to)
          : m.from.name === from && m.to.name === to && m.chain.length === 0),
    );
    return [
      {
        what: `${to} on ${from} equal in all groups`,
        hypothesis: hypothesis?.label ?? null,
        ...test,
        wald: equalWald(fitted, places, errors),
        warnings: warningsOf(test),
      },
    ];
  });
}

const isPath = ({ kind, from, to }: Arrow, a: string, b: string): boolean =>
  kind === "path" && from === a && to === b;

function equalWald({ theta, errors }: FittedModel, places: number[], chosen: StructureErrors) {
  const q = theta.length;
  const covariance = errors.by[chosen] ?? errors.by.expected ?? errors.by.robust ?? errors.by.naive;
  if (!covariance) return null;
  const [first, ...rest] = places as [number, ...number[]];
  const gradients = rest.map((at) => {
    const g = new Float64Array(q);
    g[at] = 1;
    g[first] = -1;
    return g;
  });
  return waldTest(
    rest.map((at) => theta[at]! - theta[first]!),
    gradients,
    covariance,
    q,
  );
}

const STEPS: { step: string; equal: GroupPart[]; words: string }[] = [
  { step: "configural", equal: [], words: "the same items measure the same in every group" },
  { step: "metric", equal: ["loadings"], words: "loadings are equal" },
  {
    step: "scalar",
    equal: ["loadings", "intercepts"],
    words: "loadings and intercepts of items are equal, means of latent variables differ",
  },
];

/**
 * Configural, metric and scalar invariance (Meredith 1993, Psychometrika 58), each against the step
 * before; paths are free.
 */
function invarianceSteps(model: TheoryModel, fitted: FittedModel): InvarianceEvidence[] {
  if (model.built.factors.length === 0) return [];
  const steps = fitted.spec.means ? STEPS : STEPS.slice(0, 2);
  let before: FittedModel | null = null;
  return steps.map(({ step, equal, words }): InvarianceEvidence => {
    const built = buildModel(model.theory, {
      ...modelContext(model),
      equal: new Set(equal),
      differs: () => true,
    });
    const found = refit(model, built.spec);
    if (found instanceof Error) {
      before = null;
      return { step, words, fit: null, difference: null, problem: found.message };
    }
    const test = before && differenceTest(nested(found), nested(before));
    before = found;
    return {
      step,
      words,
      fit: { ...found.fit },
      difference: test && {
        what: `${step} against the step before`,
        hypothesis: null,
        ...test,
        wald: null,
        warnings: warningsOf(test),
      },
      problem: null,
    };
  });
}

const warningsOf = (test: { negativeScaling: boolean; reversed: boolean }): string[] => [
  ...(test.negativeScaling ? ["negative-scaling"] : []),
  ...(test.reversed ? ["not-nested"] : []),
];

function refit(model: TheoryModel, spec: FittedModel["spec"]): FittedModel | Error {
  try {
    return fitModel(spec, model.sample);
  } catch (error) {
    if (error instanceof ModelFault) return faultProblem(error);
    throw error;
  }
}
