import { StudyProblem } from "../problems";
import { columnsOfFormula, readFormulaText } from "./formula-syntax";
import type { Recipe } from "./recipe";

/** Columns that a formula names; none of one that cannot be read. */
export function columnsNamedIn(formula: string): string[] {
  try {
    return columnsOfFormula(readFormulaText(formula));
  } catch (error) {
    if (error instanceof StudyProblem) return [];
    throw error;
  }
}

/** Columns that a recipe makes its variable of. */
export const columnsOfRecipe = (recipe: Recipe): string[] =>
  recipe.kind === "formula" ? columnsNamedIn(recipe.formula) : [recipe.of];
