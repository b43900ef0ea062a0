import type { Quantity } from "../effects";
import {
  deltaTest,
  holmAdjusted,
  strataOf,
  type BootstrapSummary,
  type ReplicateBlock,
} from "../inference";
import {
  byCovariance,
  compileExpression,
  equationOf,
  firstFixed,
  gradient,
  IMPROPER,
  withoutCrossBlocks,
  type NormalTest,
} from "../model";
import type { Prepared } from "../preparation";
import { madeOf } from "./made-of";
import { isBootstrap } from "../inference";
import { readInterval, type Sources } from "./reading";
import {
  evaluateReplicates,
  histogram,
  summariseReplicates,
  type EvaluatedReplicates,
  type Resamples,
} from "./replicates";
import { chosenJoint, drawnLimits, jackknifeTests, needsSds } from "./sources";
import { jointSignificance, routeOf, twoPath } from "./two-path";
import type { BootstrapRun, EffectEvidence } from "./types";
import { withheldReason } from "./withheld";

/** What the resamples say of every quantity and coefficient. */
export interface BootstrapAll {
  run: BootstrapRun;
  effects: (BootstrapSummary | null)[];
  coefficients: (BootstrapSummary | null)[];
  values: EvaluatedReplicates;
  /** How many replicates raise each flag of the parameter vector. */
  flags: Map<string, number>;
}

/**
 * @param jackknife null where no interval asks for it
 * @param coefficients what is summarised beside the quantities
 * @throws StudyProblem `no_replicates` when every resample failed
 */
export function bootstrapAll(
  prepared: Prepared,
  { replicates, jackknife }: Pick<Resamples, "replicates"> & { jackknife: ReplicateBlock | null },
  coefficients: readonly Quantity[] = prepared.fit.coefficients,
): BootstrapAll {
  const { study, resampling, theta, fit, sample } = prepared;
  const { replications, seed, level } = study.settings;
  const quantities = [...prepared.quantities, ...coefficients];
  const values = evaluateReplicates(quantities, replicates, resampling.studentised !== null);
  const left = jackknife && evaluateReplicates(quantities, [jackknife]);
  const estimates = Float64Array.from(quantities, (q) => compileExpression(q.expression)(theta, 0));
  const v = chosenJoint(prepared);
  const fixed = firstFixed(fit.parameters);
  const errors =
    values.errors &&
    quantities.map(
      (q, i) => deltaTest(estimates[i]!, gradient(q.expression, theta), v, level, fixed)?.se,
    );
  const strata = strataOf(resampling.scheme, sample.n);
  const all = summariseReplicates(estimates, values, left, level, errors, strata);
  const done = replicates.reduce((sum, block) => sum + block.count, 0);
  const flags = flagsOf(fit.parameters, replicates);
  return {
    run: {
      requested: replications,
      done,
      failed: values.failed,
      improper: flags.get(IMPROPER) ?? null,
      jackknifeFailed: left?.failed ?? 0,
      seed,
      resampling: resampling.scheme.kind,
    },
    effects: all.slice(0, prepared.quantities.length),
    coefficients: all.slice(prepared.quantities.length),
    values,
    flags,
  };
}

/** Replicates that raise a flag: a failed one is NaN and counts elsewhere. */
function flagsOf(
  { labels, roles }: Prepared["fit"]["parameters"],
  blocks: Resamples["replicates"],
): Map<string, number> {
  const places = labels.flatMap((label, at) =>
    roles[at] === "flag" ? [[label, at] as const] : [],
  );
  return new Map(
    places.map(([label, at]) => [
      label,
      blocks.reduce((sum, { count, size, values }) => {
        let found = 0;
        for (let r = 0; r < count; r++) if (values[r * size + at] === 1) found += 1;
        return sum + found;
      }, 0),
    ]),
  );
}

/** The effects as they are reported, and what each claim can draw on. */
export interface EffectList {
  effects: EffectEvidence[];
  sources: Map<string, Sources>;
}

/** Every quantity with its tests, intervals and what may be shown of it. */
export function effectEvidence(
  prepared: Prepared,
  boot: BootstrapAll | null,
  jackknife: ReplicateBlock | null,
): EffectList {
  const { study, errors, fit } = prepared;
  const { level, interval, replications } = study.settings;
  const drawn = drawnLimits(prepared)?.quantities;
  // Where intervals are bootstrapped, now or in a moment, nothing has to stand in for quantities of
  // SDs.
  const resampled = replications > 0 && isBootstrap(interval);
  const jackknifed =
    resampled || "delta" in prepared.withheldIntervals
      ? new Map<number, NormalTest>()
      : jackknifeTests(prepared, level, jackknife);
  const zeroed = byCovariance((kind) =>
    withoutCrossBlocks(fit.covariances[kind], (at) => equationOf(fit.parameters, at)),
  );
  const fixed = firstFixed(fit.parameters);
  const sources = new Map<string, Sources>();
  const effects = prepared.quantities.map((quantity, i): EffectEvidence => {
    const made = oneEffect(prepared, quantity, i, zeroed, boot);
    const source = sourceOf(prepared, quantity, {
      estimate: made.estimate,
      reduced: made.reduced,
      delta: made.delta[study.settings.crossEquations][errors],
      jackknifed: jackknifed.get(i) ?? null,
      bootstrap: made.bootstrap,
      monteCarlo: drawn?.[i] ?? null,
    });
    sources.set(quantity.id, source);
    const found = readInterval(source, study.settings, 0);
    // A squared effect is never below zero, so a test against zero would say nothing.
    const shown = quantity.kind === "explained_variance" ? { ...found, p: null } : found;
    return { ...made, monteCarlo: source.monteCarlo, shown };
  });
  const byId = new Map(effects.map((e) => [e.id, e]));
  // Reasons are found from all effects as they are, before any is withheld.
  const reasons = effects.map((e, i) =>
    withheldReason(prepared, prepared.quantities[i]!, e.shown!, e.estimate, (id) => byId.get(id)),
  );
  const holm = holmByFamily(prepared.quantities, effects);
  return {
    effects: effects.map((e, i) => ({
      ...e,
      withheld: reasons[i]!,
      shown: reasons[i] === null ? e.shown : null,
      holmP: holm[i]!,
    })),
    sources,
  };

  function oneEffect(
    { theta, estimates }: Prepared,
    quantity: Quantity,
    i: number,
    zero: typeof zeroed,
    resampled: BootstrapAll | null,
  ): EffectEvidence {
    const { expression, ...words } = quantity;
    const g = gradient(expression, theta);
    const summary = resampled?.effects[i] ?? null;
    const reading = fit.reading?.(quantity);
    const test = (v: Parameters<typeof deltaTest>[2]) =>
      deltaTest(estimates[i]!, g, v, level, fixed);
    return {
      ...words,
      estimate: Number.isFinite(estimates[i]!) ? estimates[i]! : null,
      made: madeOf(expression, fit.parameters, theta),
      delta: {
        joint: byCovariance((k) => test(fit.covariances[k])),
        zero: byCovariance((k) => test(zero[k]!)),
      },
      scale: reading?.scale ?? null,
      between: reading?.between ?? null,
      reduced: fit.exactTest?.(quantity, estimates[i]!, level) ?? null,
      ...routeExtras(prepared, quantity),
      bootstrap: summary && { ...summary, histogram: histogram(resampled!.values.sorted(i)) },
      monteCarlo: null,
      shown: null,
      withheld: null,
      holmP: null,
    };
  }
}

/** What the test of a quantity can draw on, from all that is known of it. */
export const sourceOf = (
  prepared: Prepared,
  quantity: Quantity,
  known: {
    reduced: EffectEvidence["reduced"];
    jackknifed: NormalTest | null;
  } & Pick<Sources, "estimate" | "delta" | "bootstrap" | "monteCarlo">,
): Sources => {
  const { fit, errors, study } = prepared;
  const exact = fit.standardised ? null : (known.reduced?.tests[errors] ?? null);
  return {
    estimate: known.estimate,
    linear: exact ?? fit.tTest?.(quantity.expression, errors, study.settings.level) ?? null,
    delta: needsSds(prepared, quantity) ? known.jackknifed : known.delta,
    bootstrap: known.bootstrap,
    monteCarlo: known.monteCarlo,
  };
};

function routeExtras(
  prepared: Prepared,
  quantity: Quantity,
): Pick<EffectEvidence, "twoPath" | "jointSignificance"> {
  if (quantity.kind !== "specific_indirect") return { twoPath: null, jointSignificance: null };
  const { level } = prepared.study.settings;
  const { pair, route } = routeOf(prepared, quantity);
  return {
    twoPath: twoPath(prepared, pair, route, level),
    jointSignificance: jointSignificance(prepared, route, 1 - level),
  };
}

/** p of every difference between levels, adjusted for the other differences of the same effect. */
function holmByFamily(quantities: Quantity[], effects: EffectEvidence[]): (number | null)[] {
  const families = new Map<string, number[]>();
  quantities.forEach(({ family }, i) => {
    if (family !== undefined) families.set(family, [...(families.get(family) ?? []), i]);
  });
  const out: (number | null)[] = quantities.map(() => null);
  for (const members of families.values()) {
    const adjusted = holmAdjusted(members.map((i) => effects[i]!.shown?.p ?? null));
    members.forEach((i, k) => (out[i] = adjusted[k]!));
  }
  return out;
}
