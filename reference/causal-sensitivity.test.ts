import { describe, expect, it } from "vitest";
import type { Evidence } from "../core";
import type { LinearSensitivity } from "../core/sensitivity";
import { expectedCausal, runCausal } from "./causal-kit";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

const close = (actual: number, expected: number, relative: number): void =>
  expect(Math.abs(actual - expected)).toBeLessThanOrEqual(
    Math.max(1e-8, relative * Math.abs(expected)),
  );

const sensitivityOf = ({ sections }: Evidence): LinearSensitivity =>
  sections.find((s) => s.kind === "sensitivity")!.effects[0]!;

const expected = expectedCausal("sensitivity-linear");
const { x, mediator, outcome, covariates } = expected.settings;
const theory = [
  `H1: ${x} raises ${outcome} through ${mediator}`,
  `adjust ${mediator}, ${outcome} for ${covariates.join(", ")}`,
];
const leftOut = expected.left_out_variable.map((g: any) => ({
  difference: g.delta,
  effect: g.gamma,
}));

describe.each([
  ["least_squares", {}],
  ["generalised", { options: { treatment_product: "out" } }],
])("sensitivity of an indirect effect, %s", (engine, more) => {
  const own = sensitivityOf(runCausal("sensitivity-linear", theory, { engine, leftOut, ...more }));
  const e = expected.sensitivity;

  it("the curve, with robust errors", () => {
    for (const point of e.curve) {
      const at = own.curve.find((c) => Math.abs(c.rho - point.rho) < 1e-9)!;
      close(at.indirect, point.indirect, 1e-6);
      close(at.indirectSe, point.se_robust, 1e-5);
      close(at.lower, point.ci_robust[0], 1e-5);
      close(at.upper, point.ci_robust[1], 1e-5);
      close(at.direct, point.direct, 1e-6);
      close(at.directSe, point.direct_se_robust, 1e-5);
    }
  });

  it("where it is zero, and where its interval begins to hold zero", () => {
    close(own.rhoAtZero, e.rho_at_zero_indirect, 1e-6);
    close(own.sigmaOutcome, e.sigma1, 1e-6);
    close(own.sigmaMediator, e.sigma2, 1e-6);
    close(own.r2Residual, e.r2_residual_product_at_zero, 1e-6);
    close(own.r2Total, e.r2_total_product_at_zero, 1e-6);
    close(own.r2Mediator, e.r2_mediator_model, 1e-6);
    close(own.r2Outcome, e.r2_outcome_model, 1e-6);
    close(own.indirect, e.product_of_coefficients, 1e-6);
    close(own.total, e.total_effect, 1e-6);
    e.rho_where_interval_includes_zero.forEach((rho: number | null, i: number) => {
      if (rho === null) expect(own.rhoOfInterval[i]).toBeNull();
      else expect(own.rhoOfInterval[i]).toBeCloseTo(rho, 6);
    });
    expect(own.rhoAtZeroDirect).toHaveLength(e.rho_at_zero_direct.length);
    own.rhoAtZeroDirect.forEach((rho, i) => expect(rho).toBeCloseTo(e.rho_at_zero_direct[i], 6));
  });

  it("E-values", () => {
    for (const [effect, value] of Object.entries<any>(expected.e_values)) {
      const found = own.eValues.find((v) => v.effect === effect)!;
      close(found.estimate, value.estimate, 1e-6);
      close(found.se, value.se_model, 1e-5);
      close(found.ratio, value.ratio_used, 1e-6);
      close(found.lower, value.ratio_ci[0], 1e-5);
      close(found.eValue, value.e_value, 1e-6);
      close(found.eValueOfLimit, value.e_value_limit, 1e-5);
    }
  });

  it("a variable that was left out", () => {
    const guesses = own.leftOut.filter((l) => l.covariate === null);
    expected.left_out_variable.forEach((g: any, i: number) => {
      close(guesses[i]!.indirect, g.indirect_adjusted, 1e-6);
      close(guesses[i]!.direct, g.direct_adjusted, 1e-6);
    });
    expect(own.leftOut[0]!.covariate).toBe("age");
  });
});

it("limits of the curve from 5,000 resamples", () => {
  const own = sensitivityOf(
    runCausal("sensitivity-linear", theory, {
      options: { treatment_product: "out" },
      replications: 5000,
      interval: "percentile",
    }),
  );
  for (const point of expected.sensitivity.curve) {
    const { bootstrap } = own.curve.find((c) => Math.abs(c.rho - point.rho) < 1e-9)!;
    const limits = bootstrap!.percentile!;
    const [low, high] = point.bootstrap.percentile_tolerance;
    expect(Math.abs(limits.lower - point.bootstrap.percentile[0])).toBeLessThanOrEqual(low);
    expect(Math.abs(limits.upper - point.bootstrap.percentile[1])).toBeLessThanOrEqual(high);
    expect(bootstrap!.se! / point.bootstrap.bootstrap_se).toBeCloseTo(1, 1);
  }
});
