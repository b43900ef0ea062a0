import { isFromMoments } from "../../evidence";
import { heading, number, row, table, word, type Part, type ReportContext } from "../context";
import type { Cell, Row } from "../document";

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

/** Means, SDs, and correlations below the diagonal. */
export const descriptives: Part = (context) => {
  const { data, cell, write } = context;
  const names = variablesOf(context).filter((name) => data!.descriptives[name]!.mean !== null);
  if (!data || names.length === 0) return [];
  const correlation = correlationsOf(context);
  const columns = names.slice(0, -1).map((_, j) => number(String(j + 1)));
  const rows = names.map((name, i): Row => {
    const { n, mean, sd, skewness, excessKurtosis } = data.descriptives[name]!;
    return row(
      cell.words(`${i + 1} ${name}`),
      cell.count(n),
      cell.number(mean, 2),
      cell.number(sd, 2),
      cell.number(skewness, 2),
      cell.number(excessKurtosis, 2),
      ...columns.map((_, j): Cell =>
        j < i ? correlation(names[i]!, names[j]!) : cell.words(null),
      ),
    );
  });
  return [
    heading("Descriptive statistics and correlations"),
    table(
      "descriptives",
      "Means, standard deviations and correlations",
      [
        word("Variable"),
        number("n"),
        number("M"),
        number("SD"),
        number("Skewness"),
        number("Excess kurtosis"),
        ...columns,
      ],
      rows,
      [
        `Pearson correlations${isFromMoments(context.evidence) ? ", as they were given" : ` from all ${context.evidence.unit || "cases"} with both values`}. * ${limit(write.pClause(0.05, true))}, ** ${limit(write.pClause(0.01, true))}, *** ${write.pClause(0.0005)}.`,
      ],
    ),
  ];
};

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
