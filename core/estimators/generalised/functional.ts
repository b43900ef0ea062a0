import type { BlockDesigns } from "./block";
import type { Cross } from "./crossed-block";

/**
 * A mean over the rows of the sample that effects are made of, as plain data. Designs are
 * row-major, as wide as their equation.
 */
export type Functional =
  /** Mean response of an equation where some columns are set. */
  | { kind: "response"; equation: number; design: Float64Array }
  /** Mean outcome where the mediator is set: its linear predictor is (base + at x slope) β. */
  | { kind: "controlled"; equation: number; base: Float64Array; slope: Float64Array; at: number }
  /** Mean outcome under one treatment, with the mediator as under another. */
  | {
      kind: "nested";
      outcome: number;
      mediator: number;
      base: Float64Array;
      slope: Float64Array;
      design: Float64Array;
    }
  /** The same with several normal mediators, which may act on one another in their order. */
  | ({ kind: "block"; outcome: number } & BlockDesigns)
  /** The same where some of them stand in one product, for an outcome that is a straight line. */
  | ({ kind: "crossed"; outcome: number; crosses: Cross[] } & BlockDesigns)
  /**
   * Mean change of a response with a column: g'(η) times the derivative of the linear predictor.
   */
  | { kind: "marginal"; equation: number; design: Float64Array; change: Float64Array };
