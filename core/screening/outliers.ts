import { inUnitOf, powerOf, timesPower } from "../numerics/unit";
import { median } from "./describe";

/** 1 / Phi^-1(0.75): makes the median absolute deviation of a normal variable its SD. */
const MAD_TO_SD = 1.482602218505602;
/** Iglewicz & Hoaglin (1993), How to detect and handle outliers. */
const FLAG = 3.5;

export interface RobustOutliers {
  median: number | null;
  mad: number | null;
  /**
   * Which spread the z values rest on; `none` when half the values and more are equal and the rest
   * too.
   */
  rule: "mad" | "mean_absolute_deviation" | "none";
  scale: number | null;
  /** Positions (0-based here; data rows from 1 in the evidence) with |z| > 3.5, and their z. */
  rows: number[];
  z: number[];
}

/**
 * Outliers by the robust z: distance from the median in units of the scaled median absolute
 * deviation, or of the scaled mean absolute deviation where more than half the values are equal.
 * @param values NaN where missing
 */
export function robustOutliers(values: Float64Array): RobustOutliers {
  const power = powerOf(values);
  if (power !== 0) {
    const { median: m, mad, scale, ...rest } = robustOutliers(inUnitOf(values, power));
    const back = (v: number | null): number | null => v && timesPower(v, power);
    return { ...rest, median: back(m), mad: back(mad), scale: back(scale) };
  }
  const x = values.filter((v) => !Number.isNaN(v));
  if (x.length === 0)
    return { median: null, mad: null, rule: "none", scale: null, rows: [], z: [] };
  const centre = median(x);
  const distances = x.map((v) => Math.abs(v - centre));
  const mad = median(distances);
  const meanDistance = distances.reduce((a, b) => a + b, 0) / x.length;
  const rule = mad > 0 ? "mad" : meanDistance > 0 ? "mean_absolute_deviation" : "none";
  const scale =
    rule === "mad"
      ? MAD_TO_SD * mad
      : rule === "none"
        ? null
        : meanDistance * Math.sqrt(Math.PI / 2);
  const rows: number[] = [];
  const z: number[] = [];
  if (scale !== null) {
    values.forEach((v, i) => {
      const at = (v - centre) / scale;
      if (!(Math.abs(at) > FLAG)) return;
      rows.push(i);
      z.push(at);
    });
  }
  return { median: centre, mad, rule, scale, rows, z };
}
