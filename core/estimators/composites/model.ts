import { mean, standardDeviation } from "../../numerics/moments";
import type { EstimationPlan, PlannedEquation } from "./estimator";
import { layoutOf } from "./layout";
import type { ProductColumn } from "./product-columns";
import { productName, type CompositeModel, type Construct, type Product } from "./specification";

/** A model with its data: complete rows, columns as they were measured. */
export interface ModelInput {
  model: CompositeModel;
  columns: ReadonlyMap<string, Float64Array>;
}

/** A model ready to be estimated. */
export interface BuiltComposite {
  /**
   * With products of indicators as constructs of their own, and main effects that products need.
   */
  model: CompositeModel;
  /** As it was stated, with the main effects. */
  stated: CompositeModel;
  plan: EstimationPlan;
  indicators: string[];
  /**
   * Means and SDs (n - 1) of the columns of the plan; of products of indicators, nought and one.
   */
  means: Float64Array;
  sds: Float64Array;
  n: number;
  /** Paths that a product needed. */
  added: [string, string][];
}

/**
 * A model with the paths that its products need: both main effects explain whatever the product
 * does.
 */
export function withMainEffects(model: CompositeModel): {
  model: CompositeModel;
  added: [string, string][];
} {
  const paths = [...model.paths];
  const added: [string, string][] = [];
  for (const { of, to } of model.products)
    for (const from of of)
      if (!paths.some(([a, b]) => a === from && b === to)) {
        paths.push([from, to]);
        added.push([from, to]);
      }
  return { model: { ...model, paths }, added };
}

/** Products are one construct each, whomever they explain. */
export function distinctProducts(products: readonly Product[]): [string, string][] {
  const known = new Map<string, [string, string]>();
  for (const { of } of products)
    known.set([...of].sort().join("\u0000"), known.get([...of].sort().join("\u0000")) ?? of);
  return [...known.values()];
}

/** The model and its data as plain numbers. */
export function buildComposite({ model: given, columns }: ModelInput): BuiltComposite {
  const { model: stated, added } = withMainEffects(given);
  const pairs = distinctProducts(stated.products);
  const indicatorsMade = stated.approach !== "two_stage" && pairs.length > 0;
  const byName = new Map(stated.constructs.map((c) => [c.name, c]));
  const productConstructs = indicatorsMade
    ? pairs.map((pair): Construct => productConstruct(pair, byName))
    : [];
  const model: CompositeModel = indicatorsMade
    ? {
        ...stated,
        constructs: [...stated.constructs, ...productConstructs],
        paths: [
          ...stated.paths,
          ...stated.products.map(({ of, to }): [string, string] => [nameIn(pairs, of), to]),
        ],
      }
    : stated;
  const indicators = model.constructs.flatMap((c) => c.indicators);
  const n = columns.get(stated.constructs[0]!.indicators[0]!)!.length;
  const data = standardised(stated, pairs, indicatorsMade, columns, n);
  const at = new Map(model.constructs.map(({ name }, j) => [name, j]));
  const equations = model.constructs.flatMap(({ name }): PlannedEquation[] => {
    const predictors = model.paths.flatMap(([from, to]) => (to === name ? [at.get(from)!] : []));
    if (predictors.length === 0) return [];
    const products = indicatorsMade
      ? []
      : stated.products.flatMap(({ of, to }) =>
          to === name ? [pairs.findIndex((pair) => same(pair, of))] : [],
        );
    return [{ outcome: at.get(name)!, predictors, products }];
  });
  const plan: EstimationPlan = {
    layout: layoutOf(model),
    n,
    values: data.values,
    productColumns: data.productColumns,
    products: indicatorsMade ? [] : pairs.map(([x, w]) => [at.get(x)!, at.get(w)!]),
    equations,
    consistent: model.consistent,
    corrected: model.constructs.map((c) => c.corrected),
    given: Float64Array.from(model.constructs, (c) => c.reliability ?? NaN),
  };
  return { model, stated, plan, indicators, means: data.means, sds: data.sds, n, added };
}

export const same = (a: readonly [string, string], b: readonly [string, string]): boolean =>
  (a[0] === b[0] && a[1] === b[1]) || (a[0] === b[1] && a[1] === b[0]);

/** A product's name in the order in which it was first written. */
const nameIn = (pairs: readonly [string, string][], of: [string, string]): string =>
  productName(pairs.find((pair) => same(pair, of))!);

const productConstruct = (
  pair: [string, string],
  byName: ReadonlyMap<string, Construct>,
): Construct => ({
  name: productName(pair),
  mode: "correlation",
  indicators: byName
    .get(pair[0])!
    .indicators.flatMap((x) => byName.get(pair[1])!.indicators.map((w) => `${x}*${w}`)),
  corrected: false,
  reliability: null,
  dominant: null,
});

interface StandardisedData {
  values: Float64Array;
  means: Float64Array;
  sds: Float64Array;
  productColumns: ProductColumn[];
}

/**
 * Indicators in SDs about their means, and products of those where the model wants products of
 * indicators.
 */
function standardised(
  { constructs, approach }: CompositeModel,
  pairs: readonly [string, string][],
  indicatorsMade: boolean,
  columns: ReadonlyMap<string, Float64Array>,
  n: number,
): StandardisedData {
  const names = constructs.flatMap((c) => c.indicators);
  const place = new Map(names.map((name, k) => [name, k]));
  const partners = (name: string): number[] =>
    constructs.find((c) => c.name === name)!.indicators.map((item) => place.get(item)!);
  const productColumns: ProductColumn[] = [];
  const rule = approach === "raw" || approach === "orthogonal" ? approach : "centred";
  const own = names.map((name) => columns.get(name)!);
  const ownMeans = own.map((values) => mean(values));
  const ownSds = own.map((values) => standardDeviation(values));
  for (const [x, w] of indicatorsMade ? pairs : [])
    for (const a of partners(x))
      for (const b of partners(w))
        productColumns.push({
          column: names.length + productColumns.length,
          a,
          b,
          rule,
          ofA: ownMeans[b]! / ownSds[b]!,
          ofB: ownMeans[a]! / ownSds[a]!,
          partners: rule === "orthogonal" ? [...partners(x), ...partners(w)] : [],
        });
  const p = names.length + productColumns.length;
  const values = new Float64Array(n * p);
  own.forEach((column, k) => {
    for (let i = 0; i < n; i++) values[i * p + k] = (column[i]! - ownMeans[k]!) / ownSds[k]!;
  });
  for (const { column, a, b } of productColumns) {
    let sum = 0;
    for (let i = 0; i < n; i++) {
      const product = values[i * p + a]! * values[i * p + b]!;
      values[i * p + column] = product;
      sum += product;
    }
    // About their mean: nothing depends on it, and sums lose fewer digits.
    for (let i = 0; i < n; i++) values[i * p + column] = values[i * p + column]! - sum / n;
  }
  const extra = productColumns.length;
  return {
    values,
    means: Float64Array.from([...ownMeans, ...new Array<number>(extra).fill(0)]),
    sds: Float64Array.from([...ownSds, ...new Array<number>(extra).fill(1)]),
    productColumns,
  };
}
