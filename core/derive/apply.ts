import { ln, log10, log2 } from "../numerics/elementary";
import {
  codeColumns,
  isMissing,
  levelsInOrder,
  parseNumber,
  pick,
  type TextColumn,
  type Variable,
} from "../data";
import { mean, standardDeviation } from "../numerics/moments";
import { quantile6 } from "../numerics/quantile";
import { midRanks } from "../numerics/ranks";
import { reversed } from "../measures/scores";
import { StudyProblem } from "../problems";
import { readFormulaText } from "./formula-syntax";
import { formulaValues, type FormulaSource } from "./formula-values";
import type { Recipe } from "./recipe";
import type { Condition, ConditionData } from "../wording";

/** What a recipe may read. */
export interface RecipeSource extends FormulaSource {
  column: (name: string) => { column: TextColumn; variable: Variable };
  /** Rows that means, SDs, percentiles and ranks are taken over: those not left out by hand. */
  included: Int32Array;
}

/** A column made by a recipe, with its likely description. */
export interface Made {
  column: TextColumn;
  variable: Variable;
}

/** @throws StudyProblem naming the variable and what to do */
export function applyRecipe(name: string, recipe: Recipe, source: RecipeSource): Made {
  switch (recipe.kind) {
    case "formula":
      return numeric(name, formulaValues(readFormulaText(recipe.formula), source));
    case "recode":
      return recoded(name, recipe, source);
    case "split":
      return split(name, recipe, source);
    case "code":
      return code(name, recipe, source);
    default:
      return numeric(name, transformed(recipe, source.numbers(recipe.of), source.included));
  }
}

type Transformation = Exclude<Recipe, { kind: "formula" | "recode" | "split" | "code" }>;

function transformed(recipe: Transformation, x: Float64Array, included: Int32Array): Float64Array {
  const known = (): Float64Array => pick(x, included).filter((v) => !Number.isNaN(v));
  switch (recipe.kind) {
    case "reverse":
      return reversed(recipe.of, x, [recipe.low, recipe.high]);
    case "rescale":
      if (!(recipe.per !== 0 && Number.isFinite(recipe.per)))
        refuse("unit_zero", { name: recipe.of });
      return x.map((v) => v / recipe.per);
    case "log":
      return logarithm(recipe, x);
    case "centre": {
      const m = mean(known());
      return x.map((v) => v - m);
    }
    case "standardise": {
      const values = known();
      const m = mean(values);
      const sd = standardDeviation(values);
      if (!(sd > 0)) refuse("no_standard_scores", { name: recipe.of });
      return x.map((v) => (v - m) / sd);
    }
    case "rank": {
      const ranks = new Float64Array(x.length).fill(NaN);
      midRanks(pick(x, included)).forEach((rank, i) => (ranks[included[i]!] = rank));
      return ranks;
    }
    case "winsorise": {
      if (!(recipe.lower >= 0 && recipe.lower < recipe.upper && recipe.upper <= 100))
        refuse("percentiles_out_of_order", {
          name: recipe.of,
          lower: recipe.lower,
          upper: recipe.upper,
        });
      const sorted = known().sort();
      if (sorted.length === 0) return x;
      const low = quantile6(sorted, recipe.lower / 100);
      const high = quantile6(sorted, recipe.upper / 100);
      return x.map((v) => Math.min(high, Math.max(low, v)));
    }
  }
}

function logarithm(
  { of, base, add }: Extract<Recipe, { kind: "log" }>,
  x: Float64Array,
): Float64Array {
  const bad = x.findIndex((v) => v + add <= 0);
  if (bad >= 0) {
    throw new StudyProblem(
      "log_of_no_positive",
      { name: of, value: x[bad]!, row: bad + 1 },
      { variables: [of], row: bad + 1 },
    );
  }
  const log = { e: ln, "10": log10, "2": log2 }[base];
  return x.map((v) => log(v + add));
}

function recoded(
  name: string,
  { of, map, otherwise }: Extract<Recipe, { kind: "recode" }>,
  source: RecipeSource,
): Made {
  const { column, variable } = source.column(of);
  const dictionary = column.dictionary.map((raw) => {
    const text = raw.trim();
    if (Object.hasOwn(map, text)) return map[text]!;
    return isMissing(text, variable) || otherwise === "missing" ? "" : text;
  });
  const made = { name, dictionary, codes: column.codes };
  const present = [...new Set(dictionary.filter((t) => t !== ""))];
  const numbers = present.every((t) => !Number.isNaN(parseNumber(t, variable.decimal)));
  const level =
    present.length === 2
      ? "binary"
      : numbers
        ? variable.level === "continuous"
          ? "continuous"
          : "ordinal"
        : "categorical";
  return {
    column: made,
    variable: { name, level, ...(variable.decimal ? { decimal: variable.decimal } : {}) },
  };
}

const GROUP_NAMES: Record<number, string[]> = { 2: ["low", "high"], 3: ["low", "middle", "high"] };

function split(
  name: string,
  { of, at }: Extract<Recipe, { kind: "split" }>,
  source: RecipeSource,
): Made {
  if (at.length === 0 || at.some((p, i) => !(p > 0 && p < 100) || (i > 0 && p <= at[i - 1]!)))
    refuse("percentiles_must_rise", { name: of, at });
  const x = source.numbers(of);
  const sorted = pick(x, source.included)
    .filter((v) => !Number.isNaN(v))
    .sort();
  const cuts = sorted.length > 0 ? at.map((p) => quantile6(sorted, p / 100)) : at;
  const groups =
    GROUP_NAMES[at.length + 1] ?? Array.from({ length: at.length + 1 }, (_, i) => `group ${i + 1}`);
  const codes = Int32Array.from(x, (v) =>
    Number.isNaN(v) ? groups.length : cuts.filter((cut) => v > cut).length,
  );
  const level = groups.length === 2 ? "binary" : "categorical";
  return {
    column: { name, dictionary: [...groups, ""], codes },
    variable: { name, level, levels: groups },
  };
}

function code(name: string, recipe: Extract<Recipe, { kind: "code" }>, source: RecipeSource): Made {
  const { column, variable } = source.column(recipe.of);
  const levels = levelsInOrder(column, variable);
  const columns = codeColumns(
    recipe.of,
    levels,
    recipe.coding,
    recipe.reference ?? variable.reference,
  );
  const chosen = columns[recipe.index - 1];
  if (!chosen)
    refuse("no_such_code_column", {
      name: recipe.of,
      levels: levels.length,
      columns: columns.length,
      index: recipe.index,
    });
  const texts = source.texts(recipe.of);
  const at = new Map(levels.map((level, i) => [level, chosen.codes[i]!]));
  const values = Float64Array.from({ length: source.rows }, (_, i) => {
    const text = texts(i);
    return text === null ? NaN : (at.get(text) ?? NaN);
  });
  return numeric(name, values, { label: chosen.contrast });
}

function refuse<C extends Condition>(
  condition: C,
  data: ConditionData<C> & { name: string },
): never {
  throw new StudyProblem(condition, data, { variables: [data.name] });
}

/** Numbers as a column of cells: the shortest text that reads back as the same number. */
export function numeric(name: string, values: Float64Array, said: Partial<Variable> = {}): Made {
  const known = new Map<number, number>();
  const dictionary: string[] = [];
  const codes = Int32Array.from(values, (v) => {
    // A missing cell and minus zero need keys of their own.
    const key = Number.isNaN(v) ? NaN : v === 0 ? 0 : v;
    let at = known.get(key);
    if (at === undefined) {
      at = dictionary.length;
      dictionary.push(Number.isNaN(key) ? "" : String(key));
      known.set(key, at);
    }
    return at;
  });
  return { column: { name, dictionary, codes }, variable: { name, level: "continuous", ...said } };
}
