import { pow } from "../../numerics/elementary";
import { byCovariance, whenAsked, type Covariance } from "../../model";
import type { CovarianceKind } from "../../study";
import type { EquationFit } from "./fit";

/**
 * A leverage above this leaves the row without a usable residual: HC2 to HC4 are then not
 * available.
 */
export const LEVERAGE_ONE = 1 - 1e-10;

/**
 * Covariances of all coefficients of all equations, by kind. NaN where an equation has none (a
 * perfect fit, or a leverage of one under HC2 to HC4).
 */
export type CovarianceSet = Record<CovarianceKind, Covariance>;

/**
 * Covariance of the stacked coefficients for every kind, cross-equation blocks included. Classical
 * blocks s_gh A_g X_g'X_h A_h with s_gh = e_g'e_h / sqrt(df_g df_h) (Zellner 1962, JASA 57); HC0
 * White 1980, HC1-HC3 MacKinnon & White 1985, HC4 Cribari-Neto 2004; CR2 with residuals adjusted by
 * cluster and added up within clusters, also between equations.
 */
export function covariances(fits: readonly EquationFit[]): CovarianceSet {
  const size = fits.reduce((sum, fit) => sum + fit.p, 0);
  const starts = fits.map((_, g) => fits.slice(0, g).reduce((sum, fit) => sum + fit.p, 0));
  const empty = (): Covariance => ({ size, values: new Float64Array(size * size).fill(NaN) });
  const eachBlock = (fill: (g: number, h: number, at: Corner) => void): void =>
    fits.forEach((_, g) =>
      fits.slice(g).forEach((_, offset) => {
        const h = g + offset;
        fill(g, h, { row: starts[g]!, column: starts[h]! });
      }),
    );
  let sandwiches: Map<CovarianceKind, Covariance> | null = null;
  /** All of them come from one pass over the rows. */
  const sandwich = (kind: CovarianceKind): Covariance => {
    if (!sandwiches) {
      const found = new Map<CovarianceKind, Covariance>(SANDWICHES.map((k) => [k, empty()]));
      const multiplied = fits.map(multipliedResiduals);
      eachBlock((g, h, at) =>
        heteroskedasticBlocks(found, [fits[g]!, fits[h]!], [multiplied[g]!, multiplied[h]!], at),
      );
      found.set("HC1", inflated(fits, found.get("HC0")!));
      sandwiches = found;
    }
    return sandwiches.get(kind) ?? empty();
  };
  const single = (
    block: (into: Covariance, g: EquationFit, h: EquationFit, at: Corner) => void,
  ): Covariance => {
    const into = empty();
    eachBlock((g, h, at) => block(into, fits[g]!, fits[h]!, at));
    return into;
  };
  return whenAsked((kind) => {
    if (kind === "classical") return single(classicalBlock);
    return kind === "CR2" ? single(clusterBlock) : sandwich(kind);
  });
}

/** HC1 from HC0: every block times the square roots of n / (n - p) of its two equations. */
function inflated(fits: readonly EquationFit[], { size, values }: Covariance): Covariance {
  const factors = fits.flatMap((fit) => new Array<number>(fit.p).fill(Math.sqrt(fit.n / fit.df)));
  return {
    size,
    values: values.map((v, at) => v * factors[Math.floor(at / size)]! * factors[at % size]!),
  };
}

/**
 * The covariance of other coefficients, of which those of each equation are linear functions of its
 * own.
 * @param maps row-major p x p, one an equation, in order
 */
function mappedCovariance({ size, values }: Covariance, maps: readonly Float64Array[]): Covariance {
  const map = new Float64Array(size * size);
  let start = 0;
  for (const own of maps) {
    const p = Math.sqrt(own.length);
    for (let i = 0; i < p; i++)
      for (let j = 0; j < p; j++) map[(start + i) * size + start + j] = own[i * p + j]!;
    start += p;
  }
  const half = timesTransposed(map, values, size);
  return { size, values: timesTransposed(half, map, size) };
}

/** The same of every kind. */
export const mappedCovariances = (
  set: CovarianceSet,
  maps: readonly Float64Array[],
): CovarianceSet => whenAsked((kind) => mappedCovariance(set[kind], maps));

/** The block of one equation, of every kind. */
export const blockOf = (set: CovarianceSet, start: number, p: number): CovarianceSet =>
  byCovariance((kind) => {
    const { size, values } = set[kind];
    const at = (i: number): number => (start + Math.floor(i / p)) * size + start + (i % p);
    return { size: p, values: Float64Array.from({ length: p * p }, (_, i) => values[at(i)]!) };
  }) as CovarianceSet;

/** A B' for square matrices; zeros pass over what is not available in the other. */
function timesTransposed(a: Float64Array, b: Float64Array, size: number): Float64Array {
  const out = new Float64Array(size * size);
  for (let i = 0; i < size; i++) {
    for (let j = 0; j < size; j++) {
      let sum = 0;
      for (let k = 0; k < size; k++)
        if (a[i * size + k] !== 0 && b[j * size + k] !== 0)
          sum += a[i * size + k]! * b[j * size + k]!;
      out[i * size + j] = sum;
    }
  }
  return out;
}

function isAvailable(fit: EquationFit, kind: CovarianceKind): boolean {
  if (kind === "CR2") return !fit.perfect && fit.clusters !== null;
  const needsLeverage = kind === "HC2" || kind === "HC3" || kind === "HC4";
  return !fit.perfect && !(needsLeverage && fit.leverage.some((h) => h > LEVERAGE_ONE));
}

/** Where a block of two equations begins. */
interface Corner {
  row: number;
  column: number;
}

/** Writes an element of a block and its mirror. */
function put(
  { size, values }: Covariance,
  { row, column }: Corner,
  a: number,
  c: number,
  v: number,
) {
  values[(row + a) * size + column + c] = v;
  values[(column + c) * size + row + a] = v;
}

function classicalBlock(into: Covariance, g: EquationFit, h: EquationFit, at: Corner): void {
  if (!isAvailable(g, "classical") || !isAvailable(h, "classical")) return;
  const scale = residualCovariance(g, h);
  g.pseudoInverse.forEach((x, a) =>
    h.pseudoInverse.forEach((y, c) => put(into, at, a, c, scale * dot(x, y))),
  );
}

const SANDWICHES = ["HC0", "HC2", "HC3", "HC4"] as const;

/**
 * The blocks of HC0, HC2, HC3 and HC4 in one pass over the rows: they differ only in the weight of
 * a row, the product of the two equations' residuals with their multipliers.
 */
function heteroskedasticBlocks(
  into: ReadonlyMap<CovarianceKind, Covariance>,
  [g, h]: readonly [EquationFit, EquationFit],
  multiplied: readonly [Multiplied, Multiplied],
  at: Corner,
): void {
  const kinds = SANDWICHES.filter((kind) => isAvailable(g, kind) && isAvailable(h, kind));
  const weights = kinds.map((kind) => {
    const other = multiplied[1][kind];
    return multiplied[0][kind].map((v, i) => v * other[i]!);
  });
  const product = new Float64Array(g.n);
  g.pseudoInverse.forEach((x, a) =>
    h.pseudoInverse.forEach((y, c) => {
      // Within one equation the other half is the mirror.
      if (g === h && c < a) return;
      for (let i = 0; i < product.length; i++) product[i] = x[i]! * y[i]!;
      kinds.forEach((kind, k) => put(into.get(kind)!, at, a, c, dot(product, weights[k]!)));
    }),
  );
}

function clusterBlock(into: Covariance, g: EquationFit, h: EquationFit, at: Corner): void {
  if (!isAvailable(g, "CR2") || !isAvailable(h, "CR2")) return;
  const [left, right] = [clusterScores(g), clusterScores(h)];
  left.forEach((x, a) => right.forEach((y, c) => put(into, at, a, c, dot(x, y))));
}

function dot(x: Float64Array, y: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < x.length; i++) sum += x[i]! * y[i]!;
  return sum;
}

const residualCovariance = (g: EquationFit, h: EquationFit): number =>
  dot(g.residuals, h.residuals) / Math.sqrt(g.df * h.df);

/** Residuals times the factors whose squares are the multipliers, by kind. */
type Multiplied = Record<(typeof SANDWICHES)[number], Float64Array>;

const multipliedResiduals = ({ residuals, leverage, n, p }: EquationFit): Multiplied =>
  Object.fromEntries(
    SANDWICHES.map((kind) => [
      kind,
      residuals.map((e, i) => e * residualMultiplier(kind, leverage[i]!, n, p)),
    ]),
  ) as Multiplied;

/** Sums over each cluster of (A x_i) times the adjusted residual. */
function clusterScores({ clusters, residuals, pseudoInverse }: EquationFit): Float64Array[] {
  const adjusted = clusters!.adjust(residuals);
  return pseudoInverse.map((column) =>
    Float64Array.from(clusters!.members, (rows) => {
      let sum = 0;
      for (const i of rows) sum += column[i]! * adjusted[i]!;
      return sum;
    }),
  );
}

/** The factor v on a residual whose square is the HC multiplier. */
export function residualMultiplier(kind: CovarianceKind, h: number, n: number, p: number): number {
  switch (kind) {
    case "HC1":
      return Math.sqrt(n / (n - p));
    case "HC2":
      return 1 / Math.sqrt(1 - h);
    case "HC3":
      return 1 / (1 - h);
    case "HC4":
      return pow(1 - h, -Math.min(4, (n * h) / p) / 2);
    default:
      return 1;
  }
}
