import { pow } from "../../numerics/elementary";
import { byCovariance, type Covariance } from "../../model";
import { COVARIANCES, type CovarianceKind } from "../../study";
import type { EquationFit } from "./fit";

/** A leverage above this leaves the row without a usable residual: HC2 to HC4 are then not available. */
export const LEVERAGE_ONE = 1 - 1e-10;

/**
 * Covariances of all coefficients of all equations, by kind. NaN where an equation has none (a perfect fit, or a leverage of
 * one under HC2 to HC4).
 */
export type CovarianceSet = Record<CovarianceKind, Covariance>;

/**
 * Covariance of the stacked coefficients for every kind, cross-equation blocks included.
 * Classical blocks s_gh A_g X_g'X_h A_h with s_gh = e_g'e_h / sqrt(df_g df_h) (Zellner 1962, JASA 57);
 * HC0 White 1980, HC1-HC3 MacKinnon & White 1985, HC4 Cribari-Neto 2004; CR2 with residuals adjusted by cluster and
 * added up within clusters, also between equations.
 */
export function covariances(fits: readonly EquationFit[]): CovarianceSet {
  const found = new Map<CovarianceKind, Covariance>();
  for (const kind of COVARIANCES)
    found.set(
      kind,
      kind === "HC1" ? inflated(fits, found.get("HC0")!) : jointCovariance(fits, kind),
    );
  return Object.fromEntries(found) as CovarianceSet;
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
 * The covariance of other coefficients, of which those of each equation are linear functions of its own.
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
): CovarianceSet => byCovariance((kind) => mappedCovariance(set[kind], maps)) as CovarianceSet;

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

function jointCovariance(fits: readonly EquationFit[], kind: CovarianceKind): Covariance {
  const size = fits.reduce((sum, fit) => sum + fit.p, 0);
  const values = new Float64Array(size * size);
  const available = fits.map((fit) => isAvailable(fit, kind));
  // Columns whose products sum to the covariance: (A x_i) e_i v_i, or A x_i alone for the classical blocks.
  const scored = fits.map((fit, g) =>
    !available[g] ? [] : kind === "classical" ? fit.pseudoInverse : scoredColumns(fit, kind),
  );
  let rowStart = 0;
  fits.forEach((g, gi) => {
    let columnStart = 0;
    fits.forEach((h, hi) => {
      if (hi >= gi) {
        if (!available[gi] || !available[hi])
          fillNothing(values, size, rowStart, columnStart, g.p, h.p);
        else
          fillBlock(
            values,
            size,
            rowStart,
            columnStart,
            scored[gi]!,
            scored[hi]!,
            kind === "classical" ? residualCovariance(g, h) : 1,
          );
      }
      columnStart += h.p;
    });
    rowStart += g.p;
  });
  return { size, values };
}

/** A block that is not available, and its mirror. */
function fillNothing(
  values: Float64Array,
  size: number,
  row: number,
  column: number,
  rows: number,
  columns: number,
): void {
  for (let a = 0; a < rows; a++) {
    for (let c = 0; c < columns; c++) {
      values[(row + a) * size + column + c] = NaN;
      values[(column + c) * size + row + a] = NaN;
    }
  }
}

function fillBlock(
  values: Float64Array,
  size: number,
  row: number,
  column: number,
  left: Float64Array[],
  right: Float64Array[],
  scale: number,
): void {
  for (let a = 0; a < left.length; a++) {
    const x = left[a]!;
    // Within one equation the other half is the mirror.
    for (let c = row === column ? a : 0; c < right.length; c++) {
      const y = right[c]!;
      let sum = 0;
      for (let i = 0; i < x.length; i++) sum += x[i]! * y[i]!;
      values[(row + a) * size + column + c] = scale * sum;
      values[(column + c) * size + row + a] = scale * sum;
    }
  }
}

function residualCovariance(g: EquationFit, h: EquationFit): number {
  let sum = 0;
  for (let i = 0; i < g.n; i++) sum += g.residuals[i]! * h.residuals[i]!;
  return sum / Math.sqrt(g.df * h.df);
}

function scoredColumns(fit: EquationFit, kind: CovarianceKind): Float64Array[] {
  if (kind === "CR2") return clusterScores(fit);
  const weights = Float64Array.from(
    fit.residuals,
    (e, i) => e * residualMultiplier(kind, fit.leverage[i]!, fit.n, fit.p),
  );
  return fit.pseudoInverse.map((column) => {
    const out = new Float64Array(column.length);
    for (let i = 0; i < out.length; i++) out[i] = column[i]! * weights[i]!;
    return out;
  });
}

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
