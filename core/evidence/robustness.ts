import type { Table } from "../data";
import { Resampler } from "../inference";
import { prepare, type Prepared } from "../prepare";
import { StudyProblem } from "../problems";
import type { Settings, StudyDefinition } from "../study";
import { assembleEvidence, type Resamples } from "./assemble";
import type { Evidence, Verdict } from "./types";

/** What one way of analysing says of one hypothesis. */
export interface RobustClaim {
  label: string;
  verdict: Verdict;
  estimate: number | null;
  lower: number | null;
  upper: number | null;
  /** The verdict is another one than under the study's own settings. */
  differs: boolean;
}

/** The same hypotheses under one way of analysing; without claims when it cannot be done, and then why. */
export interface Specification {
  name: string;
  group: "as set" | "errors" | "intervals" | "covariates" | "cases" | "centring";
  n: number | null;
  claims: RobustClaim[];
  problem: string | null;
}

/** Resamples behind every way that bootstraps: the study's own, up to a number that allows many ways to be tried. */
export const ROBUST_RESAMPLES = 5000;

/** The most influential rows of every equation: the five largest Cook's distances, where they exceed 4 / n. */
export function influentialRows(evidence: Evidence): number[] {
  const rows = evidence.equations.flatMap((e) => (e.checks?.topCook ?? []).filter((r) => r.cook > 4 / e.n).map((r) => r.row));
  return [...new Set(rows)].sort((a, b) => a - b);
}

/** The study without some rows, by a filter of its own. */
export const withoutRows = (study: StudyDefinition, rows: number[]): StudyDefinition => ({
  ...study,
  filters: [...study.filters, { name: "tried without", active: true, rule: { kind: "rows", rows } }],
});

/**
 * The hypotheses over ways of analysing: errors, intervals, centring, with and without covariates and influential
 * cases. All bootstrap intervals of a sample come from the same resamples.
 */
export function robustness(study: StudyDefinition, table: Table): Specification[] {
  const few = {
    ...study,
    settings: { ...study.settings, replications: Math.min(ROBUST_RESAMPLES, study.settings.replications || ROBUST_RESAMPLES) },
  };
  const base = new Sample(few, table);
  const own = base.evidence({});
  const change =
    (settings: Partial<Settings>): (() => Evidence) =>
    () =>
      base.evidence(settings);
  const covariates = /^\s*adjust\b/m;
  const rows = influentialRows(own);
  const tries: [Specification["group"], string, () => Evidence][] = [
    ["as set", "as set", () => own],
    ...(["classical", "HC3", "HC4"] as const).map((errors): [Specification["group"], string, () => Evidence] => [
      "errors",
      `${errors} errors`,
      change({ errors, interval: "delta" }),
    ]),
  ];
  if (!table.moments) {
    for (const [interval, name] of [
      ["percentile", "percentile interval"],
      ["bc", "bias-corrected interval"],
      ["bca", "BCa interval"],
    ] as const)
      tries.push(["intervals", name, change({ interval })]);
    if (rows.length > 0)
      tries.push([
        "cases",
        `without the ${rows.length} most influential rows`,
        () => new Sample(withoutRows(few, rows), table).evidence({}),
      ]);
  }
  if (own.moderations.length > 0) {
    const centring = study.settings.centring === "mean" ? "none" : "mean";
    const name = centring === "mean" ? "columns of products centred" : "columns of products as they are";
    tries.push(["centring", name, () => new Sample({ ...few, settings: { ...few.settings, centring } }, table).evidence({})]);
  }
  if (covariates.test(study.theory)) {
    const theory = study.theory
      .split("\n")
      .map((line) => (covariates.test(line) ? "" : line))
      .join("\n");
    tries.push(["covariates", "without covariates", () => new Sample({ ...few, theory }, table).evidence({})]);
  }
  return tries.map(([group, name, task]) => specification(group, name, task, own));
}

/** One sample with one set of resamples, read under different settings. */
class Sample {
  private readonly prepared: Prepared;
  private readonly resamples: Resamples | null;

  constructor(study: StudyDefinition, table: Table) {
    this.prepared = prepare(study, table);
    const { replications } = this.prepared.study.settings;
    const resampler = replications > 0 ? new Resampler(this.prepared.resampling) : null;
    this.resamples = resampler && { replicates: [resampler.replicates(0, replications)], jackknife: resampler.jackknife() };
  }

  evidence(change: Partial<Settings>): Evidence {
    const study = { ...this.prepared.study, settings: { ...this.prepared.study.settings, ...change } };
    return assembleEvidence({ ...this.prepared, study }, this.resamples);
  }
}

function specification(group: Specification["group"], name: string, task: () => Evidence, own: Evidence): Specification {
  try {
    const evidence = task();
    const claims = evidence.hypotheses.map((h, i): RobustClaim => {
      const effect = evidence.effects.find((e) => e.id === h.effects[0]);
      return {
        label: h.label,
        verdict: h.verdict,
        estimate: effect?.estimate ?? null,
        lower: effect?.shown.lower ?? null,
        upper: effect?.shown.upper ?? null,
        differs: h.verdict !== own.hypotheses[i]?.verdict,
      };
    });
    return { group, name, n: evidence.sample.n, claims, problem: null };
  } catch (error) {
    if (!(error instanceof StudyProblem)) throw error;
    return { group, name, n: null, claims: [], problem: error.message };
  }
}
