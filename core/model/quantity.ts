import type { Expression } from "./expression";

export type EffectKind =
  | "direct"
  | "specific_indirect"
  | "total_indirect"
  | "total"
  | "contrast"
  | "proportion_mediated"
  | "ratio_to_direct"
  | "partially_standardised"
  | "completely_standardised"
  | "explained_variance"
  | "combined_indirect"
  | "average_direct"
  | "average_indirect"
  | "average_total"
  | "average_change"
  | "comparison"
  | "interaction"
  | "conditional_direct"
  | "conditional_indirect"
  | "conditional_contrast"
  | "conditional_index"
  | "index"
  | "curve"
  | "own";

/** Something to be estimated: a labelled function of the parameter vector. */
export interface Quantity {
  /**
   * Stable and readable: `indirect hours > confidence > belonging`. Never taken apart: what it says
   * stands in the fields.
   */
  id: string;
  kind: EffectKind;
  /** For people: “hours on belonging through confidence”. */
  label: string;
  /**
   * The design column the effect starts from (`hours`, `group.1`); null where that has no meaning.
   */
  from: string | null;
  to: string | null;
  /** Mediators of a specific indirect effect, in order. */
  via: string[];
  /** The quantity this one rescales or summarises. */
  of: string | null;
  expression: Expression;
  /**
   * What follows the word for its kind where it stands among the effects of one predictor on one
   * outcome, with what parts the two: “ through m at low w (1.20)”, “, x × w”.
   */
  detail?: string;
  /** Comparisons of levels: the kind of effect that is compared, and between which. */
  compared?: { kind: EffectKind; variable: string; upper: string; lower: string };
  /**
   * Differences between levels: which of them belong together when p is adjusted for their number.
   */
  family?: string;
  /** Conditional effects: at which probe of each moderator, by the probe's label. */
  at?: Record<string, string>;
  /** Indices: the columns by which the effect is differentiated. */
  by?: string[];
  /** Moderated effects: averaged over the cases of the sample. */
  averaged?: boolean;
  /** A derivative that is taken from values around what each row has. */
  fromDifferences?: true;
  /** A difference of means between the two values that are compared of its predictor. */
  difference?: true;
  /**
   * A product of coefficients on the scale of the model, beside effects that are differences of
   * means.
   */
  linkScale?: boolean;
}

/**
 * A coefficient as it is reported, as a quantity, so that it gets the same intervals as an effect.
 */
export const coefficientQuantity = (label: string, expression: Expression): Quantity => ({
  id: label,
  kind: "direct",
  label,
  from: null,
  to: null,
  via: [],
  of: null,
  expression,
});
