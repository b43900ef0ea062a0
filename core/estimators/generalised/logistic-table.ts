import { phi } from "../../numerics/distributions";
import { exp } from "../../numerics/elementary";

/**
 * Distance of the nodes, of the mean and of the spread alike: third-degree pieces between them are
 * off by less than 1e-7.
 */
const STEP = 0.05;
/** From here on the mean is one, to 1e-8, with any spread that the table has. */
const FURTHEST = 24;
/** The widest spread of the table. */
export const WIDEST = 4;
/** Nodes beyond either end, so that every piece has two to each side. */
const MARGIN = 2;
/** The equal-step rule that the table is made by: off by less than 1e-9 for these spreads. */
const NODE_STEP = 0.2;
const REACH = 8;

const ROWS = Math.round(WIDEST / STEP) + 1 + 2 * MARGIN;
const COLUMNS = Math.round(FURTHEST / STEP) + 1 + 2 * MARGIN;

let table: Float64Array | null = null;

/** E[expit(η + spread t)] at every node, spreads by rows; made when first asked for. */
function made(): Float64Array {
  const out = new Float64Array(ROWS * COLUMNS);
  const growth = exp(-STEP);
  let total = 0;
  for (let t = -REACH; t <= REACH + 1e-9; t += NODE_STEP) total += phi(t);
  for (let t = -REACH; t <= REACH + 1e-9; t += NODE_STEP) {
    const share = phi(t) / total;
    for (let s = 0; s < ROWS; s++) {
      // Nodes before the first have the spread below zero: the mean is the same as above it.
      let e = exp(MARGIN * STEP - (s - MARGIN) * STEP * t);
      for (let j = 0; j < COLUMNS; j++) {
        out[s * COLUMNS + j] = out[s * COLUMNS + j]! + share / (1 + e);
        e *= growth;
      }
    }
  }
  return out;
}

/**
 * Weights of the four nodes around a place between the second and the third (Lagrange), written to
 * `out`.
 */
function weigh(t: number, out: Float64Array): void {
  out[0] = (-t * (t - 1) * (t - 2)) / 6;
  out[1] = ((t + 1) * (t - 1) * (t - 2)) / 2;
  out[2] = (-(t + 1) * t * (t - 2)) / 2;
  out[3] = ((t + 1) * t * (t - 1)) / 6;
}

const across = new Float64Array(4);
const down = new Float64Array(4);

/**
 * E[expit(η + spread t)], t standard normal, read from a table: off by less than 1e-7.
 * @param spread from zero to `WIDEST`
 */
export function tabledLogistic(eta: number, spread: number): number {
  const size = Math.abs(eta);
  if (size >= FURTHEST) return eta > 0 ? 1 : 0;
  table ??= made();
  const x = size / STEP;
  const y = spread / STEP;
  const [i, j] = [Math.floor(y), Math.floor(x)];
  weigh(x - j, across);
  weigh(y - i, down);
  let at = (i + MARGIN - 1) * COLUMNS + j + MARGIN - 1;
  let value = 0;
  for (let r = 0; r < 4; r++) {
    value +=
      down[r]! *
      (across[0]! * table[at]! +
        across[1]! * table[at + 1]! +
        across[2]! * table[at + 2]! +
        across[3]! * table[at + 3]!);
    at += COLUMNS;
  }
  return eta < 0 ? 1 - value : value;
}
