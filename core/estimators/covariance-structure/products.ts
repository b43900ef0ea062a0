import { mean } from "../../numerics/moments";
import { inverseOf } from "./scoring";
import type { ProductRule } from "./options";

/** A product of two columns of the data. */
export interface ProductItem {
  name: string;
  x: string;
  w: string;
}

/**
 * Which products of items stand for the product of two latent variables: each item once, in order, with surplus items of the longer
 * factor left out (matched pairs), or every pair (Marsh, Wen & Hau 2004, Psychol Methods 9). A variable with one item has all
 * pairs.
 */
export function productItems(
  xItems: readonly string[],
  wItems: readonly string[],
  rule: ProductRule,
): ProductItem[] {
  const item = (x: string, w: string): ProductItem => ({ name: `${x}:${w}`, x, w });
  const all = rule.startsWith("all_") || xItems.length === 1 || wItems.length === 1;
  if (all) return xItems.flatMap((x) => wItems.map((w) => item(x, w)));
  return xItems.slice(0, wItems.length).map((x, i) => item(x, wItems[i]!));
}

/** One group of products that are centred together. */
export interface ProductPlan {
  /** Places of the columns multiplied, and of the product, among the columns of the model. */
  items: { x: number; w: number; at: number }[];
  /** Residual centring: the columns that are partialled out of every product. */
  partialled: number[] | null;
}

/**
 * Products of columns, centred: x and w about their means, products about theirs (double mean centring; Lin, Wen, Marsh & Lin 2010,
 * SEM 17), or what is left of x w when all items of both are partialled out (residual centring; Little, Bovaird & Widaman 2006,
 * SEM 13).
 * @param columns of the model; those of products are written, those multiplied are centred
 */
export function centreProducts(columns: Float64Array[], plans: readonly ProductPlan[]): void {
  for (const index of new Set(plans.flatMap((p) => p.items.flatMap(({ x, w }) => [x, w]))))
    columns[index] = centred(columns[index]!);
  for (const { items, partialled } of plans)
    for (const { x, w, at } of items) {
      const product = columns[x]!.map((value, i) => value * columns[w]![i]!);
      columns[at] = centred(product);
      if (partialled)
        columns[at] = residual(
          columns[at],
          partialled.map((i) => centred(columns[i]!)),
        );
    }
}

const centred = (column: Float64Array): Float64Array => {
  const centre = mean(column);
  return column.map((value) => value - centre);
};

/** What is left of a centred column when centred others are partialled out by least squares. */
function residual(y: Float64Array, others: readonly Float64Array[]): Float64Array {
  const k = others.length;
  const cross = new Float64Array(k * k);
  const with_ = new Float64Array(k);
  others.forEach((a, i) => {
    with_[i] = dot(a, y);
    others.forEach((b, j) => (cross[i * k + j] = dot(a, b)));
  });
  const inverse = inverseOf(cross, k);
  if (!inverse) return y;
  const out = y.slice();
  others.forEach((column, i) => {
    let weight = 0;
    for (let j = 0; j < k; j++) weight += inverse[i * k + j]! * with_[j]!;
    for (let r = 0; r < out.length; r++) out[r] = out[r]! - weight * column[r]!;
  });
  return out;
}

const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
};

/**
 * The covariances of a resample with products made anew, from those with products as they were made of the whole sample: centring
 * at other means, or partialling with other weights, is linear in the items and the products.
 * @param covariance p x p, written over; @param means of the columns in the resample
 */
export function recentreMoments(
  covariance: Float64Array,
  means: ArrayLike<number>,
  p: number,
  plans: readonly ProductPlan[],
): boolean {
  for (const { items, partialled } of plans) {
    let inverse: Float64Array | null = null;
    if (partialled) {
      const k = partialled.length;
      const inner = new Float64Array(k * k);
      partialled.forEach((a, i) =>
        partialled.forEach((b, j) => (inner[i * k + j] = covariance[a * p + b]!)),
      );
      inverse = inverseOf(inner, k);
      if (!inverse) return false;
    }
    for (const { x, w, at } of items) {
      const weights: [number, number][] = partialled
        ? partialled.map((a, i) => {
            let sum = 0;
            partialled.forEach((b, j) => {
              sum += inverse![i * partialled.length + j]! * covariance[b * p + at]!;
            });
            return [a, sum];
          })
        : [
            [x, means[w]!],
            [w, means[x]!],
          ];
      addRows(covariance, p, at, weights);
    }
  }
  return true;
}

/** Row and column `at` less weighted others: the covariance matrix of a changed variable. */
function addRows(
  covariance: Float64Array,
  p: number,
  at: number,
  weights: readonly [number, number][],
): void {
  for (let j = 0; j < p; j++) {
    let value = covariance[at * p + j]!;
    for (const [row, weight] of weights) value -= weight * covariance[row * p + j]!;
    covariance[at * p + j] = value;
  }
  for (let j = 0; j < p; j++) {
    let value = covariance[j * p + at]!;
    for (const [row, weight] of weights) value -= weight * covariance[j * p + row]!;
    covariance[j * p + at] = value;
  }
}
