/**
 * A mean- and covariance-structure model in reticular form (McArdle & McDonald 1984, Br J Math Stat
 * Psychol 37): observed and latent variables in one vector v = m + A v + u with Cov(u) = S, each
 * element of A, S and m an arrow.
 */
export interface Arrow {
  /**
   * A directed path from one variable to another, a (residual) variance or covariance, or an
   * intercept.
   */
  kind: "path" | "covariance" | "intercept";
  /** Where it starts; of a covariance the one end; empty for an intercept. */
  from: string;
  to: string;
  /** Arrows with the same label are one parameter; null for a value that is held fixed. */
  label: string | null;
  /** The fixed value; without meaning where the arrow is free. */
  value: number;
}

/** Where a parameter, or a fixed number, stands. */
export interface Slot {
  matrix: "A" | "S" | "m";
  /** Into which variable; for S the larger index. */
  row: number;
  /** From which variable; for S the smaller index; 0 for intercepts. */
  column: number;
  /** Position in the parameter vector; -1 where fixed. */
  parameter: number;
  value: number;
}

/** A model whose arrows have found their places. */
export interface ArrowModel {
  /** Observed variables first, then latent ones. */
  variables: string[];
  observed: number;
  slots: Slot[];
  /** Labels of the free parameters, in the order in which they first occur. */
  parameters: string[];
  /** Causes before effects. */
  order: number[];
}

/** Why there is no estimate. */
export class ModelFault extends Error {
  constructor(
    readonly code:
      | "unknown-variable"
      | "cycle"
      | "doubled-arrow"
      | "no-data"
      | "no-variance"
      | "singular-sample-covariance"
      | "negative-df"
      | "under-identified"
      | "not-converged"
      | "adf-sample-too-small"
      | "needs-raw-data"
      | "one-level"
      | "too-many-levels"
      | "perfect-association"
      | "ordered-groups"
      | "held-dependent"
      | "bad-weight",
    message: string,
    /** Variables, or parameters, that it is about. */
    readonly variables: string[],
    readonly counts: Record<string, number> = {},
    /** The group in which it happened; empty where there is only one. */
    readonly group = "",
  ) {
    super(message);
    this.name = "ModelFault";
  }
}

/**
 * Gives every arrow of every group its place; arrows with the same label are one parameter, within
 * a group and between groups.
 * @param observed names in the order of the data; @param latent the others
 * @param groups the arrows of each group
 * @returns one model per group, which share the list of parameters
 * @throws ModelFault for an unknown name, an arrow drawn twice, or directed paths that form a cycle
 */
export function compileGroups(
  observed: readonly string[],
  latent: readonly string[],
  groups: readonly (readonly Arrow[])[],
): ArrowModel[] {
  const parameters = new Map<string, number>();
  const models = groups.map((arrows) => placed(observed, latent, arrows, parameters));
  const names = [...parameters.keys()];
  return models.map((model) => ({ ...model, parameters: names }));
}

/** A model of one group. @throws ModelFault as `compileGroups` does */
export const compileArrows = (
  observed: readonly string[],
  latent: readonly string[],
  arrows: readonly Arrow[],
): ArrowModel => compileGroups(observed, latent, [arrows])[0]!;

function placed(
  observed: readonly string[],
  latent: readonly string[],
  arrows: readonly Arrow[],
  parameters: Map<string, number>,
): Omit<ArrowModel, "parameters"> {
  const variables = [...observed, ...latent];
  const places = new Map(variables.map((name, i) => [name, i]));
  const taken = new Set<string>();
  const at = (name: string): number => {
    const place = places.get(name);
    if (place === undefined)
      throw new ModelFault(
        "unknown-variable",
        `“${name}” takes no part in the model: no measure and no path has it. Add a sentence about it, or take it out of this one.`,
        [name],
      );
    return place;
  };
  const slots = arrows.map((arrow): Slot => {
    const { kind, label, value } = arrow;
    const to = at(arrow.to);
    const from = kind === "intercept" ? 0 : at(arrow.from);
    const [row, column] =
      kind === "covariance" ? [Math.max(from, to), Math.min(from, to)] : [to, from];
    const matrix = kind === "path" ? "A" : kind === "covariance" ? "S" : "m";
    const place = `${matrix} ${row} ${column}`;
    if (taken.has(place))
      throw new ModelFault("doubled-arrow", `The arrow ${arrowName(arrow)} is drawn twice.`, [
        arrow.to,
      ]);
    taken.add(place);
    let parameter = -1;
    if (label !== null) {
      parameter = parameters.get(label) ?? parameters.size;
      parameters.set(label, parameter);
    }
    return { matrix, row, column, parameter, value };
  });
  return {
    variables,
    observed: observed.length,
    slots,
    order: causalOrder(variables, slots),
  };
}

/** “a -> b”, “a <-> b”, “1 -> b”. */
export const arrowName = ({ kind, from, to }: Pick<Arrow, "kind" | "from" | "to">): string =>
  kind === "path" ? `${from} -> ${to}` : kind === "covariance" ? `${from} <-> ${to}` : `1 -> ${to}`;

/** Every variable after all that point to it. @throws ModelFault `cycle`, which lists one */
function causalOrder(variables: readonly string[], slots: readonly Slot[]): number[] {
  const causes = variables.map(() => [] as number[]);
  for (const { matrix, row, column } of slots) if (matrix === "A") causes[row]!.push(column);
  const state = new Uint8Array(variables.length);
  const order: number[] = [];
  const trail: number[] = [];
  const visit = (i: number): void => {
    if (state[i] === 2) return;
    if (state[i] === 1) {
      const loop = [...trail.slice(trail.indexOf(i)), i].reverse().map((k) => variables[k]!);
      throw new ModelFault("cycle", `The directed paths form a cycle: ${loop.join(" -> ")}.`, [
        ...new Set(loop),
      ]);
    }
    state[i] = 1;
    trail.push(i);
    for (const cause of causes[i]!) visit(cause);
    trail.pop();
    state[i] = 2;
    order.push(i);
  };
  variables.forEach((_, i) => visit(i));
  return order;
}

/** A free arrow under its own name. */
export const free = (arrow: Pick<Arrow, "kind" | "from" | "to">): Arrow => ({
  ...arrow,
  label: arrowName(arrow),
  value: 0,
});
