import type { Table } from "../data";
import { Analysis } from "../analysis";
import { engines } from "../estimators";
import { measuredOtherwise } from "./measured-otherwise";
import { StudyProblem } from "../problems";
import { linesOf, theoryWithout } from "../theory";
import { type IntervalKind, type Settings, type StudyDefinition } from "../study";
import { equationsOf } from "../evidence";
import type { Evidence, HypothesisEvidence, Verdict } from "../evidence";

/** What one way of analysing says of one hypothesis. */
export interface RobustClaim {
  label: string;
  verdict: Verdict;
  estimate: number | null;
  lower: number | null;
  upper: number | null;
  /** Both verdicts are settled, and they are not the same. */
  differs: boolean;
  /** The warnings that touch this verdict, this way. */
  cautions: HypothesisEvidence["cautions"];
}

/**
 * The same hypotheses under one way of analysing; without claims when it cannot be done, and then
 * why.
 */
export interface Specification {
  name: string;
  group:
    | "as set"
    | "errors"
    | "intervals"
    | "covariates"
    | "cases"
    | "centring"
    | "measures"
    | "estimators";
  n: number | null;
  claims: RobustClaim[];
  problem: string | null;
}

/**
 * Resamples behind every way that bootstraps: the study's own, up to a number that allows many ways
 * to be tried.
 */
export const ROBUST_RESAMPLES = 5000;

/**
 * The most influential rows of every equation: the five largest Cook's distances, where they exceed
 * 4 / n.
 */
export function influentialRows(evidence: Evidence): number[] {
  const rows = equationsOf(evidence).flatMap((e) =>
    (e.checks?.topCook ?? []).filter((r) => r.cook > 4 / e.n).map((r) => r.row),
  );
  return [...new Set(rows)].sort((a, b) => a - b);
}

/** The study without some rows, by a filter of its own. */
export const withoutRows = (study: StudyDefinition, rows: number[]): StudyDefinition => ({
  ...study,
  filters: [
    ...study.filters,
    { name: "tried without", active: true, rule: { kind: "rows", rows } },
  ],
});

/** Interval methods that are tried, one at a time. */
const INTERVALS_TRIED: [IntervalKind, string][] = [
  ["percentile", "percentile interval"],
  ["bc", "bias-corrected interval"],
  ["bca", "BCa interval"],
  ["normal", "standard errors by bootstrap"],
  ["delta", "t and delta method"],
];

/**
 * The hypotheses over ways of analysing, one thing changed at a time: interval, errors, centring,
 * covariates, influential cases. Errors of the equations only decide where nothing is resampled, so
 * they are varied under the t and delta-method intervals. All bootstrap intervals of a sample come
 * from the same resamples.
 * @param only ways of this kind, beside the analysis as it is set
 */
export const robustness = (
  study: StudyDefinition,
  table: Table,
  only?: Specification["group"],
): Specification[] => [...eachWay(study, table, only)].map(({ found }) => found);

/**
 * The same way by way: each is found when it is asked for, so that a thread may do something else
 * between them.
 * @param only ways of this kind, beside the analysis as it is set
 */
export function* eachWay(
  study: StudyDefinition,
  table: Table,
  only?: Specification["group"],
): Generator<{ done: number; of: number; found: Specification }> {
  const few = {
    ...study,
    settings: {
      ...study.settings,
      replications: Math.min(ROBUST_RESAMPLES, study.settings.replications || ROBUST_RESAMPLES),
    },
  };
  const base = analysed(few, table);
  const own = base.evidence();
  const change =
    (settings: Partial<Settings>): (() => Evidence) =>
    () =>
      base.evidence(settings);
  const rows = influentialRows(own);
  const { engine } = base.prepared;
  const ways: Way[] = [["as set", "main analysis", () => own]];
  const { errors: used, interval: chosen, cluster } = base.prepared.study.settings;
  if (!table.moments) {
    const { standardised } = base.prepared.fit;
    for (const [interval, name] of INTERVALS_TRIED)
      if (interval !== chosen && !(interval in base.prepared.withheldIntervals))
        ways.push([
          "intervals",
          // Where every number depends on SDs, leaving one out gives the errors.
          standardised && interval === "delta" ? "standard errors by jackknife" : name,
          change({ interval }),
        ]);
    // With clusters the errors are cluster-robust in any case.
    const { covariances } = base.prepared.fit;
    const tried = engine.tried ?? engine.errors;
    const others =
      cluster === null
        ? tried.filter(
            (errors) => errors !== used && covariances[errors].values.some(Number.isFinite),
          )
        : [];
    for (const errors of others)
      ways.push([
        "errors",
        `t and delta method, ${errors.replace("_", ", ")} errors`,
        change({ errors, interval: "delta" }),
      ]);
    if (rows.length > 0)
      ways.push([
        "cases",
        `without the ${rows.length} most influential rows`,
        () => analysed(withoutRows(few, rows), table).evidence(),
      ]);
  }
  const centring = study.settings.centring === "mean" ? "none" : "mean";
  if (own.moderations.length > 0 && reads(base, { centring })) {
    const name =
      centring === "mean" ? "interaction terms centred" : "interaction terms as they are";
    ways.push([
      "centring",
      name,
      () => analysed({ ...few, settings: { ...few.settings, centring } }, table).evidence(),
    ]);
  }
  if (linesOf(study.theory, "adjust").length > 0) {
    const theory = theoryWithout(study.theory, "adjust");
    ways.push([
      "covariates",
      "without covariates",
      () => analysed({ ...few, theory }, table).evidence(),
    ]);
  }
  if (!table.moments) ways.push(...otherEstimators(base, few, table));
  if (!table.moments) {
    const { statements } = base.prepared.dataset.theory;
    for (const { name, theory } of measuredOtherwise(study.theory, statements))
      ways.push(["measures", name, () => analysedQuickly(byDefault({ ...few, theory }), table)]);
    ways.push(...otherEngines(base, few, table));
  }
  const wanted = ways.filter(
    ([group]) => only === undefined || group === only || group === "as set",
  );
  for (const [i, [group, name, task]] of wanted.entries())
    yield { done: i + 1, of: wanted.length, found: specification(group, name, task, own) };
}

/** Does a setting make a difference to the engine, or has it a rule of its own? */
function reads({ prepared }: Analysis, change: Partial<Settings>): boolean {
  const { engine, theory, study } = prepared;
  const variables = new Map(study.variables.map((v) => [v.name, v]));
  const settings = { ...study.settings, ...change };
  const own = engine.settings?.(settings, theory, variables) ?? settings;
  return (Object.keys(change) as (keyof Settings)[]).every((key) => own[key] === change[key]);
}

type Way = [Specification["group"], string, () => Evidence];

/** Measures of another form call for another engine, which has options of its own. */
const byDefault = (study: StudyDefinition): StudyDefinition => ({
  ...study,
  settings: { ...study.settings, engine: engines()[0]!.id, options: {} },
});

/** The same measures by every other engine that estimates constructs of their form. */
function otherEngines({ prepared }: Analysis, few: StudyDefinition, table: Table): Way[] {
  const forms = prepared.measures.map((m) => m.form);
  if (forms.length === 0) return [];
  return engines()
    .filter((e) => e !== prepared.engine && forms.every((form) => e.forms?.includes(form)))
    .map(({ id, label }): Way => {
      const settings = { ...few.settings, engine: id, options: {} };
      return ["estimators", `by ${label}`, () => analysedQuickly({ ...few, settings }, table)];
    });
}

/**
 * Other ways of estimating that the engine knows; some take long to resample, so their errors come
 * from the delta method.
 */
function otherEstimators({ prepared }: Analysis, few: StudyDefinition, table: Table): Way[] {
  const { engine, sample, study, measures, theory } = prepared;
  const forms = measures.map((m) => m.form);
  const variants = engine.variants?.(study.settings, sample.dropped.length, forms, theory) ?? [];
  return variants.map(({ name, options, slow = false }): Way => {
    const settings: Settings = {
      ...few.settings,
      engine: engine.id,
      options: { ...study.settings.options, ...options },
      ...(prepared.fit.batch || slow ? { replications: 0, interval: "delta" as const } : {}),
    };
    return ["estimators", name, () => analysed({ ...few, settings }, table).evidence()];
  });
}

/** One sample with one set of resamples, which can be read under different settings. */
const analysed = (study: StudyDefinition, table: Table): Analysis =>
  Analysis.of(study, table).complete();

/** Where a refit takes long, errors come from the delta method instead of resamples. */
function analysedQuickly(study: StudyDefinition, table: Table): Evidence {
  const analysis = Analysis.of(study, table);
  if (!analysis.prepared.fit.batch) return analysis.complete().evidence();
  const settings: Settings = { ...study.settings, replications: 0, interval: "delta" };
  return Analysis.of({ ...study, settings }, table).evidence();
}

/**
 * An unsettled verdict is no other one: it only says that more resamples are needed; nor is one that
 * cannot be reached this way.
 */
const isSettled = (verdict: Verdict): boolean =>
  !["unsettled", "pending", "not_testable"].includes(verdict);

function specification(
  group: Specification["group"],
  name: string,
  task: () => Evidence,
  own: Evidence,
): Specification {
  try {
    const evidence = task();
    const claims = evidence.hypotheses.map(
      ({ label, verdict, claim, cautions }, i): RobustClaim => {
        const before = own.hypotheses[i]?.verdict;
        return {
          label,
          verdict,
          estimate: claim?.estimate ?? null,
          lower: claim?.lower ?? null,
          upper: claim?.upper ?? null,
          differs:
            before !== undefined && isSettled(verdict) && isSettled(before) && verdict !== before,
          cautions,
        };
      },
    );
    return { group, name, n: evidence.sample.n, claims, problem: null };
  } catch (error) {
    if (!(error instanceof StudyProblem)) throw error;
    return { group, name, n: null, claims: [], problem: error.message };
  }
}
