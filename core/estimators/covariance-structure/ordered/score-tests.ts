import { chiSquaredP } from "../../../numerics/distributions";
import type { ArrowModel } from "../arrows";
import type { FittedModel } from "../fitted-model";
import { inner, times } from "../moment-objective";
import { inverseOf } from "../scoring";
import {
  omittedArrows,
  scoreTestOf,
  NOT_IDENTIFIED,
  type Candidate,
  type ScoreTest,
} from "../omitted-arrows";
import { DependentObjective } from "./dependent-objective";
import type { OrderedModel } from "./ordered-model";
import { dependentsOf } from "./problem";

/**
 * Generalised score tests (Satorra 1989, Psychometrika 54) of the arrows that a model with ordered
 * variables leaves out: with d the derivative of the implied statistics by the new arrow (dependent
 * variances included), h what of it the parameters do not take and e the residuals, N (d'We)^2 /
 * (h'W Gamma W h); expected change d'We / h'Wd.
 * @returns the largest first
 */
export function orderedScoreTests(model: FittedModel, ordered: OrderedModel): ScoreTest[] {
  const { theta, models } = model;
  const { q, group } = ordered;
  const candidates = omittedArrows(models[0]!, 0);
  const count = candidates.length;
  if (count === 0) return [];
  const wide = new DependentObjective(
    widened(models[0]!, candidates, q),
    group,
    dependentsOf(models[0]!, q),
  );
  const point = Float64Array.from([...theta.slice(0, q), ...candidates.map(() => 0)]);
  if (wide.valueAt(point) === -Infinity) return [];
  const columns = wide.jacobian(0);
  const zero = new Float64Array(group.moments.length);
  const D = columns.slice(0, q).map((column) => column ?? zero);
  const WD = D.map((column) => times(group.weight, column));
  const information = Float64Array.from({ length: q * q }, (_, at) =>
    inner(D[Math.floor(at / q)]!, WD[at % q]!),
  );
  const inverse = inverseOf(information, q);
  if (!inverse) return [];
  const We = times(group.weight, wide.residuals(0));
  return candidates
    .flatMap((candidate, k) => {
      const d = columns[q + k];
      if (!d) return [];
      const along = Float64Array.from(WD, (column) => inner(column, d));
      const h = d.slice();
      for (let a = 0; a < q; a++) {
        let taken = 0;
        for (let b = 0; b < q; b++) taken += inverse[a * q + b]! * along[b]!;
        for (let m = 0; m < h.length; m++) h[m] = h[m]! - D[a]![m]! * taken;
      }
      const Wd = times(group.weight, d);
      const left = inner(h, Wd);
      if (!(left > NOT_IDENTIFIED * inner(d, Wd))) return [];
      const Wh = times(group.weight, h);
      const spread = inner(Wh, times(group.gamma, Wh));
      const slope = inner(d, We);
      const mi = (group.n * slope * slope) / spread;
      return [scoreTestOf(model, candidate, { mi, p: chiSquaredP(mi, 1), epc: slope / left })];
    })
    .sort((a, b) => b.mi - a.mi);
}

/** The model with new arrows after its own parameters and before the dependent variances. */
function widened(model: ArrowModel, candidates: readonly Candidate[], q: number): ArrowModel {
  const count = candidates.length;
  return {
    ...model,
    parameters: [
      ...model.parameters.slice(0, q),
      ...candidates.map((_, k) => `candidate ${k}`),
      ...model.parameters.slice(q),
    ],
    slots: [
      ...model.slots.map((s) => (s.parameter >= q ? { ...s, parameter: s.parameter + count } : s)),
      ...candidates.map(({ matrix, row, column }, k) => ({
        matrix,
        row,
        column,
        parameter: q + k,
        value: 0,
      })),
    ],
  };
}
