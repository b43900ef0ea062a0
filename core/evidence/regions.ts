import { at, compileExpression, moderatorsOf, type ConditionalRoute, type EffectPair, type Quantity } from "../effects";
import type { BootstrapSummary, ReplicateBlock } from "../inference";
import type { Prepared } from "../prepare";
import { evaluateReplicates, summariseReplicates } from "./replicates";

/** Values at which a band is worked out, equally spaced over the observed range. */
const GRID = 51;

export interface Band {
  lower: (number | null)[];
  upper: (number | null)[];
  /** Zero crossings of the two limits, interpolated between neighbouring values, ascending. */
  boundaries: number[];
}

/** A conditional indirect effect along one moderator with pointwise bootstrap bands. */
export interface RegionEvidence {
  id: string;
  label: string;
  from: string;
  via: string[];
  to: string;
  over: string;
  grid: number[];
  estimate: number[];
  /** Null before there are resamples. */
  bands: Record<"percentile" | "bc" | "bca", Band> | null;
  /** Share of the rows, in per cent, where the shown band leaves out zero; by band. */
  percentSignificant: Record<"percentile" | "bc" | "bca", number> | null;
}

interface Route {
  pair: EffectPair;
  route: ConditionalRoute;
  key: string;
  grid: number[];
  quantities: Quantity[];
}

/** The grids of every indirect effect that depends on one numeric moderator, as quantities to be resampled. */
export function regionRoutes(prepared: Prepared): Route[] {
  const { context } = prepared;
  return context.pairs.flatMap((pair) =>
    pair.conditional.flatMap((route) => {
      const keys = moderatorsOf(route.polynomial);
      const moderator = context.moderators.find((m) => m.columns.some((c) => c.key === keys[0]));
      if (route.nodes.length < 3 || keys.length !== 1 || moderator?.kind !== "numeric") return [];
      const { min, max } = moderator;
      const grid = Array.from({ length: GRID }, (_, i) => min + ((max - min) * i) / (GRID - 1));
      const centre = context.centre(keys[0]!);
      const quantities = grid.map((w): Quantity => ({
        id: `band ${w}`,
        kind: "conditional_indirect",
        label: "",
        from: pair.from,
        to: pair.to,
        via: [],
        of: null,
        expression: at(route.polynomial, new Map([[keys[0]!, w - centre]])),
      }));
      return [{ pair, route, key: keys[0]!, grid, quantities }];
    }),
  );
}

/** @param resamples null before there are any */
export function regionEvidence(
  prepared: Prepared,
  resamples: { replicates: ReplicateBlock[]; jackknife: ReplicateBlock } | null,
  level: number,
): RegionEvidence[] {
  return regionRoutes(prepared).map(({ pair, route, key, grid, quantities }) => {
    const estimate = quantities.map((q) => compileExpression(q.expression)(prepared.theta, 0));
    const summaries = resamples && summarise(quantities, estimate, resamples, level);
    const values = prepared.context.moderators.find((m) => m.columns.some((c) => c.key === key))!.columns[0]!.values;
    const bands = summaries && {
      percentile: bandOf(grid, summaries, "percentile"),
      bc: bandOf(grid, summaries, "bc"),
      bca: bandOf(grid, summaries, "bca"),
    };
    const via = route.nodes.slice(1, -1);
    return {
      id: `${[pair.from, ...route.nodes.slice(1)].join(" > ")} over ${key}`,
      label: `${pair.fromLabel} on ${pair.to} through ${via.join(", then ")}`,
      from: pair.from,
      via,
      to: pair.to,
      over: key,
      grid,
      estimate,
      bands,
      percentSignificant: bands && {
        percentile: shareOutside(grid, bands.percentile, values),
        bc: shareOutside(grid, bands.bc, values),
        bca: shareOutside(grid, bands.bca, values),
      },
    };
  });
}

function summarise(
  quantities: Quantity[],
  estimate: number[],
  resamples: { replicates: ReplicateBlock[]; jackknife: ReplicateBlock },
  level: number,
) {
  const replicates = evaluateReplicates(quantities, resamples.replicates);
  const jackknife = evaluateReplicates(quantities, [resamples.jackknife]);
  return summariseReplicates(quantities, Float64Array.from(estimate), replicates, jackknife, level);
}

function bandOf(grid: number[], summaries: BootstrapSummary[], kind: "percentile" | "bc" | "bca"): Band {
  const lower = summaries.map((s) => s[kind]?.lower ?? null);
  const upper = summaries.map((s) => s[kind]?.upper ?? null);
  return { lower, upper, boundaries: [...crossings(grid, lower), ...crossings(grid, upper)].sort((a, b) => a - b) };
}

/** Where a line through the points crosses zero. */
function crossings(grid: number[], limit: (number | null)[]): number[] {
  const found: number[] = [];
  for (let i = 1; i < grid.length; i++) {
    const [a, b] = [limit[i - 1], limit[i]];
    if (a == null || b == null) continue;
    if (a === 0) found.push(grid[i - 1]!);
    else if (a * b < 0) found.push(grid[i - 1]! + ((grid[i]! - grid[i - 1]!) * a) / (a - b));
  }
  return found;
}

function shareOutside(grid: number[], { lower, upper }: Band, values: Float64Array): number {
  const step = grid[1]! - grid[0]!;
  const at = (limit: (number | null)[], w: number): number => {
    const i = Math.min(grid.length - 2, Math.max(0, Math.floor((w - grid[0]!) / step)));
    const [a, b] = [limit[i], limit[i + 1]];
    return a == null || b == null ? NaN : a + ((b - a) * (w - grid[i]!)) / step;
  };
  const outside = values.filter((w) => at(lower, w) > 0 || at(upper, w) < 0).length;
  return (100 * outside) / values.length;
}
