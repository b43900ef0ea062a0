import { describe, expect, it } from "vitest";
import { columnsOf, Differences, expectedOf } from "../../../reference/latent-load";
import { checkEstimates, checkFit, differences, fitTo, specOf } from "./case-kit";
import { fitModel, type FittedModel } from "./fit-model";
import { scoreTests } from "./score-tests";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are read as they stand in the files */

const listed = (...[model, wanted, errors]: any[]): string[] =>
  differences(new Differences(), model, wanted, errors);

describe("models of one group, complete data", () => {
  it.each([
    ["latent-simple-mediation", (e: any) => [[e.model, e.result]], "expected"],
    ["latent-parallel-mediation", (e: any) => [[e.model, e.result]], "expected"],
    ["fiml-15-percent", (e: any) => [[e.model, e.result]], "observed"],
    ["robust-skewed-items", (e: any) => [[e.model, e.result ?? e.full]], "robust"],
    ["observed-saturated-path", (e: any) => [[e.model, e.result]], "expected"],
    ["standardised-path-beyond-one", (e: any) => [[e.model, e.result]], "expected"],
    [
      "one-factor-wellbeing",
      (e: any) => [
        [e.model, e.marker],
        [e.unit_variance.model, e.unit_variance],
        [e.equal_loadings.model, e.equal_loadings],
      ],
      "expected",
    ],
    [
      "observed-path-modification",
      (e: any) => ["step1", "step2", "step3"].map((s) => [e[s].model, e[s]]),
      "expected",
    ],
    ["three-factor-measurement", (e: any) => [[e.model, e.step1]], "expected"],
    [
      "single-indicator-reliability",
      (e: any) => [e.reliability_given, e.reliability_one].map((s) => [s.model, s]),
      "expected",
    ],
    [
      "heywood-case",
      (e: any) => [e.model_one, e.model_two].map((s) => [s.model, s.result ?? s]),
      "expected",
    ],
  ] as [string, (e: any) => [any, any][], "expected" | "observed" | "robust"][])(
    "%s",
    (name, pick, errors) => {
      const data = columnsOf(name);
      const models = pick(expectedOf(name));
      expect(models.length).toBeGreaterThan(0);
      for (const [model, wanted] of models)
        expect(listed(fitTo(specOf(model), data), wanted, errors)).toEqual([]);
    },
  );
});

describe("weighted moments", () => {
  it.each([
    ["with_means", true],
    ["covariances_only", false],
  ])("%s", (part, means) => {
    const expected = expectedOf("estimators-gls-uls-adf-dwls");
    const data = columnsOf("estimators-gls-uls-adf-dwls");
    const out = new Differences();
    for (const [key, estimator] of [
      ["GLS", "gls"],
      ["ULS", "uls"],
      ["WLS", "adf"],
      ["DWLS", "dwls"],
    ] as const) {
      const wanted = expected[part][key];
      const model = fitTo({ ...specOf(expected.model, estimator), means }, data);
      out.same(`${key} F`, model.fit.discrepancy, wanted.fit.F);
      out.same(`${key} T`, model.fit.plain.chi2, wanted.fit.T);
      out.same(`${key} baseline`, model.fit.plain.baseline.chi2, wanted.fit.baseline.T);
      if (wanted.fit.cfi) out.same(`${key} tli`, model.fit.plain.tli, wanted.fit.tli);
      out.same(`${key} c`, model.fit.scaled?.scaling, wanted.fit.scaled.scaling);
      out.same(`${key} c_b`, model.fit.scaled?.baseline.chi2, wanted.fit.scaled.baseline.chi2);
      out.same(`${key} p`, model.fit.scaled?.p, wanted.fit.scaled.p);
      out.same(`${key} srmr`, model.fit.srmr, wanted.fit.srmr);
      checkEstimates(out, model, 0, wanted.estimates, "robust");
    }
    expect(out.list).toEqual([]);
  });
});

describe("two groups", () => {
  const expected = expectedOf("two-group-invariance");
  const data = columnsOf("two-group-invariance");
  const site = data.get("site")!;
  const of = (code: number, name: string): Float64Array =>
    data.get(name)!.filter((_, i) => site[i] === code);
  const fit = (part: any): FittedModel => {
    const spec = specOf(part.model);
    const groups = [1, 2].map((code) => spec.observed.map((name) => of(code, name)));
    return fitModel(spec, { groups, momentsOnly: false });
  };
  it.each(["configural", "metric", "scalar", "partial_scalar"])("%s", (step) => {
    const out = new Differences();
    const model = fit(expected[step]);
    checkFit(out, model, expected[step].fit);
    ["town", "village"].forEach((name, g) =>
      checkEstimates(out, model, g, expected[step].estimates[name], "expected"),
    );
    expect(out.list).toEqual([]);
  });
  it("releases intercepts one by one", () => {
    const tests = scoreTests(fit(expected.scalar)).filter((t) => t.kind === "release");
    const out = new Differences();
    for (const wanted of expected.release_of_intercepts_in_scalar_model) {
      const found = tests.find((t) => t.arrow === wanted.arrow);
      out.same(`${wanted.arrow} mi`, found?.mi, wanted.mi);
      out.same(`${wanted.arrow} epc`, found?.epc, wanted.epc_difference_from_common);
    }
    expect(out.list).toEqual([]);
  });
});
