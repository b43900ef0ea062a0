import { StudyProblem } from "../../problems";
import type { Grouping } from "../grouping";
import { dataFault, dependent, structuralFault, type CompositeFault } from "./checks";
import type { Failure } from "./estimator";
import { BY_CORRELATION } from "./layout";
import { buildComposite, type BuiltComposite } from "./model";
import { rhoA } from "./reliability";
import { momentsOfRows } from "./sample-covariances";
import { solve, type CompositeSolution } from "./solution";
import type { TheoryComposite } from "./theory-model";

/** The model as it was estimated in one group of rows. */
export interface EstimatedGroup {
  name: string;
  /** Places of its rows in the sample. */
  rows: Int32Array;
  built: BuiltComposite;
  solution: CompositeSolution;
}

/** A theory as it was estimated. */
export interface EstimatedTheory {
  /** Without correction for reliability where that was impossible. */
  composite: TheoryComposite;
  groups: EstimatedGroup[];
  /** Constructs that left nothing to correct, with the reliability that is not above zero. */
  unreliable: { name: string; value: number }[];
}

/**
 * Estimates the model in every group; where correction is wanted and one reliability is not
 * positive, without it in all of them, since a model of two kinds of paths could not be compared.
 * @throws StudyProblem that names what stands in the way
 */
export function estimatedTheory(composite: TheoryComposite, grouping: Grouping): EstimatedTheory {
  const groups = estimatedGroups(composite, grouping);
  const unreliable = groups.flatMap(notReliable);
  if (unreliable.length === 0) return { composite, groups, unreliable };
  const plain = { ...composite, model: { ...composite.model, consistent: false } };
  return { composite: plain, groups: estimatedGroups(plain, grouping), unreliable };
}

/**
 * The first reason in a group why nothing can be corrected: every construct whose reliability is
 * not above zero.
 */
function notReliable({ built, solution }: EstimatedGroup): EstimatedTheory["unreliable"] {
  const { model, plan } = built;
  if (!model.consistent || solution.consistent) return [];
  const { start, modes } = plan.layout;
  return model.constructs.flatMap(({ name }, j) => {
    if (!plan.corrected[j] || modes[j] !== BY_CORRELATION) return [];
    const value = rhoA(solution.weights, start[j]!, start[j + 1]!);
    return value > 0 ? [] : [{ name, value }];
  });
}

function estimatedGroups(
  { model, columns }: TheoryComposite,
  { names, of }: Grouping,
): EstimatedGroup[] {
  const fault = structuralFault(model, new Set(columns.keys()));
  if (fault) throw problemOf(fault, null);
  return names.map((name, g) => {
    const rows = Int32Array.from(
      of.reduce<number[]>((list, group, row) => (group === g ? [...list, row] : list), []),
    );
    const own = new Map(
      [...columns].map(([key, values]) => [key, Float64Array.from(rows, (row) => values[row]!)]),
    );
    return { name, rows, ...estimated(model, own, names.length > 1 ? name : null) };
  });
}

/** @throws StudyProblem that names what stands in the way */
export function estimated(
  model: TheoryComposite["model"],
  columns: ReadonlyMap<string, Float64Array>,
  group: string | null,
): { built: BuiltComposite; solution: CompositeSolution } {
  const fault = dataFault(model, columns);
  if (fault) throw problemOf(fault, group);
  const built = buildComposite({ model, columns });
  const block = singularBlock(built);
  if (block) throw problemOf({ code: "singular_block", names: block }, group);
  const solution = solve(built);
  if (typeof solution === "string") throw failureProblem(solution, built, group);
  const singular = singularEquation(solution);
  if (singular) throw problemOf({ code: "singular_equation", names: singular }, group);
  return { built, solution };
}

/** Indicators of a block that is regressed on, where some of them determine others. */
function singularBlock({ model, plan, indicators }: BuiltComposite): string[] | null {
  const p = indicators.length;
  const { covariances: s } = momentsOfRows(
    plan.values,
    p,
    Int32Array.from({ length: plan.n }, (_, i) => i),
  );
  for (const { mode, indicators: items } of model.constructs) {
    if (mode !== "regression") continue;
    const at = items.map((item) => indicators.indexOf(item));
    const r = at.map((i) =>
      at.map((j) => s[i * p + j]! / Math.sqrt(s[i * p + i]! * s[j * p + j]!)),
    );
    const names = dependent(r, items);
    if (names.length > 0) return names;
  }
  return null;
}

/** Predictors of an equation, products among them, where some of them determine others. */
function singularEquation({ built, plain, estimator }: CompositeSolution): string[] | null {
  const { names, values } = plain.correlations;
  const { plan, model } = built;
  const width = names.length + plan.products.length;
  const products = plan.products.map(([x, w]) => `${names[x]!} x ${names[w]!}`);
  const all = [...names, ...products];
  const own = estimator.scoreProducts?.covariances ?? values;
  for (const { predictors, products: made } of plan.equations) {
    const at = [...predictors, ...made.map((q) => model.constructs.length + q)];
    const r = at.map((i) =>
      at.map((j) => own[i * width + j]! / Math.sqrt(own[i * width + i]! * own[j * width + j]!)),
    );
    const singular = dependent(
      r,
      at.map((i) => all[i]!),
    );
    if (singular.length > 0) return singular;
  }
  return null;
}

function failureProblem(
  failure: Failure,
  built: BuiltComposite,
  group: string | null,
): StudyProblem {
  if (failure !== "singular_equation" && failure !== "singular_products")
    return problemOf({ code: "zero_variance", names: built.indicators }, group);
  // Predictors are singular from the first round on where they are at all: equal weights show
  // which.
  const equal = {
    ...built.stated,
    scheme: "factor" as const,
    constructs: built.stated.constructs.map((c) => ({ ...c, mode: "equal" as const })),
  };
  const columns = new Map(
    built.indicators.map((item, k) => [
      item,
      Float64Array.from(
        { length: built.n },
        (_, i) => built.plan.values[i * built.indicators.length + k]!,
      ),
    ]),
  );
  const solution = solve(buildComposite({ model: { ...equal, approach: "two_stage" }, columns }));
  const names = typeof solution === "string" ? [] : (singularEquation(solution) ?? []);
  return problemOf({ code: "singular_equation", names }, group);
}

/** A fault as a problem of the study. */
export function problemOf({ code, names }: CompositeFault, group: string | null): StudyProblem {
  const place = { variables: names };
  switch (code) {
    case "zero_variance":
      return new StudyProblem("never_varies", { names, group }, place);
    case "no_observed":
      return new StudyProblem("no_data", { names, group }, place);
    case "too_few_rows":
      return new StudyProblem("composite_rows", { group }, {});
    case "singular_block":
      return new StudyProblem("composite_block", { names, group }, place);
    case "singular_equation":
      return new StudyProblem("composite_equation", { names, group }, place);
    case "indicator_used_twice":
      return new StudyProblem("item_used_twice", { names }, place);
    case "cyclic_model":
      return new StudyProblem("circle", { nodes: names }, place);
    default:
      return new StudyProblem("engine_unsuited", { reason: `${code}: ${names.join(", ")}` }, place);
  }
}
