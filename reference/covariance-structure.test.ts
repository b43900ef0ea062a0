import { describe, expect, it } from "vitest";
import { compileArrows, type Arrow } from "../core/estimators/covariance-structure/arrows";
import { maximumLikelihood } from "../core/estimators/covariance-structure/maximum-likelihood";
import { sampleMoments } from "../core/estimators/covariance-structure/sample-moments";
import { readDelimited } from "../formats";
import { checkTest, Ledger } from "./compare";
import { analyseCase, expectedOf, readCase } from "./load";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

/** “a -> b”, “a <-> b”, “1 -> b”, as the reference writes them. */
function arrowOf({ arrow, free, parameter, value }: any): Arrow {
  const label = free ? (parameter as string) : null;
  const fixed = { label, value: (value as number | undefined) ?? 0 };
  const [from, to] = (arrow as string).split(/ <?-> /) as [string, string];
  if (arrow.includes("<->")) return { kind: "covariance", from, to, ...fixed };
  return from === "1"
    ? { kind: "intercept", from: "", to, ...fixed }
    : { kind: "path", from, to, ...fixed };
}

function fitted(name: string, without: string[] = []) {
  const { model } = expectedOf(name);
  const { table } = readDelimited(readCase(name, "data.csv"), { separator: ",", headerRow: 1 });
  const columns = (model.observed as string[]).map((item) => {
    const column = table.columns.find((c) => c.name === item)!;
    return Float64Array.from(column.codes, (code) => Number(column.dictionary[code]));
  });
  const arrows = (model.arrows as any[])
    .filter((a) => !without.includes(a.arrow as string))
    .map(arrowOf);
  const compiled = compileArrows(model.observed as string[], model.latent as string[], arrows);
  const sample = sampleMoments(columns);
  return { compiled, sample, columns, fit: maximumLikelihood(compiled, sample).fit! };
}

describe("a latent mediation by maximum likelihood", () => {
  const expected = expectedOf("latent-simple-mediation");
  const { compiled, fit } = fitted("latent-simple-mediation");

  it("has the estimates and expected standard errors of the reference", () => {
    const ledger = new Ledger();
    const { q } = fit.implied;
    for (const { arrow, free, parameter } of expected.model.arrows) {
      if (!free) continue;
      const at = compiled.parameters.indexOf(parameter as string);
      const estimate = expected.result.estimates[arrow];
      ledger.same(arrow, fit.theta[at], estimate.est, 1e-7);
      ledger.same(
        `${arrow} se`,
        Math.sqrt(fit.covariance![at * q + at]!),
        estimate.se_expected,
        1e-6,
      );
    }
    expect(ledger.off).toEqual([]);
    expect(ledger.checked).toBe(72);
  });

  it.each([
    ["whole", [], "result"],
    ["without the direct path", ["advice -> wellbeing"], "without_direct_path"],
  ])("has the fit measures of the reference: %s", (_, without, key) => {
    const { measures } = fitted("latent-simple-mediation", without).fit;
    const { fit: wanted } = expected[key];
    const ledger = new Ledger();
    for (const [name, found, value] of [
      ["chi2", measures.chi2, wanted.chi2],
      ["df", measures.df, wanted.df],
      ["p", measures.p, wanted.p],
      ["baseline chi2", measures.baseline.chi2, wanted.baseline.chi2],
      ["baseline df", measures.baseline.df, wanted.baseline.df],
      ["cfi", measures.cfi, wanted.cfi],
      ["tli", measures.tli, wanted.tli],
      ["rmsea", measures.rmsea, wanted.rmsea],
      ["rmsea lower", measures.rmseaLimits[0], wanted.rmsea_ci90[0]],
      ["rmsea upper", measures.rmseaLimits[1], wanted.rmsea_ci90[1]],
      ["close fit", measures.closeFit, wanted.close_fit_p],
      ["srmr", measures.srmr, wanted.srmr],
      ["srmr, covariances", measures.srmrCovariances, wanted.srmr_covariances_only],
      ["log-likelihood", measures.logLikelihood, wanted.loglik],
      ["aic", measures.aic, wanted.aic],
      ["bic", measures.bic, wanted.bic],
      ["sabic", measures.sabic, wanted.sabic],
    ] as const)
      if (value !== undefined) ledger.same(name, found, value, 1e-7);
    expect(ledger.off).toEqual([]);
    expect(ledger.checked).toBeGreaterThan(10);
  });
});

describe("the same through the entry of app and command line", () => {
  const expected = expectedOf("latent-simple-mediation").result;
  const evidence = analyseCase("latent-simple-mediation", (json) => {
    json.settings = { replications: 0, interval: "delta" };
  });
  const effect = (id: string) => evidence.effects.find((e) => e.id === id)!;

  it("has direct, indirect and total effects with their delta-method errors", () => {
    const { unstandardised } = expected.effects["advice => wellbeing"];
    const ledger = new Ledger();
    for (const [id, wanted] of [
      ["direct advice > wellbeing", unstandardised.direct],
      ["total advice > wellbeing", unstandardised.total],
      [
        "indirect advice > skill > wellbeing",
        unstandardised.specific_indirect["advice -> skill -> wellbeing"],
      ],
    ] as const) {
      const { estimate, delta } = effect(id);
      ledger.same(id, estimate, wanted.est, 1e-6);
      checkTest(ledger, id, delta.joint.classical, wanted);
    }
    expect(ledger.off).toEqual([]);
    expect(evidence.estimator.id).toBe("covariance_structure");
    expect(evidence.errors).toBe("classical");
  });

  it("has the standardised effects", () => {
    const { standardised } = expected.effects["advice => wellbeing"];
    const ledger = new Ledger();
    ledger.same(
      "direct",
      effect("completely standardised direct advice > wellbeing").estimate,
      standardised.direct.est,
      1e-6,
    );
    ledger.same(
      "total",
      effect("completely standardised total advice > wellbeing").estimate,
      standardised.total.est,
      1e-6,
    );
    expect(ledger.off).toEqual([]);
  });

  it("does not depend on the direction in which an item is written, nor on the order of items but the first", () => {
    const other = analyseCase("latent-simple-mediation", (json) => {
      json.settings = { replications: 0, interval: "delta" };
      json.derived = [
        { name: "back", recipe: { kind: "formula", formula: "10 - adv3" } },
        { name: "shifted", recipe: { kind: "formula", formula: "skl2 + 1000000" } },
      ];
      json.theory[0] = "measure advice reflects adv1, adv4, reversed back, adv2";
      json.theory[1] = "measure skill reflects skl1, shifted, skl3, skl4";
    });
    for (const { id, estimate, delta } of evidence.effects) {
      const found = other.effects.find((e) => e.id === id)!;
      expect(found.estimate).toBeCloseTo(estimate!, 6);
      const se = delta.joint.classical?.se;
      if (se !== undefined) expect(found.delta.joint.classical!.se).toBeCloseTo(se, 6);
    }
  });

  it("is resampled to the same digits on any number of pieces, near the reference's limits", () => {
    const run = () =>
      analyseCase("latent-simple-mediation", (json) => {
        json.settings = { replications: 400, interval: "percentile" };
      });
    const found = run();
    expect(run()).toEqual(found);
    const indirect = found.effects.find((e) => e.id === "indirect advice > skill > wellbeing")!;
    const { percentile } = expectedOf("latent-simple-mediation").bootstrap_large.indirect;
    expect(indirect.shown!.lower).toBeCloseTo(percentile[0] as number, 1);
    expect(indirect.shown!.upper).toBeCloseTo(percentile[1] as number, 1);
    expect(found.bootstrap!.failed).toBe(0);
  });
});
