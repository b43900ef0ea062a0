import { describeChange } from "../study/change-log";
import type { Registration, Settings, StudyDefinition } from "../study";
import { completePlan, sizeOf, type StudyPlan } from "../study";
import { INTERVAL_WORDS } from "../wording/intervals";
import { percent, thousands } from "../wording/numbers";

/**
 * What differs now from the plan, in sentences: hypotheses and other lines of the theory one by
 * one, measures, exclusions, settings, how many came. Empty where nothing does.
 * @param came cases that entered the analysis, where there is one
 */
export function deviations(
  plan: Registration,
  now: StudyDefinition,
  came: number | null = null,
): string[] {
  const before: StudyDefinition = {
    ...now,
    theory: plan.theory,
    derived: plan.derived,
    filters: plan.filters,
  };
  return [
    ...lineChanges(plan.theory, now.theory),
    ...describeChange(before, now).map((what) => `${what[0]!.toUpperCase()}${what.slice(1)}.`),
    ...settingChanges(plan.settings, now.settings),
    ...expectationChanges(plan.plan, now.plan),
    ...cameChanges(plan, came),
    ...(plan.unit === now.unit ? [] : [`The unit was ${plan.unit}, and is ${now.unit}.`]),
  ];
}

/** A number was planned, and another one came. */
function cameChanges({ plan, unit }: Registration, came: number | null): string[] {
  const planned = plan?.n;
  return planned === undefined || came === null || came === planned
    ? []
    : [`Planned were ${thousands(planned)} ${unit}; ${thousands(came)} entered the analysis.`];
}

/** Sizes and numbers of people that were planned, and are others now. */
function expectationChanges(
  planned: Partial<StudyPlan> | undefined,
  now: Partial<StudyPlan> | undefined,
): string[] {
  if (!planned || !now) return [];
  const [was, is] = [completePlan(planned), completePlan(now)];
  const sizes = [...was.sizes, ...is.sizes.filter((s) => sizeOf(was, s) === null)].flatMap((s) => {
    const [before, later] = [sizeOf(was, s), sizeOf(is, s)];
    const words = `${s.from.join(" × ")} on ${s.to}`;
    return before === later
      ? []
      : [`The expected size of ${words}: planned ${before ?? "none"}, now ${later ?? "none"}.`];
  });
  const people = was.n === is.n ? [] : [`People: planned ${was.n}, now ${is.n}.`];
  return [...people, ...sizes];
}

interface Line {
  label: string | null;
  text: string;
}

/** Sentences of a theory; those on measures are told apart, comments are none. */
const sentencesOf = (theory: string): Line[] =>
  theory.split(/\r?\n/).flatMap((line) => {
    const text = line.replace(/#.*$/, "").replace(/\s+/g, " ").trim();
    if (text === "" || /^measure\b/.test(text)) return [];
    const labelled = /^([\p{L}\p{N}_.]+): (.+)$/u.exec(text);
    return [labelled ? { label: labelled[1]!, text: labelled[2]! } : { label: null, text }];
  });

/** Labelled sentences are compared by their label, whatever their order; others by their words. */
function lineChanges(planned: string, now: string): string[] {
  const [old, current] = [sentencesOf(planned), sentencesOf(now)];
  const named = (lines: Line[]): Map<string, string> =>
    new Map(lines.flatMap(({ label, text }) => (label === null ? [] : [[label, text] as const])));
  const bare = (lines: Line[]): string[] =>
    lines.flatMap(({ label, text }) => (label === null ? [text] : []));
  const [was, is] = [named(old), named(current)];
  const [wasBare, isBare] = [bare(old), bare(current)];
  return [
    ...[...was].flatMap(([label, text]) => {
      const later = is.get(label);
      if (later === undefined) return [`${label} (${text}) was taken out.`];
      return later === text ? [] : [`${label} was “${text}”, and is “${later}”.`];
    }),
    ...[...is]
      .filter(([label]) => !was.has(label))
      .map(([label, text]) => `${label} (${text}) was added.`),
    ...wasBare.filter((text) => !isBare.includes(text)).map((text) => `“${text}” was taken out.`),
    ...isBare.filter((text) => !wasBare.includes(text)).map((text) => `“${text}” was added.`),
  ];
}

const CENTRINGS: Record<Settings["centring"], string> = {
  none: "as measured",
  mean: "centred at their means",
  products: "centred in products",
  standardised: "z-scores",
};

/**
 * Settings with their names and how they are said; those that change how a number is written are
 * none.
 */
const SETTINGS: [what: string, read: (settings: Settings) => string][] = [
  ["The interval", (s) => INTERVAL_WORDS[s.interval]!],
  ["The confidence level", (s) => `${percent(s.level)} %`],
  ["Tests of directional hypotheses", (s) => (s.tail === "one" ? "one-tailed" : "two-tailed")],
  ["The correction for several hypotheses", (s) => (s.several === "holm" ? "Holm's" : "none")],
  ["The number of bootstrap samples", (s) => thousands(s.replications)],
  ["The seed", (s) => String(s.seed)],
  ["The number of Monte Carlo draws", (s) => thousands(s.monteCarloDraws)],
  ["Standard errors", (s) => s.errors],
  ["Covariances between equations", (s) => (s.crossEquations === "zero" ? "zero" : "estimated")],
  ["The cluster column", (s) => s.cluster ?? "none"],
  ["The strata", (s) => s.strata ?? "none"],
  ["Predictors", (s) => CENTRINGS[s.centring]],
  ["The engine", (s) => s.engine.replaceAll("_", " ")],
  ["Options of the engine", (s) => optionsWords(s.options)],
  ["Values of moderators that are looked at", (s) => optionsWords(s.probes)],
];

const optionsWords = (options: Record<string, unknown>): string =>
  Object.keys(options).length === 0
    ? "the usual ones"
    : Object.entries(options)
        .sort(([a], [b]) => (a < b ? -1 : 1))
        .map(([name, value]) => `${name.replaceAll("_", " ")} ${[value].flat().join(", ")}`)
        .join("; ");

const settingChanges = (planned: Settings, now: Settings): string[] =>
  SETTINGS.flatMap(([what, read]) => {
    const [was, is] = [read(planned), read(now)];
    return was === is ? [] : [`${what}: planned ${was}, now ${is}.`];
  });

/** Every setting in words, for a plan. */
export const settingWords = (settings: Settings): string[] =>
  SETTINGS.map(([what, read]) => `${what}: ${read(settings)}.`);
