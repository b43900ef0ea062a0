import { Phi } from "./distributions";
import { exp } from "./elementary";
import { gaussLegendre } from "./gauss-legendre";

const TWO_PI = 2 * Math.PI;
/** From this correlation on the integral over the correlation is taken from its other end. */
const STEEP = 0.925;
/** Nodes that give all digits, by how far the correlation is from zero. */
const NODES = [
  { below: 0.3, nodes: 12 },
  { below: 0.75, nodes: 16 },
  { below: Infinity, nodes: 24 },
];
/** exp of less is zero beside anything that it is added to. */
const VANISHES = -100;

/**
 * Density of the standard bivariate normal distribution.
 * @param r correlation, -1 < r < 1
 */
export const phi2 = (x: number, y: number, r: number): number => {
  const rest = (1 - r) * (1 + r);
  return exp(-(x * x - 2 * r * x * y + y * y) / (2 * rest)) / (TWO_PI * Math.sqrt(rest));
};

/**
 * P(X <= x, Y <= y) of a standard bivariate normal distribution, to about 1e-15 (Drezner &
 * Wesolowsky 1990; Genz 2004, Stat Comput 14): the density integrated over the correlation from
 * zero, or, where that is steep, from one. The angle of Genz is replaced by the tangent of half of
 * it, so that no trigonometric function is needed, which engines round differently.
 * @param x, y infinite ones are allowed
 * @param r correlation, -1 <= r <= 1
 */
export function Phi2(x: number, y: number, r: number): number {
  if (x === -Infinity || y === -Infinity) return 0;
  if (x === Infinity) return Phi(y);
  if (y === Infinity) return Phi(x);
  if (r === 0) return Phi(x) * Phi(y);
  return Math.abs(r) < STEEP ? fromZero(x, y, r) : fromOne(-x, -y, r);
}

function fromZero(x: number, y: number, r: number): number {
  const size = NODES.find(({ below }) => Math.abs(r) < below)!.nodes;
  const { nodes, weights } = gaussLegendre(size);
  const half = r / (1 + Math.sqrt((1 - r) * (1 + r))) / 2;
  const product = x * y;
  const squares = (x * x + y * y) / 2;
  let sum = 0;
  for (let i = 0; i < size; i++) {
    const u = half * (nodes[i]! + 1);
    const uu = u * u;
    const t = (2 * u) / (1 + uu);
    const cosine = (1 - uu) / (1 + uu);
    sum += (weights[i]! * exp((t * product - squares) / (cosine * cosine))) / (1 + uu);
  }
  return Math.max(0, Phi(x) * Phi(y) + (sum * half * 2) / TWO_PI);
}

/** P(X > h, Y > k) for correlations near one or minus one. */
function fromOne(h: number, stated: number, r: number): number {
  const k = r < 0 ? -stated : stated;
  const hk = h * k;
  let value = 0;
  if (Math.abs(r) < 1) {
    const as = (1 - r) * (1 + r);
    const a = Math.sqrt(as);
    const bs = (h - k) * (h - k);
    const c = (4 - hk) / 8;
    const d = (12 - hk) / 16;
    const top = -(bs / as + hk) / 2;
    if (top > VANISHES)
      value = a * exp(top) * (1 - (c * (bs - as) * (1 - (d * bs) / 5)) / 3 + (c * d * as * as) / 5);
    if (-hk < -VANISHES) {
      const b = Math.sqrt(bs);
      value -=
        exp(-hk / 2) *
        Math.sqrt(TWO_PI) *
        Phi(-b / a) *
        b *
        (1 - (c * bs * (1 - (d * bs) / 5)) / 3);
    }
    value += remainder(a / 2, bs, hk, c, d);
    value = -value / TWO_PI;
  }
  if (r > 0) return value + Phi(-Math.max(h, k));
  return Math.max(0, -value) + (k > h ? between(h, k) : 0);
}

/** What the series leaves of the integral. */
function remainder(half: number, bs: number, hk: number, c: number, d: number): number {
  const { nodes, weights } = gaussLegendre(24);
  let sum = 0;
  for (let i = 0; i < 24; i++) {
    const x = half * (nodes[i]! + 1);
    const xs = x * x;
    const rs = Math.sqrt(1 - xs);
    const top = -(bs / xs + hk) / 2;
    if (top > VANISHES)
      sum +=
        half *
        weights[i]! *
        exp(top) *
        (exp((-hk * xs) / (2 * (1 + rs) * (1 + rs))) / rs - (1 + c * xs * (1 + d * xs)));
  }
  return sum;
}

/** Phi(k) - Phi(h), on the side where digits are. */
const between = (h: number, k: number): number => (h < 0 ? Phi(k) - Phi(h) : Phi(-h) - Phi(-k));
