import { choleskyInPlace } from "../numerics/cholesky";
import { orthogonalFactor } from "../numerics/orthogonal";
import { RandomStream, streamIndex } from "../numerics/random";
import { StudyProblem } from "../problems";
import type { Moments, Table } from "./table";

const SINGULAR = 1e-10;

/**
 * The rows are turned until they have the moments asked for, so every seed gives the same results.
 */
const ANY_SEED = 1;

/** Standard deviations of the variables, in their order. */
export const sdsOf = ({ covariance }: Moments): number[] =>
  covariance.map((row, i) => Math.sqrt(row[i]!));

/**
 * A table of n constructed rows whose means and covariances are exactly those given, so that every
 * quantity that depends on them alone (coefficients, classical errors, R2) is exact. No single row
 * means anything.
 * @throws StudyProblem `too_few_cases` (n too small) or `collinear` (not a covariance matrix of
 *   full rank)
 */
export function tableOfMoments(moments: Moments): Table {
  const { names, n, means, covariance } = moments;
  const k = names.length;
  if (n < k + 2) {
    throw new StudyProblem(
      "moments_of_few_rows",
      { variables: k, n },
      {
        variables: names,
      },
    );
  }
  const l = Float64Array.from(covariance.flat());
  if (!(choleskyInPlace(l, k, k) > SINGULAR)) {
    throw new StudyProblem("no_covariance_matrix", {}, { variables: names });
  }
  const noise = names.map((_, j) => {
    const stream = new RandomStream(ANY_SEED, streamIndex("moments", j));
    return Float64Array.from({ length: n }, () => stream.normal());
  });
  const { q } = orthogonalFactor(noise);
  const scale = Math.sqrt(n - 1);
  const columns = names.map((name, j) => {
    const texts = Array.from({ length: n }, (_, i) => {
      let value = means[j]!;
      for (let m = 0; m <= j; m++) value += scale * l[j * k + m]! * q[m]![i]!;
      return String(value);
    });
    return { name, dictionary: texts, codes: Int32Array.from({ length: n }, (_, i) => i) };
  });
  return { rows: n, columns, moments };
}
