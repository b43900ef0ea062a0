import { COVARIANCES } from "../../study";
import { EigenvalueDecomposition, inverse, Matrix, SVD } from "ml-matrix";
import { describe, expect, it } from "vitest";
import { byCovariance } from "../../model";
import { chiSquaredP, fisherP, studentP, studentQuantile } from "../../numerics/distributions";
import { prepare } from "../../preparation";
import { madeStudy } from "../../test-kit";
import type { LeastSquaresFit } from "./least-squares-fit";
import {
  N,
  x,
  w,
  m,
  y,
  study,
  LEVEL,
  equation,
  product,
  COLUMN,
  OUTCOME,
  meanOf,
  sumSquares,
  sd,
  correlation,
  dense,
  close,
  wald,
} from "../../test-kit/dense-route";

describe.each(["m", "y"])("the equation of %s by dense matrices", (outcome) => {
  const out = OUTCOME[outcome]!;
  // Analysed anew in every test, so that each of them watches the lines behind what it asserts.
  const both = () => {
    const found = equation(outcome);
    return { found, df: N - found.terms.length - 1, ...dense(outcome, found.terms) };
  };

  it("has these coefficients, with t tests and intervals under every kind of error", () => {
    const { found, df, beta, V } = both();
    expect(found.terms.slice().sort()).toEqual(
      outcome === "m" ? ["g.1", "g.2", "w", "x"] : ["m", "w", "x", "x:w"],
    );
    found.coefficients.forEach((coefficient, j) => {
      expect(coefficient.term).toBe(j === 0 ? "intercept" : found.terms[j - 1]);
      close(coefficient.b, beta[j]!, coefficient.term);
      for (const [kind, v] of Object.entries(V)) {
        const test = coefficient.errors[kind as "HC3"]!;
        const se = Math.sqrt(v.get(j, j));
        close(test.se, se, `${coefficient.term} ${kind}`);
        close(test.t, beta[j]! / se, "t");
        expect(test.df).toBe(df);
        expect(test.p).toBeCloseTo(studentP(beta[j]! / se, df), 9);
        close(test.lower, beta[j]! - studentQuantile(1 - (1 - LEVEL) / 2, df) * se, "lower");
        close(test.upper, beta[j]! + studentQuantile(1 - (1 - LEVEL) / 2, df) * se, "upper");
      }
      expect(coefficient.errors.CR2).toBeNull();
    });
  });

  it("explains so much, and is tested as a whole", () => {
    const { found, df, beta, rss, p, V } = both();
    const tss = sumSquares(out);
    expect(found).toMatchObject({ n: N, p, dfResidual: df });
    close(found.rss, rss, "rss");
    close(found.r2, 1 - rss / tss, "r2");
    close(found.adjustedR2, 1 - rss / df / (tss / (N - 1)), "adjusted r2");
    close(found.residualVariance, rss / df, "s2");
    close(found.residualSd ** 2, rss / df, "s");
    const slopes = found.terms.map((_, j) => j + 1);
    for (const [kind, v] of Object.entries(V)) {
      const test = found.modelF[kind as "HC3"]!;
      const F = wald(beta, v, slopes);
      close(test.F, F, `F ${kind}`);
      expect(test).toMatchObject({ df1: p - 1, df2: df });
      expect(test.p).toBeCloseTo(fisherP(F, p - 1, df), 10);
    }
    close(found.modelF.classical!.F, (tss - rss) / (p - 1) / (rss / df), "F by sums of squares");
  });

  it("says how every column stands beside the others", () => {
    const { found, beta } = both();
    found.coefficients.slice(1).forEach((coefficient, j) => {
      const others = found.terms.filter((_, k) => k !== j);
      const column = COLUMN[coefficient.term]!;
      const design = new Matrix(
        Array.from({ length: N }, (_, i) => [1, ...others.map((t) => COLUMN[t]![i]!)]),
      );
      const projection = design.mmul(
        inverse(design.transpose().mmul(design))
          .mmul(design.transpose())
          .mmul(Matrix.columnVector(column)),
      );
      const rest = column.map((v, i) => v - projection.get(i, 0));
      const vif = sumSquares(column) / rest.reduce((s, v) => s + v * v, 0);
      close(coefficient.vif!, vif, "vif");
      close(coefficient.tolerance!, 1 / vif, "tolerance");
      close(coefficient.beta!, (beta[j + 1]! * sd(column)) / sd(out), "beta");
      // The semipartial correlation is the correlation with what the others leave of the column.
      close(coefficient.semipartial!, correlation(rest, out), "semipartial");
    });
    expect(found.coefficients[0]).toMatchObject({
      vif: null,
      beta: null,
      tolerance: null,
      semipartial: null,
    });
    const unit = (columns: number[][]): Matrix => {
      const scaled = columns.map((u) =>
        u.map((v) => v / Math.sqrt(u.reduce((s, t) => s + t * t, 0))),
      );
      return new Matrix(scaled).transpose();
    };
    const columns = found.terms.map((t) => COLUMN[t]!);
    close(
      found.conditionNumber.scaled,
      new SVD(unit([new Array<number>(N).fill(1), ...columns])).condition,
      "scaled condition",
    );
    close(
      found.conditionNumber.centred,
      new SVD(unit(columns.map((u) => u.map((v) => v - meanOf(u))))).condition,
      "centred condition",
    );
  });

  it("compares every coefficient with the simple correlation", () => {
    const { found } = both();
    expect(found.suppression.map((r) => r.term)).toEqual(found.terms);
    found.suppression.forEach((row, j) => {
      const { beta, vif, semipartial } = found.coefficients[j + 1]!;
      const r = correlation(COLUMN[row.term]!, out);
      close(row.correlation, r, "correlation");
      close(row.beta, beta!, "beta");
      close(row.vif, vif!, "vif");
      close(row.semipartial, semipartial!, "semipartial");
      expect(row.flags.includes("sign_reversed")).toBe(beta! * r < 0);
      expect(row.flags.includes("beta_above_one")).toBe(Math.abs(beta!) > 1);
      expect(row.flags.includes("enhanced")).toBe(beta! * r > 0 && Math.abs(beta!) > Math.abs(r));
      // Terms of products are slopes at a place and compare with nothing.
      if (["x", "w", "x:w"].includes(row.term) && outcome === "y") expect(row.kind).toBeNull();
    });
  });

  it("checks its residuals", () => {
    const { found, df, X, e, rss, p, fitted } = both();
    const checks = found.checks!;
    const moment = (k: number): number => e.reduce((s, v) => s + v ** k, 0) / N;
    close(checks.skewness, moment(3) / moment(2) ** 1.5, "skewness");
    close(checks.excessKurtosis, moment(4) / moment(2) ** 2 - 3, "kurtosis");
    close(checks.adjustedSkewness, (checks.skewness * Math.sqrt(N * (N - 1))) / (N - 2), "G1");
    close(
      checks.adjustedExcessKurtosis,
      ((N - 1) / ((N - 2) * (N - 3))) * ((N + 1) * checks.excessKurtosis + 6),
      "G2",
    );
    const squares = e.map((v) => (v * v) / (rss / N));
    const centre = X.mmul(
      inverse(X.transpose().mmul(X)).mmul(X.transpose()).mmul(Matrix.columnVector(squares)),
    ).to1DArray();
    const explained = centre.reduce((s, v) => s + (v - meanOf(squares)) ** 2, 0);
    close(checks.breuschPagan.statistic, explained / 2, "Breusch-Pagan");
    close(checks.koenker.statistic, (N * explained) / sumSquares(squares), "Koenker");
    for (const test of [checks.breuschPagan, checks.koenker]) {
      expect(test.df).toBe(p - 1);
      expect(test.p).toBeCloseTo(chiSquaredP(test.statistic, p - 1), 10);
    }
    const wide = new Matrix(
      Array.from({ length: N }, (_, i) => [
        ...X.getRow(i),
        fitted[i]! ** 2 / 100,
        fitted[i]! ** 3 / 1000,
      ]),
    );
    const more = inverse(wide.transpose().mmul(wide))
      .mmul(wide.transpose())
      .mmul(Matrix.columnVector(out));
    const left = wide
      .mmul(more)
      .to1DArray()
      .reduce((s, v, i) => s + (out[i]! - v) ** 2, 0);
    const F = (rss - left) / 2 / (left / (df - 2));
    expect(Math.abs(checks.reset!.F / F - 1)).toBeLessThan(1e-5);
    expect(checks.reset).toMatchObject({ df1: 2, df2: df - 2 });
  });

  it("knows which rows count, and how much", () => {
    const { found, df, e, h, rss, p, fitted } = both();
    const checks = found.checks!;
    const internal = e.map((v, i) => v / Math.sqrt((rss / df) * (1 - h[i]!)));
    const external = internal.map((r) => r * Math.sqrt((df - 1) / (df - r * r)));
    const cook = internal.map((r, i) => (r * r * h[i]!) / (p * (1 - h[i]!)));
    const order = cook
      .map((_, i) => i)
      .sort((i, j) => cook[j]! - cook[i]!)
      .slice(0, 5);
    expect(checks.topCook.map((r) => r.row)).toEqual(order.map((i) => i + 1));
    checks.topCook.forEach((row, k) => {
      const i = order[k]!;
      close(row.cook, cook[i]!, "cook");
      close(row.leverage, h[i]!, "leverage");
      close(row.studentisedInternal, internal[i]!, "internal");
      close(row.studentisedExternal, external[i]!, "external");
    });
    expect(checks.highLeverage).toBe(h.filter((v) => v > (2 * p) / N).length);
    expect(checks.highCook).toBe(cook.filter((v) => v > 4 / N).length);
    close(checks.outlierCritical, studentQuantile(1 - 0.05 / (2 * N), df - 1), "critical");
    expect(checks.outliers).toBe(
      external.filter((v) => Math.abs(v) > checks.outlierCritical).length,
    );
    const { definition, table } = madeStudy(study);
    const rows = prepare(definition, table).fit.residuals!(outcome)!;
    rows.cook.forEach((v, i) => close(v!, cook[i]!, "cook of every row"));
    rows.fitted.forEach((v, i) => close(v, fitted[i]!, "fitted"));
    expect(rows.rows).toEqual(e.map((_, i) => i + 1));
  });
});

describe("between equations, and sets of columns", () => {
  it("coefficients covary as the stacked formulas say", () => {
    const { definition, table } = madeStudy(study);
    const fit = prepare(definition, table).fit as LeastSquaresFit;
    const pieces = (outcome: string) => {
      const { terms } = equation(outcome);
      // As fitted, products are about the means of their components.
      const about = terms.map((t) =>
        t === "x:w"
          ? product(
              x.map((v) => v - meanOf(x)),
              w.map((v) => v - meanOf(w)),
            )
          : COLUMN[t]!,
      );
      const X = new Matrix(Array.from({ length: N }, (_, i) => [1, ...about.map((u) => u[i]!)]));
      const A = inverse(X.transpose().mmul(X));
      const e = dense(outcome, terms).e;
      const block = fit.parameters.equations.find((q) => q.outcome === outcome)!;
      return { X, A, e, block };
    };
    const [one, two] = [pieces("m"), pieces("y")];
    const scores = ({ X, A, e }: typeof one): Matrix =>
      new Matrix(Array.from({ length: N }, (_, i) => X.getRow(i).map((v) => v * e[i]!))).mmul(A);
    const robust = scores(one).transpose().mmul(scores(two));
    const shared =
      one.e.reduce((s, v, i) => s + v * two.e[i]!, 0) /
      Math.sqrt((N - one.block.count) * (N - two.block.count));
    const classical = Matrix.mul(one.A.mmul(one.X.transpose()).mmul(two.X).mmul(two.A), shared);
    for (const [kind, right] of [
      ["HC0", robust],
      ["classical", classical],
    ] as const) {
      const v = fit.covariances[kind];
      for (let i = 0; i < one.block.count; i++) {
        for (let j = 0; j < two.block.count; j++) {
          const scale = Math.sqrt(
            v.values[(one.block.start + i) * (v.size + 1)]! *
              v.values[(two.block.start + j) * (v.size + 1)]!,
          );
          for (const at of [
            (one.block.start + i) * v.size + two.block.start + j,
            (two.block.start + j) * v.size + one.block.start + i,
          ])
            expect(Math.abs(v.values[at]! - right.get(i, j)) / scale).toBeLessThan(1e-8);
        }
      }
    }
    // Without clusters there are no cluster-robust errors, anywhere.
    expect(fit.covariances.CR2.values.every(Number.isNaN)).toBe(true);
    expect(Object.keys(byCovariance(() => 1))).toHaveLength(COVARIANCES.length);
  });

  it("the codes of a factor are tested and judged together", () => {
    const found = equation("m");
    const at = found.terms.flatMap((t, j) => (t.startsWith("g.") ? [j + 1] : []));
    const { beta, V } = dense("m", found.terms);
    expect(found.omnibus.map((o) => o.variable)).toEqual(["g"]);
    for (const [kind, v] of Object.entries(V))
      close(found.omnibus[0]!.test[kind as "HC3"]!.F, wald(beta, v, at), `omnibus ${kind}`);
    const R = (terms: string[]): number => {
      const matrix = new Matrix(
        terms.map((s) => terms.map((t) => correlation(COLUMN[s]!, COLUMN[t]!))),
      );
      return new EigenvalueDecomposition(matrix).realEigenvalues.reduce((all, v) => all * v, 1);
    };
    const own = found.terms.filter((t) => t.startsWith("g."));
    const gvif = (R(own) * R(found.terms.filter((t) => !own.includes(t)))) / R(found.terms);
    close(found.omnibus[0]!.gvif!, gvif, "gvif");
    close(found.omnibus[0]!.gvifPerDimension!, gvif ** (1 / 4), "per dimension");
    expect(equation("y").omnibus).toEqual([]);
  });

  it("a product explains what the equation without it leaves", () => {
    const found = equation("y");
    const without = dense(
      "y",
      found.terms.filter((t) => t !== "x:w"),
    );
    expect(found.r2Change).toHaveLength(1);
    close(found.r2Change[0]!.r2Change, (without.rss - found.rss) / sumSquares(y), "r2 change");
    expect(found.r2Change[0]!.terms).toEqual(["x:w"]);
    expect(equation("m").r2Change).toEqual([]);
  });

  it("z-scores give the coefficients of a fit of z-scores", () => {
    const found = equation("y");
    const z = (u: number[]): number[] => u.map((v) => (v - meanOf(u)) / sd(u));
    const columns: Record<string, number[]> = {
      x: z(x),
      w: z(w),
      m: z(m),
      "x:w": product(z(x), z(w)),
    };
    const X = new Matrix(
      Array.from({ length: N }, (_, i) => [1, ...found.terms.map((t) => columns[t]![i]!)]),
    );
    const A = inverse(X.transpose().mmul(X));
    const right = A.mmul(X.transpose())
      .mmul(Matrix.columnVector(z(y)))
      .to1DArray();
    const e = X.mmul(Matrix.columnVector(right))
      .to1DArray()
      .map((v, i) => z(y)[i]! - v);
    const s2 = e.reduce((s, v) => s + v * v, 0) / (N - 5);
    found.coefficients.forEach((coefficient, j) => {
      expect(coefficient.zScores!.b).toBeCloseTo(right[j]!, 9);
      if (j > 0)
        close(
          coefficient.zScores!.errors.classical!.se,
          Math.sqrt(s2 * A.get(j, j)),
          "se of z-scores",
        );
    });
  });
});
