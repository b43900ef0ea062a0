import { mean, sumOfSquares } from "../../numerics/moments";
import { compileGroups, type Arrow, type ArrowModel } from "./arrows";
import type { ErrorMatrices } from "./error-matrices";
import {
  comparativeFit,
  informationCriteria,
  scaledFit,
  standardisedResiduals,
  type ComparativeFit,
  type InformationCriteria,
  type MomentsCompared,
  type ScaledFit,
} from "./fit-measures";
import type { Estimated } from "./estimated";
import { inner, MomentObjective, times } from "./moment-objective";
import { NormalLikelihood } from "./normal-likelihood";
import { availableMoments, baselineLogLikelihood, saturatedLogLikelihood } from "./sample-moments";
import {
  scoreProducts,
  traceOfProduct,
  weightedFourthMoments,
  type WeightedFourthMoments,
} from "./sandwich";
import { fisherScoring, inverseOf } from "./scoring";
import type { ShiftedFit } from "./ordered/shifted-fit";

/** How well a model reproduces a sample. */
export interface ModelFit {
  /** Discrepancy per case. */
  discrepancy: number;
  /**
   * Unscaled. For ULS and DWLS the statistic has no chi-squared distribution: `p` and all that
   * rests on it are to be withheld.
   */
  plain: ComparativeFit;
  /** Does the unscaled statistic follow a chi-squared distribution where the model holds? */
  chiSquared: boolean;
  srmr: number;
  srmrCovariances: number;
  criteria: InformationCriteria | null;
  satorraBentler: ScaledFit | null;
  yuanBentler: (ScaledFit & { traceSaturated: number; traceModel: number }) | null;
  /** Scaled by tr(U Gamma) / df; estimators that weight moments. */
  scaled: ScaledFit | null;
  /** Scaled and shifted; ordered answers. */
  shifted?: ShiftedFit | null;
}

export function fitOf(model: Estimated, errors: ErrorMatrices, rows: boolean): ModelFit {
  const residuals = standardisedResiduals(momentsCompared(model), model.spec.means);
  return {
    ...residuals,
    ...(model.likelihood ? likelihoodFit(model, errors, rows) : weightedFit(model, rows)),
  };
}

/** Sample (by EM where values are missing) and implied moments of every group. */
export function momentsCompared({ sample, implied, spec, n }: Estimated): MomentsCompared[] {
  const p = spec.observed.length;
  return sample.groups.map((group, g) => {
    const [only] = group.moments;
    const own = sample.missing ? group.saturated : only!;
    return {
      n: spec.convention === "wishart" ? group.n - 1 : sample.groups.length === 1 ? n : group.n,
      means: own.means,
      // What no case has both of is no moment, and leaves no residual.
      covariance: withImplied(own.covariance, implied[g]!.Sigma, group.apart, p),
      apart: group.apart.length,
      impliedMeans: spec.means ? implied[g]!.means.slice(0, p) : own.means,
      implied: implied[g]!.Sigma,
    };
  });
}

function withImplied(
  covariance: Float64Array,
  implied: Float64Array,
  apart: readonly [number, number][],
  p: number,
): Float64Array {
  if (apart.length === 0) return covariance;
  const out = covariance.slice();
  for (const [i, j] of apart) out[i * p + j] = out[j * p + i] = implied[i * p + j]!;
  return out;
}

type Rest = Omit<ModelFit, "srmr" | "srmrCovariances">;

function likelihoodFit(model: Estimated, errors: ErrorMatrices, rows: boolean): Rest {
  const { likelihood, theta, sample, spec, moments, parameters } = model;
  const p = spec.observed.length;
  const n = likelihood!.n;
  const value = likelihood!.valueAt(theta);
  const saturatedModel = sample.missing ? saturatedAt(model) : null;
  const saturated =
    saturatedModel?.value ??
    sample.groups.reduce((sum, g) => sum + saturatedLogLikelihood(g.moments[0]!), 0);
  const baseline = sample.groups.reduce((sum, g) => sum + baselineLogLikelihood(g.moments, p), 0);
  // A saturated model misses zero by rounding error only.
  const chi2 = Math.max(0, 2 * (saturated - value));
  const groups = spec.groups.length;
  const apart = sample.groups.reduce((sum, g) => sum + g.apart.length, 0);
  const own = { chi2, df: moments - parameters };
  const none = { chi2: 2 * (saturated - baseline), df: (groups * p * (p - 1)) / 2 - apart };
  const size = { n, groups };
  const fit: Rest = {
    discrepancy: chi2 / n,
    plain: comparativeFit(own, none, size),
    chiSquared: true,
    criteria:
      spec.convention === "normal"
        ? informationCriteria(value, saturated, baseline, parameters, n)
        : null,
    satorraBentler: null,
    yuanBentler: null,
    scaled: null,
  };
  if (!rows || spec.convention !== "normal" || own.df === 0) return fit;
  return {
    ...fit,
    satorraBentler: errors.fourth && satorraBentler(),
    yuanBentler: yuanBentler(),
  };

  function satorraBentler(): ScaledFit | null {
    const { bread, fourth } = errors;
    const uncorrelated = baselineModel(model);
    const other = weightedFourthMoments(uncorrelated, sample.groups);
    const inverse = inverseOf(uncorrelated.information, uncorrelated.q);
    if (!bread || !inverse) return null;
    const scaling = (of: WeightedFourthMoments, breadOf: Float64Array, df: number): number =>
      (of.trace + (spec.means ? of.meansTrace : 0) - traceOfProduct(breadOf, of.meat)) / df;
    return scaledFit(
      own,
      none,
      scaling(fourth!, bread, own.df),
      scaling(other, inverse, none.df),
      size,
    );
  }

  function yuanBentler(): ModelFit["yuanBentler"] {
    const { observed } = errors.by;
    if (!observed || !errors.scores) return null;
    const traceSaturated = saturatedModel ? saturatedModel.trace() : saturatedTrace(model);
    if (traceSaturated === null) return null;
    const traceModel = traceOfProduct(observed, errors.scores);
    const traceBaseline = baselineTrace(sample, spec.means);
    const fitted = scaledFit(
      own,
      none,
      (traceSaturated - traceModel) / own.df,
      (traceSaturated - traceBaseline) / none.df,
      size,
    );
    return fitted && { ...fitted, traceSaturated, traceModel };
  }
}

/**
 * tr(A^-1 M) of the model in which nothing is correlated: variables stand alone there, so each adds
 * 1 for its mean and (m4 / s^4 - 1) / 2 for its variance, with the moments of its own known values.
 */
function baselineTrace({ groups }: Estimated["sample"], means: boolean): number {
  let trace = 0;
  for (const column of groups.flatMap((g) => g.columns)) {
    const known = column.filter((y) => !Number.isNaN(y));
    const centre = mean(known);
    const variance = sumOfSquares(known, centre) / known.length;
    let fourth = 0;
    for (const y of known) fourth += (y - centre) ** 2 * (y - centre) ** 2;
    const kurtosis = fourth / known.length / (variance * variance);
    trace += (means ? 1 : 0) + (kurtosis - 1) / 2;
  }
  return trace;
}

/** All variables uncorrelated, at its own estimates. */
function baselineModel({ spec, sample }: Estimated): NormalLikelihood {
  const p = spec.observed.length;
  const arrows = (g: number): Arrow[] =>
    spec.observed.flatMap((name): Arrow[] => [
      { kind: "covariance", from: name, to: name, label: `${g} ${name} v`, value: 0 },
      ...(spec.means
        ? [{ kind: "intercept", from: "", to: name, label: `${g} ${name} m`, value: 0 } as const]
        : []),
    ]);
  const models = compileGroups(
    spec.observed,
    [],
    spec.groups.map((_, g) => arrows(g)),
  );
  const theta = sample.groups.flatMap(({ moments }) => {
    const { means, variances } = availableMoments(moments, p);
    return spec.observed.flatMap((_, i) =>
      spec.means ? [variances[i]!, means[i]!] : [variances[i]!],
    );
  });
  const likelihood = new NormalLikelihood(
    models,
    sample.groups.map((g) => ({ patterns: g.moments })),
  );
  likelihood.at(theta);
  return likelihood;
}

/**
 * The unrestricted model where values are missing: its likelihood, and the trace that the scaled
 * test needs.
 */
function saturatedAt({ spec, sample }: Estimated): { value: number; trace: () => number | null } {
  const p = spec.observed.length;
  const together = (g: number, i: number, j: number): boolean =>
    !sample.groups[g]!.apart.some(([one, other]) => one === j && other === i);
  const arrows = (g: number): Arrow[] =>
    spec.observed.flatMap((name, i): Arrow[] => [
      ...spec.observed
        .slice(0, i + 1)
        .flatMap((from, j): Arrow[] =>
          together(g, i, j)
            ? [{ kind: "covariance", from, to: name, label: `${g} ${from} ${name}`, value: 0 }]
            : [],
        ),
      { kind: "intercept", from: "", to: name, label: `${g} ${name} m`, value: 0 },
    ]);
  const models = compileGroups(
    spec.observed,
    [],
    spec.groups.map((_, g) => arrows(g)),
  );
  const theta = sample.groups.flatMap(({ saturated: { means, covariance } }, g) =>
    spec.observed.flatMap((_, i) => [
      ...spec.observed
        .slice(0, i + 1)
        .flatMap((__, j) => (together(g, i, j) ? [covariance[i * p + j]!] : [])),
      means[i]!,
    ]),
  );
  const likelihood = new NormalLikelihood(
    models,
    sample.groups.map((g) => ({ patterns: g.moments })),
  );
  return {
    value: likelihood.valueAt(theta),
    trace: () => {
      likelihood.caseDerivatives();
      const inverse = inverseOf(likelihood.observedInformation(), likelihood.q);
      return inverse && traceOfProduct(inverse, scoreProducts(likelihood, sample.groups));
    },
  };
}

/** tr(As^-1 Ms) of the unrestricted model at complete data: tr(NT(S) Gamma). */
function saturatedTrace({ spec, sample }: Estimated): number {
  const fixed = compileGroups(
    spec.observed,
    [],
    spec.groups.map(() =>
      spec.observed.flatMap((to): Arrow[] => [
        { kind: "covariance", from: to, to, label: null, value: 1 },
      ]),
    ),
  );
  const likelihood = new NormalLikelihood(
    fixed,
    sample.groups.map((g) => ({ patterns: g.moments })),
  );
  // Only the metric matters here: that of the sample covariances instead of what the arrows imply.
  likelihood.parts.forEach(([part], g) => {
    part!.implied.Sigma.set(sample.groups[g]!.moments[0]!.covariance);
    part!.value();
  });
  const { trace, meansTrace } = weightedFourthMoments(likelihood, sample.groups);
  return trace + (spec.means ? meansTrace : 0);
}

function weightedFit(model: Estimated, rows: boolean): Rest {
  const { weighted, spec, theta, moments, parameters } = model;
  const { objective, groups } = weighted!;
  const p = spec.observed.length;
  const n = objective.n;
  const chi2 = Math.max(0, -2 * objective.valueAt(theta));
  const own = { chi2, df: moments - parameters };
  const uncorrelated = independence(model);
  const none = {
    chi2: -2 * uncorrelated.objective.valueAt(uncorrelated.theta),
    df: (spec.groups.length * p * (p - 1)) / 2,
  };
  const size = { n, groups: spec.groups.length };
  const chiSquared = spec.estimator === "gls" || spec.estimator === "adf";
  const scalingOf = (of: MomentObjective, df: number): number | null => {
    const bread = inverseOf(of.information, of.q);
    if (!bread) return null;
    let trace = 0;
    groups.forEach(({ weight, gamma, n: cases }, g) => {
      trace += weightedTrace(weight, gamma!);
      const left = of.jacobian(g).map((column) => column && times(weight, column));
      const right = left.map((column) => column && times(gamma!, column));
      left.forEach((one, a) =>
        right.forEach((two, b) => {
          if (one && two) trace -= bread[a * of.q + b]! * cases * inner(one, two);
        }),
      );
    });
    return trace / df;
  };
  const scaling = rows && own.df > 0 ? scalingOf(objective, own.df) : null;
  const baselineScaling = rows ? scalingOf(uncorrelated.objective, none.df) : null;
  return {
    discrepancy: chi2 / n,
    plain: comparativeFit(own, none, size),
    chiSquared,
    criteria: null,
    satorraBentler: null,
    yuanBentler: null,
    scaled:
      scaling === null || baselineScaling === null
        ? null
        : scaledFit(own, none, scaling, baselineScaling, size),
  };
}

/** tr(W Gamma), of a diagonal W given by its diagonal, too. */
function weightedTrace(weight: Float64Array, gamma: Float64Array): number {
  const m = Math.round(Math.sqrt(gamma.length));
  return weight.length === m
    ? weight.reduce((sum, w, a) => sum + w * gamma[a * m + a]!, 0)
    : traceOfProduct(weight, gamma);
}

/** The independence model by the same estimator with the same weights. */
function independence({ spec, weighted, sample }: Estimated): {
  objective: MomentObjective;
  theta: Float64Array;
} {
  const baseline = baselineModel({ spec, sample } as Estimated);
  const models: ArrowModel[] = baseline.implied.map((i) => i.model);
  const objective = new MomentObjective(models, weighted!.groups, spec.means);
  const p = spec.observed.length;
  const start = sample.groups.flatMap(({ moments }) => {
    const { means, variances } = availableMoments(moments, p);
    return spec.observed.flatMap((_, i) =>
      spec.means ? [variances[i]!, means[i]!] : [variances[i]!],
    );
  });
  const { theta } = fisherScoring(objective, Float64Array.from(start), { close: 1e-20 });
  objective.valueAt(theta);
  objective.derivatives();
  return { objective, theta };
}
