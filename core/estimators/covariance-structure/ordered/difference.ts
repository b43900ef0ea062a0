import { chiSquaredP } from "../../../numerics/distributions";
import type { FittedModel } from "../fitted-model";
import type { DifferenceEvidence } from "../types";
import { shiftOf, tracesIn, unexplained } from "./shifted-fit";

type OrderedDifference = Pick<DifferenceEvidence, "chi2" | "df" | "p" | "scaled"> & {
  reversed: boolean;
  negativeScaling: boolean;
};

/**
 * A difference of two nested models with ordered variables, scaled and shifted (Satorra 2000;
 * Asparouhov & Muthen 2010), all at the larger model: traces of (U0 - U1) Gamma, U0 with the
 * derivatives of the larger model along what the smaller one leaves free. The same as by the
 * Jacobian of the constraints.
 * @returns null where the models are not nested by arrows
 */
export function orderedDifference(
  smaller: FittedModel,
  larger: FittedModel,
): OrderedDifference | null {
  const [one, other] = [larger.ordered, smaller.ordered];
  if (!one || !other) return null;
  const df = one.q - other.q;
  if (df <= 0) return null;
  one.objective.valueAt(larger.theta.slice(0, one.q));
  const own = one.objective.jacobian(0);
  const m = one.group.moments.length;
  const along = Array.from({ length: other.q }, () => new Float64Array(m));
  for (const slot of larger.models[0]!.slots) {
    if (slot.parameter < 0 || slot.parameter >= one.q) continue;
    const same = smaller.models[0]!.slots.find(
      (s) => s.matrix === slot.matrix && s.row === slot.row && s.column === slot.column,
    );
    const column = own[slot.parameter];
    if (!same || same.parameter < 0 || same.parameter >= other.q || !column) continue;
    const to = along[same.parameter]!;
    // A parameter that stands in several places counts once.
    if (seen(larger, slot.parameter) !== slot) continue;
    for (let i = 0; i < m; i++) to[i] = to[i]! + column[i]!;
  }
  const tight = unexplained(one.group, along);
  const loose = unexplained(one.group, own);
  if (!tight || !loose) return null;
  const traces = tracesIn(
    tight.map((value, at) => value - loose[at]!),
    m,
  );
  const chi2 = smaller.fit.plain.chi2 - larger.fit.plain.chi2;
  const { scale, shift } = shiftOf(traces, df);
  const scaled = scale * chi2 + shift;
  const p = chiSquaredP(Math.max(0, scaled), df);
  return {
    chi2,
    df,
    p,
    scaled: { scaling: traces.first / df, chi2: scaled, p },
    reversed: chi2 < 0,
    negativeScaling: false,
  };
}

/** The first place of a parameter. */
const seen = ({ models }: FittedModel, parameter: number) =>
  models[0]!.slots.find((s) => s.parameter === parameter);
