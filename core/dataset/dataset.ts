import {
  findColumn,
  guessVariable,
  isMissing,
  namedTable,
  numbersOf,
  type Table,
  type TextColumn,
  type Variable,
} from "../data";
import {
  applyRecipe,
  columnsNamedIn,
  columnsOfRecipe,
  formulaValues,
  numeric,
  readFormulaText,
  type Correction,
  type DerivedVariable,
  type Made,
  type RecipeSource,
} from "../derive";
import { DEFAULT_ANSWERED, reversed, scaleScores } from "../measures";
import { StudyProblem } from "../problems";
import type { StudyDefinition } from "../study";
import { nearestName, parseTheory, type Measure, type Theory } from "../theory";

/** Where a column of the dataset comes from. */
export type Origin = "raw" | "derived" | "measure";

/**
 * The data as an analysis sees them: corrected cells, derived variables, scale scores, and the rows
 * not left out.
 */
export interface Dataset {
  table: Table;
  /** One for every column of `table`, in its order. */
  variables: Variable[];
  origins: Map<string, Origin>;
  /** The sentences, read against the columns there are. */
  theory: Theory;
  measures: Measure[];
  /** 0-based rows that no active filter leaves out, ascending. */
  included: Int32Array;
  /** 0-based rows each active filter leaves out. */
  excluded: { filter: string; rows: number[] }[];
  /** What could not be made or applied; the rest works without it. */
  problems: { name: string; message: string }[];
}

/** What of a definition the dataset depends on. */
export type DataDefinition = Pick<
  StudyDefinition,
  "variables" | "derived" | "corrections" | "filters" | "theory"
>;

/**
 * raw table -> names of the study -> corrections -> rows left out by hand -> derived variables and
 * scale scores -> conditions.
 */
export function buildDataset(definition: DataDefinition, imported: Table): Dataset {
  const raw = namedTable(imported, definition.variables);
  const problems: Dataset["problems"] = [];
  const columns = correctedColumns(raw, definition.corrections, problems);
  const rawNames = columns.map((c) => c.name);
  const derivedNames = definition.derived
    .map((d) => d.name)
    .filter((name) => !rawNames.includes(name));
  const theory = parseTheory(definition.theory, [...rawNames, ...derivedNames]);
  const measures = theory.statements.filter((s) => s.kind === "measure");
  const byHand = new Set(
    definition.filters.flatMap((f) =>
      f.active && f.rule.kind === "rows" ? f.rule.rows.map((r) => r - 1) : [],
    ),
  );
  const included = Int32Array.from(
    Array.from({ length: raw.rows }, (_, i) => i).filter((i) => !byHand.has(i)),
  );
  const maker = new VariableMaker(definition, columns, measures, raw.rows, included);
  const made: { column: TextColumn; variable: Variable; origin: Origin }[] = columns.map(
    (column) => ({
      ...maker.get(column.name),
      origin: "raw",
    }),
  );
  const tryMake = (name: string, origin: Origin): void => {
    try {
      made.push({ ...maker.get(name), origin });
    } catch (error) {
      if (!(error instanceof StudyProblem)) throw error;
      problems.push({ name, message: error.message });
    }
  };
  for (const { name } of definition.derived) {
    if (rawNames.includes(name))
      problems.push({
        name,
        message: `The data have a column “${name}” too. Give the derived variable another name.`,
      });
    else tryMake(name, "derived");
  }
  for (const { name, form } of measures)
    if (form === "averages" || form === "sums") tryMake(name.name, "measure");
  const excluded = excludedRows(definition, raw.rows, maker, problems);
  const out = new Set(excluded.flatMap((e) => e.rows));
  return {
    table: { ...raw, columns: made.map((m) => m.column) },
    variables: made.map((m) => m.variable),
    origins: new Map(made.map((m) => [m.column.name, m.origin])),
    theory,
    measures,
    included: out.size === 0 ? included : included.filter((i) => !out.has(i)),
    excluded,
    problems,
  };
}

function correctedColumns(
  raw: Table,
  corrections: Correction[],
  problems: Dataset["problems"],
): TextColumn[] {
  return raw.columns.map((column) => {
    const own = corrections.filter((c) => c.column === column.name);
    if (own.length === 0) return column;
    const dictionary = [...column.dictionary];
    const codes = Int32Array.from(column.codes);
    for (const { row, to } of own) {
      if (row < 1 || row > raw.rows) {
        problems.push({
          name: column.name,
          message: `A correction of “${column.name}” is for row ${row}, which the data do not have.`,
        });
        continue;
      }
      let code = dictionary.indexOf(to);
      if (code < 0) code = dictionary.push(to) - 1;
      codes[row - 1] = code;
    }
    // Texts that no row uses any more would still be read as values.
    const used = new Set(codes);
    return {
      name: column.name,
      dictionary: dictionary.map((text, code) => (used.has(code) ? text : "")),
      codes,
    };
  });
}

/** Makes columns on demand, so that one derived variable may rest on another. */
class VariableMaker implements RecipeSource {
  private readonly made = new Map<string, Made>();
  private readonly making: string[] = [];
  private readonly typed = new Map<string, Float64Array>();
  private readonly said: Map<string, Variable>;
  private readonly derived: Map<string, DerivedVariable>;

  constructor(
    definition: DataDefinition,
    private readonly raw: TextColumn[],
    private readonly measures: Measure[],
    readonly rows: number,
    readonly included: Int32Array,
  ) {
    this.said = new Map(definition.variables.map((v) => [v.name, v]));
    this.derived = new Map(definition.derived.map((d) => [d.name, d]));
  }

  get(name: string): Made {
    const known = this.made.get(name);
    if (known) return known;
    if (this.making.includes(name)) {
      throw new StudyProblem(
        "circle_of_recipes",
        { names: [...this.making, name] },
        {
          variables: [...this.making],
        },
      );
    }
    this.making.push(name);
    try {
      const fresh = this.make(name);
      const made = {
        column: fresh.column,
        variable: { ...fresh.variable, ...this.said.get(name) },
      };
      this.made.set(name, made);
      return made;
    } finally {
      this.making.pop();
    }
  }

  private make(name: string): Made {
    const column = this.raw.find((c) => c.name === name);
    if (column) return { column, variable: this.said.get(name) ?? guessVariable(column) };
    const derived = this.derived.get(name);
    if (derived) return applyRecipe(name, derived.recipe, this);
    const measure = this.measures.find((m) => m.name.name === name);
    if (measure) return scored(measure, this);
    const all = [
      ...this.raw.map((c) => c.name),
      ...this.derived.keys(),
      ...this.measures.map((m) => m.name.name),
    ];
    const near = nearestName(name, all);
    throw new StudyProblem(
      "no_column",
      { name, near },
      {
        variables: [name],
      },
    );
  }

  readonly column = (name: string): Made => this.get(name);

  readonly numbers = (name: string): Float64Array => {
    let values = this.typed.get(name);
    if (!values) {
      const { column, variable } = this.get(name);
      values = numbersOf(column, variable);
      this.typed.set(name, values);
    }
    return values;
  };

  readonly texts = (name: string): ((row: number) => string | null) => {
    const { column, variable } = this.get(name);
    const texts = column.dictionary.map((text) => (isMissing(text, variable) ? null : text.trim()));
    return (row) => texts[column.codes[row]!]!;
  };
}

/** The items of a measure as numbers, those keyed the other way reversed. */
export function itemColumns(
  measure: Measure,
  numbers: (name: string) => Float64Array,
  range: (name: string) => Variable["range"],
): Float64Array[] {
  return measure.items.map(({ ref, reversed: turned }) => {
    const values = numbers(ref.name);
    if (!turned) return values;
    const limits = measure.scale ?? range(ref.name);
    if (!limits) {
      throw new StudyProblem(
        "scale_unknown",
        { item: ref.name },
        { variables: [ref.name], line: measure.line },
      );
    }
    return reversed(ref.name, values, limits);
  });
}

function scored(measure: Measure, source: VariableMaker): Made {
  const columns = itemColumns(measure, source.numbers, (item) => source.get(item).variable.range);
  const form = measure.form === "sums" ? "sums" : "averages";
  const answered = measure.answered === null ? DEFAULT_ANSWERED : measure.answered / 100;
  const label = `${form === "sums" ? "sum" : "mean"} of ${measure.items.length} items`;
  return numeric(measure.name.name, scaleScores(columns, { form, answered }), { label });
}

function excludedRows(
  definition: DataDefinition,
  rows: number,
  source: VariableMaker,
  problems: Dataset["problems"],
): Dataset["excluded"] {
  return definition.filters
    .filter((f) => f.active)
    .map(({ name, rule }) => {
      if (rule.kind === "rows")
        return {
          filter: name,
          rows: rule.rows.map((r) => r - 1).filter((i) => i >= 0 && i < rows),
        };
      try {
        const holds = formulaValues(readFormulaText(rule.formula), source);
        return { filter: name, rows: Array.from(holds.keys()).filter((i) => holds[i]! > 0) };
      } catch (error) {
        if (!(error instanceof StudyProblem)) throw error;
        problems.push({
          name,
          message: `The condition of “${name}” cannot be used: ${error.message}`,
        });
        return { filter: name, rows: [] };
      }
    });
}

/** Checks a derived variable before it is kept. @throws StudyProblem naming what to change */
export function tryRecipe(definition: DataDefinition, raw: Table, derived: DerivedVariable): Made {
  const others = definition.derived.filter((d) => d.name !== derived.name);
  const { problems, table, variables } = buildDataset(
    { ...definition, derived: [...others, derived] },
    raw,
  );
  const problem = problems.find((p) => p.name === derived.name);
  if (problem) throw new StudyProblem("recipe_fails", { reason: problem.message });
  const at = table.columns.findIndex((c) => c.name === derived.name);
  return { column: table.columns[at]!, variable: variables[at]! };
}

/**
 * Everything that would break if a column or measure were gone: derived variables, conditions and
 * sentences that name it, the latter by their words.
 */
export function usesOf(
  definition: StudyDefinition,
  name: string,
  columns: readonly string[],
): string[] {
  const uses: string[] = [];
  for (const d of definition.derived) {
    if (columnsOfRecipe(d.recipe).includes(name)) uses.push(`the derived variable “${d.name}”`);
  }
  for (const f of definition.filters) {
    const { rule } = f;
    if (rule.kind === "condition" && columnsNamedIn(rule.formula).includes(name))
      uses.push(`the filter “${f.name}”`);
  }
  const { statements } = parseTheory(definition.theory, columns);
  const lines = definition.theory.split(/\r?\n/);
  for (const statement of statements) {
    // What makes a measure is no use of it.
    if (statement.kind === "measure" && statement.name.name === name) continue;
    if (JSON.stringify(statement).includes(`"name":${JSON.stringify(name)}`))
      uses.push(`“${lines[statement.line - 1]!.trim()}”`);
  }
  const { strata, cluster } = definition.settings;
  if (strata === name || cluster === name) uses.push("the settings of resampling");
  return uses;
}

/** A column of a dataset with its description. */
export function findVariable(
  dataset: Dataset,
  name: string,
): { column: TextColumn; variable: Variable } | null {
  const column = findColumn(dataset.table, name);
  const variable = dataset.variables.find((v) => v.name === name);
  return column && variable ? { column, variable } : null;
}
