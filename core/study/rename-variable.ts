import type { Variable } from "../data";
import { renameInFormula, type Recipe, type RowFilter } from "../derive";
import type { StudyPlan } from "./plan";
import { StudyProblem } from "../problems";
import type { Settings, StudyDefinition } from "./definition";
import { renameInTheory } from "../theory";

/** All parts of a study that name variables. */
type Naming = Pick<
  StudyDefinition,
  "variables" | "derived" | "corrections" | "filters" | "screening" | "theory" | "settings" | "plan"
>;

/**
 * The parts of a study in which a column or derived variable is called otherwise, wherever it is
 * named: sentences, recipes, formulas, filters, corrections, screening and settings. The data keep
 * their own name for it, and newer data are matched by that.
 */
export function renameVariable(definition: Naming, from: string, to: string): Naming {
  const swap = (name: string): string => (name === from ? to : name);
  const isDerived = definition.derived.some((d) => d.name === from);
  return {
    variables: definition.variables.map((v) => (v.name === from ? renamed(v, to, isDerived) : v)),
    derived: definition.derived.map((d) => ({
      name: swap(d.name),
      recipe: renameInRecipe(d.recipe, from, to),
    })),
    corrections: definition.corrections.map((c) => ({ ...c, column: swap(c.column) })),
    filters: definition.filters.map((f) => ({ ...f, rule: renameInRule(f.rule, from, to) })),
    screening: definition.screening.map((set) => ({ ...set, variables: set.variables.map(swap) })),
    theory: renameInTheory(definition.theory, from, to),
    settings: renameInSettings(definition.settings, swap),
    ...(definition.plan ? { plan: renameInPlan(definition.plan, swap) } : {}),
  };
}

function renamed({ column, ...variable }: Variable, to: string, isDerived: boolean): Variable {
  const source = column ?? variable.name;
  return { ...variable, name: to, ...(isDerived || source === to ? {} : { column: source }) };
}

const renameInRecipe = (recipe: Recipe, from: string, to: string): Recipe => {
  if (recipe.kind === "formula")
    return { ...recipe, formula: renameInFormula(recipe.formula, from, to) };
  return recipe.of === from ? { ...recipe, of: to } : recipe;
};

const renameInRule = (rule: RowFilter["rule"], from: string, to: string): RowFilter["rule"] =>
  rule.kind === "condition" ? { ...rule, formula: renameInFormula(rule.formula, from, to) } : rule;

const renameInSettings = (settings: Settings, swap: (name: string) => string): Settings => ({
  ...settings,
  strata: settings.strata === null ? null : swap(settings.strata),
  cluster: settings.cluster === null ? null : swap(settings.cluster),
  probes: Object.fromEntries(
    Object.entries(settings.probes).map(([name, probes]) => [swap(name), probes]),
  ),
});

const renameInPlan = (
  { sizes, correlations, variables, missing, ...rest }: Partial<StudyPlan>,
  swap: (name: string) => string,
): Partial<StudyPlan> => ({
  ...rest,
  ...(sizes && {
    sizes: sizes.map((s) => ({ ...s, from: s.from.map(swap), to: swap(s.to) })),
  }),
  ...(correlations && {
    correlations: correlations.map((c) => ({ ...c, a: swap(c.a), b: swap(c.b) })),
  }),
  ...(variables && {
    variables: Object.fromEntries(Object.entries(variables).map(([n, said]) => [swap(n), said])),
  }),
  ...(missing && { missing: { ...missing, on: missing.on === null ? null : swap(missing.on) } }),
});

/**
 * The name as it will be written.
 * @param taken names of all columns, derived variables and measures
 * @throws StudyProblem `invalid_setting` for a name that cannot be used, saying why
 */
export function checkedName(name: string, taken: readonly string[]): string {
  const found = name.trim();
  const place = { variables: [found] };
  if (found === "") throw new StudyProblem("name_empty", {}, place);
  if (/["\n\r\t]/.test(found)) throw new StudyProblem("name_broken", {}, place);
  if (taken.includes(found)) throw new StudyProblem("name_taken", { name: found }, place);
  return found;
}

/** Which variables are called otherwise in a later state of a study, as [before, after]. */
export function renamesBetween(before: Naming, after: Naming): [string, string][] {
  const source = (v: Variable): string => v.column ?? v.name;
  const made = new Set([...before.derived, ...after.derived].map((d) => d.name));
  const old = new Map(
    before.variables.filter((v) => !made.has(v.name)).map((v) => [source(v), v.name]),
  );
  const columns = after.variables.flatMap((v): [string, string][] => {
    const known = old.get(source(v));
    return made.has(v.name) || known === undefined || known === v.name ? [] : [[known, v.name]];
  });
  const derived = after.derived.flatMap((d, i): [string, string][] => {
    const known = before.derived[i];
    const same =
      known &&
      before.derived.length === after.derived.length &&
      JSON.stringify(known.recipe) === JSON.stringify(d.recipe);
    return same && known.name !== d.name ? [[known.name, d.name]] : [];
  });
  return [...columns, ...derived];
}
