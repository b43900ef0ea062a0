export { columnsOfFormula, FUNCTIONS, readFormulaText, renameInFormula } from "./formula-syntax";
export { columnsNamedIn, columnsOfRecipe } from "./sources";
export { formulaValues, type FormulaSource } from "./formula-values";
export { applyRecipe, numeric, type Made, type RecipeSource } from "./apply";
export {
  recipeWords,
  type Correction,
  type DerivedVariable,
  type Recipe,
  type RowFilter,
} from "./recipe";
