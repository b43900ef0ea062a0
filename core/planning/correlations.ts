import { choleskyInPlace } from "../numerics/cholesky";
import { StudyProblem } from "../problems";
import { scoreCorrelation, type Marginal } from "./marginal";
import { correlationOf, type StudyPlan } from "../study";

/**
 * Lower factor of the correlations of normal scores that give variables the correlations that are
 * expected.
 * @throws StudyProblem `impossible_correlation` where two variables cannot correlate so, `impossible_correlations` where all of
 *   them together cannot
 */
export function factorOf(
  variables: readonly { name: string; marginal: Marginal }[],
  plan: StudyPlan,
): Float64Array {
  const q = variables.length;
  const matrix = new Float64Array(q * q);
  variables.forEach((a, i) => {
    matrix[i * q + i] = 1;
    for (let j = 0; j < i; j++) {
      const b = variables[j]!;
      const r = correlationOf(plan, a.name, b.name);
      const rho = Math.abs(r) < 1 ? scoreCorrelation(r, a.marginal, b.marginal) : null;
      if (rho === null)
        throw new StudyProblem(
          "impossible_correlation",
          { a: a.name, b: b.name, r },
          { variables: [a.name, b.name] },
        );
      matrix[i * q + j] = rho;
      matrix[j * q + i] = rho;
    }
  });
  if (q > 0 && !(choleskyInPlace(matrix, q, q) > 1e-9))
    throw new StudyProblem(
      "impossible_correlations",
      { names: variables.map((v) => v.name) },
      { variables: variables.map((v) => v.name) },
    );
  return matrix;
}
