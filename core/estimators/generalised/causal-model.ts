import { pick } from "../../data";
import { buildDesign, centreOf, type Column, type Design, type UsedCoding } from "../../design";
import { mean, standardDeviation, twoValues } from "../../numerics/moments";
import { ln } from "../../numerics/elementary";
import { StudyProblem } from "../../problems";
import { pathsBetween, type CompiledTheory } from "../../theory";
import type { Settings } from "../../study";
import { listed } from "../../wording";
import type { ModelData } from "../engine";
import { contrastsOf, type Contrast } from "./contrasts";
import { isBinary, isCount, type FamilyId } from "./families";
import type { Equation } from "./generalised-fit";
import type { ResponseOptions } from "./options";
import type { HeldAt } from "./types";
import { Base, designOf, INTERCEPT, type Setting, type Term } from "./terms";

/** One response with its model. */
export interface Response {
  outcome: string;
  family: FamilyId;
  exposure: string | null;
  /** Products are of columns about their centres. */
  terms: Term[];
  equation: Equation;
}

/** A treatment, a mediator and an outcome whose effects are means of potential outcomes. */
export interface Triad {
  contrast: Contrast;
  /** As people say it: `hours`, `advice and skill`. */
  mediator: string;
  /** The mediators, in an order in which each acts only on later ones. */
  block: string[];
  outcome: string;
  /** What a yes/no outcome is counted for: `“yes” for renewed`, `renewed = 1`. */
  event: string;
  /** A moderator that is set to a value for everybody; null where it is as it was. */
  at: (HeldAt & { set: Setting }) | null;
  /** Values at which the mediators are held, one for each. */
  controlled: number[][];
}

/** A theory as generalised linear models, with the columns they need. */
export interface CausalModel {
  n: number;
  base: Base;
  design: Design;
  codings: UsedCoding[];
  responses: Response[];
  contrasts: Contrast[];
  triads: Triad[];
}

export type LevelOf = (name: string) => string | undefined;

/** How a response is modelled: as it is said, else by its level. */
export function familyFor(theory: CompiledTheory, outcome: string, level: LevelOf): FamilyId {
  const said = theory.models.find((m) => m.of.name === outcome);
  // Ordered answers are another engine's.
  if (said && said.family !== "ordered") return said.family;
  return level(outcome) === "binary" ? "logistic" : "linear";
}

/** @throws StudyProblem that names the variable and what to do */
export function causalModel(
  theory: CompiledTheory,
  data: ModelData,
  options: ResponseOptions,
  probes: Settings["probes"],
): CausalModel {
  const { typed, variables, sample } = data;
  const n = sample.rows.length;
  const design = buildDesign(theory.equations, typed, variables, sample);
  const base = new Base();
  const columns = new Map<string, Column>();
  for (const { outcome, columns: own, y } of design.equations) {
    base.set(outcome, y);
    for (const column of own)
      if (!column.components) {
        base.set(column.key, column.values);
        base.centres.set(column.key, centreOf(column));
        columns.set(column.key, column);
      }
  }
  const contrasts = contrastsOf(theory, data, design, columns);
  const level: LevelOf = (name) => variables.get(name)?.level;
  const mediators = new Set(theory.roles.mediators);
  const responses = design.equations.map(({ outcome, columns: own, y }): Response => {
    const family = familyFor(theory, outcome, level);
    const said = theory.models.find((m) => m.of.name === outcome);
    const exposure = said?.exposure?.name ?? null;
    checkResponse(outcome, family, y);
    const terms: Term[] = [
      INTERCEPT,
      ...own.map((c) => (c.components ? c.components.map((part) => part.key) : [c.key])),
    ];
    if (options.product)
      terms.push(...treatmentProducts(theory, outcome, terms, contrasts, mediators));
    return {
      outcome,
      family,
      exposure,
      terms,
      equation: {
        family,
        design: designOf(terms, base, n),
        columns: terms.length,
        y,
        offset: exposure === null ? null : offsetOf(exposure, data),
      },
    };
  });
  const triads = triadsOf(theory, data, design, contrasts, responses, base, probes);
  for (const triad of triads) checkCells(triad, base, responses);
  return { n, base, design, codings: design.codings, responses, contrasts, triads };
}

/** Products of each treatment with the one mediator between it and an outcome. */
function treatmentProducts(
  theory: CompiledTheory,
  outcome: string,
  terms: readonly Term[],
  contrasts: readonly Contrast[],
  mediators: ReadonlySet<string>,
): Term[] {
  const list: Term[] = [];
  if (!theory.roles.outcomes.includes(outcome)) return list;
  for (const { key, variable } of contrasts) {
    const between = betweenOf(theory, variable, outcome);
    if (between.length !== 1 || !mediators.has(between[0]!)) continue;
    const [mediator] = between as [string];
    if (!terms.some((t) => t.length === 1 && t[0] === key)) continue;
    const there = [...terms, ...list].some(
      (t) => t.length === 2 && t.includes(key) && t.includes(mediator),
    );
    if (!there) list.push([key, mediator]);
  }
  return list;
}

/** Everything that stands between a treatment and an outcome. */
export const betweenOf = (theory: CompiledTheory, from: string, to: string): string[] => [
  ...new Set(pathsBetween(theory.paths, from, to).flatMap((nodes) => nodes.slice(1, -1))),
];

function checkResponse(name: string, family: FamilyId, y: Float64Array): void {
  const place = { variables: [name], equation: name };
  const distinct = new Set(y);
  if (isBinary(family) && (distinct.size !== 2 || !distinct.has(0) || !distinct.has(1)))
    throw new StudyProblem("response_not_binary", { name, values: distinct.size }, place);
  if (!isCount(family)) return;
  const negative = y.find((v) => v < 0);
  if (negative !== undefined)
    throw new StudyProblem("count_negative", { name, value: negative }, place);
  const part = y.find((v) => !Number.isInteger(v));
  if (part !== undefined) throw new StudyProblem("count_not_integer", { name, value: part }, place);
}

function offsetOf(exposure: string, { typed, sample }: ModelData): Float64Array {
  const values = pick(typed.get(exposure)!.values, sample.rows);
  const wrong = values.find((v) => !(v > 0));
  if (wrong !== undefined)
    throw new StudyProblem(
      "exposure_not_positive",
      { name: exposure, value: wrong },
      { variables: [exposure] },
    );
  return values.map(ln);
}

/** The value that counts as one, as people call it. */
function eventOf(outcome: string, { typed, variables }: ModelData): string {
  const level = typed.get(outcome)?.levels?.[1];
  if (level === undefined || level === "1") return `${outcome} = 1`;
  return `“${variables.get(outcome)?.labels?.[level] ?? level}” for ${outcome}`;
}

function triadsOf(
  theory: CompiledTheory,
  data: ModelData,
  design: Design,
  contrasts: readonly Contrast[],
  responses: readonly Response[],
  base: Base,
  probes: Settings["probes"],
): Triad[] {
  return contrasts.flatMap((contrast) =>
    theory.roles.outcomes.flatMap((outcome): Triad[] => {
      const block = inOrder(theory, betweenOf(theory, contrast.variable, outcome));
      if (block.length === 0) return [];
      const whole: Triad = {
        contrast,
        mediator: listed(block),
        block,
        outcome,
        event: eventOf(outcome, data),
        at: null,
        controlled: heldValues(theory, block, responses, base),
      };
      return [
        whole,
        ...placesOf(theory, [contrast.variable, ...block, outcome], data, design, base, probes).map(
          (at) => ({
            ...whole,
            at,
          }),
        ),
      ];
    }),
  );
}

/** With more levels than this, what would have been at each of them fills pages. */
const MOST_LEVELS = 8;

/**
 * Where the moderators of a triad's steps are set for everybody, one moderator at a time and the
 * others as they are: a number as stated, its two values, or its mean and SDs; a category at its
 * levels.
 */
function placesOf(
  theory: CompiledTheory,
  nodes: readonly string[],
  data: ModelData,
  { codings }: Design,
  base: Base,
  probes: Settings["probes"],
): NonNullable<Triad["at"]>[] {
  const acting = theory.moderated.filter((m) => nodes.includes(m.from) && nodes.includes(m.to));
  const names = [...new Set(acting.flatMap((m) => m.moderators))].filter((w) => !nodes.includes(w));
  return names.flatMap((name): NonNullable<Triad["at"]>[] => {
    const labels = data.variables.get(name)?.labels ?? {};
    const coding = codings.find((c) => c.variable === name);
    if (coding)
      return coding.levels.length > MOST_LEVELS
        ? []
        : coding.levels.map((level, value) => ({
            name,
            value,
            level: labels[level] ?? level,
            set: new Map(coding.columns.map((c) => [c.key, c.codes[value]!])),
          }));
    const values = base.get(name);
    if (!values) return [];
    const levels = data.typed.get(name)?.levels;
    const stated = (probes[name] ?? []).filter((p): p is number => typeof p === "number");
    const two = twoValues(values);
    const [centre, sd] = [mean(values), standardDeviation(values)];
    const at = stated.length > 0 ? stated : two ? [...two] : [centre - sd, centre, centre + sd];
    return at.map((value) => {
      const own = levels?.[value] ?? String(value);
      const level = labels[own] ?? (levels ? own : null);
      return { name, value, level, set: new Map([[name, value]]) };
    });
  });
}

/**
 * Where a mediator is held unless values are stated: both values, or its mean and one SD to each
 * side.
 */
function usualValues(family: FamilyId, values: Float64Array): number[] {
  if (isBinary(family)) return [0, 1];
  const [centre, sd] = [mean(values), standardDeviation(values)];
  const at = [centre - sd, centre, centre + sd];
  return isCount(family) ? [...new Set(at.map((v) => Math.max(0, Math.round(v))))] : at;
}

/** Mediators so that each acts only on later ones. */
function inOrder(theory: CompiledTheory, names: readonly string[]): string[] {
  const earlier = (name: string): number =>
    names.filter((other) => other !== name && pathsBetween(theory.paths, other, name).length > 0)
      .length;
  return [...names].sort((a, b) => earlier(a) - earlier(b));
}

/**
 * Where mediators are held: as stated, the first values of all, then the second ones; else where
 * one usually would be, several at their means.
 */
function heldValues(
  theory: CompiledTheory,
  block: readonly string[],
  responses: readonly Response[],
  base: Base,
): number[][] {
  const stated = block.map((m) => theory.controlled.find((c) => c.of.name === m)?.values ?? []);
  const count = Math.max(...stated.map((list) => list.length));
  if (block.length > 1) {
    const centres = block.map((m) => mean(base.get(m)!));
    return Array.from({ length: Math.max(1, count) }, (_, i) =>
      block.map((_, j) => stated[j]![i] ?? stated[j]!.at(-1) ?? centres[j]!),
    );
  }
  const [mediator] = block as [string];
  const { family } = responses.find((r) => r.outcome === mediator)!;
  return (count > 0 ? stated[0]! : usualValues(family, base.get(mediator)!)).map((v) => [v]);
}

/** Every value of a yes/no mediator has to occur at every level of the treatment. */
function checkCells(
  { contrast, mediator, block }: Triad,
  base: Base,
  responses: readonly Response[],
): void {
  // Mediators of a block are straight lines.
  if (block.length > 1) return;
  const { family } = responses.find((r) => r.outcome === mediator)!;
  if (!isBinary(family)) return;
  const x = base.get(contrast.key)!;
  const m = base.get(mediator)!;
  if (new Set(x).size > 2) return;
  for (const level of new Set(x))
    for (const value of [0, 1])
      if (!m.some((v, i) => v === value && x[i] === level))
        throw new StudyProblem(
          "empty_cell",
          { treatment: contrast.variable, mediator },
          { variables: [contrast.variable, mediator] },
        );
}
