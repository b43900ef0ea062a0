import { chiSquaredP } from "../../numerics/distributions";
import { addRow } from "./curvature";
import { arrowName, type ArrowModel, type Slot } from "./arrows";
import type { FittedModel } from "./fit-model";
import { modelCurvature, throughMoments } from "./moment-curvature";
import { NormalLikelihood } from "./normal-likelihood";
import { orderedScoreTests } from "./ordered/score-tests";
import { inverseOf } from "./scoring";

/**
 * What letting one arrow go would do to a model (Lagrange multiplier test), and where its estimate
 * would go.
 */
export interface ScoreTest {
  arrow: string;
  kind: "loading" | "covariance" | "path" | "release";
  arrowKind: "path" | "covariance" | "intercept";
  from: string;
  to: string;
  group: string;
  mi: number;
  p: number;
  epc: number;
  /**
   * In SDs: of both variables for a path, of both residuals for a covariance; null where a variance
   * is not positive.
   */
  sepc: number | null;
}

/** An arrow that could be added, with its place. */
export interface Candidate extends Pick<Slot, "matrix" | "row" | "column"> {
  kind: ScoreTest["kind"];
  group: number;
  /** Where it begins: 0, or what it is held equal to. */
  value: number;
}

/**
 * What is left of a parameter's information when the others are estimated, as a share of it, below
 * which nothing is known of it.
 */
export const NOT_IDENTIFIED = 1e-8;

/**
 * Score tests of what a model of latent variables leaves out: cross loadings, residual covariances
 * of items and of explained variables, paths that close no circle; and of equalities between
 * groups. With values missing they rest on the observed information, else on the expected one.
 * @returns the largest first; empty for estimators without a likelihood
 */
export function scoreTests(model: FittedModel): ScoreTest[] {
  const { models, likelihood, sample, theta } = model;
  if (model.ordered) return orderedScoreTests(model, model.ordered);
  if (!likelihood) return [];
  const candidates = models.flatMap((each, g) => [
    ...omittedArrows(each, g),
    ...(models.length > 1 ? shared(each, g, models, theta) : []),
  ]);
  if (candidates.length === 0) return [];
  const q = likelihood.q;
  const labels = [...models[0]!.parameters, ...candidates.map((_, k) => `candidate ${k}`)];
  const extended = models.map((each, g) => ({
    ...each,
    parameters: labels,
    slots: [
      ...each.slots,
      ...candidates.flatMap((c, k) =>
        c.group === g
          ? [{ matrix: c.matrix, row: c.row, column: c.column, parameter: q + k, value: 0 }]
          : [],
      ),
    ],
  }));
  const wide = new NormalLikelihood(
    extended,
    sample.groups.map((g) => ({ patterns: g.moments })),
  );
  const point = Float64Array.from([...theta, ...candidates.map((c) => c.value)]);
  if (wide.valueAt(point) === -Infinity) return [];
  const size = q + candidates.length;
  const found = collect(wide, size, q, sample.missing);
  const inverse = inverseOf(found.inner, q);
  if (!inverse) return [];
  return candidates
    .flatMap((candidate, k) => testOf(model, candidate, q + k, found, inverse, q))
    .sort((a, b) => b.mi - a.mi);
}

interface Derivatives {
  score: Float64Array;
  /** Information of the model's own parameters, q x q. */
  inner: Float64Array;
  /** Between every parameter and the model's own, size x q. */
  across: Float64Array;
  /** Each parameter's own. */
  diagonal: Float64Array;
}

/** Only what the tests need: of candidates with one another nothing but the diagonal. */
function collect(
  likelihood: NormalLikelihood,
  size: number,
  q: number,
  observed: boolean,
): Derivatives {
  const score = new Float64Array(size);
  const across = new Float64Array(size * q);
  const diagonal = new Float64Array(size);
  const row = new Float64Array(size);
  const add = (to: Float64Array, at: number, value: number): void => {
    to[at] = to[at]! + value;
  };
  for (const parts of likelihood.parts) {
    const { count, parameter } = parts[0]!.directions;
    // The model's own arrows come first, candidates after them.
    const own = parameter.findIndex((a) => a >= q);
    const until = own < 0 ? count : own;
    if (observed && throughMoments(parts)) {
      for (const part of parts) {
        part.value();
        part.addScoreAlone(score);
      }
      const curvature = modelCurvature(parts);
      for (let s = 0; s < count; s++) {
        const a = parameter[s]!;
        for (let t = 0; t < until; t++) add(across, a * q + parameter[t]!, curvature.between(s, t));
        if (a >= q) add(diagonal, a, curvature.between(s, s));
      }
      continue;
    }
    for (const part of parts) {
      part.value();
      part.columns();
      part.addScore(score);
      for (let s = 0; s < count; s++) {
        const a = parameter[s]!;
        row.fill(0);
        addRow(part, s, until, observed, row, 0);
        for (let b = 0; b < q; b++) across[a * q + b] = across[a * q + b]! + row[b]!;
        if (a < q) continue;
        row.fill(0);
        addRow(part, s, s + 1, observed, row, s);
        diagonal[a] = diagonal[a]! + row[a]!;
      }
    }
  }
  for (let a = 0; a < q; a++) diagonal[a] = across[a * q + a]!;
  return { score, across, diagonal, inner: across.slice(0, q * q) };
}

function testOf(
  model: FittedModel,
  candidate: Candidate,
  at: number,
  { score, across, diagonal }: Derivatives,
  inverse: Float64Array,
  q: number,
): ScoreTest[] {
  let taken = 0;
  for (let a = 0; a < q; a++)
    for (let b = 0; b < q; b++)
      taken += across[at * q + a]! * inverse[a * q + b]! * across[at * q + b]!;
  const left = diagonal[at]! - taken;
  if (!(left > NOT_IDENTIFIED * diagonal[at]!)) return [];
  const epc = score[at]! / left;
  const mi = score[at]! * epc;
  return [scoreTestOf(model, candidate, { mi, p: chiSquaredP(mi, 1), epc })];
}

/** A test with the arrow that it is about, and the expected change in SDs. */
export function scoreTestOf(
  { models, implied, spec }: FittedModel,
  candidate: Candidate,
  { mi, p, epc }: Pick<ScoreTest, "mi" | "p" | "epc">,
): ScoreTest {
  const { variables } = models[candidate.group]!;
  const { E, S, v } = implied[candidate.group]!;
  const { row, column, matrix } = candidate;
  const to = variables[row]!;
  const from = matrix === "m" ? "" : variables[column]!;
  const variance = (of: Float64Array, i: number): number => of[i * v + i]!;
  const scale =
    matrix === "A"
      ? variance(E, column) / variance(E, row)
      : matrix === "S"
        ? 1 / (variance(S, row) * variance(S, column))
        : 1 / variance(E, row);
  const kinds = { A: "path", S: "covariance", m: "intercept" } as const;
  const positive = matrix !== "S" || (variance(S, row) > 0 && variance(S, column) > 0);
  return {
    arrow: arrowName({
      kind: kinds[matrix],
      from: matrix === "S" ? to : from,
      to: matrix === "S" ? from : to,
    }),
    kind: candidate.kind,
    arrowKind: kinds[matrix],
    from,
    to,
    group: spec.groups[candidate.group]!.name,
    mi,
    p,
    epc,
    sepc: positive && scale >= 0 ? epc * Math.sqrt(scale) : null,
  };
}

/** Arrows that a model leaves out and that would make sense. */
export function omittedArrows(model: ArrowModel, group: number): Candidate[] {
  const { slots, observed: p, variables } = model;
  const v = variables.length;
  const has = (matrix: Slot["matrix"], row: number, column: number): boolean =>
    slots.some(
      (s) =>
        s.matrix === matrix &&
        ((s.row === row && s.column === column) ||
          (matrix === "S" && s.row === column && s.column === row)),
    );
  const paths = slots.filter((s) => s.matrix === "A");
  const isItem = (i: number): boolean => i < p && paths.some((s) => s.row === i && s.column >= p);
  const factors = range(p, v).filter((f) => paths.some((s) => s.column === f && s.row < p));
  const items = range(0, p).filter(isItem);
  const structural = range(0, v).filter((i) => !isItem(i));
  const endogenous = structural.filter((i) => paths.some((s) => s.row === i));
  const reaches = reachability(model);
  const base = { group, value: 0 };
  return [
    ...factors.flatMap((column) =>
      items.flatMap((row): Candidate[] =>
        has("A", row, column) || reaches(row, column)
          ? []
          : [{ ...base, matrix: "A", row, column, kind: "loading" }],
      ),
    ),
    ...pairs(items)
      .concat(pairs(endogenous))
      .flatMap(([row, column]): Candidate[] =>
        has("S", row, column) ? [] : [{ ...base, matrix: "S", row, column, kind: "covariance" }],
      ),
    ...structural.flatMap((column) =>
      endogenous.flatMap((row): Candidate[] =>
        row === column || has("A", row, column) || reaches(row, column)
          ? []
          : [{ ...base, matrix: "A", row, column, kind: "path" }],
      ),
    ),
  ];
}

/** Arrows that are held equal to those of other groups. */
function shared(
  model: ArrowModel,
  group: number,
  models: readonly ArrowModel[],
  theta: Float64Array,
): Candidate[] {
  // Releasing an equality in the first of two groups says the same as in the second.
  if (group === 0) return [];
  return model.slots.flatMap(({ matrix, row, column, parameter }): Candidate[] =>
    parameter >= 0 &&
    models.some((other, g) => g !== group && other.slots.some((s) => s.parameter === parameter))
      ? [{ matrix, row, column, kind: "release", group, value: theta[parameter]! }]
      : [],
  );
}

/** Does a directed path lead from one variable to another? */
function reachability({ slots, variables }: ArrowModel): (from: number, to: number) => boolean {
  const v = variables.length;
  const reach = new Uint8Array(v * v);
  for (const s of slots) if (s.matrix === "A") reach[s.column * v + s.row] = 1;
  for (let k = 0; k < v; k++)
    for (let i = 0; i < v; i++)
      if (reach[i * v + k]) for (let j = 0; j < v; j++) if (reach[k * v + j]) reach[i * v + j] = 1;
  return (from, to) => reach[from * v + to] === 1;
}

const range = (from: number, to: number): number[] =>
  Array.from({ length: Math.max(0, to - from) }, (_, i) => from + i);

const pairs = (list: readonly number[]): [number, number][] =>
  list.flatMap((row, i) => list.slice(0, i).map((column): [number, number] => [row, column]));
