import type { Moderator } from "../effects";
import type { ByCovariance, CoefficientTest } from "../model";
import type { FalseDiscovery, JohnsonNeyman } from "../inference";
import type { ProbeModel } from "./probe-model";

/** A slope at moderator values; numbers in raw units, levels by name. */
export interface ConditionalSlope {
  at: Record<string, number | string>;
  words: string;
  /**
   * Id of the conditional direct effect that it is; null where the slope is no path of the theory.
   */
  effect: string | null;
  estimate: number;
  errors: ByCovariance<CoefficientTest>;
}

export interface JohnsonNeymanSet {
  over: string;
  /** Values of other moderators while this one moves. */
  fixed: Record<string, number | string>;
  words: string;
  tests: ByCovariance<{
    pointwise: JohnsonNeyman;
    simultaneous: JohnsonNeyman;
    falseDiscovery: FalseDiscovery;
  }>;
}

export interface Crossing {
  words: string;
  at: number;
  insideRange: boolean;
  range: [number, number];
  se: ByCovariance<number>;
  /** Where a slope is zero: the values of the moderator that Fieller's method leaves possible. */
  fieller: ByCovariance<FiellerSet> | null;
}

/**
 * Values at which a slope may be zero (Fieller 1954, JRSS-B 16): an interval; everything outside an
 * interval, when the interaction itself may be zero; every value; or none beyond doubt of the
 * ratio.
 */
export interface FiellerSet {
  kind: "interval" | "outside" | "everywhere";
  lower: number | null;
  upper: number | null;
}

export interface LinePoint {
  at: Record<string, number | string>;
  /** On the scale of the linear predictor, where the outcome has a model with a link. */
  predicted: number;
  /** The mean of the outcome there, under the chosen errors: a probability, or a count. */
  response: { estimate: number; lower: number | null; upper: number | null };
  errors: ByCovariance<{ se: number; lower: number; upper: number }>;
}

/**
 * One moderated slope: a column, the outcome, and everything that is said of its effect along the
 * moderators.
 */
export interface ModerationEvidence {
  id: string;
  outcome: string;
  focal: string;
  focalLabel: string;
  focalVariable: string;
  moderators: {
    name: string;
    kind: Moderator["kind"];
    columns: string[];
    probes: { label: string; value: number | null; centred: Record<string, number> }[];
  }[];
  /** A path of the theory, not the mirror of one. */
  path: boolean;
  model: ProbeModel;
  slopes: ConditionalSlope[];
  /** With two moderators acting jointly: the two-way effect along the second. */
  twoWay: {
    with: string;
    over: string;
    slopes: ConditionalSlope[];
    johnsonNeyman: JohnsonNeymanSet | null;
  }[];
  johnsonNeyman: JohnsonNeymanSet[];
  crossings: Crossing[];
  /** Predicted outcomes at the ends of each line, other predictors at their means. */
  lines: { words: string; points: LinePoint[] }[];
}
