import { arrowName, type ArrowModel, type Slot } from "./arrows";
import type { FittedModel } from "./fitted-model";

/**
 * What letting one arrow go would do to a model (Lagrange multiplier test), and where its estimate
 * would go.
 */
export interface ScoreTest {
  arrow: string;
  kind: "loading" | "covariance" | "path" | "release";
  arrowKind: "path" | "covariance" | "intercept";
  from: string;
  to: string;
  group: string;
  mi: number;
  p: number;
  epc: number;
  /**
   * In SDs: of both variables for a path, of both residuals for a covariance; null where a variance
   * is not positive.
   */
  sepc: number | null;
}

/** An arrow that could be added, with its place. */
export interface Candidate extends Pick<Slot, "matrix" | "row" | "column"> {
  kind: ScoreTest["kind"];
  group: number;
  /** Where it begins: 0, or what it is held equal to. */
  value: number;
}

/**
 * What is left of a parameter's information when the others are estimated, as a share of it, below
 * which nothing is known of it.
 */
export const NOT_IDENTIFIED = 1e-8;

/** A test with the arrow that it is about, and the expected change in SDs. */
export function scoreTestOf(
  { models, implied, spec }: FittedModel,
  candidate: Candidate,
  { mi, p, epc }: Pick<ScoreTest, "mi" | "p" | "epc">,
): ScoreTest {
  const { variables } = models[candidate.group]!;
  const { E, S, v } = implied[candidate.group]!;
  const { row, column, matrix } = candidate;
  const to = variables[row]!;
  const from = matrix === "m" ? "" : variables[column]!;
  const variance = (of: Float64Array, i: number): number => of[i * v + i]!;
  const scale =
    matrix === "A"
      ? variance(E, column) / variance(E, row)
      : matrix === "S"
        ? 1 / (variance(S, row) * variance(S, column))
        : 1 / variance(E, row);
  const kinds = { A: "path", S: "covariance", m: "intercept" } as const;
  const positive = matrix !== "S" || (variance(S, row) > 0 && variance(S, column) > 0);
  return {
    arrow: arrowName({
      kind: kinds[matrix],
      from: matrix === "S" ? to : from,
      to: matrix === "S" ? from : to,
    }),
    kind: candidate.kind,
    arrowKind: kinds[matrix],
    from,
    to,
    group: spec.groups[candidate.group]!.name,
    mi,
    p,
    epc,
    sepc: positive && scale >= 0 ? epc * Math.sqrt(scale) : null,
  };
}

/** Arrows that a model leaves out and that would make sense. */
export function omittedArrows(model: ArrowModel, group: number): Candidate[] {
  const { slots, observed: p, variables } = model;
  const v = variables.length;
  const has = (matrix: Slot["matrix"], row: number, column: number): boolean =>
    slots.some(
      (s) =>
        s.matrix === matrix &&
        ((s.row === row && s.column === column) ||
          (matrix === "S" && s.row === column && s.column === row)),
    );
  const paths = slots.filter((s) => s.matrix === "A");
  const isItem = (i: number): boolean => i < p && paths.some((s) => s.row === i && s.column >= p);
  const factors = range(p, v).filter((f) => paths.some((s) => s.column === f && s.row < p));
  const items = range(0, p).filter(isItem);
  const structural = range(0, v).filter((i) => !isItem(i));
  const endogenous = structural.filter((i) => paths.some((s) => s.row === i));
  const reaches = reachability(model);
  const base = { group, value: 0 };
  return [
    ...factors.flatMap((column) =>
      items.flatMap((row): Candidate[] =>
        has("A", row, column) || reaches(row, column)
          ? []
          : [{ ...base, matrix: "A", row, column, kind: "loading" }],
      ),
    ),
    ...pairs(items)
      .concat(pairs(endogenous))
      .flatMap(([row, column]): Candidate[] =>
        has("S", row, column) ? [] : [{ ...base, matrix: "S", row, column, kind: "covariance" }],
      ),
    ...structural.flatMap((column) =>
      endogenous.flatMap((row): Candidate[] =>
        row === column || has("A", row, column) || reaches(row, column)
          ? []
          : [{ ...base, matrix: "A", row, column, kind: "path" }],
      ),
    ),
  ];
}

/** Does a directed path lead from one variable to another? */
function reachability({ slots, variables }: ArrowModel): (from: number, to: number) => boolean {
  const v = variables.length;
  const reach = new Uint8Array(v * v);
  for (const s of slots) if (s.matrix === "A") reach[s.column * v + s.row] = 1;
  for (let k = 0; k < v; k++)
    for (let i = 0; i < v; i++)
      if (reach[i * v + k]) for (let j = 0; j < v; j++) if (reach[k * v + j]) reach[i * v + j] = 1;
  return (from, to) => reach[from * v + to] === 1;
}

const range = (from: number, to: number): number[] =>
  Array.from({ length: Math.max(0, to - from) }, (_, i) => from + i);

const pairs = (list: readonly number[]): [number, number][] =>
  list.flatMap((row, i) => list.slice(0, i).map((column): [number, number] => [row, column]));
