import { exp } from "./elementary";
import gammainc from "@stdlib/math-base-special-gammainc";
import fCdf from "@stdlib/stats-base-dists-f-cdf";
import fQuantile from "@stdlib/stats-base-dists-f-quantile";
import normalCdf from "@stdlib/stats-base-dists-normal-cdf";
import normalQuantile from "@stdlib/stats-base-dists-normal-quantile";
import tCdf from "@stdlib/stats-base-dists-t-cdf";
import tQuantile from "@stdlib/stats-base-dists-t-quantile";

/** Standard normal distribution function. */
export const Phi = (z: number): number => normalCdf(z, 0, 1);

/** Standard normal density. */
export const phi = (z: number): number => exp(-0.5 * z * z) / Math.sqrt(2 * Math.PI);

/** Standard normal quantile; -Infinity at 0 and Infinity at 1. */
export const zQuantile = (p: number): number => normalQuantile(p, 0, 1);

/** Quantile of Student's t with `df` degrees of freedom. */
export const studentQuantile = (p: number, df: number): number =>
  df === Infinity ? zQuantile(p) : tQuantile(p, df);

/** Quantile of the F distribution. */
export const fisherQuantile = (p: number, df1: number, df2: number): number =>
  fQuantile(p, df1, df2);

/** Two-sided p of a t statistic; taken in the lower tail, where no digits are lost. */
export const studentP = (t: number, df: number): number =>
  df === Infinity ? normalP(t) : 2 * tCdf(-Math.abs(t), df);

/** Two-sided p of a z statistic. */
export const normalP = (z: number): number => 2 * Phi(-Math.abs(z));

/** Upper tail of F, through F(1/f; df2, df1), which keeps the digits of a small p. */
export const fisherP = (f: number, df1: number, df2: number): number =>
  f <= 0 ? 1 : fCdf(1 / f, df2, df1);

/** Upper tail of the chi-squared distribution. */
export const chiSquaredP = (x: number, df: number): number =>
  x <= 0 ? 1 : gammainc(x / 2, df / 2, true, true);
