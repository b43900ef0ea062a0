import { chiSquaredP } from "../../numerics/distributions";
import { addRow } from "./curvature";
import type { ArrowModel } from "./arrows";
import {
  NOT_IDENTIFIED,
  omittedArrows,
  scoreTestOf,
  type Candidate,
  type ScoreTest,
} from "./omitted-arrows";
import type { FittedModel } from "./fit-model";
import { modelCurvature, throughMoments } from "./moment-curvature";
import { NormalLikelihood } from "./normal-likelihood";
import { orderedScoreTests } from "./ordered/score-tests";
import { inverseOf } from "./scoring";

export type { ScoreTest } from "./omitted-arrows";

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
