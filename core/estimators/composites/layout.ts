import type { CompositeModel, Scheme } from "./specification";

/** What a block does to find its weights. */
export const FIXED = 0;
export const BY_CORRELATION = 1;
export const BY_REGRESSION = 2;

/** A model as positions: construct j has the indicators start[j] .. start[j + 1] - 1. */
export interface Layout {
  indicators: number;
  constructs: number;
  start: Int32Array;
  /** FIXED, BY_CORRELATION or BY_REGRESSION. */
  modes: Uint8Array;
  /** Constructs that explain each construct, in the order of the paths. */
  predecessors: number[][];
  /** Constructs that each construct explains. */
  successors: number[][];
  scheme: Scheme;
  /** Position of the indicator that gives a construct its sign; -1 for the majority of loadings. */
  dominant: Int32Array;
}

const MODES = {
  correlation: BY_CORRELATION,
  regression: BY_REGRESSION,
  equal: FIXED,
  single: FIXED,
} as const;

/** The positions of a model whose names have been checked. */
export function layoutOf({ constructs, paths, scheme }: CompositeModel): Layout {
  const at = new Map(constructs.map(({ name }, j) => [name, j]));
  const start = new Int32Array(constructs.length + 1);
  constructs.forEach(({ indicators }, j) => (start[j + 1] = start[j]! + indicators.length));
  const joined = (pick: (path: [string, string]) => [string, string]): number[][] =>
    constructs.map(({ name }) =>
      paths.flatMap((path) => {
        const [here, there] = pick(path);
        return here === name ? [at.get(there)!] : [];
      }),
    );
  return {
    indicators: start[constructs.length]!,
    constructs: constructs.length,
    start,
    modes: Uint8Array.from(constructs, ({ mode, indicators }) =>
      indicators.length === 1 ? FIXED : MODES[mode],
    ),
    predecessors: joined(([from, to]) => [to, from]),
    successors: joined(([from, to]) => [from, to]),
    scheme,
    dominant: Int32Array.from(constructs, ({ dominant, indicators }, j) =>
      dominant === null ? -1 : start[j]! + indicators.indexOf(dominant),
    ),
  };
}
