import { describe, expect, it } from "vitest";
import { compileArrows, type Arrow } from "./arrows";
import { maximumLikelihood } from "./maximum-likelihood";
import { sampleMoments } from "./sample-moments";
import { readDelimited } from "../../../formats";
import { Ledger } from "../../../reference/compare";
import { expectedOf, readCase } from "../../../reference/load";

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
