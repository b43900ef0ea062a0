import { listwise, pick, type NumberColumn } from "../data";
import { orthogonalFactor, type OrthogonalFactor } from "../numerics/orthogonal";
import { StudyProblem } from "../problems";

/** Variables looked at together, on the rows where all of them are observed. */
export interface CompleteBlock {
  names: string[];
  columns: Float64Array[];
  /** 0-based positions of the complete rows. */
  rows: Int32Array;
}

export function completeBlock(variables: NumberColumn[]): CompleteBlock {
  const rows = listwise(variables.map((v) => v.values));
  return {
    names: variables.map((v) => v.name),
    columns: variables.map((v) => pick(v.values, rows)),
    rows,
  };
}

/**
 * 1 - R2 below 1e-8 counts as collinear: what is left of a column of length one is then below 1e-4.
 */
const COLLINEAR_LENGTH = 1e-4;

/** @throws StudyProblem `no_observed` or `constant_variable`, naming the variables */
export function requireVariance(names: string[], columns: Float64Array[]): void {
  const bare = names.filter((_, j) => columns[j]!.every((v) => Number.isNaN(v)));
  if (bare.length > 0) {
    throw new StudyProblem(
      "never_observed",
      { names: bare },
      {
        variables: bare,
      },
    );
  }
  const still = names.filter((_, j) => isConstant(columns[j]!));
  if (still.length > 0) {
    throw new StudyProblem("never_varies", { names: still }, { variables: still });
  }
}

/** Compares values, not a rounded SD: a large constant has a tiny SD in floating point. */
export function isConstant(values: Float64Array): boolean {
  let first = NaN;
  for (const v of values) {
    if (Number.isNaN(v)) continue;
    if (Number.isNaN(first)) first = v;
    else if (v !== first) return false;
  }
  return true;
}

/**
 * The orthogonal factor of a complete block that can be inverted.
 * @throws StudyProblem `too_few_cases` (n <= p), `constant_variable` or `collinear`, naming the
 *   variables
 */
export function blockFactor(
  { names, columns, rows }: CompleteBlock,
  purpose: string,
): OrthogonalFactor {
  if (rows.length <= names.length) {
    throw new StudyProblem(
      "too_few_rows_for",
      { purpose, variables: names.length, rows: rows.length },
      { variables: names },
    );
  }
  requireVariance(names, columns);
  const factor = orthogonalFactor(columns, undefined, COLLINEAR_LENGTH);
  if (factor.dependent) {
    const together = [...factor.dependent.partners, factor.dependent.column].map((j) => names[j]!);
    throw new StudyProblem(
      "determine_one_another",
      { names: together, purpose },
      { variables: together },
    );
  }
  return factor;
}
