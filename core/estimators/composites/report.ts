import type { CompositeEstimator, SampleMoments } from "./estimator";

/**
 * Where a column that keeps its values stands in SDs of the sample, and its SD there: what turns
 * SDs into steps.
 */
export interface CodedColumn {
  construct: number;
  /** Where it is centred within products, in its own unit. */
  raw: number;
  /** The centre within products, about the mean and in SDs of the sample. */
  centre: number;
  sd: number;
}

/** A product as an equation has it. */
export interface ReportedProduct {
  /** Constructs multiplied. */
  of: [number, number];
  /** Position of its coefficient among those of the equation. */
  at: number;
  /**
   * The coefficient belongs to a construct of products with variance one: divide by the SD of the
   * product of scores.
   */
  indicators: boolean;
  /** It stays as it is, on a scale of its own. */
  own: boolean;
}

export interface ReportedEquation {
  /** Position among the estimator's equations. */
  equation: number;
  outcome: number;
  /** Constructs, and the positions of their coefficients. */
  mains: { construct: number; at: number }[];
  products: ReportedProduct[];
  /** Where the coefficients go: mains, then products. */
  to: number;
  /** Where the mean of the outcome goes; -1 for nowhere. */
  intercept: number;
}

export type AveragePlan =
  { kind: "zero" } | { kind: "share"; value: number } | { kind: "product"; constructs: number[] };

/** What is reported of an estimate, as plain data. */
export interface ReportPlan {
  equations: ReportedEquation[];
  coded: CodedColumn[];
  /** Constructs whose SD is reported (one, but for coded columns), and where. */
  sds: { construct: number; to: number }[];
  averages: { plan: AveragePlan; to: number }[];
}

/** Writes what is reported: coefficients per SD, or per step where a column has steps. */
export class ReportWriter {
  /**
   * Of each construct: its SD in its own unit, and where its centre stands in SDs of this sample.
   */
  private readonly unit: Float64Array;
  private readonly centre: Float64Array;
  /** Of each construct, in its own unit: zero but for coded columns. */
  private readonly mean: Float64Array;
  private readonly scores: Float64Array;

  constructor(
    private readonly plan: ReportPlan,
    private readonly estimator: CompositeEstimator,
  ) {
    const { constructs } = estimator.plan.layout;
    this.unit = new Float64Array(constructs).fill(1);
    this.centre = new Float64Array(constructs);
    this.mean = new Float64Array(constructs);
    this.scores = new Float64Array(constructs);
  }

  write(sample: SampleMoments, out: Float64Array, base: number): void {
    this.findUnits(sample);
    const { estimator, unit, centre } = this;
    const { coefficients, offsets } = estimator;
    for (const { equation, outcome, mains, products, to, intercept } of this.plan.equations) {
      if (intercept >= 0) out[base + intercept] = this.mean[outcome]!;
      const from = offsets[equation]!;
      const scale = unit[outcome]!;
      mains.forEach(({ construct, at }, i) => {
        let b = coefficients[from + at]!;
        for (const q of products) {
          const other = q.of[0] === construct ? q.of[1] : q.of[1] === construct ? q.of[0] : -1;
          if (other >= 0 && !q.own) b += this.product(q, from) * centre[other]!;
        }
        out[base + to + i] = (b * scale) / unit[construct]!;
      });
      products.forEach((q, i) => {
        const b = this.product(q, from);
        out[base + to + mains.length + i] = q.own
          ? b
          : (b * scale) / (unit[q.of[0]]! * unit[q.of[1]]!);
      });
    }
    for (const { construct, to } of this.plan.sds) out[base + to] = unit[construct]!;
    for (const { plan, to } of this.plan.averages) out[base + to] = this.average(plan, sample);
  }

  private product({ at, of, indicators, own }: ReportedProduct, from: number): number {
    const b = this.estimator.coefficients[from + at]!;
    return indicators && !own ? b / this.sdOfProduct(of) : b;
  }

  /** SD of the product of two scores, from the covariances of the products of their items. */
  private sdOfProduct([x, w]: [number, number]): number {
    const { estimator } = this;
    const { layout, productColumns } = estimator.plan;
    const { start, indicators: p } = layout;
    const { weights } = estimator.algorithm;
    const { r, sds } = estimator;
    const within = (j: number, k: number): boolean => k >= start[j]! && k < start[j + 1]!;
    let sum = 0;
    const own = productColumns.filter(({ a, b }) => within(x, a) && within(w, b));
    const size = own.map(
      ({ column, a, b }) => ((weights[a]! * weights[b]!) / (sds[a]! * sds[b]!)) * sds[column]!,
    );
    own.forEach((one, i) =>
      own.forEach((other, j) => {
        sum += size[i]! * size[j]! * r[one.column * p + other.column]!;
      }),
    );
    return Math.sqrt(sum);
  }

  private findUnits({ means }: SampleMoments): void {
    const { start } = this.estimator.plan.layout;
    for (const { construct, centre, sd, raw } of this.plan.coded) {
      const k = start[construct]!;
      const own = this.estimator.sds[k]!;
      this.unit[construct] = sd * own;
      this.centre[construct] = (centre - means[k]!) / own;
      this.mean[construct] = raw - this.centre[construct]! * this.unit[construct]!;
    }
  }

  /** The average over the sample of a product of columns about their centres. */
  private average(plan: AveragePlan, sample: SampleMoments): number {
    if (plan.kind === "zero") return 0;
    if (plan.kind === "share") return plan.value;
    const { unit, centre, estimator } = this;
    const { constructs } = plan;
    const scale = constructs.reduce((all, j) => all * unit[j]!, 1);
    if (constructs.length === 1) return -scale * centre[constructs[0]!]!;
    if (constructs.length === 2) {
      const [a, b] = constructs as [number, number];
      const c = estimator.plan.layout.constructs;
      const share = (sample.total - 1) / sample.total;
      return scale * (estimator.phi[a * c + b]! * share + centre[a]! * centre[b]!);
    }
    return scale * this.overRows(constructs, sample);
  }

  private overRows(constructs: number[], sample: SampleMoments): number {
    const { estimator, centre, scores } = this;
    const { layout, values } = estimator.plan;
    const { start, indicators: p } = layout;
    const { weights } = estimator.algorithm;
    const rowWeights = sample.rowWeights();
    let sum = 0;
    for (let i = 0; i < rowWeights.length; i++) {
      if (rowWeights[i] === 0) continue;
      let product = 1;
      for (const j of constructs) {
        scores[j] = 0;
        for (let k = start[j]!; k < start[j + 1]!; k++)
          scores[j] =
            scores[j]! +
            (weights[k]! * (values[i * p + k]! - sample.means[k]!)) / estimator.sds[k]!;
        product *= scores[j]! - centre[j]!;
      }
      sum += rowWeights[i]! * product;
    }
    return sum / sample.total;
  }
}
