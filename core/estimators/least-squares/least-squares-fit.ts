import {
  Averages,
  buildDesign,
  columnsByKey,
  regressionParameters,
  regressionSlope,
  regressionVector,
  type Column,
  type Design,
} from "../../design";
import {
  byCovariance,
  equationOf,
  gradient,
  isLinear,
  parametersOf,
  type CoefficientTest,
  type Covariance,
  type Expression,
  type FTest,
  type Parameters,
  type Polynomial,
  type Quantity,
} from "../../model";
import { mean } from "../../numerics/moments";
import type { Warning } from "../../problems";
import {
  comparisonIn,
  linearTriads,
  sensitivityOf,
  type SensitivitySection,
} from "../../sensitivity";
import { chosenCovariance, type CovarianceKind, type Settings } from "../../study";
import type { CompiledTheory } from "../../theory";
import { binaryOutcomes, countedOutcomes } from "../straight-outcomes";
import type { ExactTest, Fit, Line, ModelData, SectionContext } from "../engine";
import type { EquationEvidence, EquationsSection, ResidualRows } from "../sections";
import { coefficientQuantities } from "./coefficients";
import { blockOf, covariances, mappedCovariances, type CovarianceSet } from "./covariance";
import { equationEvidence } from "./equations";
import { atTheMeans, fitEquation, fromTheMeans, type EquationFit } from "./fit";
import { inMetric, metricMap, type MetricMap } from "./metric";
import { reducedRegressions, reducedTest, totalOmnibus } from "./reduced";
import { refitProblem, type RefitProblem } from "./refit-problem";
import { residualRows } from "./residuals";
import { degreesOfFreedom, jointF, linearTest } from "./tests";
import { fitWarnings } from "./warnings";

/** Every equation of a theory by least squares, and what can be said of them. */
export class LeastSquaresFit implements Fit<RefitProblem> {
  readonly parameters: Parameters;
  readonly covariances: CovarianceSet;
  readonly coefficients: Quantity[];
  readonly columns: ReadonlyMap<string, Column>;
  readonly codings: Design["codings"];
  readonly standardised: boolean;
  readonly design: Design;
  readonly fits: EquationFit[];
  private readonly averages: Averages;
  /** Covariances with every intercept at the means of its columns. */
  private readonly atMeans: CovarianceSet;
  private readonly maps: MetricMap[];
  /** The fits in the metric in which coefficients are reported; everything else works on `fits`. */
  private readonly reported: EquationFit[];
  private theta: Float64Array | null = null;
  private described: {
    level: number;
    errors: CovarianceKind;
    equations: EquationEvidence[];
  } | null = null;
  private sensitivityHeld: { level: number; sections: SensitivitySection[] } | null = null;
  private reducedHeld: ReturnType<typeof reducedRegressions> | null = null;

  /** @throws StudyProblem for anything that stops the analysis */
  constructor(
    private readonly theory: CompiledTheory,
    private readonly data: ModelData,
    private readonly settings: Settings,
  ) {
    const { typed, variables, sample, clusters } = data;
    const { centring } = settings;
    this.standardised = centring === "standardised";
    this.design = buildDesign(theory.equations, typed, variables, sample, this.standardised);
    this.fits = this.design.equations.map((equation) => fitEquation(equation, clusters));
    this.parameters = regressionParameters(this.design);
    this.averages = new Averages(this.parameters);
    this.columns = columnsByKey(this.design);
    this.codings = this.design.codings;
    // About the means nothing is lost; the other forms follow from there.
    this.atMeans = this.available(covariances(this.fits.map(atTheMeans)));
    this.covariances = mappedCovariances(this.atMeans, this.fits.map(fromTheMeans));
    const components = new Set(theory.equations.flatMap((e) => e.products.flat()));
    this.maps = this.design.equations.map((equation) => metricMap(equation, centring, components));
    this.reported = this.fits.map((fit, g) => inMetric(fit, this.maps[g]!, centring, components));
    this.coefficients = coefficientQuantities(this.parameters, this.maps);
  }

  readonly slope = (outcome: string, key: string): Polynomial =>
    regressionSlope(this.design, this.parameters, outcome, key);
  readonly average = (columns: readonly string[]): number => this.averages.at(columns);

  get products(): Fit["products"] {
    return this.design.equations.flatMap((e) =>
      e.columns.flatMap((c) =>
        c.components ? [{ outcome: e.outcome, column: c, components: c.components }] : [],
      ),
    );
  }

  get warnings(): Warning[] {
    const { sample, variables } = this.data;
    const { level } = this.settings;
    return [
      ...binaryOutcomes(this.theory, variables, false),
      ...countedOutcomes(
        this.design.equations.map((e) => e.outcome),
        this.theory,
        this.data,
      ),
      ...fitWarnings(
        this.reported,
        this.equations(level, chosenCovariance(this.settings)),
        sample.rows,
      ),
    ];
  }

  vector(): Float64Array {
    this.theta ??= regressionVector(
      this.design,
      this.parameters,
      this.averages,
      this.fits.map((fit) => fit.b),
    );
    return this.theta;
  }

  kernelData(): RefitProblem {
    return refitProblem(this.design, this.parameters, this.averages);
  }

  tTest(expression: Expression, kind: CovarianceKind, level: number): CoefficientTest | null {
    const linear = this.linearIn(expression);
    if (!linear) return null;
    const { g, weights } = linear;
    return linearTest(
      this.fits[g]!,
      this.covariances[kind],
      this.parameters.equations[g]!.start,
      kind,
      weights,
      level,
    );
  }

  fTest(expressions: Expression[], kind: CovarianceKind): FTest | null {
    const linear = expressions.map((e) => this.linearIn(e));
    const [first] = linear;
    if (!first || linear.some((l) => l?.g !== first.g)) return null;
    const weights = linear.map((l) => l!.weights);
    return jointF(
      this.fits[first.g]!,
      this.covariances[kind],
      this.parameters.equations[first.g]!.start,
      kind,
      weights,
    );
  }

  exactTest({ kind, from, to }: Quantity, estimate: number, level: number): ExactTest | null {
    return kind === "total" ? reducedTest(this.reduced(), from, to, estimate, level) : null;
  }

  lines(): Line[] {
    return this.fits.flatMap((raw, g) => {
      const { outcome, columns, sdY, y } = raw.equation;
      if (!columns.some((c) => c.components)) return [];
      const fit = atTheMeans(raw);
      return [
        {
          outcome,
          outcomeMean: mean(y),
          outcomeSd: sdY,
          columns,
          b: fit.b,
          covariances: blockOf(this.atMeans, this.parameters.equations[g]!.start, fit.p),
          df: (kind, weights) => degreesOfFreedom(fit, kind, weights),
        },
      ];
    });
  }

  sections({
    bootstrap,
    exact,
    level,
    errors,
  }: SectionContext): (EquationsSection | SensitivitySection)[] {
    const equations = this.equations(level, errors).map((equation, g) => ({
      ...equation,
      coefficients: equation.coefficients.map((coefficient, at) => ({
        ...coefficient,
        bootstrap: bootstrap?.[this.parameters.equations[g]!.start + at] ?? null,
      })),
    }));
    const isExact = (from: string, to: string): boolean => exact.has(`${from}\u0000${to}`);
    return [
      { kind: "equations", equations, totalOmnibus: totalOmnibus(this.reduced(), isExact) },
      ...this.sensitivity(level),
    ];
  }

  /**
   * Rows made up to have certain moments, and clusters, have no rows whose influence could be
   * summed one by one.
   */
  private sensitivity(level: number): SensitivitySection[] {
    if (this.data.momentsOnly || this.data.clusters) return [];
    // Evidence is put together after every batch of replicates; nothing here changes with them.
    if (this.sensitivityHeld?.level === level) return this.sensitivityHeld.sections;
    const sections = sensitivityOf(
      linearTriads(this.theory, this.design, () => true, comparisonIn(this.theory)),
      level,
      this.settings.leftOut,
    );
    this.sensitivityHeld = { level, sections };
    return sections;
  }

  residuals(outcome: string): ResidualRows | null {
    // Rows made up to have the moments of a matrix have no residuals worth a look.
    const fit = this.data.momentsOnly
      ? undefined
      : this.fits.find((f) => f.equation.outcome === outcome);
    return fit ? residualRows(fit, this.data.sample.rows) : null;
  }

  rSquared(outcome: string): number | null {
    return this.fits.find((f) => f.equation.outcome === outcome)?.r2 ?? null;
  }

  points(outcome: string): { y: Float64Array; columns: Column[] } | null {
    const equation = this.design.equations.find((e) => e.outcome === outcome);
    return equation ? { y: equation.y, columns: equation.columns } : null;
  }

  private reduced(): ReturnType<typeof reducedRegressions> {
    this.reducedHeld ??= reducedRegressions(this.theory, this.design, this.data.clusters);
    return this.reducedHeld;
  }

  /** Made when first asked for, and once: nothing here changes with resamples. */
  private equations(level: number, errors: CovarianceKind): EquationEvidence[] {
    if (this.described?.level !== level || this.described.errors !== errors)
      this.described = { level, errors, equations: this.describe(level, errors) };
    return this.described.equations;
  }

  private describe(level: number, errors: CovarianceKind): EquationEvidence[] {
    const { fits, reported, data, covariances: own } = this;
    const same = reported.every((fit, g) => fit === fits[g]);
    const reportedCovariances = same ? own : mappedCovariances(own, this.maps);
    const withZScores = reported.some((fit) => fit.equation.columns.some((c) => c.components));
    return reported.map((fit, g) =>
      equationEvidence({
        fitted: fits[g]!,
        fittedCovariances: own,
        reported: fit,
        reportedCovariances,
        start: this.parameters.equations[g]!.start,
        errors,
        level,
        rows: data.momentsOnly ? null : data.sample.rows,
        standardised: this.standardised,
        withZScores,
      }),
    );
  }

  /** Without rows only classical errors exist. */
  private available(set: CovarianceSet): CovarianceSet {
    if (!this.data.momentsOnly) return set;
    const none = (v: Covariance): Covariance => ({ ...v, values: v.values.map(() => NaN) });
    return byCovariance((kind) =>
      kind === "classical" ? set[kind] : none(set[kind]),
    ) as CovarianceSet;
  }

  /**
   * The one equation whose coefficients an expression is a linear function of, and their weights;
   * null where it is more than that.
   */
  private linearIn(expression: Expression): { g: number; weights: Float64Array } | null {
    const { parameters } = this;
    // Where every variable is a z-score, SDs enter every coefficient, and t limits would take them
    // as known.
    if (this.standardised) return null;
    const used = [...parametersOf(expression)];
    if (used.some((i) => parameters.roles[i] === "sd")) return null;
    const isCoefficient = (i: number): boolean => i < parameters.covered;
    const owners = new Set(used.filter(isCoefficient).map((i) => equationOf(parameters, i)));
    if (owners.size !== 1 || !isLinear(expression, isCoefficient)) return null;
    const [g] = [...owners] as [number];
    const { start, count } = parameters.equations[g]!;
    return { g, weights: gradient(expression, this.vector()).slice(start, start + count) };
  }
}
