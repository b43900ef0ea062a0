import { StudyProblem, tableOfMoments as construct, type Moments, type Table } from "../core";
import { FormatProblem } from "./problem";
import type { MomentsFile } from "./study-schema";

/** A mirrored entry may differ by this much, as printed tables do. */
const ASYMMETRY = 1e-6;

/**
 * A covariance matrix, or correlations with or without SDs, as a table of constructed rows.
 * @throws FormatProblem naming the entry that does not fit
 */
export function tableOfMoments(file: MomentsFile): Table {
  const { names, n, means, sds } = file;
  const k = names.length;
  if (new Set(names).size < k)
    throw new FormatProblem("Two variables of the matrix have the same name.");
  for (const [what, list] of [
    ["means", means],
    ["standard deviations", sds],
  ] as const) {
    if (list && list.length !== k)
      throw new FormatProblem(`There are ${list.length} ${what} for ${k} variables.`);
  }
  const matrix = symmetric(names, file.covariance ?? file.correlation!);
  if (file.correlation) checkCorrelations(names, matrix);
  else checkVariances(names, matrix);
  const scale = file.correlation ? (sds ?? names.map(() => 1)) : names.map(() => 1);
  const bad = scale.findIndex((s) => !(s > 0));
  if (bad >= 0)
    throw new FormatProblem(
      `The standard deviation of “${names[bad]}” is ${scale[bad]}; it has to be above 0.`,
    );
  const moments: Moments = {
    names,
    n,
    means: means ?? names.map(() => 0),
    covariance: matrix.map((row, i) => row.map((value, j) => value * scale[i]! * scale[j]!)),
    standardised: file.correlation !== undefined && sds === undefined,
  };
  try {
    return construct(moments);
  } catch (error) {
    if (error instanceof StudyProblem) throw new FormatProblem(error.message);
    throw error;
  }
}

/** A full matrix of a full one or a lower triangle. */
function symmetric(names: string[], rows: number[][]): number[][] {
  if (rows.length !== names.length)
    throw new FormatProblem(`The matrix has ${rows.length} rows for ${names.length} variables.`);
  const whole = rows.every((row) => row.length === names.length);
  const odd = whole ? -1 : rows.findIndex((row, i) => row.length !== i + 1);
  if (odd >= 0)
    throw new FormatProblem(
      `Row ${odd + 1} of the matrix (“${names[odd]}”) has ${rows[odd]!.length} entries. A matrix is square (${names.length} in every row) or a lower triangle (1 in the first row, 2 in the second, and so on).`,
    );
  return rows.map((row, i) =>
    names.map((name, j) => {
      const below = rows[Math.max(i, j)]![Math.min(i, j)];
      const above = rows[Math.min(i, j)]![Math.max(i, j)];
      if (below === undefined || !Number.isFinite(below))
        throw new FormatProblem(`The entry of “${names[i]}” and “${name}” is missing.`);
      if (
        above !== undefined &&
        Math.abs(above - below) > ASYMMETRY * Math.max(1, Math.abs(below))
      ) {
        throw new FormatProblem(
          `“${names[i]}” with “${name}” is ${row[j] ?? below} above the diagonal but ${below} below it. Which is right?`,
        );
      }
      return below;
    }),
  );
}

function checkVariances(names: string[], covariance: number[][]): void {
  const at = covariance.findIndex((row, i) => !(row[i]! > 0));
  if (at < 0) return;
  const value = covariance[at]![at]!;
  throw new FormatProblem(
    `The variance of “${names[at]}” is ${value}; a variance is above 0.${value === 0 ? " A variable that is the same for everybody explains nothing." : " Is the sign a slip, or the matrix not one of covariances?"}`,
  );
}

function checkCorrelations(names: string[], r: number[][]): void {
  names.forEach((name, i) => {
    if (Math.abs(r[i]![i]! - 1) > ASYMMETRY)
      throw new FormatProblem(`The correlation of “${name}” with itself is ${r[i]![i]}, not 1.`);
    const out = r[i]!.findIndex((value) => Math.abs(value) > 1);
    if (out >= 0)
      throw new FormatProblem(
        `The correlation of “${name}” with “${names[out]}” is ${r[i]![out]}, beyond 1.`,
      );
  });
}
