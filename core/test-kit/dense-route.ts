import { pow } from "../numerics/elementary";
import { inverse, Matrix } from "ml-matrix";
import { expect } from "vitest";
import { equationsOf } from "../evidence";
import { analyseMade, normals, type MadeStudy } from ".";
import type { EquationEvidence } from "../estimators/sections";

/**
 * Tests only: everything that is said of an equation once more with plain matrices: no
 * orthogonalisation, no centring, no sharing.
 */
export const N = 70;
export const [a, b, c, d] = [21, 22, 23, 24].map((seed) => normals(N, seed)) as [
  number[],
  number[],
  number[],
  number[],
];
export const x = a.map((v) => 4 + v);
export const w = b.map((v, i) => 1 + 0.5 * v + 0.3 * a[i]!);
export const g = x.map((_, i) => ["p", "q", "r"][(i * 5) % 3]!);
export const m = x.map(
  (v, i) =>
    0.5 * v - 0.4 * w[i]! + (g[i] === "q" ? 1.5 : 0) + (0.4 + 0.3 * Math.abs(a[i]!)) * c[i]!,
);
export const y = m.map(
  (v, i) => 0.6 * v + 0.2 * x[i]! + 0.3 * x[i]! * w[i]! + (i === 9 ? 6 : 0) + 0.8 * d[i]!,
);
export const study: MadeStudy = {
  columns: { x, w, g, m, y },
  theory: "H1: x raises y through m\nH2: w strengthens x to y\nH3: g affects m\nadjust m for w",
  variables: { g: { level: "categorical", reference: "p" } },
};
export const LEVEL = 0.95;
export const equation = (outcome: string): EquationEvidence =>
  equationsOf(analyseMade(study)).find((e) => e.outcome === outcome)!;

export const product = (p: number[], q: number[]): number[] => p.map((v, i) => v * q[i]!);
export const code = (level: string): number[] => g.map((v) => (v === level ? 1 : 0));
/** Columns by the key under which the evidence has them. */
export const COLUMN: Record<string, number[]> = {
  x,
  w,
  m,
  "g.1": code("q"),
  "g.2": code("r"),
  "x:w": product(x, w),
};
export const OUTCOME: Record<string, number[]> = { m, y };

export const meanOf = (u: number[]): number => u.reduce((s, v) => s + v, 0) / u.length;
export const sumSquares = (u: number[]): number => u.reduce((s, v) => s + (v - meanOf(u)) ** 2, 0);
export const sd = (u: number[]): number => Math.sqrt(sumSquares(u) / (u.length - 1));
export const correlation = (u: number[], v: number[]): number =>
  u.reduce((s, t, i) => s + (t - meanOf(u)) * (v[i]! - meanOf(v)), 0) /
  Math.sqrt(sumSquares(u) * sumSquares(v));

export function dense(outcome: string, terms: string[]) {
  const X = new Matrix(
    Array.from({ length: N }, (_, i) => [1, ...terms.map((t) => COLUMN[t]![i]!)]),
  );
  const Y = Matrix.columnVector(OUTCOME[outcome]!);
  const A = inverse(X.transpose().mmul(X));
  const beta = A.mmul(X.transpose()).mmul(Y).to1DArray();
  const fitted = X.mmul(Matrix.columnVector(beta)).to1DArray();
  const e = OUTCOME[outcome]!.map((v, i) => v - fitted[i]!);
  const h = X.mmul(A).mmul(X.transpose()).diagonal();
  const rss = e.reduce((s, v) => s + v * v, 0);
  const p = terms.length + 1;
  const meat = (weight: (i: number) => number): Matrix => {
    const WX = new Matrix(
      Array.from({ length: N }, (_, i) => X.getRow(i).map((v) => v * weight(i) * e[i]! ** 2)),
    );
    return A.mmul(X.transpose().mmul(WX)).mmul(A);
  };
  const V: Record<string, Matrix> = {
    classical: Matrix.mul(A, rss / (N - p)),
    HC0: meat(() => 1),
    HC1: meat(() => N / (N - p)),
    HC2: meat((i) => 1 / (1 - h[i]!)),
    HC3: meat((i) => 1 / (1 - h[i]!) ** 2),
    HC4: meat((i) => pow(1 - h[i]!, -Math.min(4, (N * h[i]!) / p))),
  };
  return { X, A, beta, e, h, rss, p, V, fitted };
}

export const close = (found: number, right: number, what: string): void =>
  expect(
    Math.abs(found - right) / Math.max(1e-6, Math.abs(right)),
    `${what}: ${found} for ${right}`,
  ).toBeLessThan(1e-7);

/** Wald F of some coefficients. */
export function wald(beta: number[], V: Matrix, at: number[]): number {
  const bb = Matrix.columnVector(at.map((i) => beta[i]!));
  return (
    bb
      .transpose()
      .mmul(inverse(V.selection(at, at)))
      .mmul(bb)
      .get(0, 0) / at.length
  );
}
