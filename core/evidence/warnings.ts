import { directId, indirectId, totalId, totalIndirectId, type EffectPair } from "../effects";
import type { Prepared } from "../prepare";
import type { Warning } from "../problems";
import type { CovarianceKind } from "../study";
import { excludes } from "./reading";
import type { BootstrapRun, EffectEvidence } from "./types";
import { percent, plain } from "./wording";

const MANY_FAILED = 0.05;
/** Above this share of resamples without a finite value a quantity is warned of. */
const MANY_MISSING = 0.01;
/** Fewer clusters than these make cluster-robust errors uncertain, or hardly usable. */
const FEW_CLUSTERS = 40;
const TOO_FEW_CLUSTERS = 10;
/** Ratios have such heavy tails that their limits alone would raise this warning in most studies. */
const UNSTEADY = new Set(["ratio_to_direct", "proportion_mediated"]);

/** What deserves a look, whatever the interval method. */
export function warningsOf(
  prepared: Prepared,
  effects: EffectEvidence[],
  run: BootstrapRun | null,
): Warning[] {
  return [
    ...sampleWarnings(prepared),
    ...clusterWarnings(prepared),
    ...(prepared.fit.warnings ?? []),
    ...probeWarnings(prepared),
    ...effectWarnings(prepared, effects),
    ...liberalWarnings(prepared),
    ...resamplingWarnings(effects, run),
  ];
}

function sampleWarnings({ sample, study, dataset }: Prepared): Warning[] {
  const list: Warning[] = [];
  if (dataset.table.moments) {
    const { n, standardised } = dataset.table.moments;
    list.push({
      code: "moments_only",
      message: `Only means and covariances of ${n} ${study.unit} are known: coefficients and classical errors are exact, but nothing can be resampled, and residuals and robust errors do not exist.${standardised ? " The correlations came without standard deviations, so every coefficient is in standard deviations." : ""}`,
      about: [],
    });
  }
  if (sample.excluded > 0) {
    const filters = dataset.excluded.filter((e) => e.rows.length > 0).map((e) => e.filter);
    list.push({
      code: "rows_excluded",
      message: `${sample.excluded} of ${sample.rowsRead} ${study.unit} are left out by ${filters.length === 1 ? "the filter" : "the filters"} ${filters.map((f) => `“${f}”`).join(", ")}.`,
      about: [],
    });
  }
  if (sample.dropped.length > 0) {
    const causes = Object.entries(sample.missing)
      .filter(([, count]) => count > 0)
      .sort((a, b) => b[1] - a[1]);
    const reasons = causes.map(([name, count]) => `${name} ${count}`).join(", ");
    list.push({
      code: "rows_dropped",
      message: `${sample.dropped.length} of ${sample.rowsRead} ${study.unit} are left out because a value is missing (${reasons}).`,
      about: causes.map(([name]) => name),
    });
  }
  return list;
}

function clusterWarnings({ resampling, study }: Prepared): Warning[] {
  const { scheme } = resampling;
  if (scheme.kind !== "clusters" || scheme.members.length >= FEW_CLUSTERS) return [];
  const { length } = scheme.members;
  const message =
    length < TOO_FEW_CLUSTERS
      ? `There are only ${length} clusters of “${study.settings.cluster}”: cluster-robust errors and cluster resampling cannot be relied on with so few, and no verdict here should rest on them alone.`
      : `There are ${length} clusters of “${study.settings.cluster}”. Below about ${FEW_CLUSTERS} cluster-robust errors lean on the small-sample correction (CR2, Satterthwaite) and bootstrap limits tend to be too narrow.`;
  return [{ code: "few_clusters", message, about: [study.settings.cluster!] }];
}

/** Below about so many independent units bias-corrected intervals of products err too often (docs/calibration.md). */
const FEW_UNITS = 100;

function liberalWarnings({ resampling, study, sample, theory }: Prepared): Warning[] {
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
  const what = cluster === null ? study.unit : `clusters of “${cluster}”`;
  return [
    {
      code: "bc_liberal",
      message: `With ${units} ${what} bias-corrected intervals (BC, BCa) of indirect effects are liberal: they exclude zero by chance more often than their level says. The percentile interval, among the other methods, errs less.`,
      about: [],
    },
  ];
}

function probeWarnings({ context, study }: Prepared): Warning[] {
  const idle = Object.keys(study.settings.probes).filter(
    (name) => !context.moderators.some((m) => m.name === name),
  );
  const unused = idle.map((name): Warning => {
    const exists = study.variables.some((v) => v.name === name);
    return {
      code: "probes_unused",
      message: exists
        ? `Comparison values are set for “${name}”, which moderates nothing in this theory; they are not used.`
        : `Comparison values are set for “${name}”, but no variable is called that; they are not used. Is the name spelled as in the data?`,
      about: [name],
    };
  });
  const outside = context.moderators.flatMap((m) => {
    const outside = m.probes.filter((p) => p.outsideRange);
    if (outside.length === 0) return [];
    const words = outside
      .map(
        (p) =>
          `${p.label.replace("=", "")}${p.label.startsWith("=") ? "" : ` (${p.value!.toFixed(2)})`}`,
      )
      .join(", ");
    return [
      {
        code: "probe_outside_range" as const,
        message: `“${m.name}” runs from ${m.min} to ${m.max} in the data; what is said at ${words} goes beyond what was observed.`,
        about: [m.name],
      },
    ];
  });
  return [...unused, ...outside];
}

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
      list.push({
        code: "goodman_undefined",
        message: `Goodman's unbiased standard error does not exist for ${effect.label}: both paths are too uncertain.`,
        about: [effect.id],
      });
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
  // Opposite signs of two estimates alone are what chance makes in half of all samples without a direct effect.
  if (clear(direct) && clear(indirect) && indirect!.estimate! * direct.estimate < 0) {
    list.push({
      code: "inconsistent_mediation",
      message: `The direct effect (${plain(direct.estimate)}) and the indirect effect (${plain(indirect!.estimate)}) of ${pair.from} on ${pair.to} have opposite signs, and both intervals exclude zero (inconsistent mediation). That is a finding, not an error; a proportion mediated has no meaning here.`,
      about: [direct.id, indirect!.id],
    });
  }
  const own = total.reduced?.tests[errors] ?? total.delta.joint[errors];
  if (own && own.lower <= 0 && own.upper >= 0) {
    list.push({
      code: "proportion_unstable",
      message: `The total effect of ${pair.from} on ${pair.to} may be zero, so the proportion mediated is unstable; better not report it.`,
      about: [total.id],
    });
  }
  return list;
}

function resamplingWarnings(effects: EffectEvidence[], run: BootstrapRun | null): Warning[] {
  if (!run) return [];
  const list: Warning[] = [];
  if (run.failed > 0) {
    const share = run.failed / run.done;
    const strong =
      share > MANY_FAILED
        ? " That is too many: the intervals describe only the samples in which the model could be fitted."
        : "";
    list.push({
      code: "replicates_failed",
      message: `${run.failed} of ${run.done} resamples failed (${percent(share)} %) and were left out.${strong}`,
      about: [],
    });
  }
  const listed = (
    code: Warning["code"],
    message: string,
    test: (e: EffectEvidence) => boolean,
  ): void => {
    const about = effects.filter((e) => e.bootstrap && test(e)).map((e) => e.id);
    if (about.length > 0)
      list.push({
        code,
        message: `${message} (${about.length === 1 ? about[0] : `${about.length} effects`}).`,
        about,
      });
  };
  listed(
    "bc_undefined",
    "All resamples lie on one side of the estimate, so bias-corrected intervals do not exist; the percentile interval stays",
    (e) => e.bootstrap!.z0 === null,
  );
  listed(
    "bca_undefined",
    "The acceleration is too strong for a BCa interval",
    (e) => e.bootstrap!.z0 !== null && e.bootstrap!.acceleration !== null && !e.bootstrap!.bca,
  );
  listed(
    "acceleration_zero",
    "Leaving out one case never changes the estimate, so the acceleration is taken as zero",
    (e) => e.bootstrap!.accelerationZero,
  );
  listed(
    "b_too_small",
    "There are too few resamples for this level: a limit is simply the most extreme one",
    (e) =>
      !UNSTEADY.has(e.kind) &&
      ((e.bootstrap!.bca ?? e.bootstrap!.bc ?? e.bootstrap!.percentile)?.tooFewReplicates ?? false),
  );
  listed(
    "replicates_missing",
    "In more than 1 % of the resamples a quantity is not a finite number; they are left out for it alone, and above 10 % it gets no limits",
    ({ bootstrap }) => bootstrap!.missing > MANY_MISSING * (bootstrap!.used + bootstrap!.missing),
  );
  return list;
}
