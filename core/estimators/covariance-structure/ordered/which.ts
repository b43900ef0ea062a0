import { StudyProblem } from "../../../problems";
import type { CompiledTheory, Measure } from "../../../theory";
import { levelsOf, MOST_LEVELS } from "../../../ordered";
import { pick } from "../../../data";
import type { ModelData } from "../../engine";
import type { BuiltModel } from "../build-model";
import { saysOrdered, type Answers } from "./choice";

/**
 * Observed variables of a model that are taken as ordered answers: the items of measures, and
 * outcomes, that a line “model … as ordered” names, or all items that have at most seven levels.
 * @throws StudyProblem where such a line names a single item, and for products and groups
 */
export function orderedVariables(
  theory: CompiledTheory,
  built: BuiltModel,
  { typed, sample }: ModelData,
  answers: Answers,
): string[] {
  if (!saysOrdered(theory, answers)) return [];
  const { observed, latent } = built.spec;
  const itemsOf = (measure: Measure): string[] =>
    measure.items.map((i) => i.ref.name).filter((name) => !latent.includes(name));
  const explained = new Set(theory.equations.map((e) => e.outcome));
  const stated = theory.models
    .filter((m) => m.family === "ordered")
    .flatMap(({ of: { name }, line }) => {
      const measure = built.factors.find((m) => m.name.name === name);
      if (measure) return itemsOf(measure);
      if (built.factors.some((m) => itemsOf(m).includes(name)))
        throw new StudyProblem("item_not_alone", { name, line }, { line, variables: [name] });
      // Of anything else the line changes nothing, and a warning says so.
      return observed.includes(name) && explained.has(name) ? [name] : [];
    });
  const few = (name: string): boolean => {
    const count = levelsOf(pick(typed.get(name)!.values, sample.rows)).length;
    return count >= 2 && count <= MOST_LEVELS;
  };
  const all = answers === "ordered" ? built.factors.flatMap(itemsOf).filter(few) : [];
  const names = new Set([...stated, ...all]);
  if (names.size > 0 && built.products.length + built.interactions.length > 0)
    throw new StudyProblem("ordered_products", {}, {});
  if (names.size > 0 && built.spec.groups.length > 1)
    throw new StudyProblem("ordered_groups", {}, {});
  return observed.filter((name) => names.has(name));
}
