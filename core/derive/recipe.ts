import type { Coding } from "../data";

/** How a derived variable is made of others. The raw cells stay as they are. */
export type Recipe =
  | { kind: "formula"; formula: string }
  /** Cells by their text; cells not named stay, or become missing. */
  | { kind: "recode"; of: string; map: Record<string, string>; otherwise: "keep" | "missing" }
  /** low + high - x, with the declared limits of the scale. */
  | { kind: "reverse"; of: string; low: number; high: number }
  /** x / per: a coefficient then says what `per` units do. */
  | { kind: "rescale"; of: string; per: number }
  /** log(x + add). */
  | { kind: "log"; of: string; base: "e" | "10" | "2"; add: number }
  | { kind: "centre" | "standardise" | "rank"; of: string }
  /** Values beyond two percentiles are set to them. */
  | { kind: "winsorise"; of: string; lower: number; upper: number }
  /** Groups cut at percentiles; a value on a cut belongs to the lower group. */
  | { kind: "split"; of: string; at: number[] }
  /** One code column of a categorical variable, 1 to k - 1. */
  | { kind: "code"; of: string; coding: Coding; index: number; reference?: string };

export interface DerivedVariable {
  name: string;
  recipe: Recipe;
}

/** A change of one cell, kept beside the raw data. Rows count from 1. */
export interface Correction {
  column: string;
  row: number;
  from: string;
  to: string;
}

/** Rows left out of every analysis while it is switched on; taking it away brings them back. */
export interface RowFilter {
  name: string;
  active: boolean;
  /** Left out by hand (rows from 1), or wherever a condition holds. */
  rule: { kind: "rows"; rows: number[] } | { kind: "condition"; formula: string };
}

const BASES = { e: "natural logarithm", "10": "logarithm to base 10", "2": "logarithm to base 2" };

/** A recipe in words, for the log and the variable's card. */
export function recipeWords(recipe: Recipe): string {
  switch (recipe.kind) {
    case "formula":
      return recipe.formula;
    case "recode": {
      const pairs = Object.entries(recipe.map).map(
        ([from, to]) => `${from || "empty"} to ${to || "missing"}`,
      );
      return `${recipe.of} recoded: ${pairs.join(", ")}; other values ${recipe.otherwise === "keep" ? "stay" : "are missing"}`;
    }
    case "reverse":
      return `${recipe.of} reversed: ${recipe.low + recipe.high} minus ${recipe.of} (scale ${recipe.low} to ${recipe.high})`;
    case "rescale":
      return `${recipe.of} in units of ${recipe.per}`;
    case "log":
      return `${BASES[recipe.base]} of ${recipe.of}${recipe.add === 0 ? "" : ` plus ${recipe.add}`}`;
    case "centre":
      return `${recipe.of} minus its mean`;
    case "standardise":
      return `${recipe.of} in standard deviations from its mean`;
    case "rank":
      return `rank of ${recipe.of}, ties sharing the mean rank`;
    case "winsorise":
      return `${recipe.of} with values beyond the ${recipe.lower} and ${recipe.upper} % points set to them`;
    case "split":
      return recipe.at.length === 1 && recipe.at[0] === 50
        ? `${recipe.of} split at its median`
        : `${recipe.of} cut at its ${recipe.at.join(", ")} % points`;
    case "code":
      return `column ${recipe.index} of the ${recipe.coding} coding of ${recipe.of}${recipe.reference === undefined ? "" : `, reference ${recipe.reference}`}`;
  }
}
