import { alphaOf } from "./alpha";
import { CompositeEstimator, type Failure } from "./estimator";
import { BY_CORRELATION } from "./layout";
import { distinctProducts, type BuiltComposite } from "./model";
import {
  discrepancies,
  impliedByPaths,
  impliedCorrelations,
  inflation,
  type Discrepancies,
  type FitInput,
} from "./model-fit";
import { rawConstructs, type RawConstruct } from "./raw-scores";
import { factorLoadings, rhoA } from "./reliability";
import { momentsOfRows } from "./sample-covariances";
import { productName } from "./specification";
import {
  effectsAlong,
  regressionFrom,
  type EquationResult,
  type NamedMatrix,
  type PathEffects,
} from "./structural";

/** Reliability and convergence of one construct; one of each for a single item, by convention. */
export interface ConstructQuality {
  alpha: number | null;
  standardisedAlpha: number | null;
  rhoA: number;
  compositeReliability: number;
  ave: number;
}

/** The structural part, from one matrix of correlations of constructs. */
export interface StructuralResult {
  correlations: NamedMatrix;
  /** Null where predictors are singular. */
  equations: (EquationResult | null)[];
  effects: PathEffects;
}

/** An equation with products of scores, by two stages. */
export interface StageTwoResult extends EquationResult {
  intercept: number;
  /** R² without the products; null where there are none. */
  r2Without: number | null;
}

/** Everything an estimated composite model says of its sample. */
export interface CompositeSolution {
  built: BuiltComposite;
  converged: boolean;
  rounds: number;
  weights: Float64Array;
  /** Correlations of indicators with every score, indicators x constructs. */
  crossLoadings: Float64Array;
  /** Of each indicator with its own construct: corrected ones on the factor. */
  loadings: Float64Array;
  consistentLoadings: Float64Array | null;
  r: Float64Array;
  plain: StructuralResult;
  /** Null without correction, and where a reliability is not positive. */
  consistent: StructuralResult | null;
  /** Reliabilities that corrections used. */
  rho: Float64Array;
  quality: ConstructQuality[];
  consistentQuality: ConstructQuality[] | null;
  indicatorVif: (number | null)[];
  constructVif: (number | null)[];
  /** Two-stage equations, corrected or not as the model wants; null without products of scores. */
  stageTwo: (StageTwoResult | null)[] | null;
  productSds: Record<string, number>;
  productReliability: Record<string, number>;
  fit: { saturated: Discrepancies; estimated: Discrepancies | null } | null;
  consistentFit: { saturated: Discrepancies; estimated: Discrepancies | null } | null;
  raw: RawConstruct[];
  /** Scores of variance one, construct by construct. */
  scores: Float64Array[];
  ties: string[];
  estimator: CompositeEstimator;
}

/** @returns the failure where there is no estimate at all */
export function solve(built: BuiltComposite, rounds?: number): CompositeSolution | Failure {
  const { plan, model } = built;
  const estimator = new CompositeEstimator(rounds === undefined ? plan : { ...plan, rounds });
  const { indicators: p, constructs: c, start } = plan.layout;
  const sample = momentsOfRows(
    plan.values,
    p,
    Int32Array.from({ length: built.n }, (_, i) => i),
  );
  const measured = estimator.measure(sample);
  if (measured && measured !== "not_converged") return measured;
  const corrected = estimator.structure(sample);
  const { algorithm, r } = estimator;
  const names = model.constructs.map((construct) => construct.name);
  const own = Float64Array.from(
    { length: p },
    (_, k) => algorithm.loadings[k * c + ownerOf(start, k)]!,
  );
  const rhos = Float64Array.from({ length: c }, (_, j) =>
    plan.layout.modes[j] === BY_CORRELATION ? rhoA(algorithm.weights, start[j]!, start[j + 1]!) : 1,
  );
  const plain = structural(built, { names, values: algorithm.correlations.slice() });
  const works = model.consistent && corrected === null;
  const consistent = works ? structural(built, { names, values: estimator.phi.slice() }) : null;
  const consistentLoadings = works ? correctedLoadings(built, estimator, own) : null;
  const scores = scoresOf(built, algorithm.weights);
  const solution: CompositeSolution = {
    built,
    converged: measured === null,
    rounds: algorithm.rounds,
    weights: algorithm.weights.slice(),
    crossLoadings: algorithm.loadings.slice(),
    loadings: own,
    consistentLoadings,
    r: r.slice(),
    plain,
    consistent,
    rho: estimator.rho.slice(),
    quality: qualityOf(built, r, own, rhos),
    consistentQuality: consistentLoadings
      ? qualityOf(
          built,
          r,
          consistentLoadings,
          Float64Array.from(rhos, (rho, j) => {
            const given = plan.given[j]!;
            return Number.isNaN(given) ? rho : given;
          }),
          plan.given,
        )
      : null,
    indicatorVif: blockInflation(built, r),
    constructVif: constructInflation(built, algorithm.correlations),
    stageTwo: works || !model.consistent ? stageTwo(built, estimator) : null,
    productSds: productSds(built, estimator),
    productReliability: Object.fromEntries(
      estimator.productReliability.map((value, q) => [
        productName(names2(names, plan.products[q]!)),
        value,
      ]),
    ),
    fit: null,
    consistentFit: null,
    raw: rawConstructs(built, algorithm.weights),
    scores,
    ties: tiesOf(names, start, own),
    estimator,
  };
  if (model.approach === "two_stage" || model.products.length === 0) {
    solution.fit = fitOf(solution, own, plain, false);
    if (consistent && consistentLoadings)
      solution.consistentFit = fitOf(solution, consistentLoadings, consistent, true);
  }
  return solution;
}

const names2 = (names: readonly string[], [x, w]: readonly [number, number]): [string, string] => [
  names[x]!,
  names[w]!,
];

export const ownerOf = (start: Int32Array, k: number): number => {
  let j = 0;
  while (start[j + 1]! <= k) j += 1;
  return j;
};

function structural(built: BuiltComposite, correlations: NamedMatrix): StructuralResult {
  const { model, n } = built;
  const wanted = model.constructs.flatMap(({ name }) => {
    const predictors = model.paths.flatMap(([from, to]) => (to === name ? [from] : []));
    if (predictors.length === 0) return [];
    return [
      { outcome: name, predictors, found: regressionFrom(correlations, name, predictors, n) },
    ];
  });
  const equations = wanted.map(({ found }) => found);
  return {
    correlations,
    equations,
    // What leads through an equation without a solution has no value, and no sum of others stands
    // in for it.
    effects: effectsAlong(
      wanted.map(
        ({ outcome, predictors, found }) =>
          found ?? { outcome, predictors, coefficients: predictors.map(() => NaN) },
      ),
    ),
  };
}

function correctedLoadings(
  { plan }: BuiltComposite,
  { rho, algorithm }: CompositeEstimator,
  own: Float64Array,
): Float64Array {
  const out = own.slice();
  const { start, modes, constructs } = plan.layout;
  for (let j = 0; j < constructs; j++) {
    if (plan.corrected[j] && modes[j] === BY_CORRELATION)
      factorLoadings(algorithm.weights, start[j]!, start[j + 1]!, rho[j]!, out);
    else if (!Number.isNaN(plan.given[j]!)) out[start[j]!] = Math.sqrt(plan.given[j]!);
  }
  return out;
}

function qualityOf(
  built: BuiltComposite,
  r: Float64Array,
  loadings: Float64Array,
  rhos: Float64Array,
  given?: Float64Array,
): ConstructQuality[] {
  const { plan, sds } = built;
  const { start, indicators: p } = plan.layout;
  return built.model.constructs.map((_, j) => {
    const [from, to] = [start[j]!, start[j + 1]!];
    const k = to - from;
    if (k === 1) {
      const known = given?.[j] ?? NaN;
      const value = Number.isNaN(known) ? 1 : known;
      return {
        alpha: 1,
        standardisedAlpha: 1,
        rhoA: value,
        compositeReliability: value,
        ave: value,
      };
    }
    let sum = 0;
    let squares = 0;
    for (let m = from; m < to; m++) {
      sum += loadings[m]!;
      squares += loadings[m]! ** 2;
    }
    return {
      ...alphaOf(r, sds, p, from, to),
      rhoA: rhos[j]!,
      compositeReliability: sum ** 2 / (sum ** 2 + k - squares),
      ave: squares / k,
    };
  });
}

function blockInflation({ plan }: BuiltComposite, r: Float64Array): (number | null)[] {
  const { start, constructs, indicators: p } = plan.layout;
  return Array.from({ length: constructs }, (_, j) => {
    const size = start[j + 1]! - start[j]!;
    const block = Float64Array.from(
      { length: size * size },
      (__, at) => r[(start[j]! + Math.floor(at / size)) * p + start[j]! + (at % size)]!,
    );
    return inflation(block, size);
  }).flat();
}

/** Full collinearity: every construct by all others, products of indicators left out. */
function constructInflation(
  { stated, plan }: BuiltComposite,
  correlations: Float64Array,
): (number | null)[] {
  const c = plan.layout.constructs;
  const size = stated.constructs.length;
  return inflation(
    Float64Array.from(
      { length: size * size },
      (_, at) => correlations[Math.floor(at / size) * c + (at % size)]!,
    ),
    size,
  );
}

function stageTwo(
  { plan, model, n }: BuiltComposite,
  estimator: CompositeEstimator,
): (StageTwoResult | null)[] | null {
  const { scoreProducts } = estimator;
  if (!scoreProducts) return null;
  const names = model.constructs.map((construct) => construct.name);
  const products = plan.products.map((pair) => productName(names2(names, pair)));
  const matrix: NamedMatrix = { names: [...names, ...products], values: estimator.moments.slice() };
  return plan.equations.map(({ outcome, predictors, products: own }) => {
    const mains = predictors.map((i) => names[i]!);
    if (own.some((q) => estimator.productReliability[q]! <= 0)) return null;
    const made = own.map((q) => products[q]!);
    const full = regressionFrom(matrix, names[outcome]!, [...mains, ...made], n);
    if (!full) return null;
    const without = own.length > 0 ? regressionFrom(matrix, names[outcome]!, mains, n) : null;
    return {
      ...full,
      intercept: -own.reduce(
        (sum, q, i) => sum + full.coefficients[mains.length + i]! * scoreProducts.means[q]!,
        0,
      ),
      r2Without: without?.r2 ?? null,
    };
  });
}

function productSds(built: BuiltComposite, estimator: CompositeEstimator): Record<string, number> {
  const { plan, model } = built;
  const names = model.constructs.map((construct) => construct.name);
  const { scoreProducts } = estimator;
  if (scoreProducts) {
    const { width, covariances } = scoreProducts;
    return Object.fromEntries(
      plan.products.map((pair, q) => {
        const at = plan.layout.constructs + q;
        return [productName(names2(names, pair)), Math.sqrt(covariances[at * width + at]!)];
      }),
    );
  }
  // With products of indicators: of the scores of the same run.
  const pairs = distinctProducts(built.stated.products);
  const scores = scoresOf(built, estimator.algorithm.weights);
  return Object.fromEntries(
    pairs.map((pair) => {
      const [x, w] = pair.map((name) => scores[names.indexOf(name)]!) as [
        Float64Array,
        Float64Array,
      ];
      return [productName(pair), sdOf(x.map((v, i) => v * w[i]!))];
    }),
  );
}

function sdOf(values: Float64Array): number {
  let sum = 0;
  for (const v of values) sum += v;
  const centre = sum / values.length;
  let squares = 0;
  for (const v of values) squares += (v - centre) ** 2;
  return Math.sqrt(squares / (values.length - 1));
}

function scoresOf({ plan }: BuiltComposite, weights: Float64Array): Float64Array[] {
  const { start, constructs, indicators: p } = plan.layout;
  return Array.from({ length: constructs }, (_, j) => {
    const out = new Float64Array(plan.n);
    for (let i = 0; i < plan.n; i++) {
      let sum = 0;
      for (let k = start[j]!; k < start[j + 1]!; k++) sum += weights[k]! * plan.values[i * p + k]!;
      out[i] = sum;
    }
    return out;
  });
}

function fitOf(
  { built, r }: CompositeSolution,
  loadings: Float64Array,
  { correlations, equations }: StructuralResult,
  consistent: boolean,
): CompositeSolution["fit"] {
  const { plan, model } = built;
  const { start, modes, indicators: p } = plan.layout;
  const input: FitInput = {
    r,
    owner: Array.from({ length: p }, (_, k) => ownerOf(start, k)),
    loadings,
    factor: plan.corrected.map((yes, j) => consistent && yes && modes[j] === BY_CORRELATION),
  };
  const saturated = discrepancies(r, impliedCorrelations(input, correlations.values), p);
  if (equations.some((e) => e === null)) return { saturated, estimated: null };
  const phi = impliedByPaths(
    correlations.names,
    correlations.values,
    causalOrder(model.paths, correlations.names),
    equations.filter((e) => e !== null),
  );
  return { saturated, estimated: discrepancies(r, impliedCorrelations(input, phi), p) };
}

/** Names in an order in which everything comes after what explains it. */
export function causalOrder(
  paths: readonly [string, string][],
  names: readonly string[],
): string[] {
  const order: string[] = [];
  const visit = (name: string): void => {
    if (order.includes(name)) return;
    for (const [from, to] of paths) if (to === name) visit(from);
    order.push(name);
  };
  names.forEach(visit);
  return order;
}

function tiesOf(names: readonly string[], start: Int32Array, own: Float64Array): string[] {
  return names.filter((_, j) => {
    const block = own.subarray(start[j]!, start[j + 1]!);
    return block.reduce((sum, l) => sum + Math.sign(l), 0) === 0;
  });
}
