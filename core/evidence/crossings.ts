import type { Moderator } from "../effects";
import { boundaries, pointwiseCritical } from "../inference";
import { byCovariance, type ByCovariance } from "../model";
import { extent } from "../numerics/moments";
import type { LineReader } from "./line-reader";
import type { Crossing, FiellerSet } from "./moderation-types";

/**
 * Where the slope is zero along a moderator, and where the lines of different moderator values
 * meet.
 */
export function crossings(reader: LineReader, key: string, moderators: Moderator[]): Crossing[] {
  const { line, centre } = reader;
  const column = line.columns.find((c) => c.key === key)!;
  const position = (of: string): number => line.columns.findIndex((c) => c.key === of) + 1;
  return moderators.flatMap((moderator) => {
    if (moderator.columns.length > 1 || moderators.length > 1) return [];
    const w = moderator.columns[0]!;
    const product = line.columns.find(
      (c) =>
        c.components?.length === 2 &&
        [key, w.key].every((k) => c.components!.some((p) => p.key === k)),
    );
    if (!product) return [];
    const [x, m, xm] = [position(column.key), position(w.key), position(product.key)];
    // A variable that moderates its own effect has one curve, not lines that could cross; its slope
    // is twice the square's coefficient.
    const itself = column.key === w.key;
    const found = itself
      ? []
      : [
          ratio(
            reader,
            m,
            xm,
            column.values,
            centre(column.key),
            `lines of ${moderator.name} cross at ${column.key}`,
            1,
          ),
        ];
    if (moderator.kind === "numeric") {
      const zero = ratio(
        reader,
        x,
        xm,
        w.values,
        centre(w.key),
        `slope of ${column.key} is zero at ${moderator.name}`,
        itself ? 2 : 1,
      );
      found.push({ ...zero, fieller: fieller(reader, x, xm, itself ? 2 : 1, moderator) });
    }
    return column.contrast === null ? found : found.slice(1);
  });
}

/**
 * Fieller's set for the zero of b_i + times b_j w: where the squared slope is within its critical
 * number of variances.
 */
function fieller(
  reader: LineReader,
  i: number,
  j: number,
  times: number,
  moderator: Moderator,
): ByCovariance<FiellerSet> {
  const weights = (w: number): Float64Array =>
    Float64Array.from({ length: reader.line.b.length }, (_, a) =>
      a === i ? 1 : a === j ? times * w : 0,
    );
  const [g0, g1] = [weights(0), weights(1).map((v, a) => v - weights(0)[a]!)];
  return byCovariance((kind) => {
    const [v11, v13, v33] = [
      reader.form(g0, g0, kind),
      reader.form(g0, g1, kind),
      reader.form(g1, g1, kind),
    ];
    if (!Number.isFinite(v11 + v33)) return null;
    const df = reader.dfAlong(moderator, weights, kind);
    const critical = pointwiseCritical(df, reader.level);
    const centre = reader.centre(moderator.columns[0]!.key);
    const b3 = reader.value(g1);
    const roots = boundaries({ b1: reader.value(g0), b3, v11, v13, v33, centre, df }, critical);
    const [lower = null, upper = null] = roots;
    if (roots.length < 2) return { kind: "everywhere", lower: null, upper: null };
    return { kind: b3 * b3 > critical * critical * v33 ? "interval" : "outside", lower, upper };
  });
}

/** -b_i / (times b_j) about a centre, with its delta-method standard error. */
function ratio(
  reader: LineReader,
  i: number,
  j: number,
  values: Float64Array,
  centre: number,
  words: string,
  times: number,
): Crossing {
  const b = { [i]: reader.line.b[i]!, [j]: times * reader.line.b[j]! } as Record<number, number>;
  const r = -b[i]! / b[j]!;
  const range = extent(values);
  const at = centre + r;
  const unit = (k: number): Float64Array =>
    Float64Array.from({ length: reader.line.b.length }, (_, a) =>
      a === k ? (k === j ? times : 1) : 0,
    );
  return {
    words,
    at,
    insideRange: at >= range[0] && at <= range[1],
    range,
    se: byCovariance((kind) => {
      const v =
        reader.form(unit(i), unit(i), kind) +
        2 * r * reader.form(unit(i), unit(j), kind) +
        r * r * reader.form(unit(j), unit(j), kind);
      return Number.isFinite(v) ? Math.sqrt(v) / Math.abs(b[j]!) : null;
    }),
    fieller: null,
  };
}
