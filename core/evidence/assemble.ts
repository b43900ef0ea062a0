import { pathEffect } from "../effects";
import { covariances, inZScores, type EquationFit } from "../estimators/least-squares";
import { extent, mean, standardDeviation } from "../numerics/moments";
import { pick } from "../data";
import type { Prepared } from "../prepare";
import { ENGINE } from "../version";
import { bootstrapAll, effectEvidence, type BootstrapAll, type Resamples } from "./effects";
import { equationEvidence, type ZScores } from "./equations";
import { hypothesisEvidence } from "./hypotheses";
import { moderationEvidence } from "./moderation";
import { reducedRegressions, totalOmnibus } from "./reduced";
import { regionEvidence } from "./regions";
import type { EquationEvidence, Evidence } from "./types";
import { warningsOf } from "./warnings";

export type { Resamples } from "./effects";

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
  const { study, theory, sample, reported, resampling } = prepared;
  const { level } = study.settings;
  const boot = resamples && resamples.replicates.length > 0 ? bootstrapAll(prepared, resamples) : null;
  const clusters = resampling.scheme.kind === "clusters" ? resampling.scheme.members : null;
  const reduced = reducedRegressions(theory, prepared.design, clusters);
  const list = effectEvidence(prepared, boot, resamples?.jackknife ?? null, reduced);
  const { effects } = list;
  const hasProducts = reported.some((fit) => fit.equation.columns.some((c) => c.components));
  const equations = reported.map((_, g) => equationEvidence(prepared, g, hasProducts ? zScoresOf(prepared.fits[g]!) : null));
  if (boot) attachCoefficientBootstraps(equations, prepared, boot);
  return {
    format: "hebel-evidence",
    version: 1,
    engine: ENGINE,
    title: study.title,
    unit: study.unit,
    settings: study.settings,
    errors: prepared.errors,
    roles: theory.roles,
    paths: theory.paths.map((path) => ({
      ...path,
      moderators: theory.moderated.filter((m) => m.from === path.from && m.to === path.to).flatMap((m) => m.moderators),
      effects: prepared.context.pairs
        .filter((p) => p.fromVariable === path.from && p.to === path.to)
        .map((p) => pathEffect(prepared.context, p, [path.from, path.to]).id),
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
    warnings: warningsOf(prepared, effects, equations, boot?.run ?? null),
    equations,
    effects,
    ...hypothesisEvidence(prepared, list, boot),
    moderations: moderationEvidence(prepared, level),
    regions: regionEvidence(prepared, resamples && resamples.replicates.length > 0 ? resamples : null, level),
    totalOmnibus: totalOmnibus(reduced, effects),
    bootstrap: boot?.run ?? null,
  };
}

function attachCoefficientBootstraps(equations: EquationEvidence[], prepared: Prepared, { coefficients }: BootstrapAll): void {
  equations.forEach((equation, g) => {
    equation.coefficients.forEach((coefficient, at) => (coefficient.bootstrap = coefficients[prepared.layout.starts[g]! + at]!));
  });
}

function descriptives(prepared: Prepared): Evidence["descriptives"] {
  const { equations } = prepared.theory;
  const used = new Set(equations.flatMap((e) => [e.outcome, ...e.predictors, ...e.moderators, ...e.covariates]));
  const rows = !prepared.dataset.table.moments;
  // A column that only groups the rows is known by its groups, whose numbers mean nothing.
  const entries = [...prepared.typed.values()]
    .filter((column) => used.has(column.name))
    .map((column) => {
      const values = pick(column.values, prepared.sample.rows);
      const [min, max] = extent(values);
      return [column.name, { mean: mean(values), sd: standardDeviation(values), min: rows ? min : null, max: rows ? max : null }] as const;
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
