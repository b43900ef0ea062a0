import { listed } from "../../wording";
import { RandomStream, streamIndex } from "../../numerics/random";
import type { PredictionEvidence } from "./types";
import { CompositeEstimator } from "./estimator";
import { shuffle } from "./group-comparison";
import { buildComposite, type BuiltComposite } from "./model";
import { NormalEquations } from "./normal-equations";
import { momentsOfRows } from "./sample-covariances";
import { causalOrder } from "./solution";
import { SINGULAR } from "./specification";
import type { TheoryComposite } from "./theory-model";

/** Errors of predictions, summed over people. */
interface Errors {
  squares: Float64Array;
  absolute: Float64Array;
}

const errorsFor = (p: number): Errors => ({
  squares: new Float64Array(p),
  absolute: new Float64Array(p),
});

/**
 * Predicts answers of people from a model that has not seen them (Shmueli, Ray, Estrada & Chatla
 * 2016, J Bus Res 69): only the items of what nothing explains are read, everything else follows
 * along the paths. The benchmark is a regression of each item on all of those items.
 * @param folds fold of each row, one list for each repetition
 * @returns null where some fold leaves too few people to estimate from
 */
export function predictOut(
  { model, columns }: TheoryComposite,
  folds: readonly ArrayLike<number>[],
): PredictionEvidence | null {
  // Scores predict, so nothing is corrected, and products are those of scores.
  const built = buildComposite({
    model: { ...model, consistent: false, approach: "two_stage" },
    columns,
  });
  const sums = folds.map((fold) => overFolds(built, fold));
  if (sums.some((s) => s === null)) return null;
  const { n, sds } = built;
  const inner = innerItems(built);
  const average = (value: (s: FoldErrors) => number): number =>
    sums.reduce((all, s) => all + value(s!), 0) / sums.length;
  const items = inner.map(({ construct, item, k }) => {
    const figures = (pick: (s: FoldErrors) => Errors) => ({
      q2: average((s) => 1 - pick(s).squares[k]! / s.mean.squares[k]!),
      rmse: average((s) => sds[k]! * Math.sqrt(pick(s).squares[k]! / n)),
      mae: average((s) => (sds[k]! * pick(s).absolute[k]!) / n),
    });
    return { construct, item, ...figures((s) => s.model), benchmark: figures((s) => s.linear) };
  });
  const better = items.filter((i) => i.rmse < i.benchmark.rmse).length;
  const verdict =
    better === items.length
      ? "high"
      : better === 0
        ? "none"
        : better >= items.length / 2
          ? "medium"
          : "low";
  return {
    folds: new Set(Array.from(folds[0]!)).size,
    repetitions: folds.length,
    items,
    verdict,
    words: wordsOf(items, better, predictorsOf(built)),
  };
}

/** Folds of nearly equal size, drawn at random. */
export function drawnFolds(n: number, folds: number, repetition: number, seed: number): Int32Array {
  const stream = new RandomStream();
  stream.key(seed, streamIndex("folds", repetition));
  const order = new Int32Array(n);
  shuffle(order, stream);
  const out = new Int32Array(n);
  order.forEach((row, i) => (out[row] = i % folds));
  return out;
}

interface FoldErrors {
  model: Errors;
  linear: Errors;
  mean: Errors;
}

function overFolds(built: BuiltComposite, fold: ArrayLike<number>): FoldErrors | null {
  const p = built.indicators.length;
  const errors: FoldErrors = { model: errorsFor(p), linear: errorsFor(p), mean: errorsFor(p) };
  const estimator = new CompositeEstimator(built.plan);
  for (const held of new Set(Array.from(fold))) {
    const rows = Array.from({ length: built.n }, (_, i) => i);
    const train = rows.filter((i) => fold[i] !== held);
    const test = rows.filter((i) => fold[i] === held);
    if (train.length < 3) return null;
    if (!predictFold(built, estimator, train, test, errors)) return null;
  }
  return errors;
}

const innerItems = ({ model, plan }: BuiltComposite) =>
  model.constructs.flatMap(({ name, indicators }, j) =>
    model.paths.some(([, to]) => to === name)
      ? indicators.map((item, i) => ({ construct: name, item, k: plan.layout.start[j]! + i, j }))
      : [],
  );

/** Items of constructs that nothing explains. */
const outerItems = ({ model, plan }: BuiltComposite): number[] =>
  model.constructs.flatMap(({ name, indicators }, j) =>
    model.paths.some(([, to]) => to === name)
      ? []
      : indicators.map((_, i) => plan.layout.start[j]! + i),
  );

/** @returns false where the people left cannot be estimated from */
function predictFold(
  built: BuiltComposite,
  estimator: CompositeEstimator,
  train: number[],
  test: number[],
  errors: FoldErrors,
): boolean {
  const { plan, model } = built;
  const { indicators: p, constructs: c, start } = plan.layout;
  const sample = momentsOfRows(plan.values, p, train);
  const s = sample.covariances.slice();
  if (estimator.measure(sample) || estimator.structure(sample)) return false;
  const { algorithm, sds, coefficients, offsets } = estimator;
  const names = model.constructs.map((construct) => construct.name);
  const order = causalOrder(model.paths, names).map((name) => names.indexOf(name));
  const equationOf = new Map(plan.equations.map((e, i) => [e.outcome, i]));
  const inner = innerItems(built);
  const linear = regressions(
    s,
    p,
    outerItems(built),
    inner.map((i) => i.k),
  );
  if (!linear) return false;
  const score = new Float64Array(c);
  for (const i of test) {
    const x = (k: number): number => plan.values[i * p + k]!;
    for (const j of order) {
      const e = equationOf.get(j);
      score[j] = 0;
      if (e === undefined) {
        for (let k = start[j]!; k < start[j + 1]!; k++)
          score[j] = score[j]! + (algorithm.weights[k]! * (x(k) - sample.means[k]!)) / sds[k]!;
        continue;
      }
      const { predictors, products } = plan.equations[e]!;
      let sum = estimator.intercept(e);
      predictors.forEach((l, at) => (sum += coefficients[offsets[e]! + at]! * score[l]!));
      products.forEach((q, at) => {
        const [a, b] = plan.products[q]!;
        sum += coefficients[offsets[e]! + predictors.length + at]! * score[a]! * score[b]!;
      });
      score[j] = sum;
    }
    inner.forEach(({ k, j }, at) => {
      const centre = sample.means[k]!;
      add(errors.model, k, x(k) - centre - sds[k]! * algorithm.loadings[k * c + j]! * score[j]!);
      add(errors.mean, k, x(k) - centre);
      add(errors.linear, k, x(k) - centre - linear(at, (m) => x(m) - sample.means[m]!));
    });
  }
  return true;
}

function add({ squares, absolute }: Errors, k: number, error: number): void {
  squares[k] = squares[k]! + error * error;
  absolute[k] = absolute[k]! + Math.abs(error);
}

/** Regressions of items on others, from covariances; null where these determine one another. */
function regressions(
  s: Float64Array,
  p: number,
  predictors: number[],
  outcomes: number[],
): ((at: number, x: (k: number) => number) => number) | null {
  const equations = new NormalEquations(predictors.length);
  const b = new Float64Array(predictors.length * outcomes.length);
  for (let i = 0; i < outcomes.length; i++) {
    const from = i * predictors.length;
    if (!(equations.solve(s, p, predictors, outcomes[i]!, b, from) >= SINGULAR)) return null;
  }
  return (at, x) =>
    predictors.reduce((sum, k, i) => sum + b[at * predictors.length + i]! * x(k), 0);
}

/** What the benchmark regresses on: the items of constructs that nothing explains, in words. */
const predictorsOf = ({ model }: BuiltComposite): string =>
  listed(
    model.constructs
      .filter(({ name }) => !model.paths.some(([, to]) => to === name))
      .map(({ name, indicators }) => (indicators.length > 1 ? `all items of ${name}` : name)),
  );

function wordsOf(items: PredictionEvidence["items"], better: number, predictors: string): string[] {
  const constructs = [...new Set(items.map((i) => i.construct))];
  return [
    ...constructs.map((name) => {
      const own = items.filter((i) => i.construct === name);
      const worse = own.filter((i) => i.q2 <= 0).map((i) => i.item);
      const ahead = own.filter((i) => i.rmse < i.benchmark.rmse).length;
      const against =
        worse.length === own.length
          ? "worse than by the mean of the others"
          : worse.length > 0
            ? `better than by the mean of the others, but for ${worse.join(", ")}`
            : "better than by the mean of the others";
      const all =
        ahead === own.length ? `all ${ahead} of its items` : `${ahead} of its ${own.length} items`;
      const among = own.length === 1 ? "" : `${all} `;
      const whole = own.length === 1 && ahead === 0 ? "not " : "";
      return `In new cases ${name} is predicted ${against}, and ${among}${whole}with a smaller error than by a regression on ${predictors}.`;
    }),
    `${better} of ${items.length} items have a smaller error than by that benchmark: ${better === items.length ? "high" : better === 0 ? "no" : better >= items.length / 2 ? "medium" : "low"} predictive power (Shmueli et al. 2019).`,
  ];
}
