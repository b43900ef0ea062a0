import type { LeastSquaresFit } from "./least-squares-fit";
import { equationsOf } from "../../evidence";
import { EigenvalueDecomposition, inverse, Matrix } from "ml-matrix";
import { describe, expect, it } from "vitest";
import { fisherP } from "../../numerics/distributions";
import { analyseMade, madeStudy, normals } from "../../test-kit";
import { prepare } from "../../preparation";
import { ClusterRobust } from "./cluster-robust";
import { linearTest } from "./tests";

const G = 12;
const sizes = Array.from({ length: G }, (_, g) => 2 + ((g * 5) % 7));
const cluster = sizes.flatMap((size, g) => new Array<string>(size).fill(`c${g}`));
const n = cluster.length;
const [a, b, c, e] = [31, 32, 33, 34].map((seed) => normals(n, seed)) as [
  number[],
  number[],
  number[],
  number[],
];
const between = normals(G, 35);
const own = cluster.map((name) => between[Number(name.slice(1))]!);
const x = own.map((v, i) => v + 0.3 * a[i]!);
const z = b;
const [second, third] = [normals(G, 36), normals(G, 37)].map((list) =>
  cluster.map((name) => list[Number(name.slice(1))]!),
) as [number[], number[]];
const m = x.map((v, i) => 0.5 * v + 1.5 * second[i]! + 0.4 * c[i]!);
const y = x.map((v, i) => 0.4 * v + 0.2 * z[i]! + 1.5 * third[i]! + 0.4 * e[i]!);
const columns = { x, z, y, m, school: cluster };
const prepared = (theory: string) => {
  const { definition, table } = madeStudy({
    columns,
    theory,
    settings: { cluster: "school" },
    variables: { school: { level: "categorical" } },
  });
  return prepare(definition, table);
};

/**
 * The whole thing once more with n x n matrices: B_g by the eigenvalues of I - H_gg, degrees of
 * freedom from W'W.
 */
function brute(X: Matrix, outcome: number[], members: number[][]) {
  const A = inverse(X.transpose().mmul(X));
  const H = X.mmul(A).mmul(X.transpose());
  const M = Matrix.eye(outcome.length).sub(H);
  const residual = M.mmul(Matrix.columnVector(outcome));
  const roots = members.map((rows) => {
    const { realEigenvalues: values, eigenvectorMatrix: V } = new EigenvalueDecomposition(
      M.selection(rows, rows),
      {
        assumeSymmetric: true,
      },
    );
    return V.mmul(Matrix.diag(values.map((d) => (d > 1e-10 ? 1 / Math.sqrt(d) : 0)))).mmul(
      V.transpose(),
    );
  });
  const p = X.columns;
  const all = Array.from({ length: p }, (_, j) => j);
  let meat = Matrix.zeros(p, p);
  members.forEach((rows, g) => {
    const score = X.selection(rows, all)
      .transpose()
      .mmul(roots[g]!)
      .mmul(residual.selection(rows, [0]));
    meat = meat.add(score.mmul(score.transpose()));
  });
  /** w_g = M_.g B_g X_g A c for each cluster, as columns. */
  const W = (direction: Matrix): Matrix => {
    const out = Matrix.zeros(outcome.length, members.length);
    members.forEach((rows, g) => {
      const q = roots[g]!.mmul(X.selection(rows, all)).mmul(A).mmul(direction);
      out.setColumn(
        g,
        M.selection(
          Array.from({ length: outcome.length }, (_, i) => i),
          rows,
        ).mmul(q),
      );
    });
    return out;
  };
  return { V: A.mmul(meat).mmul(A), A, W };
}

describe("cluster-robust errors", () => {
  // Fitted anew in every test, so that each of them watches the lines behind what it asserts.
  const made = () => {
    const study = prepared("H1: x raises y\nalso z to y");
    const fit = (study.fit as LeastSquaresFit).fits[0]!;
    const members = fit.clusters!.members.map((rows) => [...rows]);
    const X = new Matrix(
      Array.from({ length: n }, (_, i) => [
        1,
        ...fit.equation.columns.map((column) => column.values[i]!),
      ]),
    );
    return { study, fit, reference: brute(X, y, members) };
  };

  it("have the covariance of the formula with dense matrices", () => {
    const { study, reference } = made();
    const v = study.fit.covariances.CR2;
    for (let i = 0; i < 3; i++)
      for (let j = 0; j < 3; j++)
        expect(v.values[i * v.size + j]! / reference.V.get(i, j)).toBeCloseTo(1, 8);
  });

  it("have Satterthwaite's degrees of freedom: the squared trace of W'W over its sum of squares", () => {
    const { study, fit, reference } = made();
    for (const direction of [
      [0, 1, 0],
      [0, 0, 1],
      [1, 0.5, -2],
    ]) {
      const w = reference.W(Matrix.columnVector(direction));
      const gram = w.transpose().mmul(w);
      const df = gram.trace() ** 2 / gram.norm("frobenius") ** 2;
      const test = linearTest(fit, study.fit.covariances.CR2, 0, "CR2", direction, 0.95)!;
      expect(test.df! / df).toBeCloseTo(1, 8);
      const se = Math.sqrt(
        Matrix.rowVector(direction)
          .mmul(reference.V)
          .mmul(Matrix.columnVector(direction))
          .get(0, 0),
      );
      expect(test.se / se).toBeCloseTo(1, 8);
    }
  });

  it("have the degrees of freedom of a variance with its own expectation where a cluster alone holds a level", () => {
    const arm = cluster.map((name) => (name === "c3" ? "alone" : name < "c6" ? "some" : "many"));
    const { definition, table } = madeStudy({
      columns: { arm, y, school: cluster },
      theory: "H1: arm affects y",
      settings: { cluster: "school" },
      variables: { school: { level: "categorical" }, arm: { level: "categorical" } },
    });
    const study = prepare(definition, table);
    const fit = (study.fit as LeastSquaresFit).fits[0]!;
    const members = fit.clusters!.members.map((rows) => [...rows]);
    const X = new Matrix(
      Array.from({ length: n }, (_, i) => [
        1,
        ...fit.equation.columns.map((column) => column.values[i]!),
      ]),
    );
    const { W } = brute(X, y, members);
    for (const direction of [
      [0, 1, 0],
      [0, 0, 1],
      [0, 1, -1],
    ]) {
      const w = W(Matrix.columnVector(direction));
      const gram = w.transpose().mmul(w);
      const test = linearTest(fit, study.fit.covariances.CR2, 0, "CR2", direction, 0.95)!;
      expect(test.df! / (gram.trace() ** 2 / gram.norm("frobenius") ** 2)).toBeCloseTo(1, 8);
      expect(test.df!).toBeLessThan(G);
    }
  });

  it("test several coefficients by the approximate Hotelling test", () => {
    const { fit, reference } = made();
    const evidence = analyseMade({
      columns,
      theory: "H1: x raises y\nalso z to y",
      settings: { cluster: "school" },
      variables: { school: { level: "categorical" } },
    });
    const C = new Matrix([
      [0, 1, 0],
      [0, 0, 1],
    ]);
    const omega = C.mmul(reference.A).mmul(C.transpose());
    const { realEigenvalues: values, eigenvectorMatrix: V } = new EigenvalueDecomposition(omega, {
      assumeSymmetric: true,
    });
    const half = V.mmul(Matrix.diag(values.map((d) => 1 / Math.sqrt(d)))).mmul(V.transpose());
    const parts = [0, 1].map((s) => reference.W(C.transpose().mmul(half).subMatrixColumn([s])));
    let spread = 0;
    for (const s of [0, 1]) {
      for (const t of [0, 1]) {
        const [ss, tt, st, ts] = [
          [s, s],
          [t, t],
          [s, t],
          [t, s],
        ].map(([i, j]) => parts[i!]!.transpose().mmul(parts[j!]!));
        for (let g = 0; g < G; g++)
          for (let h = 0; h < G; h++)
            spread += ss!.get(g, h) * tt!.get(g, h) + st!.get(g, h) * ts!.get(g, h);
      }
    }
    const eta = 6 / spread;
    const slopes = Matrix.columnVector([fit.b[1]!, fit.b[2]!]);
    const Q = slopes
      .transpose()
      .mmul(inverse(C.mmul(reference.V).mmul(C.transpose())))
      .mmul(slopes)
      .get(0, 0);
    const F = ((eta - 1) / (2 * eta)) * Q;
    const found = equationsOf(evidence)[0]!.modelF.CR2!;
    expect(found.F / F).toBeCloseTo(1, 7);
    expect(found.df2 / (eta - 1)).toBeCloseTo(1, 7);
    expect(found.p / fisherP(F, 2, eta - 1)).toBeCloseTo(1, 6);
  });

  it("are HC2 where every case is a cluster of its own", () => {
    const { fit } = made();
    const single = new ClusterRobust(
      fit,
      Array.from({ length: n }, (_, i) => Int32Array.of(i)),
    );
    const adjusted = single.adjust(fit.residuals);
    fit.residuals.forEach((r, i) =>
      expect(adjusted[i]! * Math.sqrt(1 - fit.leverage[i]!)).toBeCloseTo(r, 10),
    );
  });

  it("reach every claim: coefficients by t, products by the delta method, Monte Carlo draws too", () => {
    const theory = "H1: x raises y through m";
    const run = (settings: object) =>
      analyseMade({
        columns,
        theory,
        settings: { cluster: "school", ...settings },
        variables: { school: { level: "categorical" } },
      });
    const [delta, drawn] = [run({ interval: "delta" }), run({ interval: "monte_carlo" })];
    const plain = analyseMade({
      columns,
      theory,
      settings: { interval: "delta" },
      variables: { school: { level: "categorical" } },
    });
    expect(delta.errors).toBe("CR2");
    const of = (evidence: typeof delta, id: string) =>
      evidence.effects.find((one) => one.id === id)!.shown!;
    expect(
      of(delta, "indirect x > m > y").se! / of(plain, "indirect x > m > y").se!,
    ).toBeGreaterThan(1.3);
    expect(of(delta, "direct x > y")).toMatchObject({ reference: "t" });
    expect(of(delta, "direct x > y").df).toBeLessThan(G);
    expect(of(delta, "direct x > y").se).toBeCloseTo(
      equationsOf(delta)[1]!.coefficients[1]!.errors.CR2!.se,
      12,
    );
    const width = (evidence: typeof delta): number =>
      of(evidence, "indirect x > m > y").upper! - of(evidence, "indirect x > m > y").lower!;
    expect(width(drawn) / width(delta)).toBeGreaterThan(0.8);
    expect(delta.warnings.find((w) => w.code === "few_clusters")!.message).toContain("12 clusters");
  });

  it("refuse a bootstrap-t, which has no such errors in a resample", () =>
    expect(() =>
      analyseMade({
        columns,
        theory: "H1: x raises y",
        settings: { cluster: "school", interval: "bootstrap_t" },
      }),
    ).toThrow(/clusters/));
});
