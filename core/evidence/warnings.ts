import {
  directId,
  indirectId,
  totalId,
  totalIndirectId,
  type EffectPair,
  type Probe,
} from "../effects";
import type { BootstrapSummary } from "../inference";
import type { Prepared } from "../preparation";
import type { Warning } from "../problems";
import type { CovarianceKind } from "../study";
import { writeStatement } from "../theory";
import { warning } from "../wording";
import { minus, plain } from "../wording/numbers";
import { excludes } from "./reading";
import type { BootstrapRun, EffectEvidence } from "./types";

/**
 * Above this share of failed resamples the loss itself is a finding; where fits go by steps, some
 * fail in any sound study.
 */
const MANY_FAILED = { closed: 0.05, stepwise: 0.1 };
/** Above this share of resamples without a finite value a quantity is warned of. */
const MANY_MISSING = 0.01;
/** Fewer clusters than these make cluster-robust errors uncertain, or hardly usable. */
const FEW_CLUSTERS = 40;
const TOO_FEW_CLUSTERS = 10;
/**
 * Ratios have such heavy tails that their limits alone would raise this warning in most studies.
 */
const UNSTEADY = new Set(["ratio_to_direct", "proportion_mediated"]);

/** What deserves a look, whatever the interval method. */
export function warningsOf(
  prepared: Prepared,
  effects: EffectEvidence[],
  run: BootstrapRun | null,
  flags: ReadonlyMap<string, number>,
): Warning[] {
  const done = run?.done ?? 0;
  const complete = done >= prepared.study.settings.replications;
  const own = prepared.fit.warnings ?? [];
  return [
    ...leftOutWarnings(prepared),
    ...unusedModels(prepared),
    ...sampleWarnings(prepared),
    ...unitWarnings(prepared),
    ...clusterWarnings(prepared),
    ...intervalWarnings(prepared),
    ...own,
    ...(prepared.fit.resampledWarnings?.({ flags, done, complete }) ?? []),
    ...probeWarnings(prepared),
    ...effectWarnings(prepared, effects).filter((w) => !own.some((said) => sameFinding(said, w))),
    ...liberalWarnings(prepared),
    ...resamplingWarnings(effects, run),
  ];
}

/** What an engine says of an outcome in its own words is not said again. */
const sameFinding = (said: Warning, { code, data }: Warning): boolean =>
  said.code === code && said.data.outcome !== undefined && said.data.outcome === data.to;

/** Are rows with some values missing analysed? */
export const keepsIncomplete = ({ engine, study }: Prepared): boolean =>
  engine.keepsIncomplete?.(study.settings) ?? false;

function sampleWarnings(prepared: Prepared): Warning[] {
  const { sample, study, dataset } = prepared;
  const { unit } = study;
  const list: Warning[] = [];
  if (dataset.table.moments) {
    const { n, standardised } = dataset.table.moments;
    list.push(warning("moments_only", { n, unit, standardised: standardised === true }, []));
  }
  const read = sample.rowsRead;
  if (sample.excluded > 0) {
    const filters = dataset.excluded.filter((e) => e.rows.length > 0).map((e) => e.filter);
    list.push(warning("rows_excluded", { excluded: sample.excluded, read, unit, filters }, []));
  }
  if (sample.dropped.length > 0 && keepsIncomplete(prepared)) {
    list.push(warning("rows_empty", { empty: sample.dropped.length, read, unit }, []));
  } else if (sample.dropped.length > 0) {
    const missing = Object.entries(sample.missing)
      .map(([name, count]) => ({ name, count }))
      .filter(({ count }) => count > 0)
      .sort((a, b) => b.count - a.count);
    const about = missing.map(({ name }) => name);
    list.push(
      warning("rows_dropped", { dropped: sample.dropped.length, read, unit, missing }, about),
    );
  }
  return list;
}

/** Of a theory that is being written: what the numbers are without. */
const leftOutWarnings = ({ dataset }: Prepared): Warning[] =>
  dataset.theory.leftOut.map(({ text, name, message }) =>
    warning("sentence_left_out", { text, name, message }, name === null ? [] : [name]),
  );

/** Lines that say how something is modelled that nothing explains, and that is no latent variable. */
const unusedModels = ({ theory, measures }: Prepared): Warning[] =>
  theory.models
    .filter(
      ({ of: { name }, family }) =>
        !theory.equations.some((e) => e.outcome === name) &&
        !(family === "ordered" && measures.some((m) => m.name.name === name)),
    )
    .map((model) =>
      warning("model_unused", { line: writeStatement(model), name: model.of.name }, [
        model.of.name,
      ]),
    );

const unitWarnings = ({ typed }: Prepared): Warning[] =>
  [...typed.values()].flatMap(({ name, power = 0 }) =>
    power === 0 ? [] : [warning("unit_changed", { name, power }, [name])],
  );

function clusterWarnings({ resampling, study }: Prepared): Warning[] {
  const { scheme } = resampling;
  if (scheme.kind !== "clusters" || scheme.members.length >= FEW_CLUSTERS) return [];
  const name = study.settings.cluster!;
  const few = { enough: FEW_CLUSTERS, hardly: TOO_FEW_CLUSTERS };
  return [warning("few_clusters", { clusters: scheme.members.length, name, ...few }, [name])];
}

/** Another interval than the one that was asked for. */
function intervalWarnings({ stated, study, withheldIntervals }: Prepared): Warning[] {
  const reason = withheldIntervals[stated];
  const { interval: used, replications } = study.settings;
  return reason === undefined || replications === 0
    ? []
    : [warning("interval_replaced", { stated, used, reason }, [])];
}

/**
 * Below about so many independent units bias-corrected intervals of products err too often
 * (docs/calibration.md).
 */
const FEW_UNITS = 100;

function liberalWarnings({
  resampling,
  study,
  sample,
  theory,
  withheldIntervals,
}: Prepared): Warning[] {
  const { interval, cluster } = study.settings;
  const indirect =
    theory.hypotheses.some((h) => h.chains.length > 0) ||
    theory.moderations.some((m) => m.chain.length > 0);
  const units = resampling.scheme.kind === "clusters" ? resampling.scheme.members.length : sample.n;
  if (
    (interval !== "bc" && interval !== "bca") ||
    !indirect ||
    units >= FEW_UNITS ||
    study.settings.replications === 0
  )
    return [];
  const unit = cluster === null ? study.unit : `clusters of “${cluster}”`;
  return [warning("bc_liberal", { units, unit, other: !("percentile" in withheldIntervals) }, [])];
}

function probeWarnings({ context, study }: Prepared): Warning[] {
  const idle = Object.keys(study.settings.probes).filter(
    (name) => !context.moderators.some((m) => m.name === name),
  );
  const unused = idle.map((name) => {
    const exists = study.variables.some((v) => v.name === name);
    return warning("probes_unused", { name, exists }, [name]);
  });
  const outside = context.moderators.flatMap(({ name, probes, min, max }) => {
    const at = probes.filter((p) => p.outsideRange).map(probeWords);
    return at.length > 0 ? [warning("probe_outside_range", { name, min, max, at }, [name])] : [];
  });
  return [...unused, ...outside];
}

const probeWords = ({ label, value }: Probe): string =>
  label.startsWith("=") ? minus(label.slice(1)) : `${label} (${plain(value, 2)})`;

function effectWarnings(prepared: Prepared, effects: EffectEvidence[]): Warning[] {
  const list: Warning[] = [];
  const find = (id: string): EffectEvidence | undefined => effects.find((e) => e.id === id);
  for (const pair of prepared.context.pairs) {
    if (
      pair.categorical ||
      pair.indirect.length === 0 ||
      !prepared.theory.roles.predictors.includes(pair.fromVariable)
    )
      continue;
    list.push(...pairWarnings(pair, prepared.errors, find));
  }
  for (const effect of effects) {
    if (effect.twoPath && !effect.twoPath.goodman)
      list.push(warning("goodman_undefined", { effect: effect.label }, [effect.id]));
  }
  return list;
}

function pairWarnings(
  pair: EffectPair,
  errors: CovarianceKind,
  find: (id: string) => EffectEvidence | undefined,
): Warning[] {
  const list: Warning[] = [];
  const direct = find(directId(pair.from, pair.to));
  const total = find(totalId(pair.from, pair.to));
  if (!direct || !total || direct.estimate === null || total.estimate === null) return list;
  const indirect =
    find(totalIndirectId(pair.from, pair.to)) ??
    find(indirectId(pair.from, pair.indirect[0]!.nodes));
  const clear = (e: EffectEvidence | undefined): boolean =>
    e?.shown != null && excludes(e.shown, 0) === true;
  // Opposite signs of two estimates alone are what chance makes in half of all samples without a
  // direct effect.
  if (clear(direct) && clear(indirect) && indirect!.estimate! * direct.estimate < 0) {
    const opposed = { direct: direct.estimate, indirect: indirect!.estimate! };
    const about = [direct.id, indirect!.id];
    list.push(
      warning("inconsistent_mediation", { ...opposed, from: pair.from, to: pair.to }, about),
    );
  }
  const own = total.reduced?.tests[errors] ?? total.delta.joint[errors];
  if (own && own.lower <= 0 && own.upper >= 0)
    list.push(warning("proportion_unstable", { from: pair.from, to: pair.to }, [total.id]));
  return list;
}

/** Says how many resamples failed, and whether that is too many. */
export function failedWarning({ failed, done, improper }: BootstrapRun): Warning[] {
  if (failed === 0) return [];
  const stepwise = improper !== null;
  const many = failed / done > (stepwise ? MANY_FAILED.stepwise : MANY_FAILED.closed);
  const code = many && stepwise ? "many_failed_replicates" : "replicates_failed";
  return [warning(code, { failed, done, many }, [])];
}

function resamplingWarnings(effects: EffectEvidence[], run: BootstrapRun | null): Warning[] {
  if (!run) return [];
  const failures = failedWarning(run);
  const { done } = run;
  if (run.improper)
    failures.push(warning("replicates_improper", { improper: run.improper, done }, []));
  const resampled = effects.filter((e) => e.bootstrap);
  const listed = OF_RESAMPLES.flatMap(({ code, test }) => {
    const about = resampled.filter((e) => test(e, e.bootstrap!)).map((e) => e.id);
    return about.length > 0 ? [warning(code, { effects: about }, about)] : [];
  });
  return [...failures, ...listed];
}

/** What may be wrong with the resamples of single effects. */
const OF_RESAMPLES: {
  code:
    "bc_undefined" | "bca_undefined" | "acceleration_zero" | "b_too_small" | "replicates_missing";
  test: (effect: EffectEvidence, resampled: BootstrapSummary) => boolean;
}[] = [
  { code: "bc_undefined", test: (_, { z0 }) => z0 === null },
  {
    code: "bca_undefined",
    test: (_, { z0, acceleration, bca }) => z0 !== null && acceleration !== null && !bca,
  },
  { code: "acceleration_zero", test: (_, { accelerationZero }) => accelerationZero },
  {
    code: "b_too_small",
    test: ({ kind }, { bca, bc, percentile }) =>
      !UNSTEADY.has(kind) && ((bca ?? bc ?? percentile)?.tooFewReplicates ?? false),
  },
  {
    code: "replicates_missing",
    test: (_, { missing, used }) => missing > MANY_MISSING * (used + missing),
  },
];
