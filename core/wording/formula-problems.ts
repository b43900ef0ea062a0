import { worded } from "./condition";

/** What may be wrong with a formula; positions count from one. */
export const FORMULA_PROBLEMS = {
  formula_at: worded(
    "formula",
    ({ at, fault }: { at: number; fault: FormulaFault }) =>
      `At position ${at} of the formula: ${faultWords(fault)}`,
  ),
  text_alone: worded(
    "formula",
    ({ text }: { text: string }) =>
      `The text '${text}' can only be compared, as in group = '${text}'.`,
  ),
  text_ordered: worded(
    "formula",
    ({ text }: { text: string }) =>
      `A text is compared with a column by = or !=, as in group = '${text}'.`,
  ),
};

/** What is wrong at a place of a formula. */
export type FormulaFault =
  | { kind: "rest" | "meaningless" | "expected"; text: string }
  | { kind: "quotation" | "deep" | "chained" | "end" | "bracket" }
  | { kind: "function"; name: string; known: string[] }
  | { kind: "arguments"; name: string; fewest: number; most: number; given: number };

function faultWords(fault: FormulaFault): string {
  switch (fault.kind) {
    case "rest":
      return `“${fault.text}” is not expected here. Is an operator or a comma missing before it?`;
    case "meaningless":
      return `“${fault.text}” has no meaning in a formula.`;
    case "expected":
      return `A number, a column or a bracket was expected, not “${fault.text}”.`;
    case "quotation":
      return "This quotation mark is never closed.";
    case "deep":
      return "The formula is nested too deeply.";
    case "chained":
      return "Two comparisons are joined by “and”, as in a > 1 and a < 5.";
    case "end":
      return "Something is missing at the end.";
    case "bracket":
      return "A bracket is not closed.";
    case "function":
      return `There is no function “${fault.name}”. Known are ${fault.known.join(", ")}.`;
    case "arguments": {
      const wanted = argumentsWanted(fault.fewest, fault.most);
      return `“${fault.name}” takes ${wanted} ${wanted === "1" ? "argument" : "arguments"}, not ${fault.given}.`;
    }
  }
}

function argumentsWanted(fewest: number, most: number): string {
  if (fewest === most) return `${fewest}`;
  return most === Infinity ? `at least ${fewest}` : `${fewest} to ${most}`;
}
