import { describe, expect, it } from "vitest";
import { normals } from "../../test-kit";
import { normalEm } from "../../screening/normal-em";
import { patternsOf } from "../../screening/patterns";
import { compileArrows, type Arrow } from "./arrows";
import { arrow } from "./case-kit";
import { addCurvature } from "./curvature";
import { fitModel } from "./fit-model";
import { modelCurvature, throughMoments } from "./moment-curvature";
import { NormalLikelihood } from "./normal-likelihood";
import { casePatterns, patternMoments } from "./sample-moments";
import type { Specification } from "./specification";

const n = 90;
const [f, g, ...noise] = Array.from({ length: 8 }, (_, k) => normals(n, 60 + k)) as [
  number[],
  number[],
  ...number[][],
];
const y = f.map((v, i) => 0.6 * v + g[i]!);
const observed = ["a1", "a2", "a3", "b1", "b2", "b3"];
/** Values go missing here and there, by a rule that leaves many patterns. */
const columns = observed.map((_, j) =>
  Float64Array.from(j < 3 ? f : y, (v, i) =>
    (i + 3 * j) % (5 + j) === 0 ? NaN : 2 + (0.5 + 0.2 * (j % 3)) * v + 0.7 * noise[j]![i]!,
  ),
);
const arrows: Arrow[] = [
  arrow("path", "F", "a1", null),
  arrow("path", "F", "a2", "equal"),
  arrow("path", "F", "a3", "equal"),
  arrow("path", "G", "b1", null),
  arrow("path", "G", "b2", "b2"),
  arrow("path", "G", "b3", "b3"),
  arrow("path", "F", "G", "path"),
  ...[...observed, "F", "G"].map((v) => arrow("covariance", v, v, `${v} v`)),
  arrow("covariance", "a1", "b1", "with"),
  ...observed.map((v) => arrow("intercept", "", v, `${v} m`)),
];
const model = compileArrows(observed, ["F", "G"], arrows);
const patterns = casePatterns(columns);
const likelihood = new NormalLikelihood([model], [{ patterns: patternMoments(columns, patterns) }]);
const theta = Float64Array.from(model.parameters, (label) =>
  label.endsWith(" v") ? 0.8 : label.endsWith(" m") ? 2.1 : label === "with" ? 0.1 : 0.6,
);

describe("second derivatives through the moments", () => {
  it("are those of the patterns one by one", () => {
    expect(patterns.length).toBeGreaterThan(10);
    expect(likelihood.at(theta)).not.toBeNull();
    const [parts] = likelihood.parts;
    const { count, parameter } = parts![0]!.directions;
    const wanted: Float64Array[] = Array.from({ length: count }, (_, s) => {
      const row = new Float64Array(likelihood.q);
      for (const part of parts!)
        for (let t = 0; t < count; t++) addCurvature(part, s, t + 1, row, 0, t);
      return row;
    });
    const curvature = modelCurvature(parts!);
    for (let s = 0; s < count; s++) {
      const row = new Float64Array(likelihood.q);
      for (let t = 0; t < count; t++) {
        expect(curvature.between(s, t)).toBeCloseTo(curvature.between(t, s), 9);
        row[parameter[t]!] = row[parameter[t]!]! + curvature.between(s, t);
      }
      row.forEach((value, a) => expect(value).toBeCloseTo(wanted[s]![a]!, 8));
    }
  });

  it("are differences of the slope, an equality among loadings included", () => {
    likelihood.at(theta);
    const information = likelihood.observedInformation();
    const { q } = likelihood;
    const step = 1e-5;
    for (let a = 0; a < q; a++) {
      const slopes = [step, -step].map((h) => {
        likelihood.valueAt(theta.map((x, i) => (i === a ? x + h : x)));
        likelihood.slope();
        return Float64Array.from(likelihood.score);
      });
      for (let b = 0; b < q; b++) {
        const difference = (slopes[1]![b]! - slopes[0]![b]!) / (2 * step);
        expect(Math.abs(information[a * q + b]! - difference)).toBeLessThan(
          1e-5 * (1 + Math.abs(difference)),
        );
      }
    }
  });

  it("are taken only where that is the shorter way", () => {
    const full = observed.flatMap((to, i) => [
      ...observed.slice(0, i + 1).map((from) => arrow("covariance", from, to, `${from} ${to}`)),
      arrow("intercept", "", to, `${to} m`),
    ]);
    const parts = (list: Arrow[], of: typeof patterns) =>
      new NormalLikelihood(
        [compileArrows(observed, list.some((a) => a.from === "F") ? ["F", "G"] : [], list)],
        [{ patterns: patternMoments(columns, of) }],
      ).parts[0]!;
    expect(throughMoments(parts(full, patterns))).toBe(true);
    expect(throughMoments(parts(full, patterns.slice(0, 1)))).toBe(false);
    const few = observed.map((v) => arrow("covariance", v, v, v));
    expect(throughMoments(parts(few, patterns))).toBe(false);
  });
});

describe("estimates with values missing", () => {
  const spec: Specification = {
    observed,
    latent: ["F", "G"],
    groups: [{ name: "all", arrows }],
    means: true,
    estimator: "ml",
    convention: "normal",
  };
  const fitted = fitModel(spec, { groups: [columns], momentsOnly: false });

  it("lie where the likelihood is flat to the last digits", () => {
    const { likelihood: at, theta: found } = fitted;
    at!.at(found);
    const information = at!.observedInformation();
    at!.score.forEach((slope, a) =>
      expect(Math.abs(slope) / Math.sqrt(information[a * at!.q + a]!)).toBeLessThan(1e-7),
    );
  });

  it("do not depend on the units and the order of the variables", () => {
    const order = [4, 0, 5, 2, 1, 3];
    const moved = fitModel(
      { ...spec, observed: order.map((i) => observed[i]!) },
      { groups: [order.map((i) => columns[i]!)], momentsOnly: false },
    );
    expect(moved.fit.plain.chi2).toBeCloseTo(fitted.fit.plain.chi2, 8);
    expect(moved.fit.yuanBentler!.chi2).toBeCloseTo(fitted.fit.yuanBentler!.chi2, 6);
    const scaled = fitModel(spec, {
      groups: [columns.map((c) => c.map((v) => 100 * v + 1e6))],
      momentsOnly: false,
    });
    expect(scaled.fit.plain.chi2).toBeCloseTo(fitted.fit.plain.chi2, 5);
    expect(scaled.fit.yuanBentler!.chi2).toBeCloseTo(fitted.fit.yuanBentler!.chi2, 4);
  });
});

describe("the normal distribution behind gaps", () => {
  it("is where the likelihood is highest: every step away from it is a step down", () => {
    const found = normalEm(columns, patternsOf(columns, n))!;
    expect(found.converged).toBe(true);
    // Steps that jump ahead come in sooner than one by one.
    expect(found.steps).toBeLessThan(60);
    const p = observed.length;
    const saturated = compileArrows(
      observed,
      [],
      observed.flatMap((to, i) => [
        ...observed.slice(0, i + 1).map((from) => arrow("covariance", from, to, `${from} ${to}`)),
        arrow("intercept", "", to, `${to} m`),
      ]),
    );
    const own = new NormalLikelihood(
      [saturated],
      [{ patterns: patternMoments(columns, patterns) }],
    );
    const point = saturated.parameters.map((label) => {
      const [from, to] = label.split(" ") as [string, string];
      return to === "m"
        ? found.mean[observed.indexOf(from)]!
        : found.covariance[observed.indexOf(from) * p + observed.indexOf(to)]!;
    });
    expect(own.valueAt(point)).toBeCloseTo(found.logLikelihood, 8);
    own.slope();
    own.score.forEach((slope) => expect(Math.abs(slope)).toBeLessThan(1e-7));
  });
});
