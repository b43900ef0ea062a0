import { differenceTest, scalingOf, type DifferenceTest, type NestedFit } from "../model";
import type { Settings, StudyDefinition } from "../study";
import { IN_SDS } from "./effect-words";
import type { Evidence, HypothesisEvidence, Verdict } from "./types";

/**
 * What is kept of a run, so that it can be put beside another: never changed, whatever becomes of
 * the study.
 */
export interface KeptRun {
  engine: string;
  theory: string;
  settings: Settings;
  /** Names of the filters that were on. */
  filters: string[];
  n: number;
  /** Of a model of means and covariances, with degrees of freedom or without. */
  fit?: RunFit | null;
  hypotheses: {
    label: string;
    sentence: string;
    verdict: Verdict;
    /** What had to be known of the verdict; runs kept by earlier versions have none. */
    cautions?: HypothesisEvidence["cautions"];
  }[];
  effects: {
    id: string;
    label: string;
    estimate: number | null;
    lower: number | null;
    upper: number | null;
    p: number | null;
  }[];
}

/** How well a model fits, as far as runs are compared. */
export interface RunFit extends NestedFit {
  cfi: number;
  rmsea: number;
  srmr: number;
  aic: number | null;
  bic: number | null;
}

function fitOfRun(evidence: Evidence): RunFit | null {
  const section = evidence.sections.find((s) => s.kind === "structure");
  if (!section?.fit) return null;
  const { fit, information, counts, observed, method } = section;
  return {
    n: counts.n,
    observed,
    estimator: method.estimator,
    chi2: fit.plain.chi2,
    df: fit.plain.df,
    scaling: scalingOf(fit),
    cfi: fit.plain.cfi,
    rmsea: fit.plain.rmsea,
    srmr: fit.srmr,
    aic: information?.aic ?? null,
    bic: information?.bic ?? null,
  };
}

export function keptRun(evidence: Evidence, definition: StudyDefinition): KeptRun {
  return {
    engine: evidence.engine,
    theory: definition.theory,
    settings: definition.settings,
    filters: definition.filters.filter((f) => f.active).map((f) => f.name),
    n: evidence.sample.n,
    fit: fitOfRun(evidence),
    hypotheses: evidence.hypotheses.map(({ label, sentence, verdict, cautions }) => ({
      label,
      sentence,
      verdict,
      cautions,
    })),
    effects: evidence.effects.map(({ id, kind, label, estimate, shown }) => ({
      id,
      label: `${label}${IN_SDS[kind] ? `, ${IN_SDS[kind]}` : ""}`,
      estimate: shown ? estimate : null,
      lower: shown?.lower ?? null,
      upper: shown?.upper ?? null,
      p: shown?.p ?? null,
    })),
  };
}

type KeptEffect = KeptRun["effects"][number];

export interface RunComparison {
  /**
   * Fit of both, where both have one, and the test of their difference where one holds more fixed
   * than the other.
   */
  fit: {
    runs: [RunFit, RunFit];
    difference: DifferenceTest | null;
    /** Which of the two holds more fixed. */
    tighter: 0 | 1 | null;
  } | null;
  /** What was done differently, in words. */
  differences: string[];
  /**
   * Sentences of either run, by their words: the same label may have been given to another
   * sentence.
   */
  verdicts: {
    sentence: string;
    labels: [string | null, string | null];
    verdicts: [Verdict | null, Verdict | null];
    /** What had to be known of each. */
    cautions: readonly [HypothesisEvidence["cautions"], HypothesisEvidence["cautions"]];
    changed: boolean;
  }[];
  effects: {
    id: string;
    label: string;
    runs: [KeptEffect | null, KeptEffect | null];
    changed: boolean;
  }[];
}

const SETTING_WORDS: Partial<Record<keyof Settings, string>> = {
  level: "confidence level",
  tail: "tails",
  several: "correction for several hypotheses",
  interval: "interval",
  replications: "bootstrap samples",
  seed: "seed",
  errors: "errors",
  centring: "centring",
  strata: "strata",
  cluster: "clusters",
};

/**
 * Two runs beside each other; an effect counts as changed when its interval moves to the other side
 * of deciding.
 */
export function compareRuns(a: KeptRun, b: KeptRun): RunComparison {
  const both = (list: (run: KeptRun) => string[]): string[] => [
    ...new Set([...list(a), ...list(b)]),
  ];
  const verdicts = both((r) => r.hypotheses.map((h) => h.sentence)).map((sentence) => {
    const found = [a, b].map((r) => r.hypotheses.find((h) => h.sentence === sentence) ?? null);
    const pair = found.map((h) => h?.verdict ?? null) as [Verdict | null, Verdict | null];
    return {
      sentence,
      labels: found.map((h) => h?.label ?? null) as [string | null, string | null],
      verdicts: pair,
      cautions: [found[0]?.cautions ?? [], found[1]?.cautions ?? []] as const,
      changed: pair[0] !== pair[1],
    };
  });
  const told = ({ effects }: KeptRun): string[] =>
    effects.filter((e) => e.estimate !== null).map((e) => e.id);
  const effects = both(told).map((id) => {
    const runs = [a, b].map((r) => r.effects.find((e) => e.id === id) ?? null) as [
      KeptEffect | null,
      KeptEffect | null,
    ];
    return {
      id,
      label: (runs[0] ?? runs[1])!.label,
      runs,
      changed: side(runs[0]) !== side(runs[1]),
    };
  });
  return { differences: differences(a, b), fit: fitsOf(a, b), verdicts, effects };
}

function fitsOf(a: KeptRun, b: KeptRun): RunComparison["fit"] {
  if (!a.fit || !b.fit) return null;
  const runs: [RunFit, RunFit] = [a.fit, b.fit];
  if (a.fit.df === b.fit.df) return { runs, difference: null, tighter: null };
  const tighter = a.fit.df > b.fit.df ? 0 : 1;
  return {
    runs,
    difference: differenceTest(runs[tighter], runs[1 - tighter]!),
    tighter,
  };
}

/** Above zero, below it, or containing it; null where there is no interval. */
function side(effect: KeptEffect | null): number | null {
  if (!effect || effect.lower === null || effect.upper === null) return null;
  return effect.lower > 0 ? 1 : effect.upper < 0 ? -1 : 0;
}

function differences(a: KeptRun, b: KeptRun): string[] {
  const list: string[] = [];
  if (a.n !== b.n) list.push(`rows used: ${a.n} and ${b.n}`);
  for (const key of Object.keys(SETTING_WORDS) as (keyof Settings)[]) {
    const [x, y] = [a.settings[key], b.settings[key]];
    if (
      JSON.stringify(x) !== JSON.stringify(y) &&
      !(key === "several" && (x ?? "none") === (y ?? "none"))
    )
      list.push(`${SETTING_WORDS[key]}: ${String(x ?? "none")} and ${String(y ?? "none")}`);
  }
  const only = (x: string[], y: string[]): string[] => x.filter((f) => !y.includes(f));
  for (const [run, names] of [
    ["first", only(a.filters, b.filters)],
    ["second", only(b.filters, a.filters)],
  ] as const) {
    if (names.length > 0) list.push(`left out in the ${run} only: ${names.join(", ")}`);
  }
  const lines = (r: KeptRun): string[] =>
    r.theory
      .split("\n")
      .map((l) => l.trim())
      .filter((l) => l !== "");
  for (const line of only(lines(a), lines(b))) list.push(`only in the first: ${line}`);
  for (const line of only(lines(b), lines(a))) list.push(`only in the second: ${line}`);
  return list;
}
