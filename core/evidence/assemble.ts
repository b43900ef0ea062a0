import { own } from "../data/own";
import { pathEffect } from "../effects";
import { extent, mean, standardDeviation } from "../numerics/moments";
import { pick } from "../data";
import type { Prepared } from "../preparation";
import { ENGINE } from "../preparation/version";
import { warning } from "../wording";
import { bootstrapAll, effectEvidence } from "./effects";
import { drawnCoefficients } from "./sources";
import type { Resamples } from "./replicates";
import { finiteOnly } from "./finite";
import { hypothesisEvidence } from "./hypotheses";
import { moderationEvidence } from "./moderation";
import { regionEvidence } from "./regions";
import type { EffectEvidence, Evidence } from "./types";
import { keepsIncomplete, warningsOf } from "./warnings";

export type { Resamples } from "./replicates";

/**
 * Everything the analysis says. Without resamples the delta method stands in for the bootstrap
 * intervals.
 * @throws StudyProblem `no_replicates` when every resample failed
 */
export function assembleEvidence(prepared: Prepared, resamples: Resamples | null): Evidence {
  const { study, theory, sample, fit } = prepared;
  const { level } = study.settings;
  const boot =
    resamples && resamples.replicates.length > 0 ? bootstrapAll(prepared, resamples) : null;
  const list = effectEvidence(prepared, boot, resamples?.jackknife ?? null);
  const { effects } = list;
  const warnings = warningsOf(prepared, effects, boot?.run ?? null, boot?.flags ?? new Map());
  return guarded({
    format: "hebel-evidence",
    version: 2,
    engine: ENGINE,
    estimator: { id: prepared.engine.id, label: fit.estimatedBy ?? prepared.engine.label },
    units: fit.standardised ? "sd" : fit.along ? "response" : "raw",
    title: study.title,
    unit: study.unit,
    settings: study.settings,
    errors: prepared.errors,
    roles: theory.roles,
    latent: prepared.measures.map(({ name, form, items }) => ({
      name: name.name,
      form,
      items: items.map((item) => item.ref.name),
    })),
    paths: theory.paths.map((path) => ({
      ...path,
      moderators: theory.moderated
        .filter((m) => m.from === path.from && m.to === path.to)
        .flatMap((m) => m.moderators),
      effects: prepared.context.pairs
        .filter((p) => p.fromVariable === path.from && p.to === path.to)
        .map((p) => pathEffect(prepared.context, p, [path.from, path.to]).id),
    })),
    withheldIntervals: prepared.withheldIntervals,
    sample: {
      rowsRead: sample.rowsRead,
      n: sample.n,
      excluded: prepared.dataset.excluded.map(({ filter, rows }) => ({
        filter,
        rows: rows.map((i) => i + 1),
      })),
      dropped: sample.dropped.map((i) => i + 1),
      keepsIncomplete: keepsIncomplete(prepared),
      missing: sample.missing,
    },
    descriptives: descriptives(prepared),
    groupMeans: groupMeans(prepared),
    codings: fit.codings,
    binary: binaryCodings(prepared),
    warnings,
    sections:
      fit.sections?.({
        bootstrap: boot?.coefficients ?? null,
        drawn: drawnCoefficients(prepared),
        flags: boot?.flags ?? null,
        complete: (boot?.run.done ?? 0) >= study.settings.replications,
        exact: exactTotals(effects),
        level,
        interval: study.settings.interval,
        errors: prepared.errors,
      }) ?? [],
    effects,
    ...hypothesisEvidence(prepared, list, boot, warnings),
    moderations: moderationEvidence(prepared, level),
    regions: regionEvidence(
      prepared,
      resamples && resamples.replicates.length > 0 ? resamples : null,
      level,
    ),
    bootstrap: boot?.run ?? null,
  });
}

/** Nothing that is not a number leaves as one; where one had to be emptied, a warning says so. */
function guarded(made: Evidence): Evidence {
  const { evidence, places, count } = finiteOnly(made);
  if (count === 0) return evidence;
  return {
    ...evidence,
    warnings: [...evidence.warnings, warning("not_finite", { count, places }, [])],
  };
}

/** From which columns to which outcomes there are total effects with an exact test. */
const exactTotals = (effects: EffectEvidence[]): Set<string> =>
  new Set(
    effects
      .filter((e) => e.kind === "total" && e.reduced !== null)
      .map((e) => `${e.from}\u0000${e.to}`),
  );

/** Of the columns of the model; a cell is called by its label where it has one. */
function binaryCodings({ theory, typed, study }: Prepared): Evidence["binary"] {
  const used = new Set(
    theory.equations.flatMap((e) => [e.outcome, ...e.predictors, ...e.moderators, ...e.covariates]),
  );
  return study.variables.flatMap(({ name, level, labels }) => {
    const levels = level === "binary" && used.has(name) ? typed.get(name)?.levels : null;
    if (levels?.length !== 2) return [];
    const [zero, one] = levels.map((cell) => own(labels, cell) ?? cell);
    return [{ variable: name, zero: zero!, one: one! }];
  });
}

function descriptives(prepared: Prepared): Evidence["descriptives"] {
  const { equations } = prepared.theory;
  const used = new Set(
    equations.flatMap((e) => [e.outcome, ...e.predictors, ...e.moderators, ...e.covariates]),
  );
  const rows = !prepared.dataset.table.moments;
  // A column that only groups the rows is known by its groups, whose numbers mean nothing.
  const entries = [...prepared.typed.values()]
    .filter((column) => used.has(column.name))
    .map((column) => {
      const values = pick(column.values, prepared.sample.rows).filter((v) => !Number.isNaN(v));
      const [min, max] = extent(values);
      return [
        column.name,
        {
          mean: mean(values),
          sd: standardDeviation(values),
          min: rows ? min : null,
          max: rows ? max : null,
        },
      ] as const;
    });
  // A categorical column's level numbers have no mean worth reading.
  const categorical = new Set(
    prepared.study.variables.filter((v) => v.level === "categorical").map((v) => v.name),
  );
  return Object.fromEntries(entries.filter(([name]) => !categorical.has(name)));
}

function groupMeans({ theory, typed, sample, study }: Prepared): Evidence["groupMeans"] {
  return theory.equations.flatMap((spec) =>
    spec.predictors.flatMap((variable) => {
      const [column, outcome] = [typed.get(variable), typed.get(spec.outcome)];
      // A latent outcome has no values to average.
      if (!column?.levels || column.levels.length < 2 || !outcome) return [];
      const { levels, values } = column;
      const x = pick(values, sample.rows);
      const y = pick(outcome.values, sample.rows);
      const labels = study.variables.find((v) => v.name === variable)?.labels ?? {};
      const groups = levels.flatMap((level, code) => {
        const inGroup = y.filter((_, i) => x[i] === code);
        const { length: n } = inGroup;
        if (n === 0) return [];
        const sd = n > 1 ? standardDeviation(inGroup) : null;
        return [{ level, label: own(labels, level) ?? level, mean: mean(inGroup), sd, n }];
      });
      if (groups.length < 2) return [];
      const one = levels.length === 2 ? groups[1]!.label : null;
      return [{ variable, outcome: spec.outcome, groups, one }];
    }),
  );
}
