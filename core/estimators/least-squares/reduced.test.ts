import { describe, expect, it } from "vitest";
import { totalOmnibusOf, type Evidence } from "../../evidence";
import { fisherP } from "../../numerics/distributions";
import { analyseMade, type MadeStudy } from "../../test-kit";
import { close, dense, N, wald, w, x, m, y, g } from "../../test-kit/dense-route";

// The total effect of x on y is the slope of y on x without the mediator, where every equation
// holds the same predictors and covariates; the regression by dense matrices is the second route.
const run = (theory: string, more: Partial<MadeStudy> = {}): Evidence =>
  analyseMade({
    columns: { x, w, g, m, y },
    theory,
    variables: { g: { level: "categorical", reference: "p" } },
    settings: { replications: 0, interval: "delta" },
    ...more,
  });
const total = (evidence: Evidence, from = "x") =>
  evidence.effects.find((e) => e.kind === "total" && e.from === from)!;

describe("the exact test of a total effect", () => {
  it("is the test in the regression without the mediator, under every kind of error", () => {
    const found = total(run("H1: x raises y through m\nadjust m, y for w"));
    const { beta, V } = dense("y", ["x", "w"]);
    close(found.estimate!, beta[1]!, "total");
    expect(found.reduced!.terms).toEqual(["x", "w"]);
    for (const kind of ["classical", "HC0", "HC1", "HC2", "HC3", "HC4"] as const) {
      const test = found.reduced!.tests[kind]!;
      close(test.se, Math.sqrt(V[kind]!.get(1, 1)), kind);
      close(test.t, beta[1]! / Math.sqrt(V[kind]!.get(1, 1)), `t ${kind}`);
      expect(test.df).toBe(N - 3);
    }
    expect(found.reduced!.tests.CR2).toBeNull();
  });

  it("picks the column of the effect, wherever it stands", () => {
    const evidence = run("H1: w raises y through m\nH2: x raises y through m");
    const { beta } = dense("y", ["w", "x"]);
    close(
      total(evidence, "w").reduced!.tests.HC3!.t * total(evidence, "w").reduced!.tests.HC3!.se,
      beta[1]!,
      "w",
    );
    close(
      total(evidence, "x").reduced!.tests.HC3!.t * total(evidence, "x").reduced!.tests.HC3!.se,
      beta[2]!,
      "x",
    );
  });

  it("goes along a series of mediators, whose equations all hold the predictor and the covariate", () => {
    const found = total(
      run("H1: x raises y through g2 then m\nalso x to m, g2 to y\nadjust g2, m, y for w", {
        columns: { x, w, g2: x.map((v, i) => 0.3 * v + w[(i * 7) % N]!), m, y },
        variables: {},
      }),
    );
    close(found.estimate!, dense("y", ["x", "w"]).beta[1]!, "series");
    expect(found.reduced).not.toBeNull();
  });

  it.each([
    ["a covariate is in one equation only", "H1: x raises y through m\nadjust y for w"],
    ["a predictor is in one equation only", "H1: x raises y through m\nalso w to m"],
    ["the mediator takes the whole effect by assumption", "H1: x raises y only through m"],
    [
      "a covariate is itself explained by the predictor",
      "H1: x raises y through m\nalso x to w\nadjust m, y for w",
    ],
    ["a path is moderated", "H1: x raises y through m\nH2: w alters x to m\nalso w to y"],
  ])("does not exist where %s", (_, theory) => {
    for (const effect of run(theory).effects.filter((e) => e.kind === "total" && e.to === "y"))
      expect(effect.reduced).toBeNull();
  });

  it("belongs to total effects alone, and to outcomes with a mediator", () => {
    const evidence = run("H1: x raises y through m\nadjust m, y for w");
    for (const effect of evidence.effects)
      expect(effect.reduced !== null, effect.id).toBe(effect.kind === "total");
    expect(run("H1: x raises y").effects.every((e) => e.reduced === null)).toBe(true);
  });

  it("tests the groups of a predictor together, as the F test of their codes", () => {
    const evidence = run("H1: g affects y through m\nadjust m, y for w");
    const { beta, V } = dense("y", ["g.1", "g.2", "w"]);
    const [omnibus] = totalOmnibusOf(evidence);
    expect(omnibus).toMatchObject({ variable: "g", outcome: "y" });
    for (const kind of ["classical", "HC3"] as const) {
      const test = omnibus!.test[kind]!;
      const F = wald(beta, V[kind]!, [1, 2]);
      close(test.F, F, kind);
      expect([test.df1, test.df2]).toEqual([2, N - 4]);
      expect(test.p).toBeCloseTo(fisherP(F, 2, N - 4), 9);
    }
    expect(totalOmnibusOf(run("H1: g affects y through m\nadjust y for w"))).toEqual([]);
    // A covariate has no total effect to test.
    expect(totalOmnibusOf(run("H1: x affects y through m\nadjust m, y for g"))).toEqual([]);
  });

  it("sees through a residual spread that leaves almost nothing to explain, and through shifts of a million", () => {
    const shifted = total(
      run("H1: x raises y through m\nadjust m, y for w", {
        columns: { x: x.map((v) => v + 1e6), w, g, m: m.map((v) => v + 1e6), y },
      }),
    );
    expect(shifted.reduced).not.toBeNull();
    close(shifted.estimate!, dense("y", ["x", "w"]).beta[1]!, "shifted");
  });
});
