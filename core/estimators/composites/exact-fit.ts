import { quantile6 } from "../../numerics/quantile";
import { RandomStream, streamIndex } from "../../numerics/random";
import type { ExactFitEvidence } from "./types";
import { CompositeEstimator, type EstimationPlan, type SampleMoments } from "./estimator";
import { BY_CORRELATION } from "./layout";
import {
  discrepancies,
  impliedByPaths,
  impliedCorrelations,
  transformed,
  type Discrepancies,
} from "./model-fit";
import { factorLoadings } from "./reliability";
import { DrawnMoments, momentsOfRows } from "./sample-covariances";
import { causalOrder, ownerOf, type CompositeSolution } from "./solution";

const FIRST = 3;
const MEASURES = ["srmr", "dUls", "dG"] as const;
type Which = "saturated" | "estimated";

/**
 * How large misfit would be by chance (Beran & Srivastava 1985, Ann Stat 13): the data are turned
 * so that the model holds in them, resampled, and estimated anew; p is the share of resamples with
 * at least the misfit of the sample.
 * @param given resamples made elsewhere; drawn where null
 * @returns null where there is no fit to speak of
 */
export function exactFit(
  solution: CompositeSolution,
  count: number,
  seed: number,
  given: readonly Int32Array[] | null,
): ExactFitEvidence | null {
  const observed = solution.consistentFit ?? solution.fit;
  if (!observed?.estimated) return null;
  const total = given ? Math.min(count, given.length) : count;
  const { built } = solution;
  const replicate = replicator(solution);
  const failed = new Set<number>();
  const first: Record<string, number[]> = {};
  const measures = (["saturated", "estimated"] as const).flatMap((model) => {
    const p = built.indicators.length;
    const data = transformed(built.plan.values, solution.r, impliedOf(solution)[model], p);
    const drawn = new DrawnMoments(data, p);
    const found: Discrepancies[] = [];
    rowsOf(built.n, total, seed, given, (rows, r) => {
      const value = replicate(drawn.of(rows), model);
      if (value) found.push(value);
      else failed.add(r);
    });
    drawn.release();
    return MEASURES.flatMap((measure) => {
      const value = observed[model]![measure];
      const all = found.flatMap((d) => d[measure] ?? []);
      if (value === null || all.length === 0) return [];
      first[`${model} ${measure}`] = all.slice(0, FIRST);
      const sorted = Float64Array.from(all).sort();
      return [
        {
          model,
          measure,
          value,
          upper95: quantile6(sorted, 0.95),
          upper99: quantile6(sorted, 0.99),
          p: all.filter((x) => x >= value).length / all.length,
        },
      ];
    });
  });
  return { replicates: total, failed: failed.size, measures, first };
}

function rowsOf(
  n: number,
  total: number,
  seed: number,
  given: readonly Int32Array[] | null,
  use: (rows: ArrayLike<number>, r: number) => void,
): void {
  const stream = new RandomStream();
  const rows = new Int32Array(n);
  for (let r = 0; r < total; r++) {
    if (given) use(given[r]!, r);
    else {
      stream.key(seed, streamIndex("bootstrap", r));
      for (let i = 0; i < n; i++) rows[i] = stream.below(n);
      use(rows, r);
    }
  }
}

/** Fit is that of the first stage, without products of scores. */
const firstStage = (plan: EstimationPlan): EstimationPlan => ({
  ...plan,
  products: [],
  equations: plan.equations.map((e) => ({ ...e, products: [] })),
});

/**
 * Estimates a sample, and says how far its correlations are from those that one of the models
 * implies.
 */
function replicator(
  solution: CompositeSolution,
): (sample: SampleMoments, model: Which) => Discrepancies | null {
  const estimator = new CompositeEstimator(firstStage(solution.built.plan));
  const p = solution.built.indicators.length;
  return (sample, model) => {
    if (estimator.measure(sample) || estimator.structure(sample)) return null;
    return discrepancies(estimator.r, impliedBy(solution, estimator)[model], p);
  };
}

/** What the model of the sample implies. */
const impliedOf = (solution: CompositeSolution): Record<Which, Float64Array> => {
  const { plan, n, indicators } = solution.built;
  const estimator = new CompositeEstimator(firstStage(plan));
  const sample = momentsOfRows(
    plan.values,
    indicators.length,
    Int32Array.from({ length: n }, (_, i) => i),
  );
  estimator.measure(sample);
  estimator.structure(sample);
  return impliedBy(solution, estimator);
};

function impliedBy(
  { built }: CompositeSolution,
  estimator: CompositeEstimator,
): Record<Which, Float64Array> {
  const { plan, model } = built;
  const { start, modes, indicators: p, constructs: c } = plan.layout;
  const { algorithm, r, rho, phi, coefficients, offsets } = estimator;
  const factor = plan.corrected.map(
    (yes, j) => plan.consistent && yes && modes[j] === BY_CORRELATION,
  );
  const owner = Array.from({ length: p }, (_, k) => ownerOf(start, k));
  const loadings = Float64Array.from(owner, (j, k) => algorithm.loadings[k * c + j]!);
  factor.forEach((yes, j) => {
    if (yes) factorLoadings(algorithm.weights, start[j]!, start[j + 1]!, rho[j]!, loadings);
    else if (plan.consistent && !Number.isNaN(plan.given[j]!))
      loadings[start[j]!] = Math.sqrt(plan.given[j]!);
  });
  const names = model.constructs.map((construct) => construct.name);
  const equations = plan.equations.map(({ outcome, predictors }, e) => ({
    outcome: names[outcome]!,
    predictors: predictors.map((i) => names[i]!),
    coefficients: predictors.map((_, i) => coefficients[offsets[e]! + i]!),
  }));
  const input = { r, owner, loadings, factor };
  return {
    saturated: impliedCorrelations(input, phi),
    estimated: impliedCorrelations(
      input,
      impliedByPaths(names, phi, causalOrder(model.paths, names), equations),
    ),
  };
}
