import { pick } from "../../data";
import type { Column, UsedCoding } from "../../design";
import { COVARIANCES, type CovarianceKind, type Settings } from "../../study";
import {
  addParameter,
  averageLabel,
  coefficientLabel,
  coefficientQuantity,
  IMPROPER,
  number,
  parameter,
  parameterAt,
  subtract,
  type Covariance,
  type Expression,
  type Parameters,
  type Polynomial,
  type Quantity,
} from "../../model";
import type { Warning } from "../../problems";
import type { CompiledTheory } from "../../theory";
import { codeColumns } from "../grouping";
import { binaryOutcomes } from "../straight-outcomes";
import type { Fit, Line, ModelData, QuantityReading, SectionContext } from "../engine";
import type { Section } from "../sections";
import { productKey } from "./model-parts";
import { alignedPoints } from "./points";
import { estimatesOf, type Estimates } from "./estimates";
import { estimatorLabel } from "./fit-words";
import { factorScores } from "./factor-scores";
import type { AveragePlan, ReportPlan, StructureProblem } from "./kernel";
import { optionsOf } from "./options";
import { tendencyReading } from "./ordered/answers";
import { orderedProblem, type OrderedProblem } from "./ordered/problem";
import { withoutFreeMeans } from "./profiled";
import { pathScale } from "./product-units";
import { blocksOf, reportedParameters } from "./reported";
import { structureSections } from "./structure-section";
import { theoryModel, unitVariances, type TheoryModel } from "./theory-model";
import { warning } from "./wording";
import { productPlans } from "./theory-data";
import { structureWarnings } from "./structure-warnings";

/** From this share of cases on it is worth saying that all answers can be used. */
const NOTABLE = 0.05;

/** A theory among latent and observed variables, fitted as a model of means and covariances. */
export class StructureFit implements Fit<StructureProblem | OrderedProblem> {
  readonly parameters: Parameters;
  readonly covariances: Record<CovarianceKind, Covariance>;
  readonly coefficients: Quantity[];
  readonly columns: ReadonlyMap<string, Column>;
  readonly codings: UsedCoding[];
  readonly products: { outcome: string; column: Column; components: Column[] }[];
  readonly standardised = false;
  private readonly model: TheoryModel;
  private readonly estimates: Estimates;
  private readonly averages: AveragePlan[] = [];

  /** @throws StudyProblem that says why there is no estimate */
  constructor(
    private readonly theory: CompiledTheory,
    private readonly data: ModelData,
    private readonly settings: Settings,
  ) {
    this.model = theoryModel(theory, data, optionsOf(settings));
    this.estimates = estimatesOf(this.model);
    this.columns = this.makeColumns();
    this.codings = [
      ...(this.model.grouping.coding ? [this.model.grouping.coding] : []),
      ...this.model.codes.codings,
    ];
    this.products = this.productColumns();
    this.parameters = reportedParameters(theory, this.model);
    addParameter(this.parameters, IMPROPER, "flag");
    this.covariances = this.byKind();
    this.coefficients = this.parameters.labels
      .slice(0, this.coefficientCount)
      .flatMap((label, at) =>
        label.endsWith("~ intercept") ? [] : [coefficientQuantity(label, parameter(at))],
      );
  }

  private get coefficientCount(): number {
    return this.parameters.roles.filter((role) => role === "coefficient").length;
  }

  readonly slope = (outcome: string, key: string): Polynomial => {
    const spec = this.theory.equations.find((e) => e.outcome === outcome)!;
    const terms = this.overGroups(outcome, key);
    for (const names of spec.products) {
      const [x, w] = names as [string, string];
      const column = this.products.find(
        (p) => p.outcome === outcome && p.column.key === productKey(names),
      );
      if (!column || (key !== x && key !== w)) continue;
      const other = key === x ? w : x;
      for (const { moderators, expression } of this.overGroups(outcome, column.column.key))
        terms.push({ moderators: [...moderators, other].sort(), expression });
    }
    return terms;
  };

  readonly coefficientOf = (outcome: string, key: string): Polynomial =>
    this.overGroups(outcome, key);

  /** A coefficient in the first group, and what other groups differ by, each times its code. */
  private overGroups(outcome: string, key: string): Polynomial {
    const { names, coding } = this.model.grouping;
    const each = names.map((_, g) => this.coefficient(outcome, key, g));
    const [first] = each;
    return [
      { moderators: [], expression: first! },
      ...each.slice(1).flatMap((expression, at) =>
        JSON.stringify(expression) === JSON.stringify(first)
          ? []
          : [
              {
                moderators: [coding!.columns[at]!.key],
                expression: subtract(expression, first!),
              },
            ],
      ),
    ];
  }

  /** A path's coefficient in a group: a parameter, or the value it is held at. */
  private coefficient(outcome: string, key: string, group: number): Expression {
    const arrow = this.model.built.spec.groups[group]!.arrows.find(
      (a) => a.kind === "path" && a.to === outcome && a.from === this.model.nodeOf(key),
    );
    if (!arrow) {
      const label = coefficientLabel(outcome, key);
      return this.parameters.index.has(label)
        ? parameter(parameterAt(this.parameters, label))
        : number(0);
    }
    return arrow.label === null
      ? number(arrow.value)
      : parameter(parameterAt(this.parameters, arrow.label));
  }

  /**
   * A product of moderators about their means, averaged over the sample: a share of cases, or what
   * their model implies.
   */
  readonly average = (columns: readonly string[]): number => {
    const label = averageLabel(columns);
    const known = this.parameters.index.get(label);
    if (known !== undefined) return known;
    const { coding } = this.model.grouping;
    const groups = columns.map(
      (key) => (coding?.columns.findIndex((c) => c.key === key) ?? -1) + 1,
    );
    const codes = new Set(groups.filter((g) => g > 0));
    const place = (name: string): number => this.model.place(name);
    this.averages.push(
      codes.size === 0 && columns.length === 2
        ? { kind: "covariance", a: place(columns[0]!), b: place(columns[1]!) }
        : codes.size === 1 && groups.every((g) => g > 0)
          ? { kind: "share", group: [...codes][0]! }
          : { kind: "zero" },
    );
    return addParameter(this.parameters, label, "average");
  };

  /** Without the sums that all engines share a replicate takes milliseconds. */
  get batch(): number | undefined {
    const { spec, sample } = this.estimates.fitted;
    if (spec.estimator !== "ml") return 60;
    // Products of items are many variables.
    if (this.products.length > 0) return 120;
    return sample.missing ? 120 : spec.groups.length > 1 ? 600 : undefined;
  }

  vector(): Float64Array {
    return this.estimates.report(this.plan);
  }

  kernelData(): StructureProblem | OrderedProblem {
    const { fitted } = this.estimates;
    return fitted.ordered
      ? orderedProblem(this.model, fitted, fitted.ordered, this.plan)
      : this.problem();
  }

  private problem(): StructureProblem {
    const { model, estimates } = this;
    const { fitted } = estimates;
    const { spec } = model.built;
    const complete = !fitted.sample.missing && spec.estimator === "ml";
    const profiled = complete ? withoutFreeMeans(fitted.models) : null;
    const kept = profiled?.kept ?? fitted.theta.map((_, a) => a);
    const models = profiled?.models ?? fitted.models;
    const q = fitted.theta.length;
    const inverse = fitted.errors.bread ?? null;
    return {
      n: this.data.sample.rows.length,
      p: spec.observed.length,
      values: model.rowMajor(fitted),
      groups: model.patternsOfRows(fitted),
      models,
      start: Float64Array.from(kept, (a) => fitted.theta[a]!),
      inverse:
        inverse &&
        Float64Array.from(
          [...kept].flatMap((a) => [...kept].map((b) => fitted.n * inverse[a * q + b]!)),
        ),
      estimator: spec.estimator,
      means: fitted.spec.means && profiled === null,
      wishart: spec.convention === "wishart",
      plans: productPlans(model.built, new Map(spec.observed.map((name, at) => [name, at]))),
      report: this.reportOf(models[0]!.parameters),
    };
  }

  /** Where what is reported stands among the parameters of a model. */
  private reportOf(labels: readonly string[]): ReportPlan {
    const own = this.parameters.labels.slice(0, this.coefficientCount);
    return {
      coefficients: own.map((label) => labels.indexOf(label)),
      scales: own.map((label) => pathScale(label, this.model.built.spec, labels)),
      sds: this.model.scaled.map((name) => this.model.place(name)),
      averages: this.averages,
    };
  }

  private get plan(): ReportPlan {
    return this.reportOf(this.estimates.fitted.models[0]!.parameters);
  }

  /** An effect on an observed ordered outcome is on the tendency behind its answers. */
  get estimatedBy(): string {
    return estimatorLabel(this.estimates.fitted);
  }

  reading(quantity: Quantity): QuantityReading | null {
    return tendencyReading(this.estimates.fitted.ordered?.names, quantity);
  }

  sections({ level, bootstrap, errors }: SectionContext): Section[] {
    // Nothing of it depends on how many resamples there are, but for what is resampled here itself.
    const key = `${level} ${errors} ${bootstrap !== null}`;
    if (this.said?.key !== key) {
      const sections = structureSections(this.model, this.estimates, {
        level,
        errors,
        theory: this.theory,
        resampled: bootstrap !== null,
        seed: this.settings.seed,
        given: this.data.given ?? null,
      });
      this.said = { key, sections };
    }
    return this.said.sections;
  }
  private said: { key: string; sections: Section[] } | null = null;

  get warnings(): Warning[] {
    const { dropped, n } = this.data.sample;
    const { variables, measures } = this.data;
    const list = [
      ...binaryOutcomes(this.theory, variables, measures.length > 0).filter(
        ({ about }) => !this.estimates.fitted.ordered?.names.has(about[0]!),
      ),
      ...structureWarnings(
        this.model,
        this.estimates,
        dropped.length / (dropped.length + n) > NOTABLE ? dropped.length : 0,
      ),
    ];
    return unitVariances(this.data)
      ? [...list, warning("correlations_as_covariances", {}, [])]
      : list;
  }

  /** Outcomes with products, as lines in their predictors. */
  lines(): Line[] {
    const { spec } = this.model.built;
    if (spec.groups.length > 1) return [];
    return this.theory.equations.flatMap((equation): Line[] => {
      const columns = this.columnsInto(equation.outcome);
      const own = this.products.filter((p) => p.outcome === equation.outcome);
      const start = this.parameters.index.get(coefficientLabel(equation.outcome, "intercept"));
      if (own.length === 0 || start === undefined) return [];
      const labels = columns.map((c) => coefficientLabel(equation.outcome, c.key));
      // Where constraints have made one parameter of two, the equation is no line of its own
      // parameters.
      if (!labels.every((label, at) => this.parameters.index.get(label) === start + 1 + at))
        return [];
      const size = columns.length + 1;
      const theta = this.vector();
      return [
        {
          outcome: equation.outcome,
          outcomeMean: 0,
          outcomeSd: this.columns.get(equation.outcome)!.sd,
          columns,
          b: theta.slice(start, start + size),
          covariances: blocksOf(this.covariances, start, size),
          df: () => Infinity,
        },
      ];
    });
  }

  points(outcome: string): { y: Float64Array; columns: Column[] } | null {
    const column = this.columns.get(outcome);
    return column ? alignedPoints(column, this.columnsInto(outcome), this.data) : null;
  }

  private columnsInto(outcome: string): Column[] {
    const spec = this.theory.equations.find((e) => e.outcome === outcome);
    if (!spec) return [];
    const names = [...new Set([...spec.predictors, ...spec.moderators, ...spec.covariates])];
    const main = names.flatMap((name) =>
      [...this.columns.values()].filter(
        (c) => c.variable === name && name !== this.model.grouping.variable,
      ),
    );
    return [...main, ...this.products.filter((p) => p.outcome === outcome).map((p) => p.column)];
  }

  /** Covariances of coefficients and SDs: SDs are functions of the estimates. */
  private byKind(): Record<CovarianceKind, Covariance> {
    const size = this.parameters.covered;
    const none = new Float64Array(size * size).fill(NaN);
    const known = this.estimates.covariances(this.plan);
    return Object.fromEntries(
      COVARIANCES.map((kind) => [kind, { size, values: known.get(kind) ?? none }]),
    ) as Record<CovarianceKind, Covariance>;
  }

  private makeColumns(): Map<string, Column> {
    const { model, data } = this;
    const scores = factorScores(model, this.estimates);
    const columns = new Map<string, Column>();
    for (const name of model.scaled) {
      const codes = model.codes.of(model.variableOf(name));
      const code = codes?.find((c) => c.key === name);
      if (code) {
        columns.set(name, code);
        continue;
      }
      const latent = model.isLatent(name);
      const values = latent
        ? (scores.get(name) ?? new Float64Array(0))
        : pick(data.typed.get(name)!.values, data.sample.rows).filter((v) => !Number.isNaN(v));
      columns.set(name, {
        key: name,
        variable: name,
        label: name,
        contrast: null,
        values,
        sd: this.estimates.sd(model.place(name)),
        components: null,
      });
    }
    for (const column of codeColumns(model.grouping)) columns.set(column.key, column);
    return columns;
  }

  private productColumns(): StructureFit["products"] {
    const { built } = this.model;
    const made = [
      ...built.products.flatMap(({ key, outcomes, x, w }) =>
        outcomes.map((outcome) => ({ key, outcome, x, w })),
      ),
      ...built.interactions.map(({ x, w, to }) => ({
        key: productKey([x, w]),
        outcome: to,
        x,
        w,
      })),
    ];
    return made.map(({ key, outcome, x, w }) => {
      const components = [this.columns.get(x)!, this.columns.get(w)!];
      const [a, b] = components as [Column, Column];
      return {
        outcome,
        components,
        column: {
          key,
          variable: key,
          label: `${x} × ${w}`,
          contrast: null,
          values: a.values.map((value, i) => value * (b.values[i] ?? NaN)),
          sd: a.sd * b.sd,
          components,
        },
      };
    });
  }
}
