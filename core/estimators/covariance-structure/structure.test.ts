import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { analyseMade, normals, problemOf } from "../../test-kit";
import { compileArrows, ModelFault, type Arrow } from "./arrows";
import { ImpliedMoments } from "./implied";
import { noncentralChiSquaredCdf, noncentralityAt } from "./noncentral";
import { NormalLikelihood } from "./normal-likelihood";
import { sampleMoments } from "./sample-moments";
import { startValues } from "./start-values";

const n = 150;
const [f, g, ...noise] = Array.from({ length: 10 }, (_, k) => normals(n, 30 + k)) as [
  number[],
  number[],
  ...number[][],
];
const y = f.map((v, i) => 0.6 * v + g[i]!);
const item = (of: readonly number[], k: number, loading = 1): number[] =>
  of.map((v, i) => loading * v + 0.6 * noise[k]![i]!);
const columns = {
  a1: item(f, 0),
  a2: item(f, 1, 0.8),
  a3: item(f, 2, 1.2),
  b1: item(y, 3),
  b2: item(y, 4, 0.7),
  b3: item(y, 5, 1.1),
  x: f.map((v, i) => v + noise[6]![i]!),
};
const THEORY = `measure fa reflects a1, a2, a3
measure fb reflects b1, b2, b3`;

const path = (
  from: string,
  to: string,
  label: string | null = `${from} ${to}`,
  value = 0,
): Arrow => ({
  kind: "path",
  from,
  to,
  label,
  value,
});
const covariance = (from: string, to: string): Arrow => ({
  kind: "covariance",
  from,
  to,
  label: `${from} with ${to}`,
  value: 0,
});
const arrows: Arrow[] = [
  path("f", "a1", null, 1),
  path("f", "a2"),
  path("f", "a3"),
  path("x", "f"),
  ...["a1", "a2", "a3", "x", "f"].map((v) => covariance(v, v)),
  covariance("a1", "a2"),
  ...["a1", "a2", "a3", "x"].map((to): Arrow => ({
    kind: "intercept",
    from: "",
    to,
    label: `mean ${to}`,
    value: 0,
  })),
];

describe("arrows", () => {
  it("that form a cycle are refused, and the cycle is listed", () => {
    const cyclic = [path("a", "b"), path("b", "c"), path("c", "a")];
    expect(() => compileArrows(["a", "b", "c"], [], cyclic)).toThrow(/cycle: .*a.*->.*b/);
    expect(() => compileArrows(["a"], [], [path("a", "a")])).toThrow(/a -> a/);
  });
  it("to nowhere and drawn twice are refused", () => {
    expect(() => compileArrows(["a"], [], [path("a", "z")])).toThrow(ModelFault);
    expect(() => compileArrows(["a", "b"], [], [path("a", "b"), path("a", "b", "again")])).toThrow(
      /twice/,
    );
  });
});

describe("the score and the information", () => {
  const model = compileArrows(["a1", "a2", "a3", "x"], ["f"], arrows);
  const sample = sampleMoments([columns.a1, columns.a2, columns.a3, columns.x]);
  const likelihood = new NormalLikelihood([model], [{ patterns: [sample] }]);
  const start = startValues([model], [sample]);

  it("agree with differences of the likelihood, wherever they are taken", () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -0.2, max: 0.2, noNaN: true }), {
          minLength: start.length,
          maxLength: start.length,
        }),
        (shifts) => {
          const theta = start.map((v, i) => v + shifts[i]! * (0.2 + Math.abs(v)));
          if (likelihood.at(theta) === null) return;
          const score = likelihood.score.slice();
          for (let a = 0; a < theta.length; a++) {
            const h = 1e-5 * (0.1 + Math.abs(theta[a]!));
            const at = (by: number): number =>
              likelihood.valueAt(theta.map((v, i) => (i === a ? v + by : v)));
            expect(score[a]! / n).toBeCloseTo((at(h) - at(-h)) / (2 * h) / n, 5);
          }
        },
      ),
      { numRuns: 25 },
    );
  });

  it("observed information is minus the second differences, away from the maximum too", () => {
    const theta = start.map((v, i) => v + 0.1 * (0.2 + Math.abs(v)) * ((i % 3) - 1));
    likelihood.at(theta);
    const observed = likelihood.observedInformation();
    const q = start.length;
    for (let a = 0; a < q; a++) {
      const h = 1e-5 * (0.1 + Math.abs(theta[a]!));
      const slopes = (by: number): Float64Array => {
        likelihood.at(theta.map((v, i) => (i === a ? v + by : v)));
        return likelihood.score.slice();
      };
      const [up, down] = [slopes(h), slopes(-h)];
      for (let b = 0; b < q; b++)
        expect(-(up[b]! - down[b]!) / (2 * h) / n).toBeCloseTo(observed[a * q + b]! / n, 4);
    }
  });

  it("information is the expected curvature: minus the second differences at moments that fit exactly", () => {
    const implied = new ImpliedMoments(model).at(start);
    const exact = {
      n,
      indices: Int32Array.of(0, 1, 2, 3),
      means: implied.means.slice(0, 4),
      covariance: implied.Sigma.slice(),
    };
    const there = new NormalLikelihood([model], [{ patterns: [exact] }]);
    there.at(start);
    const information = there.information.slice();
    const q = start.length;
    for (let a = 0; a < q; a++) {
      const h = 1e-4 * (0.1 + Math.abs(start[a]!));
      const slopes = (by: number): Float64Array => {
        there.at(start.map((v, i) => (i === a ? v + by : v)));
        return there.score.slice();
      };
      const [up, down] = [slopes(h), slopes(-h)];
      for (let b = 0; b < q; b++)
        expect(-(up[b]! - down[b]!) / (2 * h) / n).toBeCloseTo(information[a * q + b]! / n, 4);
    }
  });
});

describe("the non-central chi-squared distribution", () => {
  it("is the central one without non-centrality, and turns back", () => {
    // The 95 % point of the central distribution with 4 degrees of freedom.
    expect(noncentralChiSquaredCdf(9.487729, 4, 0)).toBeCloseTo(0.95, 6);
    for (const lambda of [0.5, 6, 80, 1200])
      expect(
        noncentralityAt(lambda + 10, 4, noncentralChiSquaredCdf(lambda + 10, 4, lambda)),
      ).toBeCloseTo(lambda, 6);
  });
  it("is a mixture: its mean is df + lambda", () => {
    const [df, lambda] = [3, 5];
    let mean = 0;
    for (let x = 0.005; x < 80; x += 0.01)
      mean += (1 - noncentralChiSquaredCdf(x, df, lambda)) * 0.01;
    expect(mean).toBeCloseTo(df + lambda, 3);
  });
});

describe("theories of latent variables", () => {
  it("run beside observed ones, and say who estimated", () => {
    const evidence = analyseMade({
      columns,
      theory: `${THEORY}\nH1: x raises fb through fa`,
      settings: { replications: 50 },
    });
    expect(evidence.estimator.label).toBe("maximum likelihood");
    expect(evidence.hypotheses[0]!.effects).toEqual(["indirect x > fa > fb"]);
    expect(evidence.sections.map((s) => s.kind)).toEqual(["structure"]);
  });

  it("of single items are the observed variables themselves", () => {
    const settings = { replications: 0, interval: "delta" } as const;
    const latent = analyseMade({
      columns,
      theory: "measure one reflects a1\nmeasure two reflects b1\nH1: one raises two through x",
      settings,
    });
    const observed = analyseMade({ columns, theory: "H1: a1 raises b1 through x", settings });
    const estimate = (evidence: typeof latent, id: string) =>
      evidence.effects.find((e) => e.id === id)!.estimate!;
    expect(estimate(latent, "indirect one > x > two")).toBeCloseTo(
      estimate(observed, "indirect a1 > x > b1"),
      8,
    );
    expect(estimate(latent, "direct one > two")).toBeCloseTo(
      estimate(observed, "direct a1 > b1"),
      8,
    );
  });

  it.each([
    [
      "a product of three",
      "measure fa reflects a1, a2\nmeasure fb reflects b1, b2, b3\nH1: fa raises fb\nH2: x with a3 alters fa to fb",
      /Products of three variables/,
    ],
    [
      "an item that is another's double",
      "measure fa reflects a1, a2, same\nmeasure fb reflects b1, b2\nH1: fa raises fb",
      /singular/,
    ],
  ])("refuse %s in words", (_, theory, words) => {
    const problem = problemOf({
      columns: { ...columns, same: columns.a2.map((v) => 2 * v) },
      theory,
    });
    expect(problem.message).toMatch(words);
  });
});

describe("the divisor n - 1", () => {
  const gaps = Object.fromEntries(
    Object.entries(columns).map(([name, values], j) => [
      name,
      values.map((v, i) => ((i + 2 * j) % 13 === 0 ? null : v)),
    ]),
  );
  const effectsOf = (
    made: Record<string, (number | null)[]>,
    sentences: string,
    options: Record<string, string>,
  ) => {
    const { effects } = analyseMade({
      columns: made,
      theory: `${THEORY}\n${sentences}`,
      settings: { interval: "delta", options },
    });
    expect(effects.length).toBeGreaterThan(0);
    return effects.map((e) => [e.id, e.estimate, e.shown]);
  };

  it("is none of a likelihood of cases: with values missing nothing changes", () => {
    const options = { missing: "everybody" };
    const own = effectsOf(gaps, "H1: fa raises fb", options);
    expect(effectsOf(gaps, "H1: fa raises fb", { ...options, convention: "wishart" })).toEqual(own);
  });

  it("is none of an interaction by full information either", () => {
    const sentences = "measure fc reflects x\nH1: fa raises fb\nH2: fc alters fa to fb";
    const options = { interactions: "full_information" };
    // A few people are enough: each is an integral at every step.
    const few = Object.fromEntries(
      Object.entries(columns).map(([name, values]) => [name, values.slice(0, 60)]),
    );
    const own = effectsOf(few, sentences, options);
    expect(effectsOf(few, sentences, { ...options, convention: "wishart" })).toEqual(own);
  });

  it("makes errors of complete data larger by the root of n over n - 1", () => {
    const errors = (convention: string): number => {
      const { effects } = analyseMade({
        columns,
        theory: `${THEORY}\nH1: fa raises fb`,
        settings: { interval: "delta", options: { convention, means: "no" } },
      });
      const { shown } = effects.find((e) => e.id === "direct fa > fb")!;
      return shown!.upper! - shown!.lower!;
    };
    expect(errors("wishart") / errors("normal")).toBeCloseTo(Math.sqrt(n / (n - 1)), 9);
  });
});

describe("path models of observed variables that leave nothing out", () => {
  it("agree with least squares to eight digits", () => {
    const settings = { replications: 0, interval: "delta" } as const;
    const theory = "H1: x raises b1 through a1 and a2\ncovary a1 with a2\nadjust a1, a2, b1 for b3";
    const whole = analyseMade({
      columns,
      theory,
      settings: { ...settings, engine: "covariance_structure" },
    });
    // Least squares leave residuals as they are, and have no line about them.
    const squares = analyseMade({ columns, theory: theory.replace(/\ncovary.*/, ""), settings });
    expect(whole.estimator.id).not.toBe(squares.estimator.id);
    expect(whole.effects.length).toBeGreaterThan(5);
    for (const { id, estimate, kind } of whole.effects) {
      // SDs have the divisor n in the one and n - 1 in the other, which cancels where there are two
      // of them.
      if (kind === "explained_variance" || kind === "partially_standardised") continue;
      const other = squares.effects.find((e) => e.id === id)!.estimate!;
      expect(Math.abs(estimate! - other) / Math.max(1e-3, Math.abs(other)), id).toBeLessThan(1e-8);
    }
    const section = whole.sections.find((s) => s.kind === "structure")!;
    expect(section.counts.df).toBe(0);
    expect(section.fitWords[0]).toMatch(/neither good nor bad/);
  });

  it("do not care for the units or origins of their variables", () => {
    const settings = {
      replications: 0,
      interval: "delta",
      options: { missing: "everybody" },
    } as const;
    const theory = `${THEORY}\nH1: fa raises fb through x`;
    const missing = undefined as unknown as number;
    const gaps = { ...columns, a2: columns.a2.map((v, i) => (i % 9 === 0 ? missing : v)) };
    const far = {
      ...gaps,
      a2: gaps.a2.map((v) => (v === missing ? v : 1000 * v + 1e6)),
      x: columns.x.map((v) => 0.01 * v - 1e6),
    };
    const [near, away] = [gaps, far].map((data) =>
      analyseMade({ columns: data, theory, settings }),
    );
    for (const { id, kind, estimate, delta } of near!.effects) {
      if (kind !== "completely_standardised") continue;
      const other = away!.effects.find((e) => e.id === id)!;
      expect(other.estimate).toBeCloseTo(estimate!, 7);
      expect(other.delta.joint.observed!.se).toBeCloseTo(delta.joint.observed!.se, 7);
    }
    const chi2 = (e: typeof near) =>
      e!.sections.find((s) => s.kind === "structure")!.fit!.plain.chi2;
    expect(chi2(away)).toBeCloseTo(chi2(near), 6);
    expect(near!.sample.n).toBe(n);
  });
});
