import { COVARIANCE, INTERCEPT, PATH } from "./directions";
import type { PatternLikelihood } from "./pattern";

// An imported name is looked up each time it is read; these are read for every pair of arrows.
const ofPath = PATH;
const ofCovariance = COVARIANCE;
const ofIntercept = INTERCEPT;

/**
 * Second derivatives of the log-likelihood of one case, averaged, times minus n: of one direction
 * with all others, added to `out`. After `columns` and `addScore`.
 */
export function addCurvature(
  part: PatternLikelihood,
  s: number,
  until: number,
  out: Float64Array,
  at: number,
  from = 0,
): void {
  const { P, G, D, c, directions, moments, meanShifts: shifts } = part;
  const { kind, b, o, half, parameter } = directions;
  const bs = b[s]!;
  const os = o[s]!;
  const h = half[s]!;
  const shift = shifts[s]!;
  const ba = bs * c;
  const oa = os * c;
  for (let t = from; t < until; t++) {
    const e = b[t]!;
    const r = o[t]!;
    const g = half[t]!;
    const other = shifts[t]!;
    const be = P[ba + e]!;
    const br = P[ba + r]!;
    const oe = P[oa + e]!;
    const or = P[oa + r]!;
    const hg = h * g;
    let sum = -shift * other * be;
    if (hg !== 0) {
      const rc = r * c;
      const ec = e * c;
      sum -= hg * (oe * (br + G[rc + bs]!) + be * (or + G[rc + os]!));
      sum -= hg * (or * G[ec + bs]! + br * G[ec + os]!);
    }
    if (other !== 0) sum -= h * other * (oe * D[bs]! + be * D[os]!);
    if (shift !== 0) sum -= g * shift * (be * D[r]! + br * D[e]!);
    if (kind[t] === ofPath) sum += secondOrder(part, s, t);
    else if (kind[s] === ofPath) sum += secondOrder(part, t, s);
    const place = at + parameter[t]!;
    out[place] = out[place]! - moments.n * sum;
  }
}

/**
 * One direction's information with those from `from` to `until`, observed or expected, added to
 * `out` by their parameters. After `columns` and `addScore`.
 */
export function addRow(
  part: PatternLikelihood,
  s: number,
  until: number,
  observed: boolean,
  out: Float64Array,
  from: number,
): void {
  if (observed) return addCurvature(part, s, until, out, 0, from);
  const { P, c, directions, moments, meanShifts: shifts } = part;
  const { b, o, half, parameter } = directions;
  for (let t = from; t < until; t++) {
    const between = P[b[s]! * c + b[t]!]!;
    const value =
      half[s]! *
        half[t]! *
        (between * P[o[s]! * c + o[t]!]! + P[b[s]! * c + o[t]!]! * P[o[s]! * c + b[t]!]!) +
      shifts[s]! * shifts[t]! * between;
    out[parameter[t]!] = out[parameter[t]!]! + moments.n * value;
  }
}

/** What the second derivatives of Sigma and mu add: `one` differentiated along a path. */
export function secondOrder(
  part: Pick<PatternLikelihood, "G" | "D" | "c" | "implied" | "directions">,
  one: number,
  path: number,
): number {
  const { G, D, c, implied, directions } = part;
  const { kind, row, column, b, o, half } = directions;
  const { B, E, v, means } = implied;
  const [k, l, i, j] = [row[path]!, column[path]!, row[one]!, column[one]!];
  const [bk, el, bi, oj] = [b[path]!, o[path]!, b[one]!, o[one]!];
  const turn = B[l * v + i]!;
  if (kind[one] === ofIntercept) return turn * D[bk]!;
  if (kind[one] === ofCovariance)
    return half[one]! * (turn * G[bk * c + oj]! + B[l * v + j]! * G[bk * c + bi]!);
  return (
    turn * G[bk * c + oj]! +
    E[l * v + j]! * G[bk * c + bi]! +
    B[j * v + k]! * G[el * c + bi]! +
    means[l]! * B[j * v + k]! * D[bi]! +
    means[j]! * turn * D[bk]!
  );
}
