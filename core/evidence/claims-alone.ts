import { claimOf } from "../effects";
import { compileExpression } from "../model";
import type { Prepared } from "../prepare";
import { resamplerOf } from "../replicate-maker";
import type { IntervalKind } from "../study";
import { bootstrapAll, effectEvidence } from "./effects";
import { claimsIn, testsOf } from "./hypotheses";
import { isBootstrap, SUMMARY } from "./reading";
import type { ClaimTest } from "./types";

/** What one analysis says of one sentence, in numbers alone. */
export interface ClaimReading {
  label: string;
  test: ClaimTest | null;
  /** Limits of every interval that was made, where the claim is about one quantity. */
  limits: Partial<Record<IntervalKind, { lower: number; upper: number }>>;
  /** Is every path of an indirect effect significant by its own test? Null for other claims. */
  joint: boolean | null;
}

/**
 * The tests of the sentences of a study and nothing else, resampled in this thread: what a simulation asks of each of its samples.
 * The same functions as in a full analysis, for those quantities alone that sentences claim.
 * @param more also the limits that the chosen interval does not need
 */
export function claimsAlone(prepared: Prepared, more = false): ClaimReading[] {
  const { context, study, theta, resampling } = prepared;
  const wanted = new Set(
    claimsIn(prepared).flatMap((claim) => {
      const { quantities, focal } = claimOf(context, claim);
      return [...quantities, ...focal].map((q) => q.id);
    }),
  );
  const quantities = prepared.quantities.filter((q) => wanted.has(q.id));
  const lean: Prepared = {
    ...prepared,
    quantities,
    estimates: Float64Array.from(quantities, (q) => compileExpression(q.expression)(theta, 0)),
  };
  const { replications, interval } = study.settings;
  const resampled = replications > 0 && isBootstrap(interval);
  const resampler = resampled ? resamplerOf(resampling) : null;
  const resamples = resampler && {
    replicates: [resampler.replicates(0, replications)],
    jackknife: interval === "bca" || more ? resampler.jackknife() : null,
  };
  const boot = resamples && bootstrapAll(lean, resamples, []);
  const list = effectEvidence(lean, boot, resamples?.jackknife ?? null);
  return testsOf(lean, list, boot).map(({ claim, claimed, test }): ClaimReading => {
    const [only, ...others] = claimed.quantities;
    const at = only && others.length === 0 ? quantities.findIndex((q) => q.id === only.id) : -1;
    const effect = list.effects[at];
    const summary = boot?.effects[at] ?? null;
    const limits: ClaimReading["limits"] = {};
    for (const [kind, key] of Object.entries(SUMMARY)) {
      const found = summary?.[key];
      if (found) limits[kind as IntervalKind] = { lower: found.lower, upper: found.upper };
    }
    const delta = effect?.delta[study.settings.crossEquations][prepared.errors];
    if (delta) limits.delta = { lower: delta.lower, upper: delta.upper };
    return {
      label: claim.label,
      test,
      limits,
      joint: effect?.jointSignificance?.[prepared.errors]?.significant ?? null,
    };
  });
}
