import { codeColumns, pick, type Sample, type TypedColumn, type Variable } from "../data";
import { extent, mean, standardDeviation } from "../numerics/moments";
import { StudyProblem } from "../problems";
import type { EquationSpec } from "../theory";
import { centreOf, type Column, type UsedCoding } from "./column";

/** One regression with its columns at the rows of the sample. */
export interface Equation {
  outcome: string;
  columns: Column[];
  /** Keys of the columns that are covariates only. */
  covariates: Set<string>;
  /** Keys of the columns that are there as moderators only. */
  moderators: Set<string>;
  y: Float64Array;
  sdY: number;
}

export interface Design {
  n: number;
  equations: Equation[];
  codings: UsedCoding[];
  /** Every numeric column, outcomes too, is a z-score; code columns are not. */
  standardised: boolean;
}

/**
 * Builds the design of every equation.
 * @param standardised make every numeric variable a z-score of the sample first
 * @throws StudyProblem `wrong_level`, `one_level`, `constant_variable` or `too_few_cases`, naming
 *   equation and variables
 */
export function buildDesign(
  specs: EquationSpec[],
  typed: ReadonlyMap<string, TypedColumn>,
  variables: ReadonlyMap<string, Variable>,
  sample: Sample,
  standardised = false,
): Design {
  const codings: UsedCoding[] = [];
  const cache = new Map<string, Column[]>();
  const columnsOf = (name: string, equation: string): Column[] => {
    let columns = cache.get(name);
    if (!columns) {
      const variable = variables.get(name)!;
      const column = typed.get(name)!;
      columns =
        variable.level === "categorical"
          ? codedColumns(column, variable, sample, codings)
          : [numericColumn(column, sample, standardised)];
      cache.set(name, columns);
    }
    refuseConstant(columns, name, equation);
    return columns;
  };
  const equations = specs.map((spec) => {
    if (variables.get(spec.outcome)!.level === "categorical") {
      throw new StudyProblem(
        "categorical_outcome",
        { name: spec.outcome },
        { equation: spec.outcome, variables: [spec.outcome] },
      );
    }
    const outcome = columnsOf(spec.outcome, spec.outcome)[0]!;
    const main = [...spec.predictors, ...spec.moderators, ...spec.covariates].flatMap((name) =>
      columnsOf(name, spec.outcome),
    );
    const products = spec.products.flatMap((names) =>
      productColumns(names.map((name) => columnsOf(name, spec.outcome))),
    );
    const columns = [...main, ...products];
    const moderators = new Set(
      spec.moderators.flatMap((name) => columnsOf(name, spec.outcome)).map((c) => c.key),
    );
    const covariates = new Set(
      spec.covariates.flatMap((name) => columnsOf(name, spec.outcome)).map((c) => c.key),
    );
    if (sample.n <= columns.length + 1) {
      throw new StudyProblem(
        "more_coefficients_than_rows",
        { outcome: spec.outcome, coefficients: columns.length + 1, rows: sample.n },
        { equation: spec.outcome, variables: columns.map((c) => c.key) },
      );
    }
    return {
      outcome: spec.outcome,
      columns,
      covariates,
      moderators,
      y: outcome.values,
      sdY: outcome.sd,
    };
  });
  return { n: sample.n, equations, codings, standardised };
}

function numericColumn(column: TypedColumn, sample: Sample, standardised: boolean): Column {
  const raw = pick(column.values, sample.rows);
  const sd = standardDeviation(raw);
  const centre = mean(raw);
  // A constant keeps its values, so that it is refused with the number that people know.
  const values = standardised && sd > 0 ? raw.map((v) => (v - centre) / sd) : raw;
  return {
    key: column.name,
    variable: column.name,
    label: column.name,
    contrast: null,
    values,
    sd: standardDeviation(values),
    components: null,
  };
}

/**
 * The code columns of a categorical variable at the rows of a sample; its coding joins the list.
 */
export function codedColumns(
  column: TypedColumn,
  variable: Variable,
  sample: Sample,
  codings: UsedCoding[],
): Column[] {
  const index = pick(column.values, sample.rows);
  const all = column.levels!;
  const countOf = all.map((_, level) => index.reduce((sum, v) => sum + (v === level ? 1 : 0), 0));
  const present = all.map((_, level) => level).filter((level) => countOf[level]! > 0);
  const levels = present.map((level) => all[level]!);
  const coding = variable.coding ?? "indicator";
  const codes = codeColumns(column.name, levels, coding, variable.reference);
  const position = new Map(present.map((level, i) => [level, i]));
  const columns = codes.map((code) => {
    const values = Float64Array.from(index, (level) => code.codes[position.get(level)!]!);
    const label = `${column.name}: ${code.contrast}`;
    return {
      key: `${column.name}.${code.index}`,
      variable: column.name,
      label,
      contrast: code.contrast,
      values,
      sd: standardDeviation(values),
      components: null,
    };
  });
  codings.push({
    variable: column.name,
    coding,
    levels,
    counts: present.map((level) => countOf[level]!),
    columns: codes.map((code, i) => ({
      key: columns[i]!.key,
      contrast: code.contrast,
      codes: code.codes,
    })),
  });
  return columns;
}

/**
 * Products of one column of each variable, made of components about their means: nothing is lost at
 * means of 1e6, and with all lower-order terms in the equation the space is that of the raw
 * products.
 */
function productColumns(variables: Column[][]): Column[] {
  const [first, second] = variables;
  if (second && first![0]!.variable === second[0]!.variable && first![0]!.contrast !== null) {
    const { variable } = first![0]!;
    throw new StudyProblem(
      "categorical_curve",
      { name: variable },
      {
        variables: [variable],
      },
    );
  }
  const combinations = variables.reduce<Column[][]>(
    (all, columns) => all.flatMap((some) => columns.map((c) => [...some, c])),
    [[]],
  );
  return combinations.map((components) => productColumn(components, components.map(centreOf)));
}

/** The square of one column: a variable that moderates its own effect. */
const isSquare = (components: Column[]): boolean =>
  components.length === 2 && components[0]!.key === components[1]!.key;

/** The product of columns about the given centres. */
export function productColumn(components: Column[], centres: number[]): Column {
  const values = components[0]!.values.map((_, i) =>
    components.reduce((all, c, j) => all * (c.values[i]! - centres[j]!), 1),
  );
  return {
    key: components.map((c) => c.key).join(":"),
    variable: components.map((c) => c.variable).join(":"),
    label: isSquare(components)
      ? `${components[0]!.label}² (curvature)`
      : components.map((c) => c.label).join(" × "),
    contrast: null,
    values,
    sd: standardDeviation(values),
    components,
  };
}

function refuseConstant(columns: Column[], name: string, equation: string): void {
  for (const column of columns) {
    const [min, max] = extent(column.values);
    if (min === max) {
      throw new StudyProblem(
        "constant_in_equation",
        { name, value: min, outcome: equation },
        { equation, variables: [name] },
      );
    }
  }
}
