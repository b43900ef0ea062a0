import { createContext } from "react";
import { own, levelsInOrder, plain, summarise, type Dataset, type Variable } from "../../../core";

/** What tells variables apart in a list, by name: the label, then what the data hold. */
export const VariableDetails = createContext<ReadonlyMap<string, string>>(new Map());

/** Labels longer than this are cut: the list is narrow. */
const MOST_LETTERS = 34;
const MOST_LEVELS = 3;

/** The details of every column: “Perceived support · 3.4, 1 to 5”, “yes, no”. */
export function detailsOf({ table, variables, origins }: Dataset): Map<string, string> {
  return new Map(
    table.columns.map((column, j) => {
      const variable = variables[j]!;
      const label = variable.label ?? (origins.get(column.name) === "measure" ? "measure" : "");
      const held = table.moments ? "" : heldIn(column, variable);
      return [column.name, [clipped(label), held].filter((part) => part !== "").join(" · ")];
    }),
  );
}

function heldIn(column: Dataset["table"]["columns"][number], variable: Variable): string {
  if (variable.level === "identifier") return "";
  if (variable.level === "categorical" || variable.level === "binary") {
    const levels = levelsInOrder(column, variable).map(
      (code) => own(variable.labels, code) ?? code,
    );
    const more = levels.length > MOST_LEVELS ? ", …" : "";
    return levels.slice(0, MOST_LEVELS).join(", ") + more;
  }
  const { mean, min, max } = summarise(column, variable);
  if (mean === null) return "";
  return `${plain(mean, 1)}, ${plain(min, 1)} to ${plain(max, 1)}`;
}

const clipped = (text: string): string =>
  text.length > MOST_LETTERS ? `${text.slice(0, MOST_LETTERS - 1)}…` : text;
