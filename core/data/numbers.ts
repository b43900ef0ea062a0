import { StudyProblem } from "../problems";
import type { TextColumn } from "./table";
import { isMissing, parseNumber, typedColumn } from "./typed-column";
import type { Variable } from "./variable";

/**
 * A column as numbers, NaN where missing, for describing and computing: cells that are numbers
 * count as they stand; a binary column of words, or one whose `one` was chosen, is 0/1.
 * @throws StudyProblem `not_numeric` for a column of names
 */
export function numbersOf(column: TextColumn, variable: Variable): Float64Array {
  if (
    variable.level === "binary" &&
    (variable.one !== undefined || !allNumbers(column, variable))
  ) {
    return typedColumn(column, variable).values;
  }
  if (
    variable.level !== "continuous" &&
    variable.level !== "ordinal" &&
    !allNumbers(column, variable)
  ) {
    throw new StudyProblem(
      "names_not_numbers",
      { name: column.name },
      { variables: [column.name] },
    );
  }
  return typedColumn(column, { ...variable, level: "continuous" }).values;
}

const allNumbers = (column: TextColumn, variable: Variable): boolean =>
  column.dictionary.every(
    (text) => isMissing(text, variable) || !Number.isNaN(parseNumber(text, variable.decimal)),
  );
