import { compileExpression, directId, gradient, indirectId, middleId, totalId, type Quantity } from "../effects";
import { covariances, inZScores, withoutCrossBlocks, type EquationFit, type JointCovariance } from "../estimators/least-squares";
import { deltaTest, monteCarloIntervals, type BootstrapSummary, type MonteCarloInterval, type ReplicateBlock } from "../inference";
import { extent, mean, standardDeviation } from "../numerics/moments";
import { pick } from "../data";
import type { Prepared } from "../prepare";
import { ENGINE } from "../version";
import { byCovariance, equationEvidence, type ZScores } from "./equations";
import { hypothesisEvidence, claimedDirections } from "./hypotheses";
import { moderationEvidence } from "./moderation";
import { reducedRegressions, reducedTest, totalOmnibus } from "./reduced";
import { evaluateReplicates, histogram, summariseReplicates, type EvaluatedReplicates } from "./replicates";
import { regionEvidence } from "./regions";
import { shownInterval, shownLevel } from "./shown";
import { jointSignificance, twoPath } from "./two-path";
import type { BootstrapRun, EffectEvidence, EquationEvidence, Evidence } from "./types";
import { warningsOf } from "./warnings";

/** Replicates and jackknife values made so far. */
export interface Resamples {
  replicates: ReplicateBlock[];
  jackknife: ReplicateBlock;
}

/** An equation once more, in z-scores. */
function zScoresOf(fit: EquationFit): ZScores {
  const scaled = inZScores(fit);
  return { fit: scaled, covariances: covariances([scaled]) };
}

/**
 * Everything the analysis says. Without resamples the delta method stands in for the bootstrap intervals.
 * @throws StudyProblem `no_replicates` when every resample failed
 */
export function assembleEvidence(prepared: Prepared, resamples: Resamples | null): Evidence {
  const { study, theory, sample, layout, reported, reportedCovariances } = prepared;
  const level = shownLevel(study.settings);
  const boot = resamples && resamples.replicates.length > 0 ? bootstrapAll(prepared, resamples, level) : null;
  const monteCarlo = study.settings.interval === "monte_carlo" ? monteCarloAll(prepared, level) : null;
  const effects = effectsOf(prepared, boot, monteCarlo, level);
  const products = reported.some((fit) => fit.equation.columns.some((c) => c.components));
  const equations = reported.map((fit, g) =>
    equationEvidence(fit, layout.starts[g]!, reportedCovariances, sample.rows, level, products ? zScoresOf(prepared.fits[g]!) : null),
  );
  if (boot) attachCoefficientBootstraps(equations, prepared, boot.coefficients);
  const reduced = reducedRegressions(theory, prepared.design);
  attachReduced(effects, prepared, reduced, level);
  return {
    format: "hebel-evidence",
    version: 1,
    engine: ENGINE,
    title: study.title,
    unit: study.unit,
    settings: study.settings,
    roles: theory.roles,
    paths: theory.paths.map((path) => ({
      ...path,
      moderators: theory.moderated.filter((m) => m.from === path.from && m.to === path.to).flatMap((m) => m.moderators),
      effects: prepared.context.pairs
        .filter((p) => p.fromVariable === path.from && p.to === path.to)
        .map((p) => {
          const moderated = p.conditional.find((c) => c.nodes.length === 2);
          return moderated ? middleId(prepared.context, p, moderated.nodes, moderated.polynomial) : directId(p.from, p.to);
        }),
    })),
    sample: {
      rowsRead: sample.rowsRead,
      n: sample.n,
      excluded: prepared.dataset.excluded.map(({ filter, rows }) => ({ filter, rows: rows.map((i) => i + 1) })),
      dropped: sample.dropped.map((i) => i + 1),
      missing: sample.missing,
    },
    descriptives: descriptives(prepared),
    groupMeans: groupMeans(prepared),
    codings: prepared.design.codings,
    warnings: warningsOf(prepared, effects, boot?.run ?? null),
    equations,
    effects,
    hypotheses: hypothesisEvidence(prepared, effects, boot?.run ?? null),
    moderations: moderationEvidence(prepared, level),
    regions: regionEvidence(prepared, resamples && resamples.replicates.length > 0 ? resamples : null, level),
    totalOmnibus: totalOmnibus(reduced),
    bootstrap: boot?.run ?? null,
  };
}

interface BootstrapAll {
  run: BootstrapRun;
  effects: BootstrapSummary[];
  coefficients: BootstrapSummary[];
  values: EvaluatedReplicates;
}

function bootstrapAll(prepared: Prepared, { replicates, jackknife }: Resamples, level: number): BootstrapAll {
  const quantities = [...prepared.quantities, ...prepared.coefficients];
  const values = evaluateReplicates(quantities, replicates, prepared.resampling.studentised !== null);
  const left = evaluateReplicates(quantities, [jackknife]);
  const estimates = Float64Array.from(quantities, (q) => compileExpression(q.expression)(prepared.theta, 0));
  const v = chosenCovariance(prepared);
  const errors = values.errors && quantities.map((q, i) => deltaTest(estimates[i]!, gradient(q.expression, prepared.theta), v, level)?.se);
  const all = summariseReplicates(estimates, values, left, level, errors);
  const done = replicates.reduce((sum, block) => sum + block.count, 0);
  const { replications, seed } = prepared.study.settings;
  return {
    run: {
      requested: replications,
      done,
      failed: values.failed,
      jackknifeFailed: left.failed,
      seed,
      resampling: prepared.resampling.scheme.kind,
    },
    effects: all.slice(0, prepared.quantities.length),
    coefficients: all.slice(prepared.quantities.length),
    values,
  };
}

/** The covariance of the coefficients that the settings ask for. */
function chosenCovariance({ study, covariances, fits }: Prepared): JointCovariance {
  const joint = covariances[study.settings.errors];
  return study.settings.crossEquations === "zero" ? withoutCrossBlocks(joint, fits) : joint;
}

function monteCarloAll(prepared: Prepared, level: number): MonteCarloInterval[] | null {
  const { settings } = prepared.study;
  const v = chosenCovariance(prepared);
  if (!v.values.every(Number.isFinite)) return null;
  const functions = prepared.quantities.map((q) => compileExpression(q.expression));
  return monteCarloIntervals(prepared.theta, v, functions, settings.monteCarloDraws, settings.seed, level);
}

function effectsOf(
  prepared: Prepared,
  boot: BootstrapAll | null,
  monteCarlo: MonteCarloInterval[] | null,
  level: number,
): EffectEvidence[] {
  const { study, covariances, fits, theta, estimates } = prepared;
  const zeroed = byCovariance((kind) => withoutCrossBlocks(covariances[kind], fits));
  const directions = claimedDirections(prepared);
  return prepared.quantities.map((quantity, i) => {
    const g = gradient(quantity.expression, theta);
    const estimate = Number.isFinite(estimates[i]!) ? estimates[i]! : null;
    const delta = {
      joint: byCovariance((kind) => deltaTest(estimates[i]!, g, covariances[kind], level)),
      zero: byCovariance((kind) => deltaTest(estimates[i]!, g, zeroed[kind]!, level)),
    };
    const bootstrap = boot ? { ...boot.effects[i]!, histogram: histogram(boot.values.columns[i]!) } : null;
    const drawn = monteCarlo?.[i] ?? null;
    const { id, kind, label, from, to, via, of } = quantity;
    const chosen = delta[study.settings.crossEquations][study.settings.errors];
    const found = shownInterval({ estimate, delta: chosen, bootstrap, monteCarlo: drawn }, study.settings, directions.get(id) ?? 0);
    // A squared effect is never below zero, so a test against zero would say nothing.
    const shown = kind === "explained_variance" ? { ...found, p: null } : found;
    return {
      id,
      kind,
      label,
      from,
      to,
      via,
      of,
      estimate,
      delta,
      reduced: null,
      ...routeExtras(prepared, quantity, level),
      bootstrap,
      monteCarlo: drawn,
      shown,
    };
  });
}

function routeExtras(prepared: Prepared, quantity: Quantity, level: number): Pick<EffectEvidence, "twoPath" | "jointSignificance"> {
  if (quantity.kind !== "specific_indirect") return { twoPath: null, jointSignificance: null };
  const pair = prepared.context.pairs.find((p) => p.from === quantity.from && p.to === quantity.to)!;
  const route = pair.indirect.find((r) => indirectId(pair.from, r.nodes) === quantity.id)!;
  return {
    twoPath: twoPath(prepared, pair, route, level),
    jointSignificance: jointSignificance(prepared, route, 1 - prepared.study.settings.level),
  };
}

function attachReduced(effects: EffectEvidence[], prepared: Prepared, reduced: ReturnType<typeof reducedRegressions>, level: number): void {
  for (const pair of prepared.context.pairs) {
    const total = effects.find((e) => e.id === totalId(pair.from, pair.to));
    if (total) total.reduced = reducedTest(pair, reduced, level);
  }
}

function attachCoefficientBootstraps(equations: EquationEvidence[], prepared: Prepared, summaries: BootstrapSummary[]): void {
  equations.forEach((equation, g) => {
    equation.coefficients.forEach((coefficient, at) => (coefficient.bootstrap = summaries[prepared.layout.starts[g]! + at]!));
  });
}

function descriptives(prepared: Prepared): Evidence["descriptives"] {
  const entries = [...prepared.typed.values()].map((column) => {
    const values = pick(column.values, prepared.sample.rows);
    const [min, max] = extent(values);
    return [column.name, { mean: mean(values), sd: standardDeviation(values), min, max }] as const;
  });
  // A categorical column's level numbers have no mean worth reading.
  const categorical = new Set(prepared.study.variables.filter((v) => v.level === "categorical").map((v) => v.name));
  return Object.fromEntries(entries.filter(([name]) => !categorical.has(name)));
}

function groupMeans(prepared: Prepared): Evidence["groupMeans"] {
  return prepared.theory.equations.flatMap((spec) =>
    spec.predictors.flatMap((name) => {
      const levels = prepared.typed.get(name)!.levels;
      if (levels?.length !== 2) return [];
      const x = pick(prepared.typed.get(name)!.values, prepared.sample.rows);
      const y = pick(prepared.typed.get(spec.outcome)!.values, prepared.sample.rows);
      const group = [0, 1].map((code) => y.filter((_, i) => x[i] === code));
      if (group.some((g) => g.length === 0)) return [];
      return [
        {
          variable: name,
          outcome: spec.outcome,
          levels: [levels[0]!, levels[1]!] as [string, string],
          means: [mean(group[0]!), mean(group[1]!)] as [number, number],
          counts: [group[0]!.length, group[1]!.length] as [number, number],
        },
      ];
    }),
  );
}
