import { inverse, Matrix } from "ml-matrix";
import { describe, expect, it } from "vitest";
import { analyseMade, normals } from "../../test-kit";

/**
 * Errors of average marginal effects by a second route: scores and information of all rows, and the
 * gradient of the mean effect by differences in the coefficients.
 */
const n = 160;
const [x, z, u] = [normals(n, 1), normals(n, 2), normals(n, 3)];
const d = z.map((v) => (v > 0.2 ? 1 : 0));
const eta = x.map((v, i) => 0.3 + 0.7 * v - 0.5 * d[i]!);
const LINKS = {
  logistic: {
    y: eta.map((v, i) => (v + 1.6 * u[i]! > 0 ? 1 : 0)),
    mean: (t: number) => 1 / (1 + Math.exp(-t)),
    slope: (t: number) => Math.exp(-t) / (1 + Math.exp(-t)) ** 2,
    variance: (m: number) => m * (1 - m),
  },
  poisson: {
    y: eta.map((v, i) => Math.max(0, Math.round(Math.exp(v) + u[i]!))),
    mean: Math.exp,
    slope: Math.exp,
    variance: (m: number) => m,
  },
} as const;

describe.each(["logistic", "poisson"] as const)("average marginal effects, %s", (family) => {
  const { y, mean, slope, variance } = LINKS[family];
  const evidence = analyseMade({
    columns: { x, d, y },
    theory: `model y as ${family}\nH1: x affects y\nH2: d affects y`,
    settings: { engine: "generalised", interval: "delta" },
  });
  const model = evidence.sections.flatMap((s) => (s.kind === "responses" ? s.models : []))[0]!;
  const at = (term: string) => model.coefficients.find((c) => c.term === term)!.estimate;
  const terms = model.coefficients.map((c) => c.term);
  const intercept = terms.find((term) => term !== "x" && term !== "d")!;
  const b = [at(intercept), at("x"), at("d")];
  const rows = x.map((v, i) => [1, v, d[i]!]);
  const line = (row: readonly number[], of: readonly number[]): number =>
    row.reduce((sum, v, j) => sum + v * of[j]!, 0);
  const average = {
    x: (of: readonly number[]) =>
      rows.reduce((sum, row) => sum + slope(line(row, of)) * of[1]!, 0) / n,
    d: (of: readonly number[]) =>
      rows.reduce(
        (sum, [one, v]) => sum + mean(line([one!, v!, 1], of)) - mean(line([one!, v!, 0], of)),
        0,
      ) / n,
  };
  const information = new Matrix(3, 3);
  const meat = new Matrix(3, 3);
  rows.forEach((row, i) => {
    const t = line(row, b);
    const [m, s] = [mean(t), slope(t)];
    const z1 = new Matrix([row]);
    information.add(
      z1
        .transpose()
        .mmul(z1)
        .mul((s * s) / variance(m)),
    );
    meat.add(
      z1
        .transpose()
        .mmul(z1)
        .mul(((y[i]! - m) * s) / variance(m))
        .mul(((y[i]! - m) * s) / variance(m)),
    );
  });
  const bread = inverse(information);
  const robust = bread.mmul(meat).mmul(bread);

  it.each(["x", "d"] as const)(
    "of %s hold the covariates fixed, by the model and robust",
    (name) => {
      const own = model.marginal.find((m) => m.column === name)!;
      expect(own.estimate).toBeCloseTo(average[name](b), 10);
      const step = 1e-5;
      const gradient = new Matrix([
        b.map((_, j) => {
          const moved = (by: number) => b.map((v, k) => (k === j ? v + by : v));
          return (average[name](moved(step)) - average[name](moved(-step))) / (2 * step);
        }),
      ]);
      const se = (v: Matrix) => Math.sqrt(gradient.mmul(v).mmul(gradient.transpose()).get(0, 0));
      expect(own.model.se).toBeCloseTo(se(bread), 7);
      expect(own.robust.se).toBeCloseTo(se(robust), 7);
    },
  );
});
