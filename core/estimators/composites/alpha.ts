/**
 * Coefficient alpha of a block (Cronbach 1951), raw and from correlations.
 * @param r correlations, row-major, `p` wide; @param sds of the columns; the block is from .. to -
 *   1
 * @returns raw alpha null where the items cancel exactly
 */
export function alphaOf(
  r: Float64Array,
  sds: Float64Array,
  p: number,
  from: number,
  to: number,
): { alpha: number | null; standardisedAlpha: number | null } {
  const k = to - from;
  let [own, all, ones] = [0, 0, 0];
  for (let i = from; i < to; i++)
    for (let j = from; j < to; j++) {
      const covariance = r[i * p + j]! * sds[i]! * sds[j]!;
      all += covariance;
      ones += r[i * p + j]!;
      if (i === j) own += covariance;
    }
  const of = (variances: number, total: number): number | null =>
    total <= 1e-12 * variances ? null : (k / (k - 1)) * (1 - variances / total);
  return { alpha: of(own, all), standardisedAlpha: of(k, ones) };
}
