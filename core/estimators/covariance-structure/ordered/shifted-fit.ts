import { comparativeFit, type ComparativeFit, type FitSize, type Statistic } from "../fit-measures";
import { inner, times } from "../moment-objective";
import { projection, solved } from "./projection";
import { inverseAmong, type StagedMoments } from "./weights";

/** Traces of U Gamma and of its square. */
export interface Traces {
  first: number;
  second: number;
}

/**
 * A statistic scaled and shifted so that mean and variance are those of a chi-squared variable with
 * its own degrees of freedom (Asparouhov & Muthen 2010).
 */
export interface ShiftedFit extends ComparativeFit {
  scale: number;
  shift: number;
  traces: Traces;
  /** The statistic divided by the mean of its weights instead. */
  meanAdjusted: { scaling: number; chi2: number; p: number };
}

/** a T + b with a = sqrt(df / t2), b = df - sqrt(df t1^2 / t2). */
export function shiftOf({ first, second }: Traces, df: number): { scale: number; shift: number } {
  return {
    scale: Math.sqrt(df / second),
    shift: df - Math.sqrt((df * first * first) / second),
  };
}

/** Traces of U Gamma; null where D'WD is singular. */
export function tracesOf(
  group: StagedMoments,
  columns: readonly (Float64Array | null)[],
): Traces | null {
  const UG = unexplained(group, columns);
  return UG && tracesIn(UG, group.moments.length);
}

/**
 * U Gamma with U = W - W D (D'WD)^-1 D'W.
 * @param columns of D; null where a parameter changes nothing
 * @returns null where D'WD is singular
 */
export function unexplained(
  group: StagedMoments,
  columns: readonly (Float64Array | null)[],
): Float64Array | null {
  const found = projection(group, columns);
  if (!found) return null;
  const { gamma, weight } = group;
  const { WD } = found;
  const m = group.moments.length;
  const UG = new Float64Array(m * m);
  const column = new Float64Array(m);
  for (let j = 0; j < m; j++) {
    for (let i = 0; i < m; i++) column[i] = gamma[i * m + j]!;
    const turned = times(weight, column);
    const taken = solved(
      found,
      WD.map((own) => inner(own, column)),
    );
    taken.forEach((share, k) => {
      if (share === 0) return;
      const own = WD[k]!;
      for (let i = 0; i < m; i++) turned[i] = turned[i]! - own[i]! * share;
    });
    for (let i = 0; i < m; i++) UG[i * m + j] = turned[i]!;
  }
  return UG;
}

export function tracesIn(UG: Float64Array, m: number): Traces {
  let first = 0;
  let second = 0;
  for (let i = 0; i < m; i++) {
    first += UG[i * m + i]!;
    for (let j = 0; j < m; j++) second += UG[i * m + j]! * UG[j * m + i]!;
  }
  return { first, second };
}

/** Nothing correlates, thresholds, means and variances are the sample's own; same weights. */
export function baselineOf(
  group: StagedMoments,
  p: number,
  full: boolean,
): { statistic: Statistic; traces: Traces } | null {
  const { moments, gamma, counted, n } = group;
  const m = counted.length;
  const off = counted.slice();
  off.fill(0, 0, p);
  for (let i = 0; i < p; i++) off[p + i * p - (i * (i - 1)) / 2] = 0;
  const weight = full ? inverseAmong(gamma, off) : group.weight.map((w, a) => (off[a] ? w : 0));
  if (!weight) return null;
  const r = moments.map((value, a) => (off[a] ? value : 0));
  const UG = new Float64Array(m * m);
  const column = new Float64Array(m);
  for (let j = 0; j < m; j++) {
    for (let i = 0; i < m; i++) column[i] = gamma[i * m + j]!;
    times(weight, column).forEach((value, i) => (UG[i * m + j] = value));
  }
  const df = (p * (p - 1)) / 2;
  return { statistic: { chi2: n * inner(r, times(weight, r)), df }, traces: tracesIn(UG, m) };
}

/** @returns null without degrees of freedom */
export function shiftedFit(
  own: Statistic,
  traces: Traces,
  baseline: { statistic: Statistic; traces: Traces },
  size: FitSize,
  pOf: (chi2: number, df: number) => number,
): ShiftedFit | null {
  if (own.df === 0) return null;
  const { scale, shift } = shiftOf(traces, own.df);
  const other = shiftOf(baseline.traces, baseline.statistic.df);
  const fit = comparativeFit(
    { chi2: scale * own.chi2 + shift, df: own.df },
    {
      chi2: other.scale * baseline.statistic.chi2 + other.shift,
      df: baseline.statistic.df,
    },
    size,
  );
  const scaling = traces.first / own.df;
  const adjusted = own.chi2 / scaling;
  return {
    ...fit,
    scale,
    shift,
    traces,
    meanAdjusted: { scaling, chi2: adjusted, p: pOf(adjusted, own.df) },
  };
}
