import { pow } from "../../numerics/elementary";
import { determinant, Matrix } from "ml-matrix";
import type { EquationFit } from "./fit";

/**
 * Generalised variance inflation of several columns together, such as the codes of one factor: det
 * R11 det R22 / det R, the same for every coding (Fox & Monette 1992, JASA 87); per dimension
 * GVIF^(1 / (2 df)), comparable with the square root of a single column's VIF.
 * @param positions of the columns, intercept = 0
 */
export function generalisedVif(
  fit: EquationFit,
  positions: number[],
): { gvif: number | null; gvifPerDimension: number | null } {
  const k = fit.equation.columns.length;
  if (!fit.vif.every(Number.isFinite)) return { gvif: null, gvifPerDimension: null };
  const { r } = fit.factor;
  const correlation = Matrix.zeros(k, k);
  for (let i = 0; i < k; i++) {
    for (let j = 0; j < k; j++) {
      let sum = 0;
      for (let m = 0; m <= Math.min(i, j); m++) sum += r[m * k + i]! * r[m * k + j]!;
      correlation.set(i, j, sum);
    }
  }
  const own = positions.map((at) => at - 1);
  const rest = Array.from({ length: k }, (_, j) => j).filter((j) => !own.includes(j));
  const part = (list: number[]): number =>
    list.length === 0 ? 1 : determinant(correlation.selection(list, list));
  const gvif = (part(own) * part(rest)) / determinant(correlation);
  return Number.isFinite(gvif)
    ? { gvif, gvifPerDimension: pow(gvif, 1 / (2 * own.length)) }
    : { gvif: null, gvifPerDimension: null };
}
