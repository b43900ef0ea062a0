import { describe, expect, it } from "vitest";
import { responseAt, pointwiseCritical, testOf, effectAt } from "../core";
import { expectedCausal, responsesOf, runCausal } from "./causal-kit";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

const close = (actual: number, expected: number, relative: number): void =>
  expect(Math.abs(actual - expected)).toBeLessThanOrEqual(
    Math.max(1e-8, relative * Math.abs(expected)),
  );

const KINDS: Record<string, string> = {
  cross_derivative: "cross derivative",
  difference_of_derivatives: "difference over x of the derivative in w",
};

describe.each(["logistic-moderation", "probit-moderation-binary-focal"])("%s", (name) => {
  const expected = expectedCausal(name);
  const { outcome, focal, moderator, covariates = [], family } = expected.settings;
  const slopes = Object.entries<any>(expected.simple_slopes_link).map(([at, slope]) => ({
    at: Number(at.split("=")[1]),
    slope,
  }));
  const evidence = runCausal(
    name,
    [
      `H1: ${focal} raises ${outcome}`,
      `H2: ${moderator} alters ${focal} to ${outcome}`,
      ...(covariates.length > 0 ? [`adjust ${outcome} for ${covariates.join(", ")}`] : []),
      `model ${outcome} as ${family}`,
    ],
    { probes: { [moderator]: slopes.map((s) => s.at) } },
  );
  const moderation = evidence.moderations.find((m) => m.focal === focal)!;

  it("rows, coefficients and their errors", () => {
    expect(evidence.sample.n).toBe(expected.n_used);
    const [model] = responsesOf(evidence).models;
    for (const [term, value] of Object.entries<number>(expected.coefficients)) {
      const own = model!.coefficients.find(
        (c) => [...c.term.split(":")].sort().join(":") === [...term.split(":")].sort().join(":"),
      )!;
      close(own.estimate, value, 1e-6);
      close(own.se.classical, expected.se[term], 1e-5);
    }
  });

  it("simple slopes on the scale of the linear predictor", () => {
    expect(moderation.slopes).toHaveLength(slopes.length);
    for (const { at, slope } of slopes) {
      const own = moderation.slopes.find((s) => s.at[moderator] === at)!;
      const test = own.errors.classical!;
      close(own.estimate, slope.estimate, 1e-6);
      close(test.se, slope.se, 1e-5);
      close(test.t, slope.z, 1e-5);
      expect(Math.abs(test.p - slope.p)).toBeLessThan(1e-6);
      close(test.lower, slope.ci[0], 1e-5);
      close(test.upper, slope.ci[1], 1e-5);
      const read = testOf(
        effectAt(moderation.model, focal, new Map([[moderator, at]])),
        moderation.model,
        0.95,
      )!;
      close(read.upper, slope.ci[1], 1e-5);
    }
  });

  it("regions on the scale of the linear predictor", () => {
    const jn = expected.johnson_neyman_link;
    const own = moderation.johnsonNeyman[0]!.tests.classical!.pointwise;
    close(own.range[0], jn.observed_range[0], 1e-12);
    own.rootsAll.forEach((root, i) => close(root, jn.roots[i], 1e-5));
    expect(own.rootsAll).toHaveLength(jn.roots.length);
    expect(own.rootsInRange).toHaveLength(jn.roots_in_observed_range.length);
    close(own.percentSignificant, 100 * jn.share_of_rows_significant, 1e-9);
  });

  it("predicted probabilities, limits carried over from the linear predictor", () => {
    const { points } = expected.predicted_probabilities;
    for (const point of points) {
      const own = responseAt(
        moderation.model,
        new Map([
          [focal, point[focal]],
          [moderator, point[moderator]],
        ]),
        pointwiseCritical(Infinity, 0.95),
      );
      close(own.estimate, point.probability, 1e-6);
      close(own.lower!, point.ci[0], 1e-5);
      close(own.upper!, point.ci[1], 1e-5);
    }
  });

  it("the interaction on the scale of probabilities", () => {
    const e = expected.interaction_probability_scale;
    const own = responsesOf(evidence).interactions[0]!;
    expect(KINDS[own.kind]).toBe(e.kind);
    close(own.average, e.average, 1e-6);
    close(own.model.se, e.se, 1e-5);
    close(own.minimum, e.minimum, 1e-6);
    close(own.maximum, e.maximum, 1e-6);
    expect(own.shareNegative).toBeCloseTo(e.share_negative, 12);
    expect(own.shareSignificant).toBeCloseTo(e.share_significant, 12);
    expect(evidence.warnings.map((w) => w.code)).toContain("interaction_scale");
  });
});
