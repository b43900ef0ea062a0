import { countUntil } from "../numerics/sort";
import { ln } from "../numerics/elementary";
import { fisherQuantile, studentP, studentQuantile } from "../numerics/distributions";

/** A slope that is linear in a moderator: b1 + b3 (w - centre), with the covariance of the two. */
export interface LinearSlope {
  b1: number;
  b3: number;
  v11: number;
  v13: number;
  v33: number;
  /** Where the moderator is centred; the numbers above lose no digits that way. */
  centre: number;
  df: number;
}

export interface Region {
  from: number;
  to: number;
  significant: boolean;
  /** Sign of the slope at the middle of the region. */
  sign: number;
  /**
   * Per cent of the rows with a moderator value in (from, to], the first region with its left end.
   */
  percent: number;
}

/** Where a slope differs from zero along a moderator. */
export interface JohnsonNeyman {
  critical: number;
  /** Every boundary, ascending, also beyond the observed values. */
  rootsAll: number[];
  rootsInRange: number[];
  outcome: "two_roots" | "one_root" | "none_always" | "none_never";
  range: [number, number];
  regions: Region[];
  percentSignificant: number;
}

export interface FalseDiscovery extends JohnsonNeyman {
  gridPoints: number;
  kStar: number;
  criticalP: number;
}

/** The quadratic counts as linear when its leading coefficient is this small against its parts. */
const LINEAR = 1e-12;
const GRID = 101;
const FEW_VALUES = 20;

interface Observed {
  sorted: Float64Array;
  distinct: Float64Array;
}

const observed = new WeakMap<Float64Array, Observed>();

/**
 * The values of a moderator in order: found once, since many regions are read off the same column.
 */
function observedOf(values: Float64Array): Observed {
  let found = observed.get(values);
  if (!found) {
    const sorted = values.slice().sort();
    found = { sorted, distinct: sorted.filter((v, i) => i === 0 || v !== sorted[i - 1]) };
    observed.set(values, found);
  }
  return found;
}

/** Critical value for one value of the moderator at a time. */
export const pointwiseCritical = (df: number, level: number): number =>
  studentQuantile(1 - (1 - level) / 2, df);

/** Critical value that holds for all values together (Potthoff 1964, Psychometrika 29). */
export const simultaneousCritical = (df: number, level: number): number =>
  // Without residual degrees of freedom the F quantile is that of chi-squared with two, which is
  // exponential.
  Math.sqrt(df === Infinity ? -2 * ln(1 - level) : 2 * fisherQuantile(level, 2, df));

export const slopeAt = ({ b1, b3, centre }: LinearSlope, w: number): number =>
  b1 + b3 * (w - centre);
export function varianceAt({ v11, v13, v33, centre }: LinearSlope, w: number): number {
  const d = w - centre;
  return v11 + 2 * d * v13 + d * d * v33;
}

/**
 * Values of w at which |slope| is `critical` standard errors (Johnson & Neyman 1936), ascending.
 */
export function boundaries(
  { b1, b3, v11, v13, v33, centre }: LinearSlope,
  critical: number,
): number[] {
  const c2 = critical * critical;
  const A = b3 * b3 - c2 * v33;
  const B = 2 * (b1 * b3 - c2 * v13);
  const C = b1 * b1 - c2 * v11;
  if (Math.abs(A) <= LINEAR * (b3 * b3 + c2 * v33)) return B === 0 ? [] : [centre - C / B];
  const D = B * B - 4 * A * C;
  if (!(D > 0)) return [];
  if (B === 0) {
    const root = Math.sqrt(-C / A);
    return [centre - root, centre + root];
  }
  const q = -(B + Math.sign(B) * Math.sqrt(D)) / 2;
  return [centre + q / A, centre + C / q].sort((a, b) => a - b);
}

/**
 * Regions of significance within the observed range.
 * @param values the moderator in the rows of the analysis
 */
export function johnsonNeyman(
  slope: LinearSlope,
  critical: number,
  values: Float64Array,
): JohnsonNeyman {
  const { sorted } = observedOf(values);
  const [min, max] = [sorted[0]!, sorted.at(-1)!];
  const rootsAll = boundaries(slope, critical);
  const rootsInRange = rootsAll.filter((w) => w >= min && w <= max);
  const edges = [min, ...rootsInRange, max];
  const regions = edges.slice(1).map((to, i): Region => {
    const from = edges[i]!;
    const middle = (from + to) / 2;
    const estimate = slopeAt(slope, middle);
    const before = i === 0 ? 0 : countUntil(sorted, (v) => v > from);
    const inside = countUntil(sorted, (v) => v > to) - before;
    return {
      from,
      to,
      significant: Math.abs(estimate) >= critical * Math.sqrt(varianceAt(slope, middle)),
      sign: Math.sign(estimate),
      percent: (100 * inside) / values.length,
    };
  });
  const none = regions.every((r) => r.significant) ? "none_always" : "none_never";
  return {
    critical,
    rootsAll,
    rootsInRange,
    outcome:
      rootsInRange.length === 2 ? "two_roots" : rootsInRange.length === 1 ? "one_root" : none,
    range: [min, max],
    regions,
    percentSignificant: regions.reduce((sum, r) => sum + (r.significant ? r.percent : 0), 0),
  };
}

/**
 * The same with the share of false discoveries on a grid of values held down (after Esarey & Sumner
 * 2018, Comp Polit Stud 51).
 */
export function falseDiscovery(
  slope: LinearSlope,
  level: number,
  values: Float64Array,
): FalseDiscovery {
  const alpha = 1 - level;
  const { distinct } = observedOf(values);
  const [min, max] = [distinct[0]!, distinct.at(-1)!];
  const grid =
    distinct.length <= FEW_VALUES
      ? [...distinct]
      : Array.from({ length: GRID }, (_, i) => min + ((max - min) * i) / (GRID - 1));
  const m = grid.length;
  const p = grid
    .map((w) => studentP(slopeAt(slope, w) / Math.sqrt(varianceAt(slope, w)), slope.df))
    .sort((a, b) => a - b);
  let kStar = 0;
  p.forEach((value, i) => {
    if (value <= ((i + 1) * alpha) / m) kStar = i + 1;
  });
  const criticalP = (Math.max(1, kStar) * alpha) / m;
  const found = johnsonNeyman(slope, studentQuantile(1 - criticalP / 2, slope.df), values);
  // Without any discovery nothing is significant, whatever the quadratic says between grid points.
  const nothing = kStar === 0;
  const regions = nothing
    ? [
        {
          from: min,
          to: max,
          significant: false,
          sign: Math.sign(slopeAt(slope, (min + max) / 2)),
          percent: 100,
        },
      ]
    : found.regions;
  return {
    ...found,
    ...(nothing ? { rootsInRange: [], outcome: "none_never" as const, percentSignificant: 0 } : {}),
    regions,
    gridPoints: m,
    kStar,
    criticalP,
  };
}
