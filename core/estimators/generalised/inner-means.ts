import { Phi, phi } from "../../numerics/distributions";
import { exp, ln } from "../../numerics/elementary";
import { tabledLogistic, WIDEST } from "./logistic-table";
import { familyOf, isBinary, isCount, type FamilyId } from "./families";

/**
 * The mean of an outcome over its mediator, for one row: E[g(a + b M)], M with linear predictor l
 * and, where it is normal, variance s2; and its derivatives. Formulas: VanderWeele 2015, and the
 * closed forms of the normal and Poisson distributions.
 */
export interface InnerMean {
  value: number;
  da: number;
  db: number;
  dl: number;
  ds: number;
}

export type InnerRule = (a: number, b: number, l: number, s2: number, out: InnerMean) => void;

export const innerMean = (): InnerMean => ({ value: 0, da: 0, db: 0, dl: 0, ds: 0 });

/** Nodes and weights of an equal-step rule for expectations over a standard normal variable. */
interface Steps {
  nodes: Float64Array;
  weights: Float64Array;
}

function equalSteps(step: number, reach: number): Steps {
  const count = 2 * Math.round(reach / step) + 1;
  const nodes = Float64Array.from({ length: count }, (_, i) => -reach + i * step);
  const weights = Float64Array.from(nodes, phi);
  const sum = weights.reduce((all, w) => all + w, 0);
  return { nodes, weights: weights.map((w) => w / sum) };
}

/** Error below 1e-10 for any slope; below 1e-6 for slopes up to 4, for resamples. */
const FINE = equalSteps(0.05, 9);
const COARSE = equalSteps(0.35, 7);
/** Rates from here on have first shares that are hardly above zero. */
const LARGE_RATE = 500;
/** What is left of a Poisson distribution where its sum is cut. */
const TAIL = 1e-14;
/** The same for resamples. */
const COARSE_TAIL = 1e-11;
/** Exponentials of less than this stay within the range of numbers. */
const APART = 600;

/**
 * The rule for a mediator and an outcome.
 * @param fine false, for resamples: the coarser integral, and values alone where derivatives cost
 *   more
 */
export function innerRule(mediator: FamilyId, outcome: FamilyId, fine = true): InnerRule {
  if (isBinary(mediator)) return overBinary(mediator, outcome, fine);
  if (isCount(mediator)) return overCounts(outcome, fine);
  switch (outcome) {
    case "linear":
      return linearLinear;
    case "probit":
      return normalProbit;
    case "poisson":
    case "negative_binomial":
      return normalPoisson;
    case "logistic":
      return fine ? normalLogistic(FINE) : normalLogisticValue;
  }
}

const linearLinear: InnerRule = (a, b, l, _, out) => {
  out.value = a + b * l;
  out.da = 1;
  out.db = l;
  out.dl = b;
  out.ds = 0;
};

const normalProbit: InnerRule = (a, b, l, s2, out) => {
  const eta = a + b * l;
  const q = Math.sqrt(1 + b * b * s2);
  const density = phi(eta / q);
  const cubed = q * q * q;
  out.value = Phi(eta / q);
  out.da = density / q;
  out.db = density * (l / q - (eta * b * s2) / cubed);
  out.dl = (density * b) / q;
  out.ds = (-density * eta * b * b) / (2 * cubed);
};

const normalPoisson: InnerRule = (a, b, l, s2, out) => {
  const value = exp(a + b * l + (b * b * s2) / 2);
  out.value = value;
  out.da = value;
  out.db = value * (l + b * s2);
  out.dl = value * b;
  out.ds = (value * b * b) / 2;
};

function normalLogistic({ nodes, weights }: Steps): InnerRule {
  return (a, b, l, s2, out) => {
    const eta = a + b * l;
    const sd = Math.sqrt(s2);
    let value = 0;
    let slope = 0;
    let tilted = 0;
    for (let k = 0; k < nodes.length; k++) {
      const t = nodes[k]!;
      const e = exp(-(eta + b * sd * t));
      const p = 1 / (1 + e);
      const d = weights[k]! * p * (1 - p);
      value += weights[k]! * p;
      slope += d;
      tilted += d * t;
    }
    out.value = value;
    out.da = slope;
    out.db = slope * l + sd * tilted;
    out.dl = b * slope;
    out.ds = sd > 0 ? (b * tilted) / (2 * sd) : 0;
  };
}

const steep = normalLogistic(equalSteps(0.1, 8));

/** The value alone, from a table where it reaches. */
const normalLogisticValue: InnerRule = (a, b, l, s2, out) => {
  const spread = Math.abs(b) * Math.sqrt(s2);
  if (spread < WIDEST) out.value = tabledLogistic(a + b * l, spread);
  else steep(a, b, l, s2, out);
};

/** Distance of the nodes of a table: cubic pieces between them are off by less than 1e-7. */
const TABLE_STEP = 0.125;

/**
 * Σ w E[expit(η + spread t)] over rows, t standard normal: the mean is found at nodes, and read
 * between them by cubics that have its values and slopes there.
 */
export function tabledLogisticSum(
  etas: Float64Array,
  weights: Float64Array,
  spread: number,
): number {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < etas.length; i++) {
    if (weights[i] === 0) continue;
    low = Math.min(low, etas[i]!);
    high = Math.max(high, etas[i]!);
  }
  const count = Math.ceil((high - low) / TABLE_STEP) + 2;
  const values = new Float64Array(count);
  const slopes = new Float64Array(count);
  const { nodes, weights: shares } = COARSE;
  for (let k = 0; k < nodes.length; k++) {
    // Neighbouring nodes of the table differ by a factor in their exponentials.
    const growth = exp(-TABLE_STEP);
    let e = exp(-(low + spread * nodes[k]!));
    for (let j = 0; j < count; j++) {
      const p = 1 / (1 + e);
      values[j] = values[j]! + shares[k]! * p;
      slopes[j] = slopes[j]! + shares[k]! * p * (1 - p);
      // Far below zero the exponential is beyond all numbers, and multiplying would not bring it
      // back.
      e = e === Infinity ? exp(-(low + TABLE_STEP * (j + 1) + spread * nodes[k]!)) : e * growth;
    }
  }
  let sum = 0;
  for (let i = 0; i < etas.length; i++) {
    const w = weights[i]!;
    if (w === 0) continue;
    const place = (etas[i]! - low) / TABLE_STEP;
    const j = Math.floor(place);
    const t = place - j;
    const u = 1 - t;
    sum +=
      w *
      (u * u * (1 + 2 * t) * values[j]! +
        t * t * (3 - 2 * t) * values[j + 1]! +
        TABLE_STEP * t * u * (u * slopes[j]! - t * slopes[j + 1]!));
  }
  return sum;
}

function overBinary(mediator: FamilyId, outcome: FamilyId, derivatives: boolean): InnerRule {
  const [m, y] = [familyOf(mediator), familyOf(outcome)];
  return (a, b, l, _, out) => {
    const share = m.mean(l);
    const without = y.mean(a);
    const within = y.mean(a + b);
    out.value = (1 - share) * without + share * within;
    if (!derivatives) return;
    const slope0 = y.slope(a);
    const slope1 = y.slope(a + b);
    out.da = (1 - share) * slope0 + share * slope1;
    out.db = share * slope1;
    out.dl = m.slope(l) * (within - without);
    out.ds = 0;
  };
}

/**
 * A logistic outcome over counts, the value alone: neighbouring counts differ by a factor in their
 * exponentials.
 */
function logisticOverCounts(a: number, b: number, rate: number): number {
  let share = exp(-rate);
  let e = exp(-a);
  const growth = exp(-b);
  let value = 0;
  let left = 1;
  for (let m = 0; m < 1e6; m++) {
    if (m > 0) {
      share *= rate / m;
      e *= growth;
    }
    value += share / (1 + e);
    left -= share;
    if ((left < COARSE_TAIL || share < COARSE_TAIL) && m > rate) break;
  }
  return value;
}

function overCounts(outcome: FamilyId, derivatives: boolean): InnerRule {
  const y = familyOf(outcome);
  return (a, b, l, _, out) => {
    const rate = exp(l);
    out.ds = 0;
    if (outcome === "linear") {
      out.value = a + b * rate;
      out.da = 1;
      out.db = rate;
      out.dl = b * rate;
      return;
    }
    if (isCount(outcome)) {
      const growth = exp(b);
      const value = exp(a + rate * (growth - 1));
      out.value = value;
      out.da = value;
      out.db = value * rate * growth;
      out.dl = value * rate * (growth - 1);
      return;
    }
    const held = Math.abs(a) + Math.abs(b) * (rate + 100) < APART;
    if (!derivatives && outcome === "logistic" && rate < LARGE_RATE && held) {
      out.value = logisticOverCounts(a, b, rate);
      return;
    }
    let [value, da, db, dl] = [0, 0, 0, 0];
    let left = 1;
    // Large rates begin where the first shares are too small to be held.
    let share = exp(-rate);
    let logShare = -rate;
    for (let m = 0; m < 1e6; m++) {
      if (m > 0 && rate < LARGE_RATE) share *= rate / m;
      else if (m > 0) {
        logShare += l - ln(m);
        share = exp(logShare);
      }
      const eta = a + b * m;
      const mean = y.mean(eta);
      value += share * mean;
      left -= share;
      if ((left < TAIL && m > rate) || (share < 1e-18 && m > rate + 40)) break;
      if (!derivatives) continue;
      const slope = y.slopeAt(eta, mean);
      da += share * slope;
      db += share * slope * m;
      dl += share * (m - rate) * mean;
    }
    out.value = value;
    out.da = da;
    out.db = db;
    out.dl = dl;
  };
}
