import { centreOf, productColumn, type Column, type UsedCoding } from "../../design";
import {
  addParameter,
  averageLabel,
  byCovariance,
  coefficientLabel,
  coefficientQuantity,
  number,
  parameter,
  parameterAt,
  sdLabel,
  subtract,
  type Covariance,
  type Expression,
  type Parameters,
  type Polynomial,
  type Quantity,
} from "../../model";
import type { Warning } from "../../problems";
import type { CovarianceKind, Settings } from "../../study";
import type { CompiledTheory } from "../../theory";
import type { Fit, Line, ModelData, ResampledFlags, SectionContext } from "../engine";
import { groupingOf, type Grouping } from "../grouping";
import type { Section } from "../sections";
import { compositeSections } from "./composite-section";
import { conditionalCovariance } from "./conditional-covariance";
import { compositeWarnings, resampledWarnings } from "./composite-warnings";
import { estimatedTheory, type EstimatedGroup, type EstimatedTheory } from "./estimated-groups";
import type { FittedComposite, FurtherStudies } from "./fitted-composite";
import { furtherStudies } from "./further-studies";
import { pairsIn, type HtmtPlan } from "./htmt";
import { CompositeKernel, type CompositeProblem } from "./kernel";
import { distinctProducts, same } from "./model";
import { columnsOf } from "./columns";
import { htmtLabel, labelIn, loadingLabel, turnedLabel, weightLabel } from "./labels";
import { optionsOf, type CompositeOptions } from "./options";
import type { AveragePlan, ReportedEquation, ReportPlan } from "./report";
import { theoryComposite, type TheoryComposite } from "./theory-model";
import { wholeSample } from "./whole-sample";

/**
 * A theory among constructs made of their items, estimated by partial least squares; each group by
 * itself.
 */
export class CompositeFit implements Fit<CompositeProblem>, FittedComposite {
  readonly parameters: Parameters;
  readonly covariances: Record<CovarianceKind, Covariance>;
  readonly coefficients: Quantity[];
  readonly columns: ReadonlyMap<string, Column>;
  readonly codings: UsedCoding[];
  readonly products: { outcome: string; column: Column; components: Column[] }[];
  /** Everything is in SDs of scores, whose sampling variation counts. */
  readonly standardised = true;
  readonly unscaledProducts: boolean;
  readonly composite: TheoryComposite;
  readonly groups: EstimatedGroup[];
  readonly unreliable: EstimatedTheory["unreliable"];
  readonly grouping: Grouping;
  readonly options: CompositeOptions;
  private readonly averages: { plan: AveragePlan; to: number }[] = [];
  private studies: FurtherStudies | null = null;
  private readonly measured: { at: number; htmt: HtmtPlan }[];

  /** @throws StudyProblem that says why there is no estimate */
  constructor(
    readonly theory: CompiledTheory,
    readonly data: ModelData,
    readonly settings: Settings,
  ) {
    this.options = optionsOf(settings);
    this.grouping = groupingOf(theory, data);
    const found = estimatedTheory(
      theoryComposite(theory, data, this.options, this.grouping.variable),
      this.grouping,
    );
    this.composite = found.composite;
    this.groups = found.groups;
    this.unreliable = found.unreliable;
    this.unscaledProducts = ["raw", "orthogonal"].includes(this.options.approach);
    this.columns = columnsOf(this.composite, this.grouping, this.groups);
    this.codings = [
      ...(this.grouping.coding ? [this.grouping.coding] : []),
      ...this.composite.codings,
    ];
    this.products = this.composite.model.products.map(({ of, to }) => {
      const components = of.map((key) => this.columns.get(key)!);
      return {
        outcome: to,
        column: productColumn(components, components.map(centreOf)),
        components,
      };
    });
    this.parameters = this.makeParameters();
    this.measured = this.groups.map((_, g) => this.addMeasurement(g));
    const size = this.parameters.covered;
    const none: Covariance = { size, values: new Float64Array(size * size).fill(NaN) };
    this.covariances = byCovariance(() => none) as Record<CovarianceKind, Covariance>;
    this.coefficients = this.reported().map((label) =>
      coefficientQuantity(label, parameter(parameterAt(this.parameters, label))),
    );
  }

  /**
   * Names of parameters that are reported: coefficients, weights, loadings, ratios between
   * constructs.
   */
  private reported(): string[] {
    const { labels, roles } = this.parameters;
    return labels.filter(
      (label, at) =>
        (roles[at] === "coefficient" && !label.endsWith("~ intercept")) || roles[at] === "average",
    );
  }

  readonly slope = (outcome: string, key: string): Polynomial => {
    const terms = this.overGroups(outcome, key);
    for (const { outcome: to, column, components } of this.products) {
      if (to !== outcome || !components.some((c) => c.key === key)) continue;
      const other = components.find((c) => c.key !== key) ?? components[0]!;
      for (const { moderators, expression } of this.overGroups(outcome, column.key))
        terms.push({ moderators: [...moderators, other.key].sort(), expression });
    }
    return terms;
  };

  /** A coefficient in the first group, and what others differ by, each times its code. */
  private overGroups(outcome: string, key: string): Polynomial {
    const each = this.groups.map((_, g) => this.coefficient(outcome, key, g));
    const [first] = each;
    if (!first) return [];
    return [
      { moderators: [], expression: first },
      ...each.slice(1).map((expression, at) => ({
        moderators: [this.grouping.coding!.columns[at]!.key],
        expression: subtract(expression, first),
      })),
    ];
  }

  readonly coefficientOf = (outcome: string, key: string): Polynomial =>
    this.overGroups(outcome, key);

  private coefficient(outcome: string, key: string, group: number): Expression {
    const at = this.parameters.index.get(this.label(outcome, key, group));
    return at === undefined ? number(0) : parameter(at);
  }

  private label(outcome: string, key: string, group: number): string {
    return this.inGroup(group, coefficientLabel(outcome, key));
  }

  private inGroup(group: number, label: string): string {
    return labelIn(group === 0 ? null : this.grouping.names[group]!, label);
  }

  readonly average = (columns: readonly string[]): number => {
    const label = averageLabel(columns);
    const known = this.parameters.index.get(label);
    if (known !== undefined) return known;
    const names = this.composite.model.constructs.map((c) => c.name);
    const to = addParameter(this.parameters, label, "average");
    const coded = columns.map((key) => names.indexOf(key));
    const { coding } = this.grouping;
    const codes = columns.map((key) => coding?.columns.findIndex((c) => c.key === key) ?? -1);
    // Codes of groups are averaged by the kernel's first group alone, so their shares are fixed:
    // groups keep their sizes.
    this.averages.push({
      to,
      plan: codes.every((at) => at < 0)
        ? { kind: "product", constructs: coded }
        : new Set(codes).size === 1
          ? { kind: "share", value: coding!.counts[codes[0]! + 1]! / this.data.sample.rows.length }
          : { kind: "zero" },
    });
    return to;
  };

  vector(): Float64Array {
    // What did not settle is reported as it was left, with a warning.
    const kernel = new CompositeKernel(this.kernelData(), true);
    const out = new Float64Array(kernel.size);
    const all = new Float64Array(this.data.sample.rows.length).fill(1);
    kernel.refit(wholeSample(kernel, all), out, 0);
    return out;
  }

  kernelData(): CompositeProblem {
    return {
      n: this.data.sample.rows.length,
      size: this.parameters.labels.length,
      firstFixed: this.parameters.labels.length,
      groups: this.groups.map(({ built, rows, solution }, g) => ({
        plan: built.plan,
        rows: this.groups.length > 1 ? rows : null,
        report: this.reportPlan(g),
        measurement: {
          ...this.measured[g]!,
          reference: { weights: solution.weights, r: solution.r },
        },
      })),
      align: this.options.align,
    };
  }

  furtherStudies(): FurtherStudies {
    return (this.studies ??= furtherStudies(this));
  }

  sections(context: SectionContext): Section[] {
    return compositeSections(this, context);
  }

  get warnings(): Warning[] {
    return compositeWarnings(this);
  }

  resampledWarnings(found: ResampledFlags): Warning[] {
    return resampledWarnings(this, found);
  }

  lines(): Line[] {
    if (this.groups.length > 1 || this.unscaledProducts) return [];
    const theta = this.vector();
    return this.theory.equations.flatMap(({ outcome }): Line[] => {
      const own = this.products.filter((p) => p.outcome === outcome);
      const block = this.parameters.equations.find((e) => e.outcome === outcome);
      if (own.length === 0 || !block) return [];
      const columns = this.columnsInto(outcome);
      const target = this.columns.get(outcome)!;
      const b = theta.slice(block.start, block.start + block.count);
      return [
        {
          outcome,
          outcomeMean: centreOf(target),
          outcomeSd: target.sd,
          columns,
          b,
          covariances: conditionalCovariance(target.values, columns, b),
          df: () => this.data.sample.rows.length - b.length,
        },
      ];
    });
  }

  points(outcome: string): { y: Float64Array; columns: Column[] } | null {
    const column = this.columns.get(outcome);
    return column ? { y: column.values, columns: this.columnsInto(outcome) } : null;
  }

  private columnsInto(outcome: string): Column[] {
    const { paths } = this.composite.model;
    const mains = paths.flatMap(([from, to]) => (to === outcome ? [this.columns.get(from)!] : []));
    return [...mains, ...this.products.filter((p) => p.outcome === outcome).map((p) => p.column)];
  }

  /** What stands in the vector: coefficients, equation by equation and group by group; then SDs. */
  private makeParameters(): Parameters {
    const parameters: Parameters = {
      labels: [],
      roles: [],
      index: new Map(),
      equations: [],
      covered: 0,
    };
    for (const { outcome } of this.theory.equations) {
      const start = parameters.labels.length;
      const columns = this.columnsInto(outcome);
      this.groups.forEach((_, g) => {
        if (columns.some((c) => c.components) && g === 0)
          addParameter(parameters, coefficientLabel(outcome, "intercept"), "coefficient");
        for (const column of columns)
          addParameter(parameters, this.label(outcome, column.key, g), "coefficient");
      });
      parameters.equations.push({ outcome, start, count: parameters.labels.length - start });
    }
    parameters.covered = parameters.labels.length;
    for (const key of this.columns.keys()) addParameter(parameters, sdLabel(key), "sd");
    return parameters;
  }

  /**
   * Weights, loadings, flags of turned constructs and ratios between constructs of a group join the
   * vector.
   */
  private addMeasurement(g: number): { at: number; htmt: HtmtPlan } {
    const { built } = this.groups[g]!;
    const { constructs } = built.model;
    const { start } = built.plan.layout;
    const at = this.parameters.labels.length;
    const add = (label: string, role: "average" | "flag"): number =>
      addParameter(this.parameters, this.inGroup(g, label), role);
    const items = constructs.flatMap((c) => c.indicators.map((item) => [c.name, item] as const));
    for (const [name, item] of items) add(weightLabel(name, item), "average");
    for (const [name, item] of items) add(loadingLabel(name, item), "average");
    for (const { name } of constructs) add(turnedLabel(name), "flag");
    const htmt: HtmtPlan = {
      blocks: built.stated.constructs.map((_, j) => [start[j]!, start[j + 1]!]),
    };
    for (const [i, j] of pairsIn(htmt))
      add(htmtLabel(constructs[i]!.name, constructs[j]!.name), "average");
    return { at, htmt };
  }

  private reportPlan(g: number): ReportPlan {
    const { built } = this.groups[g]!;
    const { plan, model } = built;
    const names = model.constructs.map((c) => c.name);
    const place = (key: string): number => names.indexOf(key);
    return {
      equations: this.theory.equations.map(({ outcome }) => this.reportedEquation(outcome, g)),
      coded: [...this.composite.coded].flatMap(([key, column]) => {
        const construct = place(key);
        const k = plan.layout.start[construct]!;
        const sd = built.sds[k]!;
        const raw = centreOf(column);
        return [{ construct, sd, raw, centre: (raw - built.means[k]!) / sd }];
      }),
      sds:
        g === 0
          ? [...this.columns.keys()].flatMap((key) =>
              place(key) < 0
                ? []
                : [
                    {
                      construct: place(key),
                      to: parameterAt(this.parameters, sdLabel(key)),
                    },
                  ],
            )
          : [],
      averages: g === 0 ? this.averages : [],
    };
  }

  private reportedEquation(outcome: string, g: number): ReportedEquation {
    const { built } = this.groups[g]!;
    const { plan, model } = built;
    const names = model.constructs.map((c) => c.name);
    const pairs = distinctProducts(built.stated.products);
    const to = names.indexOf(outcome);
    const equation = plan.equations.findIndex((e) => e.outcome === to);
    const { predictors } = plan.equations[equation]!;
    const columns = this.columnsInto(outcome);
    const mains = columns.flatMap((c) => {
      if (c.components) return [];
      const construct = names.indexOf(c.key);
      return [{ construct, at: predictors.indexOf(construct) }];
    });
    const products = this.composite.model.products.filter((p) => p.to === outcome);
    const indicators = plan.productColumns.length > 0;
    return {
      equation,
      outcome: to,
      mains,
      products: products.map(({ of }, i) => ({
        of: [names.indexOf(of[0]), names.indexOf(of[1])],
        at: indicators
          ? predictors.indexOf(
              built.stated.constructs.length + pairs.findIndex((pair) => same(pair, of)),
            )
          : predictors.length + i,
        indicators,
        own: this.unscaledProducts,
      })),
      to: parameterAt(this.parameters, this.label(outcome, columns[0]!.key, g)),
      intercept:
        g === 0 ? (this.parameters.index.get(coefficientLabel(outcome, "intercept")) ?? -1) : -1,
    };
  }
}
