import { RandomStream, streamIndex } from "../../numerics/random";
import { quantile6 } from "../../numerics/quantile";
import { heterotraitRatios, type ItemBlock } from "../../measures/discriminant";
import type { MeasurementEvidence } from "./types";
import type { FittedModel } from "./fit-model";
import type { ImpliedMoments } from "./implied";
import { sampleMoments } from "./sample-moments";
import { inverseOf } from "./scoring";
import type { ScoreTest } from "./score-tests";
import type { TheoryModel } from "./theory-model";

/** Resamples behind the interval of HTMT. */
const HTMT_RESAMPLES = 1000;

/**
 * How well items measure, group by group: loadings, reliability (alpha; omega and composite
 * reliability from the model; Joreskog 1971; McDonald 1999), average variance extracted with the
 * comparison of Fornell & Larcker (1981), HTMT (Henseler, Ringle & Sarstedt 2015), items'
 * collinearity, and what score tests say of cross-loadings.
 * @param resampled where HTMT is bootstrapped, too (percentile limits at the level), which takes a
 *   moment; null for not
 */
export function measurementQuality(
  model: TheoryModel,
  fitted: FittedModel,
  tests: readonly ScoreTest[],
  resampled: { seed: number; level: number } | null,
): MeasurementEvidence[] {
  const factors = model.built.factors.filter((m) =>
    m.items.every((item) => !model.isLatent(item.ref.name)),
  );
  if (factors.length === 0) return [];
  const names = factors.map((m) => m.name.name);
  const { observed } = fitted.spec;
  const p = observed.length;
  const blocks: ItemBlock[] = factors.map((m) => ({
    name: m.name.name,
    items: m.items.map((item) => observed.indexOf(item.ref.name)),
  }));
  return fitted.sample.groups.map((group, g): MeasurementEvidence => {
    const implied = fitted.implied[g]!;
    const { A, E, S, v } = implied;
    const covariance = group.saturated.covariance;
    // Alpha is of the answers as they were given.
    const answers = fitted.ordered ? answerCovariances(group.columns) : covariance;
    const correlation = correlationsOf(covariance, p);
    const latent = (name: string): number => model.place(name);
    const between = names.map((a) =>
      names.map(
        (b) =>
          E[latent(a) * v + latent(b)]! /
          Math.sqrt(E[latent(a) * v + latent(a)]! * E[latent(b) * v + latent(b)]!),
      ),
    );
    const vif = inflation(correlation, [...new Set(blocks.flatMap((b) => b.items))]);
    const limits =
      resampled && !fitted.sample.missing && !fitted.ordered
        ? htmtLimits(group.columns, blocks, resampled)
        : null;
    return {
      group: group.name,
      factors: factors.map((m, f) =>
        factorQuality(
          m.name.name,
          blocks[f]!.items,
          between[f]!.filter((_, k) => k !== f).map(Math.abs),
          implied,
          latent(m.name.name),
          answers,
        ),
      ),
      correlations: between,
      htmt: heterotraitRatios(blocks, rowsOf(correlation, p)).map((pair, k) => ({
        ...pair,
        lower: limits?.[k]?.[0] ?? null,
        upper: limits?.[k]?.[1] ?? null,
      })),
      items: factors.flatMap((m, f) =>
        blocks[f]!.items.map((i) => {
          const at = latent(m.name.name);
          const name = observed[i]!;
          const cross = tests.find(
            (t) => t.kind === "loading" && t.to === name && t.group === group.name,
          );
          return {
            item: name,
            factor: m.name.name,
            loading: A[i * v + at]!,
            standardised: (A[i * v + at]! * Math.sqrt(E[at * v + at]!)) / Math.sqrt(E[i * v + i]!),
            r2: 1 - S[i * v + i]! / E[i * v + i]!,
            vif: vif.get(i) ?? null,
            crossLoading: cross
              ? { factor: cross.from, mi: cross.mi, p: cross.p, sepc: cross.sepc }
              : null,
          };
        }),
      ),
    };
  });
}

/** Covariances of answers as numbers, of cases that have all. */
function answerCovariances(columns: readonly Float64Array[]): Float64Array {
  const rows = columns[0]!
    .map((_, i) => i)
    .filter((i) => columns.every((c) => !Number.isNaN(c[i]!)));
  return sampleMoments(columns.map((column) => Float64Array.from(rows, (i) => column[i]!)))
    .covariance;
}

function alphaOf(covariance: Float64Array, items: readonly number[], p: number): number | null {
  const k = items.length;
  let own = 0;
  let all = 0;
  for (const i of items)
    for (const j of items) {
      all += covariance[i * p + j]!;
      if (i === j) own += covariance[i * p + i]!;
    }
  return all > 0 ? (k / (k - 1)) * (1 - own / all) : null;
}

/** Variance inflation of each item by all others. */
function inflation(correlation: Float64Array, items: readonly number[]): Map<number, number> {
  const p = Math.round(Math.sqrt(correlation.length));
  const k = items.length;
  const block = Float64Array.from(items.flatMap((i) => items.map((j) => correlation[i * p + j]!)));
  const inverse = inverseOf(block, k);
  return new Map(inverse ? items.map((i, at) => [i, inverse[at * k + at]!]) : []);
}

function correlationsOf(covariance: Float64Array, p: number): Float64Array {
  return covariance.map((value, at) => {
    const [i, j] = [Math.floor(at / p), at % p];
    return value / Math.sqrt(covariance[i * p + i]! * covariance[j * p + j]!);
  });
}

function htmtLimits(
  columns: readonly Float64Array[],
  blocks: ItemBlock[],
  { seed, level }: { seed: number; level: number },
): ([number, number] | null)[] {
  const p = columns.length;
  const n = columns[0]!.length;
  const weights = new Float64Array(n);
  const stream = new RandomStream();
  const found: number[][] = [];
  for (let r = 0; r < HTMT_RESAMPLES; r++) {
    stream.key(seed, streamIndex("bootstrap", r));
    weights.fill(0);
    stream.countDraws(weights, n, n);
    const sums = new Float64Array(p);
    const products = new Float64Array(p * p);
    for (let row = 0; row < n; row++) {
      const w = weights[row]!;
      if (w === 0) continue;
      for (let i = 0; i < p; i++) {
        const x = w * columns[i]![row]!;
        sums[i] = sums[i]! + x;
        for (let j = 0; j <= i; j++)
          products[i * p + j] = products[i * p + j]! + x * columns[j]![row]!;
      }
    }
    const covariance = new Float64Array(p * p);
    for (let i = 0; i < p; i++)
      for (let j = 0; j <= i; j++)
        covariance[i * p + j] = covariance[j * p + i] =
          products[i * p + j]! / n - (sums[i]! / n) * (sums[j]! / n);
    heterotraitRatios(blocks, rowsOf(correlationsOf(covariance, p), p)).forEach(({ htmt }, k) => {
      (found[k] ??= []).push(htmt ?? NaN);
    });
  }
  return found.map((values) => {
    const sorted = Float64Array.from(values.filter(Number.isFinite)).sort();
    if (sorted.length < HTMT_RESAMPLES / 2) return null;
    const half = (1 - level) / 2;
    return [quantile6(sorted, half), quantile6(sorted, 1 - half)];
  });
}

const rowsOf = (matrix: Float64Array, p: number): number[][] =>
  Array.from({ length: p }, (_, i) => [...matrix.slice(i * p, i * p + p)]);

/** Reliability and variance extracted of one latent variable. */
function factorQuality(
  factor: string,
  items: readonly number[],
  others: readonly number[],
  { A, E, S, v, p }: ImpliedMoments,
  at: number,
  covariance: Float64Array,
): MeasurementEvidence["factors"][number] {
  const sd = Math.sqrt(E[at * v + at]!);
  const loadings = items.map((i) => (A[i * v + at]! * sd) / Math.sqrt(E[i * v + i]!));
  const raw = items.reduce((sum, i) => sum + A[i * v + at]! * sd, 0) ** 2;
  const errors = items.reduce((sum, i) => sum + S[i * v + i]!, 0);
  const sum = loadings.reduce((a, b) => a + b, 0);
  const ave = loadings.reduce((a, l) => a + l * l, 0) / loadings.length;
  const unexplained = loadings.reduce((a, l) => a + 1 - l * l, 0);
  const largest = others.length > 0 ? Math.max(...others) : null;
  return {
    factor,
    items: items.length,
    alpha: items.length > 1 ? alphaOf(covariance, items, p) : null,
    omega: raw / (raw + errors),
    compositeReliability: (sum * sum) / (sum * sum + unexplained),
    ave,
    rootAve: ave >= 0 ? Math.sqrt(ave) : null,
    largestCorrelation: largest,
    fornellLarcker: largest === null || ave < 0 ? null : Math.sqrt(ave) > largest,
  };
}
