import { centreOf, type Column, type UsedCoding } from "../../design";
import type { ModeratorChange } from "../../effects";
import { pathsBetween, type CompiledTheory } from "../../theory";
import {
  addParameter,
  averageLabel,
  byCovariance,
  coefficientLabel,
  coefficientQuantity,
  parameter,
  sdLabel,
  type Covariance,
  type Expression,
  type Parameters,
  type Polynomial,
  type Quantity,
} from "../../model";
import { StudyProblem, type Warning } from "../../problems";
import { sensitivityOf } from "../../sensitivity";
import type { CovarianceKind, Settings } from "../../study";
import type { Fit, Line, ModelData, QuantityReading, SectionContext } from "../engine";
import type { Section } from "../sections";
import { causalModel, type CausalModel } from "./causal-model";
import { effectPlan, meanNames, type EffectPlan, type TriadMeans } from "./effect-plan";
import { Estimation } from "./estimation";
import { changeLabel, changesOf } from "./changes";
import type { FittedResponses } from "./fitted-responses";
import { ResponseKernel, type ResponseProblem } from "./kernel";
import { linkFormula, linkLabel, linkTriads } from "./link-products";
import { linkLines, linkPoints, linkSlope } from "./lines";
import { effectFormulas, formulaLabel, type EffectFormula } from "./natural-effects";
import { changeOfMeans } from "./moderated-means";
import { optionsOf, type ResponseOptions } from "./options";
import { dependentDesign } from "./rank";
import { reportedCoefficient } from "./reported";
import { responseSection } from "./response-section";
import { blockDifferences, meanDifference } from "./mean-differences";
import { readingOf } from "./reading";
import { responseWarnings } from "./response-warnings";
import { curveFormulas, curveLabel, sensitiveTriads } from "./sensitivity-curve";
import { separatingColumns, separationOf } from "./separation";
import { termName } from "./terms";

/**
 * Responses as generalised linear models, and effects of treatments as differences of potential
 * outcomes.
 */
export class ResponsesFit implements Fit<ResponseProblem>, FittedResponses {
  readonly parameters: Parameters;
  readonly covariances: Record<CovarianceKind, Covariance>;
  readonly held: Covariance;
  readonly coefficients: Quantity[];
  readonly columns: Map<string, Column>;
  readonly codings: UsedCoding[];
  readonly products: { outcome: string; column: Column; components: Column[] }[];
  readonly standardised = false;
  /** A replicate takes a millisecond or more. */
  readonly batch = 400;
  readonly model: CausalModel;
  readonly plan: EffectPlan;
  readonly estimation: Estimation;
  readonly options: ResponseOptions;
  /** Of each triad. */
  readonly formulas: EffectFormula[][];
  private found: Float64Array | null = null;
  private readonly averages: ResponseProblem["averages"] = [];
  private readonly spreads: Column[];
  private readonly spreadsAt: number;

  /** @throws StudyProblem that says why there is no estimate */
  constructor(
    readonly theory: CompiledTheory,
    readonly data: ModelData,
    readonly settings: Settings,
  ) {
    this.options = optionsOf(settings);
    this.model = causalModel(theory, data, this.options, settings.probes);
    this.plan = effectPlan(this.model, theory);
    const { n, responses, design } = this.model;
    const related = relatedEquations(
      theory,
      responses.map((r) => r.outcome),
    );
    this.estimation = new Estimation(
      {
        n,
        equations: responses.map((r) => r.equation),
        functionals: this.plan.functionals,
        wanted: wantedIn(this.plan, theory),
        related,
        together: this.together(related),
      },
      true,
    );
    this.columns = columnsOf(this.model);
    this.codings = design.codings;
    this.products = design.equations.flatMap(({ outcome, columns }) =>
      columns.flatMap((column) =>
        column.components ? [{ outcome, column, components: column.components }] : [],
      ),
    );
    this.parameters = this.makeParameters();
    this.spreads = [...this.columns.values()];
    this.spreadsAt = this.parameters.labels.length;
    for (const column of this.spreads) addParameter(this.parameters, sdLabel(column.key), "sd");
    const theta = this.estimated();
    const { classical, robust, held } = this.estimation.covariances(theta);
    const { size } = this.estimation;
    const none = new Float64Array(size * size).fill(NaN);
    this.covariances = byCovariance((kind) => ({
      size,
      values: kind === "classical" ? classical : kind === "HC0" ? robust : none,
    })) as Record<CovarianceKind, Covariance>;
    this.held = { size, values: held };
    this.formulas = this.plan.triads.map((means) => this.formulasOf(means));
    this.coefficients = this.reported();
  }

  /**
   * The parameters without averages;
   * @throws StudyProblem where a response has no finite estimate
   */
  private estimated(): Float64Array {
    const { estimation, model } = this;
    for (const { outcome, equation, terms } of model.responses) {
      const place = { equation: outcome, variables: [outcome] };
      const names = terms.slice(1).map(termName);
      if (dependentDesign(equation.design, equation.columns))
        throw new StudyProblem("rank_deficient", { outcome, names }, place);
      const separation = separationOf(equation);
      if (separation) {
        const those = separatingColumns(equation).map((k) => names[k - 1]!);
        throw new StudyProblem(separation, { outcome, names: those }, place);
      }
    }
    const out = new Float64Array(estimation.size);
    const ones = new Float64Array(model.n).fill(1);
    const failure = estimation.estimate(ones, model.n, out, 0);
    if (failure)
      throw new StudyProblem(
        "responses_not_fitted",
        { outcome: model.responses.map((r) => r.outcome).join(", ") },
        { variables: model.responses.map((r) => r.outcome) },
      );
    return out;
  }

  private makeParameters(): Parameters {
    const parameters: Parameters = {
      labels: [],
      roles: [],
      index: new Map(),
      equations: [],
      covered: 0,
    };
    for (const { outcome, terms } of this.model.responses) {
      const start = parameters.labels.length;
      for (const term of terms)
        addParameter(
          parameters,
          coefficientLabel(outcome, term.length === 0 ? "intercept" : term.join(":")),
          "coefficient",
        );
      parameters.equations.push({ outcome, start, count: terms.length });
    }
    for (const { outcome, family } of this.model.responses)
      if (family === "linear") addParameter(parameters, `variance(${outcome})`, "coefficient");
    for (const pair of this.estimation.plan.together ?? [])
      addParameter(
        parameters,
        `covariance(${pair.map((e) => this.model.responses[e]!.outcome).join()})`,
        "coefficient",
      );
    meanNames(this.plan).forEach((name, k) =>
      addParameter(parameters, `mean ${k + 1}: ${name}`, "coefficient"),
    );
    parameters.covered = parameters.labels.length;
    return parameters;
  }

  /**
   * Mediators of one block that do not act on one another, and are related by their residuals
   * alone.
   */
  private together(related: readonly [number, number][]): [number, number][] {
    const { responses, triads } = this.model;
    const of = (e: number): string => responses[e]!.outcome;
    return related.filter(([j, k]) =>
      triads.some(({ block }) => block.includes(of(j)) && block.includes(of(k))),
    );
  }

  private formulasOf(means: TriadMeans): EffectFormula[] {
    const { outcome, block, contrast } = means.triad;
    const { family, terms } = this.model.responses.find((r) => r.outcome === outcome)!;
    const crossed = terms.some((t) => t.includes(contrast.key) && block.some((m) => t.includes(m)));
    return effectFormulas(means, family, this.estimation.estimated, crossed);
  }

  /**
   * Everything whose resamples are wanted besides effects: coefficients, means, effects on every
   * scale.
   */
  private reported(): Quantity[] {
    const { estimated } = this.estimation;
    const { labels } = this.parameters;
    return [
      ...labels
        .slice(0, estimated)
        .map((label, at) => coefficientQuantity(label, reportedCoefficient(this, at))),
      ...this.plan.triads.flatMap(({ nested }) =>
        nested
          .flat()
          .map((at) => coefficientQuantity(labels[estimated + at]!, parameter(estimated + at))),
      ),
      ...this.formulas.flatMap((list, t) =>
        list.map((f) => coefficientQuantity(formulaLabel(f, t), f.expression)),
      ),
      ...changesOf(this).flatMap((change) =>
        change.formulas.map((f) => coefficientQuantity(changeLabel(change, f.kind), f.expression)),
      ),
      ...linkTriads(this).flatMap((triad, t) => {
        const formula = linkFormula(this, triad);
        return formula ? [coefficientQuantity(linkLabel(t), formula)] : [];
      }),
      ...sensitiveTriads(this).flatMap((triad, t) =>
        curveFormulas(this, triad).map((e, at) => coefficientQuantity(curveLabel(t, at), e)),
      ),
    ];
  }

  readonly slope = (outcome: string, key: string): Polynomial => linkSlope(this, outcome, key);

  reading(quantity: Quantity): QuantityReading | null {
    return readingOf(this, quantity);
  }

  lines(): Line[] {
    return linkLines(this);
  }

  points(outcome: string): { y: Float64Array; columns: Column[] } | null {
    return linkPoints(this, outcome);
  }

  readonly along = (key: string, nodes: readonly string[]): Expression | null =>
    meanDifference(this, key, nodes);

  readonly curved = (outcome: string): boolean =>
    this.model.responses.some((r) => r.outcome === outcome && r.family !== "linear");

  readonly throughAll = (key: string, outcome: string) => blockDifferences(this, key, outcome);

  readonly changeAlong = (
    key: string,
    nodes: readonly string[],
    changes: readonly ModeratorChange[],
  ): Expression | null =>
    changeOfMeans(this.plan.moderated, key, nodes, changes, this.estimation.estimated);

  readonly average = (columns: readonly string[]): number => {
    const label = averageLabel(columns);
    const known = this.parameters.index.get(label);
    if (known !== undefined) return known;
    const to = addParameter(this.parameters, label, "average");
    const own = columns.map((key) => this.columns.get(key)!);
    this.averages.push({ columns: own.map((c) => c.values), centres: own.map(centreOf), to });
    return to;
  };

  vector(): Float64Array {
    // Averages join one by one; between two of them nothing changes.
    if (this.found?.length === this.parameters.labels.length) return this.found.slice();
    const out = new Float64Array(this.parameters.labels.length);
    const ones = new Float64Array(this.model.n).fill(1);
    new ResponseKernel(this.kernelData(), true).refit(
      { total: this.model.n, weights: () => ones },
      out,
      0,
    );
    this.found = out;
    return out.slice();
  }

  kernelData(): ResponseProblem {
    return {
      plan: this.estimation.plan,
      size: this.parameters.labels.length,
      spreads: this.spreads.map((c) => c.values),
      spreadsAt: this.spreadsAt,
      averages: this.averages,
    };
  }

  /**
   * Coefficients of each equation by itself, residual variances as they are estimated (Imai, Keele
   * & Tingley 2010); means follow.
   */
  get drawing(): NonNullable<Fit["drawing"]> {
    const { estimated } = this.estimation;
    const kind = this.settings.errors === "HC0" ? "HC0" : "classical";
    const { size, values } = this.covariances[kind];
    const own = new Float64Array(estimated * estimated);
    for (const { start, count } of this.parameters.equations)
      for (let j = start; j < start + count; j++)
        for (let k = start; k < start + count; k++) own[j * estimated + k] = values[j * size + k]!;
    const quick = new Estimation(this.estimation.plan, false);
    return {
      covariance: { size: estimated, values: own },
      follow: (vector) => quick.follow(vector),
    };
  }

  sections(context: SectionContext): Section[] {
    const at = new Map(this.coefficients.map((q, i) => [q.label, i]));
    const { level, bootstrap } = context;
    return [
      responseSection(this, context),
      ...sensitivityOf(
        sensitiveTriads(this),
        level,
        this.settings.leftOut,
        (t, point) => bootstrap?.[at.get(curveLabel(t, point))!] ?? null,
      ),
    ];
  }

  get warnings(): Warning[] {
    return responseWarnings(this);
  }
}

/** Every column of every equation, outcomes too. */
function columnsOf({ design }: CausalModel): Map<string, Column> {
  const columns = new Map<string, Column>();
  for (const { columns: own } of design.equations)
    for (const column of own) if (!column.components) columns.set(column.key, column);
  for (const { outcome, y, sdY } of design.equations)
    if (!columns.has(outcome))
      columns.set(outcome, {
        key: outcome,
        variable: outcome,
        label: outcome,
        contrast: null,
        values: y,
        sd: sdY,
        components: null,
      });
  return columns;
}

/**
 * Pairs of equations whose errors may go together: neither explains the other, as with mediators
 * side by side.
 */
function relatedEquations(theory: CompiledTheory, outcomes: readonly string[]): [number, number][] {
  const reaches = (a: string, b: string): boolean => pathsBetween(theory.paths, a, b).length > 0;
  return outcomes.flatMap((a, i) =>
    outcomes
      .slice(0, i)
      .flatMap((b, j): [number, number][] => (reaches(a, b) || reaches(b, a) ? [] : [[i, j]])),
  );
}

/**
 * Functionals that effects are made of; average effects of other columns are told of the sample
 * alone.
 */
function wantedIn(plan: EffectPlan, theory: CompiledTheory): boolean[] {
  const wanted = plan.functionals.map(() => false);
  const want = (...places: number[]): void => places.forEach((k) => (wanted[k] = true));
  for (const { nested, controlled } of plan.triads) {
    want(...nested.flat());
    for (const { x1, x0 } of controlled) want(x1, x0);
  }
  for (const { x1, x0 } of plan.responses) want(x1, x0);
  for (const { at } of plan.moderated) want(...[...at.values()].flatMap((w) => w.means));
  for (const { outcome, key, places } of plan.marginal)
    if (theory.paths.some((p) => p.to === outcome && p.from === key)) want(...places);
  return wanted;
}
