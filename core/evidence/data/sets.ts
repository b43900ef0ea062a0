import { EigenvalueDecomposition, Matrix } from "ml-matrix";
import type { NumberColumn } from "../../data";
import type { ScreeningSet, StudyDefinition } from "../../study";
import { compileTheory } from "../../theory";
import type { Dataset } from "../../dataset";
import { StudyProblem } from "../../problems";
import {
  correlations,
  littleTest,
  mahalanobis,
  mardia,
  missingPatterns,
  type CorrelationTable,
} from "../../screening";
import { attempt } from "./result";
import type { NumberReader } from "./columns";
import type { SetEvidence } from "./types";

/** Without a chosen set at most so many variables are screened together. */
const MOST_BY_ITSELF = 30;
const NUMERIC = new Set(["continuous", "ordinal", "binary"]);

/**
 * The sets to screen: those the study states, else the variables of the theory, else the numeric
 * ones.
 */
export function screeningSets(
  study: Pick<StudyDefinition, "screening" | "theory">,
  dataset: Dataset,
): ScreeningSet[] {
  if (study.screening.length > 0) return study.screening;
  const numeric = dataset.variables.filter((v) => NUMERIC.has(v.level)).map((v) => v.name);
  const used = theoryVariables(dataset).filter((name) => numeric.includes(name));
  if (used.length > 1) return [{ name: "the variables of the theory", variables: used }];
  return numeric.length > 0
    ? [{ name: "the numeric variables", variables: numeric.slice(0, MOST_BY_ITSELF) }]
    : [];
}

function theoryVariables(dataset: Dataset): string[] {
  try {
    const { equations } = compileTheory(dataset.theory.statements);
    return [
      ...new Set(
        equations.flatMap((e) => [...e.predictors, ...e.moderators, ...e.covariates, e.outcome]),
      ),
    ];
  } catch (error) {
    if (error instanceof StudyProblem) return [];
    throw error;
  }
}

/** Everything that looks at several variables together. */
export function screenSet(
  { name, variables }: ScreeningSet,
  reader: NumberReader,
  level: number,
): SetEvidence {
  const columns = variables.map((variable) => reader.comparable(variable));
  const pairwise = correlations(columns, "pairwise", level);
  return {
    name,
    variables,
    correlations: { pairwise, listwise: correlations(columns, "listwise", level) },
    pairwisePositiveDefinite: positiveDefinite(pairwise),
    patterns: missingPatterns(columns),
    little: attempt(() => littleTest(columns)),
    mahalanobis: attempt(() => distances(columns, reader)),
    mardia: attempt(() => mardia(columns)),
  };
}

function distances(columns: NumberColumn[], reader: NumberReader) {
  const found = mahalanobis(columns);
  const renumber = <T extends { row: number }>(list: T[]): T[] =>
    list.map((r) => ({ ...r, row: reader.fileRow(r.row) }));
  return { ...found, top: renumber(found.top), flagged: renumber(found.flagged) };
}

/** Smallest eigenvalue above rounding; null where a correlation is lacking. */
function positiveDefinite({ variables, cells }: CorrelationTable): boolean | null {
  if (variables.length === 0 || cells.some((c) => c.pearson === null)) return null;
  const r = Matrix.eye(variables.length);
  for (const { x, y, pearson } of cells) {
    const [i, j] = [variables.indexOf(x), variables.indexOf(y)];
    r.set(i, j, pearson!.r);
    r.set(j, i, pearson!.r);
  }
  return (
    Math.min(...new EigenvalueDecomposition(r, { assumeSymmetric: true }).realEigenvalues) > 1e-10
  );
}
