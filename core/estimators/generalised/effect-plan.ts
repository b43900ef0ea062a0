import { extent } from "../../numerics/moments";
import type { CompiledTheory } from "../../theory";
import type { CausalModel, Triad } from "./causal-model";
import type { Contrast } from "./contrasts";
import { isBinary } from "./families";
import type { Functional } from "./functional";
import { moderatedMeans, moderatedNames, type ModeratedMeans } from "./moderated-means";
import { designOf, termDerivative, type Setting, type Term } from "./terms";
import { worldMeans } from "./world-means";

/**
 * Where the four means of a triad stand among the functionals, and those with the mediator held.
 */
export interface TriadMeans {
  triad: Triad;
  /**
   * Outcome under one treatment with the mediator as under another: mean[1][0] is the outcome under
   * x1, mediator as under x0.
   */
  nested: [[number, number], [number, number]];
  controlled: { at: number[]; x1: number; x0: number }[];
  /**
   * The same along the observed values of one mediator that is a number: for a picture, and not
   * resampled.
   */
  along: { at: number; x1: number; x0: number }[];
}

/** Mean responses under both values of a treatment, where nothing stands between. */
export interface ResponseMeans {
  contrast: Contrast;
  outcome: string;
  x1: number;
  x0: number;
}

/**
 * Mean change of a response with a column: from 0 to 1 where these are its values, else per unit.
 */
export interface MarginalEffect {
  outcome: string;
  key: string;
  /** One functional, or the difference of two. */
  places: [number] | [number, number];
}

export interface EffectPlan {
  functionals: Functional[];
  triads: TriadMeans[];
  responses: ResponseMeans[];
  marginal: MarginalEffect[];
  /** What moderated paths through a mediator are judged by. */
  moderated: ModeratedMeans[];
}

/** Everything whose mean over the rows is wanted. */
export function effectPlan(model: CausalModel, theory: CompiledTheory): EffectPlan {
  const { base, n, responses, triads, contrasts } = model;
  const functionals: Functional[] = [];
  const add = (f: Functional): number => functionals.push(f) - 1;
  const equationOf = (outcome: string): number => responses.findIndex((r) => r.outcome === outcome);
  const termsOf = (outcome: string): Term[] => responses[equationOf(outcome)]!.terms;
  const response = (outcome: string, set: Setting): number =>
    add({
      kind: "response",
      equation: equationOf(outcome),
      design: designOf(termsOf(outcome), base, n, set),
    });
  const plan: EffectPlan = { functionals, triads: [], responses: [], marginal: [], moderated: [] };
  for (const triad of triads) {
    const { contrast } = triad;
    const place = triad.at;
    const worlds = [contrast.x0, contrast.x1].map((set) =>
      place ? new Map([...set, ...place.set]) : set,
    );
    const { mean, held } = worldMeans(model, triad, worlds, add);
    plan.triads.push({
      triad,
      nested: [
        [mean(0, 0), mean(0, 1)],
        [mean(1, 0), mean(1, 1)],
      ],
      along: gridOf(model, triad).map((at) => ({ at, x1: held(1, [at]), x0: held(0, [at]) })),
      controlled: triad.controlled.map((at) => ({ at, x1: held(1, at), x0: held(0, at) })),
    });
  }
  for (const { outcome, terms } of responses)
    for (const contrast of contrasts)
      if (terms.some((t) => t.length === 1 && t[0] === contrast.key))
        plan.responses.push({
          contrast,
          outcome,
          x1: response(outcome, contrast.x1),
          x0: response(outcome, contrast.x0),
        });
  for (const { outcome, terms } of responses)
    for (const key of new Set(terms.flat()))
      plan.marginal.push({ outcome, key, places: marginal(model, outcome, key, add, response) });
  plan.moderated.push(...moderatedMeans(model, theory, add));
  return plan;
}

/**
 * What each mean is called on paper: the outcome, under which treatment, with the mediator as under
 * which; empty where effects are not made of it.
 */
export function meanNames({
  functionals,
  triads,
  responses,
  marginal,
  moderated,
}: EffectPlan): string[] {
  const names = functionals.map(() => "");
  for (const { outcome, key, places } of marginal) {
    const [first, second] = places;
    names[first] =
      second === undefined ? `mean change(${outcome} per ${key})` : `mean(${outcome} | ${key} = 1)`;
    if (second !== undefined) names[second] = `mean(${outcome} | ${key} = 0)`;
  }
  for (const { contrast, outcome, x1, x0 } of responses) {
    names[x1] = `mean(${outcome} | ${contrast.upper})`;
    names[x0] = `mean(${outcome} | ${contrast.lower})`;
  }
  for (const means of moderated) for (const [at, name] of moderatedNames(means)) names[at] = name;
  for (const { triad, nested } of triads) {
    const worlds = [triad.contrast.lower, triad.contrast.upper];
    nested.forEach((row, x) =>
      row.forEach((at, own) => {
        names[at] =
          `mean(${triad.outcome} | ${worlds[x]!}, ${triad.mediator} as under ${worlds[own]!})`;
      }),
    );
  }
  return names;
}

const GRID = 20;

/**
 * Equally spaced values of the one mediator of a triad, from the least that was observed to the
 * largest; none where a picture would not help.
 */
function gridOf({ responses, base }: CausalModel, { block, at }: Triad): number[] {
  const [mediator] = block as [string];
  const { family } = responses.find((r) => r.outcome === mediator)!;
  if (block.length > 1 || at !== null || isBinary(family)) return [];
  const [min, max] = extent(base.get(mediator)!);
  return Array.from({ length: GRID + 1 }, (_, i) => min + ((max - min) * i) / GRID);
}

function marginal(
  { base, n, responses }: CausalModel,
  outcome: string,
  key: string,
  add: (f: Functional) => number,
  response: (outcome: string, set: Setting) => number,
): MarginalEffect["places"] {
  const equation = responses.findIndex((r) => r.outcome === outcome);
  const { terms } = responses[equation]!;
  const own = responses.find((r) => r.outcome === key);
  const values = new Set(base.get(key));
  const binary =
    (own && isBinary(own.family)) || (values.size === 2 && values.has(0) && values.has(1));
  if (binary)
    return [response(outcome, new Map([[key, 1]])), response(outcome, new Map([[key, 0]]))];
  return [
    add({
      kind: "marginal",
      equation,
      design: designOf(terms, base, n),
      change: derivativeOf(terms, key, base, n),
    }),
  ];
}

/** Derivative of every term in a column. */
function derivativeOf(
  terms: readonly Term[],
  key: string,
  base: CausalModel["base"],
  n: number,
): Float64Array {
  const p = terms.length;
  const none = new Map<string, number>();
  return Float64Array.from({ length: n * p }, (_, at) =>
    termDerivative(terms[at % p]!, [key], base, Math.floor(at / p), none),
  );
}
