import type { EffectPair } from "../effects";
import { bootstrapLimits, strataOf } from "../inference";
import { compileExpression, moderatorsOf, number, type Quantity } from "../model";
import type { Prepared } from "../preparation";
import type { Band, RegionEvidence } from "./region-types";
import { evaluateReplicates, type Resamples } from "./replicates";

/** Values at which a band is worked out, equally spaced over the observed range. */
const GRID = 51;

/**
 * An indirect effect as a polynomial of one numeric moderator about its centre: one quantity for
 * each power.
 */
interface Curve {
  pair: EffectPair;
  nodes: string[];
  key: string;
  grid: number[];
  /** The grid about the moderator's centre. */
  about: number[];
  /** Coefficients of 1, w, w2, ... */
  powers: Quantity[];
  values: Float64Array;
}

/** The curves of every indirect effect that depends on one numeric moderator. */
function curvesOf({ context }: Prepared): Curve[] {
  return context.pairs.flatMap((pair) =>
    pair.conditional.flatMap(({ nodes, polynomial }) => {
      const keys = moderatorsOf(polynomial);
      const moderator = context.moderators.find((m) => m.columns.some((c) => c.key === keys[0]));
      if (nodes.length < 3 || keys.length !== 1 || moderator?.kind !== "numeric") return [];
      const { min, max } = moderator;
      const grid = Array.from({ length: GRID }, (_, i) => min + ((max - min) * i) / (GRID - 1));
      const centre = context.centre(keys[0]!);
      const highest = Math.max(...polynomial.map((t) => t.moderators.length));
      const powers = Array.from({ length: highest + 1 }, (_, power): Quantity => {
        const term = polynomial.find((t) => t.moderators.length === power);
        const expression = term?.expression ?? number(0);
        return {
          id: `power ${power}`,
          kind: "curve",
          label: "",
          from: pair.from,
          to: pair.to,
          via: [],
          of: null,
          expression,
        };
      });
      return [
        {
          pair,
          nodes,
          key: keys[0]!,
          grid,
          about: grid.map((w) => w - centre),
          powers,
          values: moderator.columns[0]!.values,
        },
      ];
    }),
  );
}

/** @param resamples null before there are any */
export function regionEvidence(
  prepared: Prepared,
  resamples: Resamples | null,
  level: number,
): RegionEvidence[] {
  return curvesOf(prepared).map((curve) => {
    const { pair, nodes, key, grid, values } = curve;
    const constants = curve.powers.map((q) =>
      Float64Array.of(compileExpression(q.expression)(prepared.theta, 0)),
    );
    const estimate = curve.about.map((d) => along(constants, d)[0]!);
    const bands =
      resamples &&
      bandsOf(
        curve,
        estimate,
        resamples,
        strataOf(prepared.resampling.scheme, prepared.sample.n),
        level,
      );
    const via = nodes.slice(1, -1);
    return {
      id: `${[pair.from, ...nodes.slice(1)].join(" > ")} over ${key}`,
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

/** The polynomial with these coefficient columns at one value (Horner), written over `out`. */
function along(
  powers: Float64Array[],
  d: number,
  out = new Float64Array(powers[0]!.length),
): Float64Array {
  out.set(powers.at(-1)!);
  for (let k = powers.length - 2; k >= 0; k--) {
    const column = powers[k]!;
    for (let i = 0; i < out.length; i++) out[i] = out[i]! * d + column[i]!;
  }
  return out;
}

function bandsOf(
  curve: Curve,
  estimate: number[],
  { replicates, jackknife }: Resamples,
  strata: Int32Array | null,
  level: number,
): RegionEvidence["bands"] {
  const drawn = evaluateReplicates(curve.powers, replicates).columns;
  const { columns: left, kept } = evaluateReplicates(curve.powers, [jackknife]);
  const leftStrata = strata && Int32Array.from(kept, (i) => strata[i]!);
  // One pair of arrays serves all values of the moderator.
  const [drawnHere, leftHere] = [
    new Float64Array(drawn[0]!.length),
    new Float64Array(left[0]!.length),
  ];
  const limits = curve.about.map((d, i) =>
    bootstrapLimits({
      estimate: estimate[i]!,
      replicates: along(drawn, d, drawnHere),
      jackknife: along(left, d, leftHere),
      strata: leftStrata,
      level,
    }),
  );
  const band = (kind: "percentile" | "bc" | "bca"): Band => {
    const lower = limits.map((l) => l[kind]?.[0] ?? null);
    const upper = limits.map((l) => l[kind]?.[1] ?? null);
    return {
      lower,
      upper,
      boundaries: [...crossings(curve.grid, lower), ...crossings(curve.grid, upper)].sort(
        (a, b) => a - b,
      ),
    };
  };
  return { percentile: band("percentile"), bc: band("bc"), bca: band("bca") };
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
