import { timesPower } from "../numerics/unit";
import { own } from "../data/own";
import type { TypedColumn } from "../data";
import { centreOf, type Column, type UsedCoding } from "../design";
import { extent, mean, twoValues } from "../numerics/moments";
import { quantile6 } from "../numerics/quantile";
import type { ProbeChoice } from "../study";
import { minus, plain } from "../wording/numbers";

/** A value at which effects are looked at: one number, or the codes of a level. */
export interface Probe {
  /** “mean-sd”, “p16”, “=3”, or the name of a level. */
  label: string;
  /** In raw units; null for a level of a categorical moderator. */
  value: number | null;
  /** Of every column of the moderator, about its centre within products. */
  centred: ReadonlyMap<string, number>;
  outsideRange: boolean;
}

/** The columns and probes of one moderator. */
export interface Moderator {
  name: string;
  columns: Column[];
  kind: "numeric" | "two_values" | "categorical";
  probes: Probe[];
  min: number;
  max: number;
}

/** One probe for each moderator. */
export type Combination = { probe: Probe; moderator: Moderator }[];

/** A mean this small against the SD is zero. */
const ROUNDING = 1e-12;

/**
 * Percentages at which the named rules look; 16, 50 and 84 are a normal variable's mean and one SD
 * to each side.
 */
const RULES = { quartiles: [25, 50, 75], tenths: [10, 50, 90], percentile: [16, 50, 84] };

/** The percentages of a rule, or of a single percentile such as “20 %”. */
export const percentagesOf = (rule: Exclude<ProbeChoice, "mean_sd" | number>): number[] =>
  rule in RULES ? RULES[rule as keyof typeof RULES] : [Number.parseFloat(rule)];

/**
 * Probe values of a moderator, fixed numbers found once on the analysis sample. Two observed values
 * are their own probes; a categorical moderator is probed at its levels.
 */
export function moderatorOf(
  name: string,
  source: { columns: ReadonlyMap<string, Column>; codings: readonly UsedCoding[] },
  typed: ReadonlyMap<string, TypedColumn>,
  choice: ProbeChoice[],
): Moderator {
  const columns = [...source.columns.values()].filter((c) => c.variable === name);
  const coding = source.codings.find((c) => c.variable === name);
  if (coding) {
    const probes = coding.levels.map((label, level) => ({
      label,
      value: null,
      centred: new Map(coding.columns.map((c) => [c.key, c.codes[level]!])),
      outsideRange: false,
    }));
    return { name, columns, kind: "categorical", probes, min: NaN, max: NaN };
  }
  const column = columns[0]!;
  const centre = centreOf(column);
  const [min, max] = extent(column.values);
  const probe = (label: string, value: number): Probe => ({
    label,
    value,
    centred: new Map([[column.key, value - centre]]),
    outsideRange: value < min || value > max,
  });
  const distinct = twoValues(column.values);
  if (distinct) {
    const levels = typed.get(name)?.levels;
    return {
      name,
      columns,
      kind: "two_values",
      probes: distinct.map((v, i) => probe(levels?.[i] ?? `=${v}`, v)),
      min,
      max,
    };
  }
  const probes = choice.flatMap((rule) => {
    if (rule === "mean_sd") {
      const found = mean(column.values);
      // Of a latent variable the model says more than scores do.
      const { sd } = column;
      // Scores are about zero but for rounding.
      const m = Math.abs(found) < ROUNDING * sd ? 0 : found;
      return [probe("mean-sd", m - sd), probe("mean", m), probe("mean+sd", m + sd)];
    }
    if (typeof rule === "number")
      return [probe(`=${rule}`, timesPower(rule, -(typed.get(name)?.power ?? 0)))];
    const sorted = Float64Array.from(column.values).sort();
    return percentagesOf(rule).map((q) => probe(`p${q}`, quantile6(sorted, q / 100)));
  });
  return { name, columns, kind: "numeric", probes, min, max };
}

/** Every combination of one probe for each moderator, the first moderator slowest. */
export function combinations(moderators: Moderator[]): Combination[] {
  return moderators.reduce<Combination[]>(
    (all, moderator) =>
      all.flatMap((some) => moderator.probes.map((probe) => [...some, { probe, moderator }])),
    [[]],
  );
}

/** Beyond so many combinations nobody reads them all. */
const MOST_COMBINATIONS = 81;

/** The place in the middle of everything: the middle probe of each moderator. */
export const middleOf = (moderators: Moderator[]): Combination =>
  moderators.map((moderator) => ({ moderator, probe: middleProbe(moderator.probes) }));

const middleProbe = (probes: Probe[]): Probe =>
  probes.find((p) => p.label === "mean" || p.label === "p50") ??
  probes[Math.floor((probes.length - 1) / 2)]!;

/**
 * Every combination of probes; with very many of them, each moderator's probes while the others
 * stay at their middle.
 */
export function probeGrid(moderators: Moderator[]): Combination[] {
  const count = moderators.reduce((all, m) => all * m.probes.length, 1);
  if (count <= MOST_COMBINATIONS) return combinations(moderators);
  const middle = middleOf(moderators);
  const moved = moderators.flatMap((moderator, i) =>
    moderator.probes.map((probe) =>
      middle.map((here, j) => (i === j ? { moderator, probe } : here)),
    ),
  );
  return [...new Map(moved.map((combination) => [atWords(combination), combination])).values()];
}

/** “advice mean-sd, noise =3”: what ids are made of. */
export const atWords = (combination: Combination): string =>
  combination.map(({ probe, moderator }) => `${moderator.name} ${probe.label}`).join(", ");

const NAMED: Record<string, string> = { "mean-sd": "low", mean: "average", "mean+sd": "high" };

/**
 * Where a moderator stands, for people: “low support (2.40)”, “support at 25 % (2.10)”, “support =
 * 3”, “group weekly”.
 */
export function placeWords({ probe, moderator }: { probe: Probe; moderator: Moderator }): string {
  const { label, value } = probe;
  const { name } = moderator;
  if (value === null || moderator.kind !== "numeric") return `${name} ${label}`;
  if (label.startsWith("=")) return `${name} = ${minus(label.slice(1))}`;
  const said = `(${plain(value, 2)})`;
  const named = own(NAMED, label);
  if (named) return `${named} ${name} ${said}`;
  return /^p[\d.]+$/.test(label) ? `${name} at ${label.slice(1)} % ${said}` : `${name} ${label}`;
}

/** The places of several moderators. */
export const placesWords = (combination: Combination): string =>
  combination.map(placeWords).join(", ");

/** The label of the probe at which each moderator of a combination stands. */
export const probesAt = (combination: Combination): Record<string, string> =>
  Object.fromEntries(combination.map(({ probe, moderator }) => [moderator.name, probe.label]));

/** The centred values of a combination. */
export const valuesOf = (combination: { probe: Probe }[]): ReadonlyMap<string, number> =>
  new Map(combination.flatMap(({ probe }) => [...probe.centred]));
