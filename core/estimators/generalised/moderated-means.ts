import type { ModeratorChange } from "../../effects";
import { multiply, number, parameter, subtract, sum, type Expression } from "../../model";
import { standardDeviation, twoValues } from "../../numerics/moments";
import { plain } from "../../wording/numbers";
import { nodesOf, type CompiledTheory } from "../../theory";
import type { CausalModel } from "./causal-model";
import type { Contrast } from "./contrasts";
import type { Functional } from "./functional";
import { Base, designOf, splitBy, type Setting } from "./terms";

/**
 * A natural indirect effect with its moderators somewhat above and below what they are in each row,
 * or at their values: what its changes are made of.
 */
export interface ModeratedMeans {
  contrast: Contrast;
  nodes: readonly string[];
  moderators: readonly string[];
  /**
   * Where the outcome under x1 with the mediator as under x1 and as under x0 stands, by where the
   * moderators are.
   */
  at: ReadonlyMap<string, { means: readonly [number, number]; words: string }>;
  /** Of every moderator that is a number: one step of the derivative, in its units. */
  steps: ReadonlyMap<string, number>;
}

/**
 * The first derivative from six values, exact for polynomials up to the sixth degree (Abramowitz &
 * Stegun 1972, table 25.2).
 */
const STENCIL: readonly (readonly [shift: number, weight: number])[] = [
  [3, 1 / 60],
  [2, -9 / 60],
  [1, 45 / 60],
  [-1, -45 / 60],
  [-2, 9 / 60],
  [-3, -1 / 60],
];

/**
 * In SDs of the moderator: the derivative is right to about 1e-8 of the effect, and the faster
 * means of resamples to 1e-6.
 */
const STEP = 0.1;

/**
 * Where one moderator is: shifted by steps from what it is in each row, or at one of its values for
 * everybody.
 */
type Where = { name: string; place: number; words: string } & (
  { shift: number } | { set: Setting }
);

/** The means for every sentence that says a path through a mediator is moderated. */
export function moderatedMeans(
  model: CausalModel,
  theory: CompiledTheory,
  add: (functional: Functional) => number,
): ModeratedMeans[] {
  const seen = new Set<string>();
  return theory.moderations
    .filter((m) => m.chain.length > 0)
    .flatMap((m) => {
      const nodes = nodesOf(m);
      const moderators = m.moderators.map((ref) => ref.name);
      return model.contrasts
        .filter((c) => c.variable === m.from.name)
        .filter(({ key }) => {
          const id = JSON.stringify([key, nodes, moderators]);
          return !seen.has(id) && seen.add(id);
        })
        .map((contrast) => meansOf(model, contrast, nodes, moderators, add));
    });
}

function meansOf(
  model: CausalModel,
  contrast: Contrast,
  nodes: readonly string[],
  moderators: readonly string[],
  add: (functional: Functional) => number,
): ModeratedMeans {
  const { n, responses } = model;
  const { x1, x0 } = contrast;
  const [, mediator, outcome] = nodes as [string, string, string];
  const place = (name: string): number => responses.findIndex((r) => r.outcome === name);
  const termsOf = (name: string) => responses[place(name)]!.terms;
  const steps = new Map<string, number>();
  const at = new Map<string, { means: [number, number]; words: string }>();
  const grid = moderators
    .map((name) => placesOf(model, name, steps))
    .reduce<Where[][]>((all, own) => all.flatMap((where) => own.map((w) => [...where, w])), [[]]);
  for (const where of grid) {
    const base = shifted(model.base, where, steps);
    const held = where.flatMap((w) => ("set" in w ? [...w.set] : []));
    const [upper, lower] = [x1, x0].map((set) => new Map([...set, ...held]));
    const split = splitBy(termsOf(outcome), mediator, base, n, upper);
    const mean = (own: Setting): number =>
      add({
        kind: "nested",
        outcome: place(outcome),
        mediator: place(mediator),
        ...split,
        design: designOf(termsOf(mediator), base, n, own),
      });
    at.set(placeOf(where), {
      means: [mean(upper!), mean(lower!)],
      words: where.map((w) => w.words).join(", "),
    });
  }
  return { contrast, nodes, moderators, at, steps };
}

/**
 * A place of the grid, by which it is found again: which shift or value of each moderator, in the
 * order in which they are named.
 */
const placeOf = (where: readonly { place: number }[]): string =>
  where.map(({ place }) => place).join();

/** Where a moderator is looked at; what is a number gets the size of a step. */
function placesOf(
  { base, codings }: CausalModel,
  name: string,
  steps: Map<string, number>,
): Where[] {
  const coding = codings.find((c) => c.variable === name);
  if (coding)
    return coding.levels.map((_, level) => ({
      name,
      set: new Map(coding.columns.map((c) => [c.key, c.codes[level]!])),
      place: level,
      words: `${name} ${coding.levels[level]!}`,
    }));
  const values = base.get(name)!;
  const two = twoValues(values);
  if (two)
    return two.map((value, at) => ({
      name,
      set: new Map([[name, value]]),
      place: at,
      words: `${name} = ${value}`,
    }));
  steps.set(name, STEP * standardDeviation(values));
  return STENCIL.map(([shift]) => ({ name, shift, place: shift, words: shiftWords(name, shift) }));
}

const shiftWords = (name: string, shift: number): string =>
  `${name} ${shift > 0 ? "+" : "−"} ${plain(Math.abs(shift) * STEP, 1)} SD`;

/** What each mean is called on paper, by its place. */
export function moderatedNames({ contrast, nodes, at }: ModeratedMeans): [number, string][] {
  const [, mediator, outcome] = nodes;
  return [...at.values()].flatMap(({ means, words }) =>
    [contrast.upper, contrast.lower].map((own, i): [number, string] => [
      means[i]!,
      `mean(${outcome} | ${contrast.upper}, ${mediator} as under ${own}, ${words})`,
    ]),
  );
}

/** The columns with each shifted moderator as much above or below what it is. */
function shifted(base: Base, where: readonly Where[], steps: ReadonlyMap<string, number>): Base {
  const moved = new Base(base);
  for (const [name, centre] of base.centres) moved.centres.set(name, centre);
  for (const w of where)
    if ("shift" in w)
      moved.set(
        w.name,
        base.get(w.name)!.map((v) => v + w.shift * steps.get(w.name)!),
      );
  return moved;
}

/**
 * The change of the natural indirect effect with its moderators: the derivative at what every row
 * has, averaged over the rows; of a moderator with values of its own, the effect with everybody at
 * one of them less that with everybody at another.
 *
 * @param key the column of the treatment
 * @param from where the functionals begin in the parameter vector
 * @returns null where no sentence is about this path and these moderators
 */
export function changeOfMeans(
  known: readonly ModeratedMeans[],
  key: string,
  nodes: readonly string[],
  changes: readonly ModeratorChange[],
  from: number,
): Expression | null {
  const same = (a: readonly string[], b: readonly string[]): boolean =>
    a.join("\u0000") === b.join("\u0000");
  const moderators = changes.map((c) => c.moderator);
  const means = known.find(
    (m) => m.contrast.key === key && same(m.nodes, nodes) && same(m.moderators, moderators),
  );
  if (!means) return null;
  const { at, steps } = means;
  const grid = changes
    .map((change) => partsOf(change, steps))
    .reduce<Part[][]>((all, own) => all.flatMap((parts) => own.map((p) => [...parts, p])), [[]]);
  return sum(
    grid.map((parts) => {
      const [within, without] = at.get(placeOf(parts))!.means;
      return multiply(
        number(parts.reduce((weight, part) => weight * part.weight, 1)),
        subtract(parameter(from + within), parameter(from + without)),
      );
    }),
  );
}

interface Part {
  place: number;
  weight: number;
}

function partsOf(
  { moderator: name, between }: ModeratorChange,
  steps: ReadonlyMap<string, number>,
): Part[] {
  if (between) return between.map((place, i) => ({ place, weight: i === 0 ? 1 : -1 }));
  const step = steps.get(name)!;
  return STENCIL.map(([place, weight]) => ({ place, weight: weight / step }));
}
