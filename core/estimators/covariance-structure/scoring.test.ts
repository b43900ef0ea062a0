import { describe, expect, it } from "vitest";
import { compileArrows } from "./arrows";
import { arrow } from "./case-kit";
import { NormalLikelihood } from "./normal-likelihood";
import { CONVERGED, fisherScoring } from "./scoring";

const ITEMS = ["a", "b", "c"];
/** One factor of three items, the first its marker. */
const model = compileArrows(
  ITEMS,
  ["F"],
  [
    arrow("path", "F", "a", null),
    arrow("path", "F", "b", "to b"),
    arrow("path", "F", "c", "to c"),
    ...[...ITEMS, "F"].map((v) => arrow("covariance", v, v, `var ${v}`)),
  ],
);

/** The likelihood of 200 cases whose items have variance one and these covariances. */
const likelihoodOf = (ab: number, ac: number, bc: number): NormalLikelihood =>
  new NormalLikelihood(
    [model],
    [
      {
        patterns: [
          {
            n: 200,
            indices: Int32Array.of(0, 1, 2),
            means: new Float64Array(3),
            covariance: Float64Array.of(1, ab, ac, ab, 1, bc, ac, bc, 1),
          },
        ],
      },
    ],
  );
const start = Float64Array.from(model.parameters, () => 0.5);

describe("Fisher scoring", () => {
  it("ends at the estimates that solve three covariances", () => {
    const { end, theta } = fisherScoring(likelihoodOf(0.42, 0.35, 0.3), start);
    expect(end).toBe("converged");
    const found = Object.fromEntries(model.parameters.map((label, a) => [label, theta[a]!]));
    // Variance of the factor ab ac / bc, loadings bc / ac and bc / ab, what is left of each item.
    const factor = (0.42 * 0.35) / 0.3;
    expect(found["var F"]).toBeCloseTo(factor, 8);
    expect(found["to b"]).toBeCloseTo(0.3 / 0.35, 8);
    expect(found["to c"]).toBeCloseTo(0.3 / 0.42, 8);
    expect(found["var a"]).toBeCloseTo(1 - factor, 8);
    expect(found["var b"]).toBeCloseTo(1 - (0.42 * 0.3) / 0.35, 8);
  });

  it("finds no estimates where covariances have a negative product, and need not wait to say so", () => {
    const likelihood = likelihoodOf(0.4, 0.4, -0.05);
    const patient = fisherScoring(likelihood, start);
    expect(patient.end).toBe("not_converged");
    expect(patient.iterations).toBe(500);
    const quick = fisherScoring(likelihood, start, { patient: false });
    expect(quick.end).toBe("not_converged");
    expect(quick.iterations).toBeLessThan(60);
  });

  it("is as patient with what converges slowly", () => {
    // Two covariances near zero: the factor hardly exists, but it does.
    const likelihood = likelihoodOf(0.06, 0.05, 0.03);
    const patient = fisherScoring(likelihood, start);
    const quick = fisherScoring(likelihood, start, { patient: false });
    expect(patient.end).toBe("converged");
    expect(quick).toEqual(patient);
  });

  it("goes on below the criterion as far as asked, and never stops above it", () => {
    const likelihood = likelihoodOf(0.42, 0.35, 0.3);
    const usual = fisherScoring(likelihood, start);
    const close = fisherScoring(likelihood, start, { close: 1e-24 });
    expect(close.iterations).toBeGreaterThanOrEqual(usual.iterations);
    const slope = (theta: Float64Array): number => {
      likelihood.valueAt(theta);
      likelihood.derivatives();
      return Math.max(...likelihood.score.map(Math.abs)) / 200;
    };
    expect(slope(close.theta)).toBeLessThanOrEqual(slope(usual.theta));
    expect(slope(usual.theta)).toBeLessThan(Math.sqrt(CONVERGED) * 10);
  });
});
