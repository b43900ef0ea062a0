import { chiSquaredP } from "../../../numerics/distributions";
import type { ArrowModel } from "../arrows";
import type { FittedModel } from "../fitted-model";
import { inner, times } from "../moment-objective";
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
import { projection, solved } from "./projection";

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
  const found = projection(group, columns.slice(0, q));
  if (!found) return [];
  const We = times(group.weight, wide.residuals(0));
  return candidates
    .flatMap((candidate, k) => {
      const d = columns[q + k];
      if (!d) return [];
      const h = d.slice();
      const taken = solved(
        found,
        found.WD.map((column) => inner(column, d)),
      );
      taken.forEach((share, k) => {
        const own = found.D[k]!;
        for (let m = 0; m < h.length; m++) h[m] = h[m]! - own[m]! * share;
      });
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
