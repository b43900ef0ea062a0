import type { Column } from "../../design";
import { COVARIANCES, type CovarianceKind } from "../../study";
import {
  coefficientLabel,
  coefficientQuantity,
  makeParameters,
  parameter,
  parameterAt,
  type Covariance,
  type Parameters,
  type Polynomial,
  type Quantity,
} from "../../model";
import { pick } from "../../data";
import { StudyProblem, type Warning } from "../../problems";
import type { CompiledTheory, Measure } from "../../theory";
import type { Fit, ModelData, SectionContext } from "../engine";
import type { Section } from "../sections";
import { buildModel, type BuiltModel } from "./build-model";
import { report, type StructureProblem } from "./kernel";
import { maximumLikelihood, type MaximumLikelihoodFit } from "./maximum-likelihood";
import { sampleMoments, saturatedLogLikelihood } from "./sample-moments";
import { structureTables } from "./tables";
import { UNSUITED, warning } from "./wording";

/** A theory among latent and observed variables, fitted by maximum likelihood at complete cases. */
export class StructureFit implements Fit<StructureProblem> {
  readonly parameters: Parameters;
  readonly covariances: Record<CovarianceKind, Covariance>;
  readonly coefficients: Quantity[];
  readonly columns: ReadonlyMap<string, Column>;
  readonly codings = [];
  readonly products = [];
  readonly standardised = false;
  private readonly built: BuiltModel;
  private readonly fit: MaximumLikelihoodFit;
  private readonly data: Float64Array[];
  /** Variables whose implied SDs are parameters, in the order of the parameter vector. */
  private readonly scaled: string[];
  private readonly theta: Float64Array;

  /** @throws StudyProblem `not_available` where there is no estimate, and why */
  constructor(theory: CompiledTheory, data: ModelData) {
    const factors = data.measures;
    this.built = buildModel(theory, factors);
    this.data = observedColumns(this.built.observed, factors, data);
    this.fit = fitted(this.built, this.data);
    const equations = theory.equations.map(({ outcome, predictors, covariates }) => ({
      outcome,
      columns: [...new Set([...predictors, ...covariates])],
    }));
    this.scaled = [...new Set(equations.flatMap((e) => [...e.columns, e.outcome]))];
    this.parameters = makeParameters(equations, this.scaled);
    this.columns = new Map(
      this.scaled.map((name) => [name, this.columnOf(name, factors)] as const),
    );
    this.theta = this.reported();
    this.covariances = this.byKind();
    this.coefficients = this.parameters.labels
      .slice(0, this.parameters.covered)
      .map((label, at) => coefficientQuantity(label, parameter(at)));
  }

  readonly slope = (outcome: string, key: string): Polynomial => {
    const at = parameterAt(this.parameters, coefficientLabel(outcome, key));
    return [{ moderators: [], expression: parameter(at) }];
  };

  readonly average = (): never => {
    throw new Error("Models of latent variables have no averages of moderators.");
  };

  vector(): Float64Array {
    return this.theta;
  }

  kernelData(): StructureProblem {
    const { built, data, fit } = this;
    const n = data[0]!.length;
    const p = data.length;
    const { means, covariance } = sampleMoments(data);
    const scales = Float64Array.from({ length: p }, (_, j) => Math.sqrt(covariance[j * p + j]!));
    const values = new Float64Array(n * p);
    for (let i = 0; i < n; i++)
      for (let j = 0; j < p; j++) values[i * p + j] = (data[j]![i]! - means[j]!) / scales[j]!;
    const model = built.covariances;
    return {
      n,
      values,
      scales,
      model,
      start: Float64Array.from(
        model.parameters,
        (label) => fit.theta[built.whole.parameters.indexOf(label)]!,
      ),
      coefficients: this.places(model.parameters),
      sds: this.scaled.map((name) => model.variables.indexOf(name)),
    };
  }

  sections({ level }: SectionContext): Section[] {
    return structureTables(this.built, this.fit, level);
  }

  get warnings(): Warning[] {
    return [...this.negativeVariances(), ...this.alike()];
  }

  /** The coefficients and SDs of the sample. */
  private reported(): Float64Array {
    const { fit, built, parameters } = this;
    const theta = new Float64Array(parameters.labels.length);
    report(
      fit.implied,
      fit.theta,
      this.places(built.whole.parameters),
      this.scaled.map((name) => built.whole.variables.indexOf(name)),
      theta,
    );
    return theta;
  }

  /** Where each coefficient stands among the parameters of a model. */
  private places(labels: readonly string[]): number[] {
    return this.parameters.labels
      .slice(0, this.parameters.covered)
      .map((label) => labels.indexOf(label));
  }

  /** The normal-theory covariance of the coefficients; the kinds that rest on residuals of rows do not exist here. */
  private byKind(): Record<CovarianceKind, Covariance> {
    const { fit, built } = this;
    const size = this.parameters.covered;
    const places = this.places(built.whole.parameters);
    const { q } = fit.implied;
    const known = new Float64Array(size * size).fill(NaN);
    if (fit.covariance)
      places.forEach((a, i) =>
        places.forEach((b, j) => (known[i * size + j] = fit.covariance![a * q + b]!)),
      );
    const none = new Float64Array(size * size).fill(NaN);
    return Object.fromEntries(
      COVARIANCES.map((kind) => [kind, { size, values: kind === "classical" ? known : none }]),
    ) as Record<CovarianceKind, Covariance>;
  }

  private columnOf(name: string, factors: readonly Measure[]): Column {
    const { implied } = this.fit;
    const i = this.built.whole.variables.indexOf(name);
    const observed = factors.some((m) => m.name.name === name)
      ? -1
      : this.built.observed.indexOf(name);
    return {
      key: name,
      variable: name,
      label: name,
      contrast: null,
      values: observed < 0 ? new Float64Array(0) : this.data[observed]!,
      sd: Math.sqrt(implied.E[i * implied.v + i]!),
      components: null,
    };
  }

  private negativeVariances(): Warning[] {
    const { whole, factors } = this.built;
    const { theta, covariance, implied } = this.fit;
    const latent = new Set(factors.map((m) => m.name.name));
    return whole.slots.flatMap(({ matrix, row, column, parameter: at }) => {
      if (matrix !== "S" || row !== column || at < 0 || theta[at]! >= 0) return [];
      const variable = whole.variables[row]!;
      const name = `${latent.has(variable) ? "variance" : "residual variance"} of “${variable}”`;
      const se = covariance ? Math.sqrt(covariance[at * implied.q + at]!) : null;
      return [warning("negative_variance", { name, estimate: theta[at]!, se }, [variable])];
    });
  }

  private alike(): Warning[] {
    const { variables, observed } = this.built.whole;
    const { E, v } = this.fit.implied;
    const list: Warning[] = [];
    for (let i = observed; i < v; i++)
      for (let j = observed; j < i; j++) {
        const r = E[i * v + j]! / Math.sqrt(E[i * v + i]! * E[j * v + j]!);
        if (!(Math.abs(r) > 1)) continue;
        const [a, b] = [variables[j]!, variables[i]!];
        list.push(warning("latent_correlation", { a, b, r }, [a, b]));
      }
    return list;
  }
}

/** Items, those keyed the other way turned round, and the other variables, on the rows of the sample. */
function observedColumns(
  names: readonly string[],
  factors: readonly Measure[],
  { typed, sample }: ModelData,
): Float64Array[] {
  const turned = new Set(
    factors.flatMap((m) => m.items.filter((i) => i.reversed).map((i) => i.ref.name)),
  );
  return names.map((name) => {
    const values = pick(typed.get(name)!.values, sample.rows);
    // Covariances do not depend on the limits of the scale.
    return turned.has(name) ? values.map((value) => -value) : values;
  });
}

function fitted({ whole, observed }: BuiltModel, data: Float64Array[]): MaximumLikelihoodFit {
  const refuse = (reason: string): never => {
    throw new StudyProblem("engine_unsuited", { reason }, { variables: [] });
  };
  const p = observed.length;
  const moments = (p * (p + 1)) / 2 + p;
  const sample = sampleMoments(data);
  if (sample.n <= p || saturatedLogLikelihood(sample) === -Infinity)
    refuse(UNSUITED.singular(observed));
  if (whole.parameters.length > moments)
    refuse(UNSUITED.negativeDf(whole.parameters.length, moments));
  const result = maximumLikelihood(whole, sample);
  if (result.end === "singular") refuse(UNSUITED.underIdentified);
  if (result.end !== "converged") refuse(UNSUITED.notConverged);
  return result.fit!;
}
