import { inverseOf } from "./scoring";
import type { ProductRule } from "./options";
import type { PatternMoments } from "./pattern";

/** A product of two columns of the data. */
export interface ProductItem {
  name: string;
  x: string;
  w: string;
}

/**
 * Which products of items stand for the product of two latent variables: each item once, in order,
 * with surplus items of the longer factor left out (matched pairs), or every pair (Marsh, Wen & Hau
 * 2004, Psychol Methods 9). A variable with one item has all pairs.
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
 * Products of columns, centred: x and w about their means, products about theirs (double mean
 * centring; Lin, Wen, Marsh & Lin 2010, SEM 17), or what is left of x w when all items of both are
 * partialled out (residual centring; Little, Bovaird & Widaman 2006, SEM 13). Where values are
 * missing, a column has its centre in the values it has, a product in the cases that have both
 * columns, and items are partialled out over the cases that have all of them.
 * @param columns of the model, NaN where missing; those of products are written, those multiplied
 *   are centred
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
          partialled.map((i) => columns[i]!),
        );
    }
}

const centred = (column: Float64Array): Float64Array => {
  let sum = 0;
  let n = 0;
  for (const value of column) {
    if (Number.isNaN(value)) continue;
    sum += value;
    n += 1;
  }
  return column.map((value) => value - sum / n);
};

/**
 * What is left of a column when others are partialled out by least squares, over the rows that have
 * all of them.
 */
function residual(y: Float64Array, others: readonly Float64Array[]): Float64Array {
  const whole = y.map((value, r) =>
    Number.isNaN(value) || others.some((column) => Number.isNaN(column[r]!)) ? NaN : 0,
  );
  const onWhole = (column: Float64Array): Float64Array =>
    centred(column.map((value, r) => value + whole[r]!));
  const columns = others.map(onWhole);
  const out = onWhole(y);
  const k = columns.length;
  const cross = new Float64Array(k * k);
  const with_ = new Float64Array(k);
  columns.forEach((one, i) => {
    with_[i] = dot(one, out);
    columns.forEach((other, j) => (cross[i * k + j] = dot(one, other)));
  });
  const inverse = inverseOf(cross, k);
  if (!inverse) return out;
  columns.forEach((column, i) => {
    let weight = 0;
    for (let j = 0; j < k; j++) weight += inverse[i * k + j]! * with_[j]!;
    for (let r = 0; r < out.length; r++) out[r] = out[r]! - weight * column[r]!;
  });
  return out;
}

/** Over the rows that have both. */
const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) {
    const product = a[i]! * b[i]!;
    if (!Number.isNaN(product)) sum += product;
  }
  return sum;
};

/**
 * The covariances of a resample with products made anew, from those with products as they were made
 * of the whole sample: centring at other means, or partialling with other weights, is linear in the
 * items and the products.
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

/**
 * The same for a resample in which values are missing, from the moments of the cases with each
 * pattern: products are about the means that their columns have in the resample, whatever pattern
 * they come from. Items multiplied and products end up with a mean of zero over the cases that have
 * them.
 * @param patterns of one group, written over; a pattern that has a product has the columns it is
 *   made of
 * @returns false where items determine one another, so that nothing can be partialled out
 */
export function recentrePatterns(
  patterns: readonly PatternMoments[],
  plans: readonly ProductPlan[],
): boolean {
  const own = patterns
    .filter(({ n }) => n > 0)
    .map((moments) => ({
      moments,
      at: new Map(Array.from(moments.indices, (column, place) => [column, place])),
    }));
  const meanOf = (column: number): number => {
    let [sum, n] = [0, 0];
    for (const { moments, at } of own) {
      const place = at.get(column);
      if (place === undefined) continue;
      sum += moments.n * moments.means[place]!;
      n += moments.n;
    }
    return sum / n;
  };
  const shift = (column: number, by: number): void => {
    for (const { moments, at } of own) {
      const place = at.get(column);
      if (place !== undefined) moments.means[place] = moments.means[place]! - by;
    }
  };
  const multiplied = new Set(plans.flatMap((p) => p.items.flatMap(({ x, w }) => [x, w])));
  const centres = new Map([...multiplied].map((column) => [column, meanOf(column)]));
  for (const { items, partialled } of plans)
    for (const { x, w, at: product } of items) {
      const holders = own.filter(({ at }) => at.has(product));
      const weights = partialled
        ? partialWeights(holders, partialled, product)
        : ([
            [x, centres.get(w)!],
            [w, centres.get(x)!],
          ] as const);
      if (!weights) return false;
      for (const { moments, at } of holders) {
        const { means, covariance, indices } = moments;
        const to = at.get(product)!;
        const placed = weights.map(([column, weight]) => [at.get(column)!, weight] as const);
        for (const [place, weight] of placed) means[to] = means[to]! - weight * means[place]!;
        addRows(covariance, indices.length, to, placed);
      }
      shift(product, meanOf(product));
    }
  for (const [column, centre] of centres) shift(column, centre);
  return true;
}

/** Weights of the regression of a product on items, over all cases that have it. */
function partialWeights(
  holders: readonly { moments: PatternMoments; at: ReadonlyMap<number, number> }[],
  partialled: readonly number[],
  product: number,
): (readonly [number, number])[] | null {
  const columns = [...partialled, product];
  const k = columns.length;
  const means = new Float64Array(k);
  const cross = new Float64Array(k * k);
  let n = 0;
  for (const { moments, at } of holders) {
    n += moments.n;
    const width = moments.indices.length;
    columns.forEach((a, i) => {
      const here = at.get(a)!;
      means[i] = means[i]! + moments.n * moments.means[here]!;
      columns.forEach((b, j) => {
        const there = at.get(b)!;
        cross[i * k + j] =
          cross[i * k + j]! +
          moments.n *
            (moments.covariance[here * width + there]! +
              moments.means[here]! * moments.means[there]!);
      });
    });
  }
  const covariance = (i: number, j: number): number =>
    cross[i * k + j]! / n - (means[i]! / n) * (means[j]! / n);
  const count = partialled.length;
  const inverse = inverseOf(
    Float64Array.from({ length: count * count }, (_, at) =>
      covariance(Math.floor(at / count), at % count),
    ),
    count,
  );
  return (
    inverse &&
    partialled.map((column, i) => {
      let weight = 0;
      for (let j = 0; j < count; j++) weight += inverse[i * count + j]! * covariance(j, count);
      return [column, weight] as const;
    })
  );
}

/** Row and column `at` less weighted others: the covariance matrix of a changed variable. */
function addRows(
  covariance: Float64Array,
  p: number,
  at: number,
  weights: readonly (readonly [number, number])[],
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
