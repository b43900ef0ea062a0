import type { Settings, StudyDefinition } from "../study";
import type { Evidence, Verdict } from "./types";

/** What is kept of a run, so that it can be put beside another: never changed, whatever becomes of the study. */
export interface KeptRun {
  engine: string;
  theory: string;
  settings: Settings;
  /** Names of the filters that were on. */
  filters: string[];
  n: number;
  hypotheses: { label: string; sentence: string; verdict: Verdict }[];
  effects: {
    id: string;
    label: string;
    estimate: number | null;
    lower: number | null;
    upper: number | null;
    p: number | null;
  }[];
}

export function keptRun(evidence: Evidence, definition: StudyDefinition): KeptRun {
  return {
    engine: evidence.engine,
    theory: definition.theory,
    settings: definition.settings,
    filters: definition.filters.filter((f) => f.active).map((f) => f.name),
    n: evidence.sample.n,
    hypotheses: evidence.hypotheses.map(({ label, sentence, verdict }) => ({
      label,
      sentence,
      verdict,
    })),
    effects: evidence.effects.map(({ id, label, estimate, shown }) => ({
      id,
      label,
      estimate: shown ? estimate : null,
      lower: shown?.lower ?? null,
      upper: shown?.upper ?? null,
      p: shown?.p ?? null,
    })),
  };
}

type KeptEffect = KeptRun["effects"][number];

export interface RunComparison {
  /** What was done differently, in words. */
  differences: string[];
  /** Sentences of either run, by their words: the same label may have been given to another sentence. */
  verdicts: {
    sentence: string;
    labels: [string | null, string | null];
    verdicts: [Verdict | null, Verdict | null];
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

/** Two runs beside each other; an effect counts as changed when its interval moves to the other side of deciding. */
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
      changed: pair[0] !== pair[1],
    };
  });
  const effects = both((r) => r.effects.map((e) => e.id)).map((id) => {
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
  return { differences: differences(a, b), verdicts, effects };
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
