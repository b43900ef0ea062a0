import { atanh, tanh } from "../numerics/elementary";

/** Slope of a log-likelihood per case, and the information of one case, at a correlation. */
export interface Slope {
  score: number;
  information: number;
}

export interface FoundCorrelation {
  r: number;
  /** Expected information per case there. */
  information: number;
}

const CLOSE = 1e-13;
/** Good enough where rounding hinders more. */
const ENOUGH = 1e-10;
const MOST_STEPS = 100;
/** atanh of a correlation so near one that nothing is left to find. */
const FARTHEST = 9;
/** A slope beyond that is none of a maximum. */
const FOUND = 1e-8;
/** Less information per case than that at the end: the likelihood has no maximum inside. */
const NO_MAXIMUM = 1e-6;

/**
 * Climbs a likelihood of one correlation on atanh r: a Fisher step, then steps by the secant of the
 * slope, kept between the points where the slope is known to turn.
 * @param at the slope in r, per case
 * @param start where to begin
 * @param close where to stop, as a slope
 * @returns null where there is no maximum inside (-1, 1)
 */
export function climbCorrelation(
  at: (r: number) => Slope,
  start: number,
  close = CLOSE,
): FoundCorrelation | null {
  let z = atanh(Math.max(-0.95, Math.min(0.95, Number.isFinite(start) ? start : 0)));
  let low = -FARTHEST;
  let high = FARTHEST;
  let best = { r: 0, information: 0, score: Infinity };
  let before = { z: NaN, slope: NaN };
  for (let step = 0; step < MOST_STEPS; step++) {
    const r = tanh(z);
    const { score, information } = at(r);
    const size = Math.abs(score);
    const better = size < Math.abs(best.score);
    if (better) best = { r, information, score };
    if (size < close || (size < ENOUGH && !better)) break;
    if (score > 0) low = z;
    else high = z;
    if (high - low < 1e-15 * (1 + Math.abs(z))) break;
    const turned = 1 - r * r;
    const slope = score * turned;
    const secant = (slope - before.slope) / (z - before.z);
    const fisher = -information * turned * turned;
    // Where the secant says nothing of a maximum, or far too little, the information does.
    const next = z - slope / (secant < 0.2 * fisher && secant > 5 * fisher ? secant : fisher);
    before = { z, slope };
    z = next > low && next < high ? next : (low + high) / 2;
  }
  return Math.abs(best.score) < Math.max(FOUND, close) &&
    best.information > NO_MAXIMUM &&
    Math.abs(best.r) < 1 - 1e-7
    ? { r: best.r, information: best.information }
    : null;
}
