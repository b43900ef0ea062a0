import { isFromMoments } from "../../evidence";
import {
  heading,
  number,
  paragraph,
  row,
  table,
  word,
  type Part,
  type ReportContext,
} from "../context";
import type { Cell, Column, Row, TableBlock } from "../document";

/** “p < .05” of “p < .050”. */
const limit = (clause: string): string => clause.replace(/0$/, "");

/**
 * The variables of the theory in the order in which they are met, columns and scores; covariates
 * after all others.
 */
function variablesOf({ evidence, data }: ReportContext): string[] {
  // Latent variables have no values; their items have.
  const named = [
    ...evidence.paths.flatMap((p) => [p.from, ...p.moderators, p.to]),
    ...evidence.roles.covariates,
  ].flatMap((name) => evidence.latent.find((l) => l.name === name)?.items ?? [name]);
  const known = new Set(Object.keys(data?.descriptives ?? {}));
  return [...new Set(named)].filter((name) => known.has(name));
}

/** With more variables than these, correlations have tables of their own, of so many columns. */
const BESIDE = 9;
const COLUMNS = 12;

/** Means, SDs, and correlations below the diagonal, with alpha in it where a scale has one. */
export const descriptives: Part = (context) => {
  const { data } = context;
  const title = heading("Descriptive statistics and correlations");
  if (!data)
    return [
      title,
      paragraph(
        "Left out, as are the measures: the data could not be described when this was written.",
      ),
    ];
  const names = variablesOf(context).filter((name) => data.descriptives[name]!.mean !== null);
  if (names.length === 0) return [];
  if (names.length <= BESIDE)
    return [title, momentsTable(names, context, correlationColumns(names, 0, context))];
  const parts = Array.from({ length: Math.ceil(names.length / COLUMNS) }, (_, k) => k * COLUMNS);
  return [
    title,
    momentsTable(names, context, null),
    ...parts
      .filter((from) => from < names.length - 1 || hasAlpha(names.at(-1)!, context))
      .map((from) => correlationTable(names, from, context)),
  ];
};

/** Columns of correlations, what stands in them row by row, and what is said of them. */
interface Correlations {
  columns: Column[];
  cells: (row: number) => Cell[];
  note: string;
}

function momentsTable(
  names: readonly string[],
  { data, cell }: ReportContext,
  beside: Correlations | null,
): TableBlock {
  return table(
    "descriptives",
    `Means${beside ? "," : " and"} standard deviations${beside ? " and correlations" : ""}`,
    [
      word("Variable"),
      number("n"),
      number("M"),
      number("SD"),
      number("Skewness"),
      number("Excess kurtosis"),
      ...(beside?.columns ?? []),
    ],
    names.map((name, i): Row => {
      const { n, mean, sd, skewness, excessKurtosis } = data!.descriptives[name]!;
      return row(
        cell.words(`${i + 1} ${name}`),
        cell.count(n),
        cell.number(mean, 2),
        cell.number(sd, 2),
        cell.number(skewness, 2),
        cell.number(excessKurtosis, 2),
        ...(beside?.cells(i) ?? []),
      );
    }),
    beside ? [beside.note] : [],
  );
}

/** The correlations of the variables from `from` on with all that come after them. */
function correlationTable(
  names: readonly string[],
  from: number,
  context: ReportContext,
): TableBlock {
  const { columns, cells, note } = correlationColumns(names, from, context, COLUMNS);
  return table(
    `correlations ${from + 1}`,
    from === 0 ? "Correlations" : `Correlations, continued from variable ${from + 1}`,
    [word("Variable"), ...columns],
    names.flatMap((name, i) =>
      i < from ? [] : [row(context.cell.words(`${i + 1} ${name}`), ...cells(i))],
    ),
    [note],
  );
}

const hasAlpha = (name: string, { data }: ReportContext): boolean =>
  data!.measures.some((m) => m.name === name && m.reliability.value?.alpha != null);

function correlationColumns(
  names: readonly string[],
  from: number,
  context: ReportContext,
  most = names.length,
): Correlations {
  const { data, cell, write, evidence } = context;
  const correlation = correlationsOf(context);
  const alphas = new Map(data!.measures.map((m) => [m.name, m.reliability.value?.alpha]));
  const inDiagonal = names.some((name) => alphas.get(name) != null);
  const until = Math.min(from + most, inDiagonal ? names.length : names.length - 1);
  const places = Array.from({ length: until - from }, (_, k) => from + k);
  const diagonal = (i: number): Cell => {
    const alpha = alphas.get(names[i]!);
    return alpha == null ? cell.words(null) : { text: `(${write.bounded(alpha)})`, value: alpha };
  };
  const source = isFromMoments(evidence)
    ? ", as they were given"
    : ` from all ${evidence.unit || "cases"} with both values`;
  const said = inDiagonal ? " In the diagonal, in parentheses, Cronbach's α of scales." : "";
  return {
    columns: places.map((j) => number(String(j + 1))),
    cells: (i) =>
      places.map((j) =>
        j < i ? correlation(names[i]!, names[j]!) : j === i ? diagonal(i) : cell.words(null),
      ),
    note: `Pearson correlations${source}. * ${limit(write.pClause(0.05, true))}, ** ${limit(write.pClause(0.01, true))}, *** ${write.pClause(0.0005)}.${said}`,
  };
}

/** Correlations of every two variables, from whichever set of the screening holds both. */
function correlationsOf({ data, cell, write }: ReportContext): (x: string, y: string) => Cell {
  const found = new Map(
    data!.sets.flatMap((set) =>
      set.correlations.pairwise.cells.flatMap((c) => [
        [`${c.x}\n${c.y}`, c.pearson] as const,
        [`${c.y}\n${c.x}`, c.pearson] as const,
      ]),
    ),
  );
  return (x, y) => {
    const test = found.get(`${x}\n${y}`);
    if (!test) return cell.words(null);
    const stars = test.p < 0.001 ? "***" : test.p < 0.01 ? "**" : test.p < 0.05 ? "*" : "";
    return { text: `${write.bounded(test.r)}${stars}`, value: test.r };
  };
}
