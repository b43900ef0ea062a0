import { ln } from "../../numerics/elementary";
import { quantile6 } from "../../numerics/quantile";
import { RandomStream, streamIndex } from "../../numerics/random";
import type { GroupComparisonEvidence, PermutationTest } from "./types";
import { CompositeEstimator } from "./estimator";
import type { EstimatedGroup } from "./estimated-groups";
import { buildComposite, type BuiltComposite } from "./model";
import { DrawnMoments } from "./sample-covariances";
import type { TheoryComposite } from "./theory-model";

const ROUNDING = 1e-12;
/** Level of all limits: five of a hundred permutations lie outside. */
const LEVEL = 0.05;

/** What is compared in one division of people into two groups. */
interface Division {
  compositional: number[];
  means: number[];
  variances: number[];
  paths: number[];
  first: number[];
  second: number[];
}

/**
 * Do two groups measure alike (Henseler, Ringle & Sarstedt 2016, Int Marketing Rev 33), and do
 * their paths differ (Chin & Dibbern 2010)? People are dealt to groups of the same sizes again and
 * again, and everything is estimated anew.
 * @param given permutations made elsewhere, of the rows of the sample: the first so many are the
 *   first group; drawn where null
 */
export function compareGroups(
  composite: TheoryComposite,
  [one, two]: [EstimatedGroup, EstimatedGroup],
  count: number,
  seed: number,
  given: readonly Int32Array[] | null,
): GroupComparisonEvidence {
  const divide = dividing(composite, one, two);
  const rows = Int32Array.from([...one.rows, ...two.rows]).sort();
  const place = new Map(Array.from(rows, (row, i) => [row, i]));
  const size = one.rows.length;
  const observed = divide(
    Int32Array.from([...one.rows, ...two.rows], (row) => place.get(row)!),
    size,
  );
  if (!observed) throw new Error("Groups that were estimated can be compared.");
  const total = given ? Math.min(given.length, count) : count;
  const found: Division[] = [];
  const order = new Int32Array(rows.length);
  const stream = new RandomStream();
  for (let r = 0; r < total; r++) {
    if (given) given[r]!.forEach((row, i) => (order[i] = place.get(row)!));
    else {
      stream.key(seed, streamIndex("permutations", r));
      shuffle(order, stream);
    }
    const division = divide(order, size);
    if (division) found.push(division);
  }
  return evidence(one, two, observed, found, total);
}

/** Every order is as likely as any other (Fisher & Yates). */
export function shuffle(order: Int32Array, stream: RandomStream): void {
  for (let i = 0; i < order.length; i++) order[i] = i;
  for (let i = order.length - 1; i > 0; i--) {
    const j = stream.below(i + 1);
    const held = order[i]!;
    order[i] = order[j]!;
    order[j] = held;
  }
}

/**
 * Estimates two groups of the pooled rows, and what is compared between them; null where one cannot
 * be estimated.
 */
function dividing(
  { model, columns }: TheoryComposite,
  one: EstimatedGroup,
  two: EstimatedGroup,
): (order: Int32Array, size: number) => Division | null {
  const pooled = Int32Array.from([...one.rows, ...two.rows]).sort();
  const built = buildComposite({
    model,
    columns: new Map(
      [...columns].map(([key, values]) => [key, Float64Array.from(pooled, (row) => values[row]!)]),
    ),
  });
  const { plan } = built;
  const { indicators: p, constructs: c } = plan.layout;
  const whole = new CompositeEstimator(plan);
  const drawn = new DrawnMoments(plan.values, p);
  const all = drawn.of(Int32Array.from({ length: built.n }, (_, i) => i));
  if (whole.measure(all)) return () => null;
  const r = whole.r.slice();
  const scores = scoresBy(built, whole.algorithm.weights);
  const estimator = new CompositeEstimator(plan);
  const estimate = (rows: Int32Array): { weights: Float64Array; b: number[] } | null => {
    const sample = drawn.of(rows);
    if (estimator.measure(sample) || estimator.structure(sample)) return null;
    return { weights: estimator.algorithm.weights.slice(), b: [...estimator.coefficients] };
  };
  return (order, size) => {
    const [rows1, rows2] = [order.slice(0, size), order.slice(size)];
    const a = estimate(rows1);
    const b = a && estimate(rows2);
    if (!a || !b) return null;
    const of = Array.from({ length: c }, (_, j) => j);
    const m1 = of.map((j) => momentsIn(scores[j]!, rows1));
    const m2 = of.map((j) => momentsIn(scores[j]!, rows2));
    return {
      compositional: of.map((j) => agreement(built, r, a.weights, b.weights, j)),
      means: of.map((j) => m1[j]!.mean - m2[j]!.mean),
      variances: of.map((j) => ln(m1[j]!.variance / m2[j]!.variance)),
      paths: a.b.map((value, i) => value - b.b[i]!),
      first: a.b,
      second: b.b,
    };
  };
}

function scoresBy({ plan, n }: BuiltComposite, weights: Float64Array): Float64Array[] {
  const { start, constructs, indicators: p } = plan.layout;
  return Array.from({ length: constructs }, (_, j) =>
    Float64Array.from({ length: n }, (__, i) => {
      let sum = 0;
      for (let k = start[j]!; k < start[j + 1]!; k++) sum += weights[k]! * plan.values[i * p + k]!;
      return sum;
    }),
  );
}

function momentsIn(values: Float64Array, rows: Int32Array): { mean: number; variance: number } {
  let sum = 0;
  for (const row of rows) sum += values[row]!;
  const centre = sum / rows.length;
  let squares = 0;
  for (const row of rows) squares += (values[row]! - centre) ** 2;
  return { mean: centre, variance: squares / (rows.length - 1) };
}

/** Correlation, over everybody, of the scores that two sets of weights make. */
function agreement(
  { plan }: BuiltComposite,
  r: Float64Array,
  a: Float64Array,
  b: Float64Array,
  j: number,
): number {
  const { start, indicators: p } = plan.layout;
  const [from, to] = [start[j]!, start[j + 1]!];
  if (to - from === 1) return 1;
  const form = (x: Float64Array, y: Float64Array): number => {
    let sum = 0;
    for (let k = from; k < to; k++)
      for (let m = from; m < to; m++) sum += x[k]! * r[k * p + m]! * y[m]!;
    return sum;
  };
  return form(a, b) / Math.sqrt(form(a, a) * form(b, b));
}

function evidence(
  one: EstimatedGroup,
  two: EstimatedGroup,
  observed: Division,
  found: readonly Division[],
  total: number,
): GroupComparisonEvidence {
  const { model, plan } = one.built;
  const m = found.length;
  const twoSided = (what: "means" | "variances" | "paths", j: number): PermutationTest => {
    const estimate = observed[what][j]!;
    const values = Float64Array.from(found, (d) => d[what][j]!).sort();
    const beyond = values.filter((v) => Math.abs(v) >= Math.abs(estimate) - ROUNDING).length;
    return {
      estimate,
      lower: quantile6(values, LEVEL / 2),
      upper: quantile6(values, 1 - LEVEL / 2),
      p: (1 + beyond) / (m + 1),
    };
  };
  const inside = (test: PermutationTest): PermutationTest & { equal: boolean } => ({
    ...test,
    equal: test.estimate >= test.lower && test.estimate <= test.upper,
  });
  const constructs = model.constructs.map(({ name, indicators }, j) => {
    const estimate = observed.compositional[j]!;
    const values = Float64Array.from(found, (d) => d.compositional[j]!).sort();
    const single = indicators.length === 1;
    const limit = single ? 1 : quantile6(values, LEVEL);
    const compositional = {
      estimate,
      limit,
      p: single ? 1 : (1 + values.filter((v) => v <= estimate + ROUNDING).length) / (m + 1),
      invariant: single || estimate >= limit,
    };
    const means = inside(twoSided("means", j));
    const variances = inside(twoSided("variances", j));
    return {
      construct: name,
      compositional,
      means,
      variances,
      step: !compositional.invariant
        ? ("none" as const)
        : means.equal && variances.equal
          ? ("full" as const)
          : ("partial" as const),
    };
  });
  const names = model.constructs.map((c) => c.name);
  const paths = plan.equations.flatMap(({ outcome, predictors, products }, e) => {
    const offset = one.solution.estimator.offsets[e]!;
    const from = [
      ...predictors.map((i) => names[i]!),
      ...products.map((q) => plan.products[q]!.map((i) => names[i]!).join(" x ")),
    ];
    return from.map((name, i) => ({
      ...twoSided("paths", offset + i),
      from: name,
      to: names[outcome]!,
      first: observed.first[offset + i]!,
      second: observed.second[offset + i]!,
    }));
  });
  return {
    first: one.name,
    second: two.name,
    permutations: total,
    failed: total - m,
    constructs,
    paths,
    words: wordsOf(constructs, paths),
  };
}

function wordsOf(
  constructs: GroupComparisonEvidence["constructs"],
  paths: GroupComparisonEvidence["paths"],
): string[] {
  const list = (step: string): string[] =>
    constructs.filter((c) => c.step === step).map((c) => c.construct);
  const [none, partial, full] = [list("none"), list("partial"), list("full")];
  const differ = paths.filter((p) => p.p < LEVEL);
  return [
    ...(full.length > 0
      ? [`Measured alike, with equal means and variances: ${full.join(", ")}.`]
      : []),
    ...(partial.length > 0
      ? [
          `Measured alike, but with other means or variances: ${partial.join(", ")}. Paths may be compared; scores of all people together may not be pooled without a thought.`,
        ]
      : []),
    ...(none.length > 0
      ? [
          `Not measured alike: ${none.join(", ")}. Weights differ more than by chance, so a difference of paths there may come from measurement.`,
        ]
      : []),
    differ.length > 0
      ? `Paths that differ more than by chance: ${differ.map((p) => `${p.from} to ${p.to}`).join(", ")}.`
      : "No path differs more than by chance.",
  ];
}
