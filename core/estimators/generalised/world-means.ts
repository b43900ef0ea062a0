import type { BlockMediator } from "./block";
import type { CausalModel, Triad } from "./causal-model";
import type { Cross } from "./crossed-block";
import type { Functional } from "./functional";
import { designOf, splitBy, splitByAll, splitCross, type Setting, type Term } from "./terms";

/** Adds the means of a triad: with the mediators as under a treatment, or held at values. */
export interface MeansOf {
  mean(x: 0 | 1, own: 0 | 1): number;
  held(x: 0 | 1, at: readonly number[]): number;
}

type Add = (functional: Functional) => number;

/**
 * Means of an outcome in two worlds, under x0 and under x1, with the mediators between as in
 * either, or held.
 */
export const worldMeans = (
  model: CausalModel,
  triad: Triad,
  worlds: readonly Setting[],
  add: Add,
): MeansOf => (triad.block.length > 1 ? ofBlock : ofOne)(model, triad, worlds, add);

const equationOf = ({ responses }: CausalModel, outcome: string): number =>
  responses.findIndex((r) => r.outcome === outcome);

const termsOf = (model: CausalModel, outcome: string): Term[] =>
  model.responses[equationOf(model, outcome)]!.terms;

/** One mediator, whatever its model. */
function ofOne(
  model: CausalModel,
  { block, outcome }: Triad,
  worlds: readonly Setting[],
  add: Add,
): MeansOf {
  const { base, n } = model;
  const [mediator] = block as [string];
  const equation = equationOf(model, outcome);
  const outcomes = worlds.map((set) => splitBy(termsOf(model, outcome), mediator, base, n, set));
  const mediators = worlds.map((set) => designOf(termsOf(model, mediator), base, n, set));
  return {
    mean: (x, own) =>
      add({
        kind: "nested",
        outcome: equation,
        mediator: equationOf(model, mediator),
        ...outcomes[x]!,
        design: mediators[own]!,
      }),
    held: (x, at) => add({ kind: "controlled", equation, ...outcomes[x]!, at: at[0]! }),
  };
}

/** Several mediators, all straight lines, as one block. */
function ofBlock(
  model: CausalModel,
  { block, outcome }: Triad,
  worlds: readonly Setting[],
  add: Add,
): MeansOf {
  const { base, n } = model;
  const equation = equationOf(model, outcome);
  const terms = termsOf(model, outcome);
  const pairs = crossedPairs(terms, block);
  const outcomes = worlds.map((set) => ({
    ...splitByAll(terms, block, base, n, set),
    crosses: pairs.map(([first, second]): Cross => ({
      first: block.indexOf(first),
      second: block.indexOf(second),
      design: splitCross(terms, [first, second], block, base, n, set),
    })),
  }));
  const mediators = worlds.map((set) =>
    block.map((name, j): BlockMediator => {
      const split = splitByAll(termsOf(model, name), block.slice(0, j), base, n, set);
      return { equation: equationOf(model, name), base: split.base, before: split.slopes };
    }),
  );
  return {
    mean: (x, own) => {
      const { crosses, ...lines } = outcomes[x]!;
      const common = { outcome: equation, ...lines, mediators: mediators[own]! };
      return add(
        crosses.length > 0 ? { kind: "crossed", crosses, ...common } : { kind: "block", ...common },
      );
    },
    held: (x, at) => {
      const set = new Map([...worlds[x]!, ...block.map((m, j) => [m, at[j]!] as const)]);
      return add({ kind: "response", equation, design: designOf(terms, base, n, set) });
    },
  };
}

/** Mediators of which an equation has the product. */
const crossedPairs = (terms: readonly Term[], block: readonly string[]): [string, string][] =>
  block.flatMap((second, j) =>
    block
      .slice(0, j)
      .filter((first) => terms.some((t) => t.includes(first) && t.includes(second)))
      .map((first): [string, string] => [first, second]),
  );
