import { claimOf } from "../effects";
import { deltaTest, type BootstrapSummary } from "../inference";
import {
  compileExpression,
  equationOf,
  firstFixed,
  gradient,
  withoutCrossBlocks,
  type NormalTest,
} from "../model";
import type { Prepared } from "../preparation";
import { resamplerOf } from "../preparation/replicate-maker";
import type { IntervalKind } from "../study";
import { bootstrapAll, sourceOf } from "./effects";
import { claimsIn, testsOf } from "./judging";
import { isBootstrap, SUMMARY } from "../inference";
import { drawnLimits, jackknifeTests } from "./sources";
import { jointTestOf, routeOf } from "./two-path";
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
 * The tests of the sentences of a study and nothing else, resampled in this thread: what a
 * simulation asks of each of its samples. The same functions as in a full analysis, for those
 * quantities alone that sentences claim.
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
  const { replications, interval, level, crossEquations } = study.settings;
  const resampled = replications > 0 && isBootstrap(interval);
  const resampler = resampled ? resamplerOf(resampling) : null;
  const resamples = resampler && {
    replicates: [resampler.replicates(0, replications)],
    jackknife: interval === "bca" || more ? resampler.jackknife() : null,
  };
  resampler?.release();
  const boot = resamples && bootstrapAll(lean, resamples, []);
  const { fit, errors } = prepared;
  const covariance =
    crossEquations === "joint"
      ? fit.covariances[errors]
      : withoutCrossBlocks(fit.covariances[errors], (at) => equationOf(fit.parameters, at));
  const fixed = firstFixed(fit.parameters);
  const deltas = quantities.map((q, i) =>
    deltaTest(lean.estimates[i]!, gradient(q.expression, theta), covariance, level, fixed),
  );
  const jackknifed =
    resampled || "delta" in prepared.withheldIntervals
      ? new Map<number, NormalTest>()
      : jackknifeTests(lean, level, null);
  const drawn = drawnLimits(lean)?.quantities;
  const sources = new Map(
    quantities.map((q, i) => {
      const estimate = Number.isFinite(lean.estimates[i]!) ? lean.estimates[i]! : null;
      const source = sourceOf(lean, q, {
        estimate,
        reduced: estimate === null ? null : (fit.exactTest?.(q, estimate, level) ?? null),
        delta: deltas[i]!,
        jackknifed: jackknifed.get(i) ?? null,
        bootstrap: boot?.effects[i] ?? null,
        monteCarlo: drawn?.[i] ?? null,
      });
      return [q.id, source] as const;
    }),
  );
  return testsOf(lean, { effects: [], sources }, boot).map(
    ({ claim, claimed, test }): ClaimReading => {
      const [only, ...others] = claimed.quantities;
      const one = only && others.length === 0 ? only : null;
      const at = one ? quantities.findIndex((q) => q.id === one.id) : -1;
      return {
        label: claim.label,
        test,
        limits: limitsOf(boot?.effects[at] ?? null, deltas[at] ?? null),
        joint:
          one?.kind === "specific_indirect"
            ? (jointTestOf(fit, routeOf(lean, one).route, errors, 1 - level)?.significant ?? null)
            : null,
      };
    },
  );
}

/** Limits of every interval that was made. */
function limitsOf(
  summary: BootstrapSummary | null,
  delta: NormalTest | null,
): ClaimReading["limits"] {
  const limits: ClaimReading["limits"] = {};
  for (const [kind, key] of Object.entries(SUMMARY)) {
    const found = summary?.[key];
    if (found) limits[kind as IntervalKind] = { lower: found.lower, upper: found.upper };
  }
  if (delta) limits.delta = { lower: delta.lower, upper: delta.upper };
  return limits;
}
