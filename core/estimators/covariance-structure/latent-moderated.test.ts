import { describe, expect, it } from "vitest";
import { columnsOf, Differences, expectedOf } from "../../../reference/latent-load";
import { specOf } from "./case-kit";
import { fitModerated } from "./latent-moderated";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are read as they stand in the files */

describe("a latent interaction by full information", () => {
  const expected = expectedOf("interaction-full-information");
  const spec = specOf(expected.model);
  const data = columnsOf("interaction-full-information");
  const fit = fitModerated(spec, [{ x: "advice", w: "noise", to: "wellbeing", label: "b3" }], {
    groups: [spec.observed.map((name) => data.get(name)!)],
    momentsOnly: false,
  });
  it("has the estimates and errors of the exact integral", () => {
    const out = new Differences();
    out.same("logL", fit.logLikelihood, expected.result.loglik);
    out.same(
      "linear",
      fit.linear.fit.criteria!.logLikelihood,
      expected.result.likelihood_ratio_no_interaction.loglik_linear,
    );
    const q = fit.theta.length;
    for (const [arrow, wanted] of Object.entries<any>(expected.result.estimates)) {
      const slot = expected.model.arrows.find((a: any) => a.arrow === arrow);
      const label = slot?.parameter ?? "b3";
      if (arrow.startsWith("1 ->")) continue;
      const at = fit.model.parameters.indexOf(label);
      out.same(arrow, fit.theta[at], wanted.est);
      out.same(`${arrow} se`, Math.sqrt(fit.observed![at * q + at]!), wanted.se_observed);
      out.same(`${arrow} robust`, Math.sqrt(fit.robust![at * q + at]!), wanted.se_robust);
    }
    const { E, means } = fit.likelihood.implied(fit.theta);
    const v = fit.model.variables.length;
    for (const [name, sd] of Object.entries<any>(expected.result.implied_latent_sd)) {
      const i = fit.model.variables.indexOf(name);
      out.same(`sd ${name}`, Math.sqrt(E[i * v + i]!), sd);
      out.same(`mean ${name}`, means[i], expected.result.implied_latent_mean[name]);
    }
    expect(out.list).toEqual([]);
  });
});
