import { choleskyInPlace, choleskySolveInPlace } from "../../numerics/cholesky";
import type { Estimates } from "./estimates";
import type { TheoryModel } from "./theory-model";

/**
 * Regression factor scores (Thurstone 1935): the expected value of each latent variable given what
 * was observed of a case. They stand for points in pictures, never for data: they vary less than
 * the latent variable does.
 * @returns by latent variable, in the order of the sample's rows; NaN where nothing was observed
 */
export function factorScores(
  model: TheoryModel,
  { fitted, moderated }: Estimates,
): Map<string, Float64Array> {
  const { observed, latent } = fitted.spec;
  const p = observed.length;
  const scores = new Map(
    latent.map((name) => [name, new Float64Array(model.grouping.of.length).fill(NaN)]),
  );
  const values = model.rowMajor(fitted);
  model.patternsOfRows(fitted).forEach((patterns, g) => {
    const implied = fitted.implied[g]!;
    const { E, v } = moderated
      ? { E: moderated.likelihood.implied(moderated.theta).E, v: implied.v }
      : implied;
    for (const { indices, rows } of patterns) {
      const k = indices.length;
      const L = new Float64Array(k * k);
      for (let i = 0; i < k; i++)
        for (let j = 0; j < k; j++) L[i * k + j] = E[indices[i]! * v + indices[j]!]!;
      if (!(choleskyInPlace(L, k, k) > 0)) continue;
      latent.forEach((name, f) => {
        const weights = Float64Array.from(indices, (i) => E[(p + f) * v + i]!);
        choleskySolveInPlace(L, k, k, weights);
        const out = scores.get(name)!;
        for (const row of rows) {
          let sum = fitted.spec.means ? implied.means[p + f]! : 0;
          for (let i = 0; i < k; i++) {
            const mean = fitted.spec.means ? implied.means[indices[i]!]! : 0;
            sum += weights[i]! * (values[row * p + indices[i]!]! - mean);
          }
          out[row] = sum;
        }
      });
    }
  });
  return scores;
}
