import { normalP, Phi, phi, zQuantile } from "../numerics/distributions";
import { mean, standardDeviation } from "../numerics/moments";
import { quantile6 } from "../numerics/quantile";
import { quantilesOf } from "../numerics/select";
import { countUntil, sortedCopy } from "../numerics/sort";
import { adjustedTail, type Adjustment } from "./adjustment";
import { bootstrapP } from "./bootstrap-p";
import type { BootstrapInterval, BootstrapSummary, IntervalInput } from "./interval-types";

/**
 * Beyond this share of failed fits, or of fitted replicates without a finite value, a quantity has
 * no limits: what is left of the resamples is no sample of them.
 */
export const MOST_MISSING = 0.1;

/**
 * Every bootstrap interval of one quantity. Sources: Efron 1987 (JASA 82), DiCiccio & Efron 1996 (Stat Sci 11),
 * Efron & Tibshirani 1993 chapters 12-14; quantiles of type 6.
 */
export function bootstrapSummary(input: IntervalInput): BootstrapSummary {
  const { estimate, replicates, level } = input;
  const nullValue = input.nullValue ?? 0;
  const B = replicates.length;
  const sorted = input.sorted ?? sortedCopy(replicates);
  const alpha = 1 - level;
  const se = B > 1 ? standardDeviation(replicates) : null;
  const bias = mean(replicates) - estimate;
  const below = sortedShareBelow(sorted, estimate);
  const z0 = below > 0 && below < 1 ? zQuantile(below) : null;
  const { acceleration, zero } = accelerationOf(input.jackknife, input.strata);
  const missing = input.missing ?? 0;
  const available = missing <= MOST_MISSING * (B + missing) && (input.failed ?? 0) <= MOST_MISSING;
  const make = (method: Adjustment): BootstrapInterval | null =>
    available ? interval(sorted, alpha, nullValue, below, method) : null;
  const percentile = make({ kind: "percentile" });
  return {
    used: B,
    missing,
    se,
    bias,
    below,
    z0,
    acceleration,
    accelerationZero: zero,
    percentile,
    bc: z0 === null ? null : make({ kind: "bc", z0 }),
    bca: z0 === null || acceleration === null ? null : make({ kind: "bca", z0, a: acceleration }),
    basic: available ? mirrored(percentile!, sorted, estimate, nullValue) : null,
    normal:
      available && se !== null ? normalInterval(estimate - bias, se, B, alpha, nullValue) : null,
    bootstrapT: available ? studentised(input, alpha, nullValue) : null,
  };
}

/** The percentile interval of sorted values: also of draws of another kind than resamples. */
export const percentileOf = (
  sorted: Float64Array,
  alpha: number,
  nullValue = 0,
): BootstrapInterval => interval(sorted, alpha, nullValue, 0.5, { kind: "percentile" })!;

/** The percentile interval mirrored at the estimate: its lower limit comes from the upper quantile, its p from where the mirrored null lies. */
function mirrored(
  of: BootstrapInterval,
  sorted: Float64Array,
  estimate: number,
  nullValue: number,
): BootstrapInterval {
  const { pTwoSided, pGreater, pLess, pIsBound } = bootstrapP(sorted, 2 * estimate - nullValue, {
    kind: "percentile",
  });
  const limits = {
    lower: 2 * estimate - of.upper,
    upper: 2 * estimate - of.lower,
    mcseLower: of.mcseUpper,
    mcseUpper: of.mcseLower,
  };
  return {
    ...limits,
    adjusted: of.adjusted,
    oneSidedLower: 2 * estimate - of.oneSidedUpper,
    oneSidedUpper: 2 * estimate - of.oneSidedLower,
    mcseOneSidedLower: of.mcseOneSidedUpper,
    mcseOneSidedUpper: of.mcseOneSidedLower,
    beyond: of.beyond && [of.beyond[1], of.beyond[0]],
    beyondOneSided: of.beyondOneSided && [of.beyondOneSided[1], of.beyondOneSided[0]],
    tooFewReplicates: of.tooFewReplicates,
    ...settled(limits, nullValue, sorted.length),
    pTwoSided,
    pGreater: pLess,
    pLess: pGreater,
    pIsBound,
  };
}

/** A falling function of sorted values, sorted again. */
function reversed(sorted: Float64Array, f: (t: number) => number): Float64Array {
  const out = new Float64Array(sorted.length);
  for (let i = 0; i < out.length; i++) out[i] = f(sorted[out.length - 1 - i]!);
  return out;
}

/** Limits from the normal distribution with the bootstrap's bias and SE; the error of both makes the limits' Monte Carlo error. */
function normalInterval(
  centre: number,
  se: number,
  B: number,
  alpha: number,
  nullValue: number,
): BootstrapInterval {
  const z = zQuantile(1 - alpha / 2);
  const oneSided = zQuantile(1 - alpha);
  const error = (reach: number): number => (Math.sqrt(1 + (reach * reach) / 2) * se) / Math.sqrt(B);
  const score = (centre - nullValue) / se;
  const limits = {
    lower: centre - z * se,
    upper: centre + z * se,
    mcseLower: error(z),
    mcseUpper: error(z),
  };
  return {
    ...limits,
    adjusted: [alpha / 2, 1 - alpha / 2],
    oneSidedLower: centre - oneSided * se,
    oneSidedUpper: centre + oneSided * se,
    mcseOneSidedLower: error(oneSided),
    mcseOneSidedUpper: error(oneSided),
    beyond: null,
    beyondOneSided: null,
    tooFewReplicates: false,
    ...settled(limits, nullValue, B),
    pTwoSided: normalP(score),
    pGreater: Phi(-score),
    pLess: Phi(score),
    pIsBound: false,
  };
}

/** Does the limit nearer the null lie within two Monte Carlo errors of it, and how many replicates would settle that? */
function settled(
  {
    lower,
    upper,
    mcseLower,
    mcseUpper,
  }: Pick<BootstrapInterval, "lower" | "upper" | "mcseLower" | "mcseUpper">,
  nullValue: number,
  B: number,
): Pick<BootstrapInterval, "unsettled" | "suggested"> {
  const nearerLower = Math.abs(lower - nullValue) <= Math.abs(upper - nullValue);
  const distance = Math.abs((nearerLower ? lower : upper) - nullValue);
  const error = nearerLower ? mcseLower : mcseUpper;
  const unsettled = distance <= 2 * error && error > 0;
  return {
    unsettled,
    suggested: unsettled && distance > 0 ? replicatesToSettle(B, error, distance) : null,
  };
}

/** Replicates after which a limit at this distance from the null would be two Monte Carlo errors away from it. */
export const replicatesToSettle = (B: number, error: number, distance: number): number =>
  Math.ceil(B * ((2 * error) / distance) ** 2);

export type Limits = [lower: number, upper: number];

/**
 * Only the limits of the intervals that read sorted replicates: for bands, which need nothing else of many quantities.
 */
export function bootstrapLimits({
  estimate,
  replicates,
  jackknife,
  strata,
  level,
}: IntervalInput): Record<"percentile" | "bc" | "bca", Limits | null> {
  const below = shareBelow(replicates, estimate);
  const z0 = below > 0 && below < 1 ? zQuantile(below) : null;
  const { acceleration } = accelerationOf(jackknife, strata);
  const tails = (method: Adjustment): number[] => {
    const found = [(1 - level) / 2, (1 + level) / 2].flatMap((q) => adjustedTail(q, method) ?? []);
    return found.length === 2 ? found : [];
  };
  const wanted = [
    tails({ kind: "percentile" }),
    z0 === null ? [] : tails({ kind: "bc", z0 }),
    z0 === null || acceleration === null ? [] : tails({ kind: "bca", z0, a: acceleration }),
  ];
  const found = quantilesOf(replicates, wanted.flat());
  const [percentile, bc, bca] = wanted.map((pair): Limits | null =>
    pair.length === 2 ? [found.shift()!, found.shift()!] : null,
  );
  return { percentile: percentile!, bc: bc!, bca: bca! };
}

function interval(
  sorted: Float64Array,
  alpha: number,
  nullValue: number,
  below: number,
  method: Adjustment,
): BootstrapInterval | null {
  const B = sorted.length;
  const tails = [alpha / 2, 1 - alpha / 2, alpha, 1 - alpha].map((q) => adjustedTail(q, method));
  if (tails.some((t) => t === null)) return null;
  const [low, high, oneLow, oneHigh] = tails as [number, number, number, number];
  const lower = quantile6(sorted, low);
  const upper = quantile6(sorted, high);
  const mcseLower = limitError(sorted, low, alpha / 2, below, method);
  const mcseUpper = limitError(sorted, high, 1 - alpha / 2, below, method);
  const outside = (q: number): boolean => q < 1 / (B + 1) || q > B / (B + 1);
  return {
    lower,
    upper,
    adjusted: [low, high],
    oneSidedLower: quantile6(sorted, oneLow),
    oneSidedUpper: quantile6(sorted, oneHigh),
    mcseLower,
    mcseUpper,
    mcseOneSidedLower: limitError(sorted, oneLow, alpha, below, method),
    mcseOneSidedUpper: limitError(sorted, oneHigh, 1 - alpha, below, method),
    beyond: [low * (B + 1), (1 - high) * (B + 1)],
    beyondOneSided: [oneLow * (B + 1), (1 - oneHigh) * (B + 1)],
    tooFewReplicates: outside(low) || outside(high),
    ...settled({ lower, upper, mcseLower, mcseUpper }, nullValue, B),
    ...bootstrapP(sorted, nullValue, method),
  };
}

/**
 * Monte Carlo error of a limit by the delta method; z0 is itself estimated from the same replicates.
 * @param r adjusted probability; @param q nominal tail
 */
function limitError(
  sorted: Float64Array,
  r: number,
  q: number,
  below: number,
  method: Adjustment,
): number {
  const B = sorted.length;
  let k = 0;
  if (method.kind === "bc") k = (2 * phi(2 * method.z0 + zQuantile(q))) / phi(method.z0);
  if (method.kind === "bca") {
    const w = method.z0 + zQuantile(q);
    const d = 1 - method.a * w;
    k = (phi(method.z0 + w / d) * (1 + 1 / (d * d))) / phi(method.z0);
  }
  const variance =
    (k * k * below * (1 - below) + r * (1 - r) - 2 * k * (Math.min(below, r) - below * r)) / B;
  const spread = Math.sqrt(Math.max(0, variance));
  const up = quantile6(sorted, Math.min(r + spread, B / (B + 1)));
  const down = quantile6(sorted, Math.max(r - spread, 1 / (B + 1)));
  return (up - down) / 2;
}

/** Replicates this near to the estimate, in shares of the largest number among them, tie with it. */
const TIE = 1e-12;

/** Share of replicates below the estimate, ties counted half. */
function shareBelow(replicates: Float64Array, estimate: number): number {
  let largest = Math.abs(estimate);
  for (let i = 0; i < replicates.length; i++) {
    const size = Math.abs(replicates[i]!);
    if (size > largest) largest = size;
  }
  const tie = TIE * largest;
  let below = 0;
  let upTo = 0;
  for (let i = 0; i < replicates.length; i++) {
    const d = replicates[i]! - estimate;
    if (d < -tie) below += 1;
    if (d <= tie) upTo += 1;
  }
  return (below + upTo) / 2 / replicates.length;
}

/** The same of sorted replicates, by bisection. */
function sortedShareBelow(sorted: Float64Array, estimate: number): number {
  const tie = TIE * Math.max(Math.abs(estimate), Math.abs(sorted[0]!), Math.abs(sorted.at(-1)!));
  const below = countUntil(sorted, (t) => t - estimate >= -tie);
  const upTo = countUntil(sorted, (t) => t - estimate > tie);
  return (below + upTo) / 2 / sorted.length;
}

/** With strata the values are centred within each, since rows of one stratum never stand for those of another. */
function accelerationOf(
  jackknife: ArrayLike<number>,
  strata?: ArrayLike<number> | null,
): { acceleration: number | null; zero: boolean } {
  if (jackknife.length === 0) return { acceleration: null, zero: false };
  const centres = strata ? stratumMeans(jackknife, strata) : null;
  const centre = centres ? 0 : mean(jackknife);
  let squares = 0;
  let cubes = 0;
  for (let i = 0; i < jackknife.length; i++) {
    const d = (centres ? centres.get(strata![i]!)! : centre) - jackknife[i]!;
    squares += d * d;
    cubes += d * d * d;
  }
  return squares === 0
    ? { acceleration: 0, zero: true }
    : { acceleration: cubes / (6 * squares * Math.sqrt(squares)), zero: false };
}

function stratumMeans(values: ArrayLike<number>, strata: ArrayLike<number>): Map<number, number> {
  const groups = new Map<number, number[]>();
  for (let i = 0; i < values.length; i++) {
    const group = groups.get(strata[i]!);
    if (group) group.push(values[i]!);
    else groups.set(strata[i]!, [values[i]!]);
  }
  return new Map([...groups].map(([stratum, list]) => [stratum, mean(list)]));
}

/** Mirrored quantiles of the studentised replicates: the percentile interval of estimate - t se. */
function studentised(
  { estimate, replicates, se, replicateSe }: IntervalInput,
  alpha: number,
  nullValue: number,
): BootstrapInterval | null {
  if (se === undefined || replicateSe === undefined) return null;
  // A resample whose own error is not known, or nothing, has no t.
  const t = replicates
    .map((value, i) => (value - estimate) / replicateSe[i]!)
    .filter(Number.isFinite)
    .sort();
  if (t.length === 0) return null;
  return percentileOf(
    reversed(t, (value) => estimate - value * se),
    alpha,
    nullValue,
  );
}
