/** How the values of a variable are expected to lie. */
export const SHAPES = ["normal", "skewed", "count"] as const;
export type Shape = (typeof SHAPES)[number];

/** What is expected of one variable before there are data. */
export interface ExpectedVariable {
  /**
   * `count`: whole numbers from 0 on around `mean`; `skewed`: a long tail to the right, a skewness
   * of about 2.
   */
  shape?: Shape;
  /** Expected mean of a count. */
  mean?: number;
  /**
   * Binary, ordinal and categorical variables: the share of each level in order, adding up to 1.
   */
  shares?: number[];
  /** What these levels are called, where the variable itself does not say. */
  answers?: string[];
}

/**
 * The expected size of one arrow: a standardised path, or the coefficient of a product of z-scores.
 */
export interface ExpectedSize {
  /** The predictor; for a product the predictor and its moderators. */
  from: string[];
  to: string;
  size: number;
}

/**
 * Correlation of two predictors, or of what is left of two outcomes once their predictors are held.
 */
export interface ExpectedCorrelation {
  a: string;
  b: string;
  r: number;
}

/** What a researcher expects before there are data, and how sure the study is to be. */
export interface StudyPlan {
  sizes: ExpectedSize[];
  correlations: ExpectedCorrelation[];
  /** By the name of a variable; what is not said is normal, or its levels equally likely. */
  variables: Record<string, ExpectedVariable>;
  /** Expected reliability of the score of a measure, by its name. */
  reliabilities: Record<string, number>;
  /**
   * Sizes hold among what is measured, and unreliable scores show less; or they hold among the
   * scores.
   */
  sizesAmong: "constructs" | "scores";
  /** Share of answers missing in every outcome, more of them where `on` is high. */
  missing: { share: number; on: string | null };
  /** People. */
  n: number;
  /** Wanted power. */
  target: number;
  /** Simulated samples for one number of people. */
  samples: number;
  /** Bootstrap samples of each simulated sample. */
  replications: number;
  seed: number;
}

export const DEFAULT_RELIABILITY = 0.8;

export const DEFAULT_PLAN: StudyPlan = {
  sizes: [],
  correlations: [],
  variables: {},
  reliabilities: {},
  sizesAmong: "constructs",
  missing: { share: 0, on: null },
  n: 200,
  target: 0.8,
  samples: 1000,
  replications: 1000,
  seed: 20261,
};

/** The plan of a study, with what was not said filled in. */
export const completePlan = (plan: Partial<StudyPlan> | undefined): StudyPlan => ({
  ...DEFAULT_PLAN,
  ...plan,
});

/** Names an arrow: two are the same if predictor, moderators in any order and outcome are. */
export const arrowKey = ({ from, to }: Pick<ExpectedSize, "from" | "to">): string =>
  [[...from].sort().join("\u0000"), to].join("\u0001");

/** The size of an arrow; null where none was said. */
export function sizeOf(plan: StudyPlan, arrow: Pick<ExpectedSize, "from" | "to">): number | null {
  const key = arrowKey(arrow);
  return plan.sizes.find((s) => arrowKey(s) === key)?.size ?? null;
}

/** The plan with one size said or, with null, unsaid. */
export function withSize(
  plan: StudyPlan,
  arrow: Pick<ExpectedSize, "from" | "to">,
  size: number | null,
): StudyPlan {
  const key = arrowKey(arrow);
  const others = plan.sizes.filter((s) => arrowKey(s) !== key);
  return {
    ...plan,
    sizes: size === null ? others : [...others, { from: [...arrow.from], to: arrow.to, size }],
  };
}

/** The correlation of two variables as it is expected; 0 where none was said. */
export const correlationOf = (plan: StudyPlan, a: string, b: string): number =>
  plan.correlations.find((c) => (c.a === a && c.b === b) || (c.a === b && c.b === a))?.r ?? 0;

/** The plan with one correlation said. */
export const withCorrelation = (
  plan: StudyPlan,
  a: string,
  b: string,
  r: number | null,
): StudyPlan => {
  const others = plan.correlations.filter(
    (c) => !((c.a === a && c.b === b) || (c.a === b && c.b === a)),
  );
  return { ...plan, correlations: r === null ? others : [...others, { a, b, r }] };
};
