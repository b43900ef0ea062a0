import { directId, totalId, type EffectPair } from "../effects";
import { LEVERAGE_ONE } from "../estimators/least-squares";
import type { Prepared } from "../prepare";
import type { Warning } from "../problems";
import type { BootstrapRun, EffectEvidence } from "./types";
import { percent } from "./wording";

const HIGH_VIF = 10;
const MANY_FAILED = 0.05;
/** Ratios have such heavy tails that their limits alone would raise this warning in most studies. */
const UNSTEADY = new Set(["ratio_to_direct", "proportion_mediated"]);

/** What deserves a look, whatever the interval method. */
export function warningsOf(prepared: Prepared, effects: EffectEvidence[], run: BootstrapRun | null): Warning[] {
  return [
    ...sampleWarnings(prepared),
    ...fitWarnings(prepared),
    ...probeWarnings(prepared),
    ...effectWarnings(prepared, effects),
    ...resamplingWarnings(effects, run),
  ];
}

function sampleWarnings({ sample, study, theory, dataset }: Prepared): Warning[] {
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
      message: `${sample.dropped.length} of ${sample.rowsRead} ${study.unit} are left out because an answer is missing (${reasons}).`,
      about: causes.map(([name]) => name),
    });
  }
  for (const { outcome } of theory.equations) {
    if (study.variables.find((v) => v.name === outcome)?.level === "binary") {
      list.push({
        code: "binary_outcome",
        message: `“${outcome}” has two values; least squares explains its 0/1 coding as a probability, so use robust errors and read the effects as differences in proportions.`,
        about: [outcome],
      });
    }
  }
  return list;
}

function fitWarnings({ fits, sample }: Prepared): Warning[] {
  const list: Warning[] = [];
  for (const fit of fits) {
    const { outcome, columns } = fit.equation;
    if (fit.perfect)
      list.push({
        code: "perfect_fit",
        message: `The equation of “${outcome}” fits perfectly, so it has no standard errors. Is an outcome computed from its predictors?`,
        about: [outcome],
      });
    const rows = [...fit.leverage].flatMap((h, i) => (h > LEVERAGE_ONE ? [sample.rows[i]! + 1] : []));
    if (rows.length > 0)
      list.push({
        code: "leverage_one",
        message: `Row ${rows.join(", ")} alone determines a coefficient of the equation of “${outcome}” (leverage 1), so HC2 to HC4 errors are not available.`,
        about: [outcome],
      });
    const inProducts = new Set(columns.flatMap((c) => [...(c.components ? [c.key] : []), ...(c.components ?? []).map((part) => part.key)]));
    const near = columns.filter((c, j) => fit.vif[j]! > HIGH_VIF && !inProducts.has(c.key));
    if (near.length > 0) {
      const values = near.map((c) => `${c.label} (VIF ${Math.round(fit.vif[columns.indexOf(c)]!)})`).join(", ");
      list.push({
        code: "near_collinear",
        message: `In the equation of “${outcome}” some predictors nearly determine each other: ${values}. Their separate coefficients are imprecise.`,
        about: near.map((c) => c.key),
      });
    }
  }
  return list;
}

function probeWarnings({ context }: Prepared): Warning[] {
  return context.moderators.flatMap((m) => {
    const outside = m.probes.filter((p) => p.outsideRange);
    if (outside.length === 0) return [];
    const words = outside.map((p) => `${p.label.replace("=", "")}${p.label.startsWith("=") ? "" : ` (${p.value!.toFixed(2)})`}`).join(", ");
    return [
      {
        code: "probe_outside_range" as const,
        message: `“${m.name}” runs from ${m.min} to ${m.max} in the data; what is said at ${words} goes beyond what was observed.`,
        about: [m.name],
      },
    ];
  });
}

function effectWarnings(prepared: Prepared, effects: EffectEvidence[]): Warning[] {
  const list: Warning[] = [];
  const find = (id: string): EffectEvidence | undefined => effects.find((e) => e.id === id);
  for (const pair of prepared.context.pairs) {
    if (pair.categorical || pair.indirect.length === 0 || !prepared.theory.roles.predictors.includes(pair.fromVariable)) continue;
    list.push(...pairWarnings(pair, find));
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

function pairWarnings(pair: EffectPair, find: (id: string) => EffectEvidence | undefined): Warning[] {
  const list: Warning[] = [];
  const direct = find(directId(pair.from, pair.to));
  const total = find(totalId(pair.from, pair.to));
  if (!direct || !total || direct.estimate === null || total.estimate === null) return list;
  const indirect = total.estimate - direct.estimate;
  if (indirect * direct.estimate < 0) {
    list.push({
      code: "inconsistent_mediation",
      message: `The direct and the indirect effect of ${pair.from} on ${pair.to} have opposite signs (inconsistent mediation). That is a finding, not an error; a proportion mediated has no meaning here.`,
      about: [direct.id, total.id],
    });
  }
  const own = total.reduced?.tests.classical ?? total.delta.joint.classical;
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
      share > MANY_FAILED ? " That is too many: the intervals describe only the samples in which the model could be fitted." : "";
    list.push({
      code: "replicates_failed",
      message: `${run.failed} of ${run.done} resamples failed (${percent(share)} %) and were left out.${strong}`,
      about: [],
    });
  }
  const listed = (code: Warning["code"], message: string, test: (e: EffectEvidence) => boolean): void => {
    const about = effects.filter((e) => e.bootstrap && test(e)).map((e) => e.id);
    if (about.length > 0) list.push({ code, message: `${message} (${about.length === 1 ? about[0] : `${about.length} effects`}).`, about });
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
    (e) => !UNSTEADY.has(e.kind) && (e.bootstrap!.bca ?? e.bootstrap!.bc ?? e.bootstrap!.percentile).tooFewReplicates,
  );
  return list;
}
