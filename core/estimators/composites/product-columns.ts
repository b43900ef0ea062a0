import { choleskyInPlace, choleskySolveInPlace } from "../../numerics/cholesky";
import { SINGULAR } from "./specification";

/**
 * How a column that holds products of two standardised indicators becomes an indicator of the
 * product construct.
 */
export interface ProductColumn {
  /** Its place, and those of the indicators multiplied. */
  column: number;
  a: number;
  b: number;
  rule: "raw" | "centred" | "orthogonal";
  /**
   * `raw`: what of each indicator the product of raw values holds besides: means in SDs of the
   * sample.
   */
  ofA: number;
  ofB: number;
  /** `orthogonal`: all indicators of both constructs, which explain nothing of what is left. */
  partners: number[];
}

/**
 * Covariances of products of indicators as they are used, from those of products about the means of
 * the sample: products about the means of the resample, of raw values, or what all indicators of
 * both constructs leave of them. Products are sums of columns that are already there, so no row is
 * looked at.
 */
export class ProductColumns {
  private readonly groups: { rule: ProductColumn["rule"]; members: ProductColumn[] }[];
  private readonly factor: Float64Array;
  private readonly x: Float64Array;

  /** @param width of the covariance matrix */
  constructor(
    private readonly columns: readonly ProductColumn[],
    private readonly width: number,
  ) {
    const sets = new Map<string, ProductColumn[]>();
    for (const column of columns) {
      const key = `${column.rule} ${column.partners.join(" ")}`;
      const known = sets.get(key);
      if (known) known.push(column);
      else sets.set(key, [column]);
    }
    this.groups = [...sets.values()].map((members) => ({ rule: members[0]!.rule, members }));
    const most = Math.max(1, ...columns.map((c) => c.partners.length));
    this.factor = new Float64Array(most * most);
    this.x = new Float64Array(most);
  }

  /**
   * Changes the covariances in place.
   * @param means of the columns in this sample, about those of the original one
   * @returns false where indicators are singular
   */
  apply(s: Float64Array, means: Float64Array): boolean {
    const { width } = this;
    for (const { column, a, b, rule, ofA, ofB } of this.columns) {
      if (rule === "orthogonal") continue;
      const alpha = rule === "raw" ? ofA : -means[b]!;
      const beta = rule === "raw" ? ofB : -means[a]!;
      // Row, then column: the variance is met twice, as it should be.
      for (let k = 0; k < width; k++)
        s[column * width + k] =
          s[column * width + k]! + alpha * s[a * width + k]! + beta * s[b * width + k]!;
      for (let k = 0; k < width; k++)
        s[k * width + column] =
          s[k * width + column]! + alpha * s[k * width + a]! + beta * s[k * width + b]!;
    }
    return this.groups.every(
      ({ rule, members }) => rule !== "orthogonal" || this.residual(s, members),
    );
  }

  /** Takes out of products what the indicators of their constructs explain. */
  private residual(s: Float64Array, members: readonly ProductColumn[]): boolean {
    const { width, factor, x } = this;
    const { partners } = members[0]!;
    const q = partners.length;
    for (let i = 0; i < q; i++)
      for (let j = 0; j < q; j++) factor[i * q + j] = s[partners[i]! * width + partners[j]!]!;
    if (!(choleskyInPlace(factor, q, q) >= SINGULAR)) return false;
    const own = new Set(members.map((m) => m.column));
    const others = Array.from({ length: width }, (_, k) => k).filter((k) => !own.has(k));
    const explained = members.map(({ column }) => {
      for (let i = 0; i < q; i++) x[i] = s[partners[i]! * width + column]!;
      choleskySolveInPlace(factor, q, q, x);
      return x.slice(0, q);
    });
    const left = (column: number, g: Float64Array, k: number): number => {
      let sum = s[column * width + k]!;
      for (let i = 0; i < q; i++) sum -= g[i]! * s[partners[i]! * width + k]!;
      return sum;
    };
    // Among the products first: that needs their covariances with the partners as they were.
    const among = members.map(({ column }, i) =>
      members.map((other) => left(column, explained[i]!, other.column)),
    );
    members.forEach(({ column }, i) => {
      for (const k of others) {
        const value = left(column, explained[i]!, k);
        s[column * width + k] = value;
        s[k * width + column] = value;
      }
    });
    members.forEach(({ column }, i) =>
      members.forEach((other, j) => (s[column * width + other.column] = among[i]![j]!)),
    );
    return true;
  }
}
