/** Where something stands in the text of a theory; lines and columns count from 1. */
export interface Place {
  line: number;
  column: number;
  length: number;
}

/** A name as written, with its place. */
export interface NameRef extends Place {
  name: string;
  /**
   * Two levels of a categorical variable that a claim compares: `group ("weekly cafe" against
   * "waiting list")`.
   */
  compared?: LevelPair;
}

/** A difference between levels: the effect at `upper` minus the effect at `lower`. */
export interface LevelPair {
  upper: string;
  lower: string;
}

export type Verb = "raises" | "lowers" | "affects";

/** `H1: hours raises belonging through confidence then friends` */
export interface Hypothesis {
  kind: "hypothesis";
  line: number;
  label: string;
  /** True when the sentence carried no label and was numbered by the parser. */
  numbered: boolean;
  from: NameRef;
  verb: Verb;
  /** Written in the plural: “hours raise”. */
  plural?: boolean;
  to: NameRef;
  /** Chains of mediators, each in order; empty when the claim is the direct effect. */
  chains: NameRef[][];
  /** `only through`: the sentence adds no direct path. */
  only: boolean;
}

export type ModerationVerb = "strengthens" | "weakens" | "alters";

/** `H4: support strengthens hours to belonging through confidence on hours to confidence` */
export interface Moderation {
  kind: "moderation";
  line: number;
  label: string;
  numbered: boolean;
  /** One moderator, or two that act jointly (“support with age”). */
  moderators: NameRef[];
  verb: ModerationVerb;
  plural?: boolean;
  from: NameRef;
  to: NameRef;
  /** Mediators of the path that is moderated, in order; empty for the step from -> to itself. */
  chain: NameRef[];
  only: boolean;
  /**
   * The steps of the path that the moderators act on; empty where other sentences or the path
   * itself tell.
   */
  steps: { from: NameRef; to: NameRef }[];
}

/** `also noise to belonging` */
export interface Also {
  kind: "also";
  line: number;
  steps: { from: NameRef; to: NameRef }[];
}

/** `adjust confidence, belonging for age, months` */
export interface Adjust {
  kind: "adjust";
  line: number;
  outcomes: NameRef[];
  covariates: NameRef[];
}

/** `contrast H1 with H2` */
export interface Contrast {
  kind: "contrast";
  line: number;
  first: NameRef;
  second: NameRef;
}

/** An arithmetic expression over named effects, in an own quantity. */
export type Formula =
  | { kind: "number"; value: number }
  | { kind: "label"; ref: NameRef }
  | {
      kind: "effect";
      which: "direct" | "indirect" | "total";
      from: NameRef;
      to: NameRef;
      chain: NameRef[];
    }
  | { kind: "negative"; of: Formula }
  | { kind: "call"; name: "abs" | "sqrt" | "exp" | "ln"; of: Formula }
  | { kind: "binary"; operator: "+" | "-" | "*" | "/"; left: Formula; right: Formula };

/** `define share as H1 / total hours to belonging` */
export interface Define {
  kind: "define";
  line: number;
  name: NameRef;
  formula: Formula;
}

/**
 * What a measure does with its items: a scale score (averages, sums), a common factor (reflects), a
 * composite (combines).
 */
export type MeasureForm = "averages" | "sums" | "reflects" | "combines";

/** `measure support averages sup1, sup2, reversed sup3 on 1 to 5 with 60 % answered` */
export interface Measure {
  kind: "measure";
  line: number;
  name: NameRef;
  form: MeasureForm;
  items: { ref: NameRef; reversed: boolean }[];
  /** Declared lowest and highest answer of the items. */
  scale: [number, number] | null;
  /** Smallest share of answered items for a score, in percent; null leaves the usual 80. */
  answered: number | null;
  /** Of a latent variable with one item: how reliable that is known to be. */
  reliability?: number;
  /**
   * What gives a latent variable its scale, unless its first item does: another item, or a variance
   * of one.
   */
  scaledBy?: NameRef | "variance";
  /** Of a composite: how its items are weighted; by correlation unless said otherwise. */
  weighting?: Weighting;
  /**
   * The item that a composite, or a factor's score, goes with; most of its items unless said
   * otherwise.
   */
  signedBy?: NameRef;
}

/**
 * By how items go with what the composite is related to, one by one or all together; or all alike.
 */
export const WEIGHTINGS = ["correlation", "regression", "equal"] as const;
export type Weighting = (typeof WEIGHTINGS)[number];

/**
 * An element of a model of covariances, in words: a path, a covariance, a (residual) variance, an
 * intercept.
 */
export type ArrowRef =
  | { kind: "path" | "covariance"; from: NameRef; to: NameRef }
  | { kind: "variance" | "intercept"; of: NameRef };

/** `covary conf1 with conf2`, `covary confidence with support at 0` */
export interface Covary {
  kind: "covary";
  line: number;
  pairs: { a: NameRef; b: NameRef; value: number | null }[];
}

/** `hold confidence to conf2 equal to confidence to conf3`, `hold hours to friends at 0.5` */
export interface Hold {
  kind: "hold";
  line: number;
  arrows: ArrowRef[];
  /** What they are held at; null where they are held equal to one another. */
  value: number | null;
}

/** `free intercept of friends`: estimated, where it would stand at a value by itself. */
export interface Free {
  kind: "free";
  line: number;
  arrows: ArrowRef[];
}

/** What can be held equal between groups. */
export const GROUP_PARTS = ["loadings", "intercepts", "paths", "residuals", "variances"] as const;
export type GroupPart = (typeof GROUP_PARTS)[number];

/** `groups by site with loadings and intercepts equal but intercept of conf2 free` */
export interface Groups {
  kind: "groups";
  line: number;
  by: NameRef;
  equal: GroupPart[];
  free: ArrowRef[];
}

/** What a response may be modelled by. */
export const RESPONSE_MODELS = [
  "linear",
  "logistic",
  "probit",
  "poisson",
  "negative_binomial",
  "ordered",
] as const;
export type ResponseModelId = (typeof RESPONSE_MODELS)[number];

/** `model renewed as logistic`, `model visits as poisson with exposure months` */
export interface ResponseModel {
  kind: "model";
  line: number;
  of: NameRef;
  family: ResponseModelId;
  /** Of a count: for how long, or among how many, it was counted. */
  exposure?: NameRef;
}

/** `compare hours at 6 with 2` */
export interface Compare {
  kind: "compare";
  line: number;
  of: NameRef;
  /** The value that is looked at, and the one it is compared with. */
  values: [number, number];
}

/** `control hours at 2, 5, 8` */
export interface Control {
  kind: "control";
  line: number;
  of: NameRef;
  values: number[];
}

export type Statement =
  | Hypothesis
  | Moderation
  | Also
  | Adjust
  | Contrast
  | Define
  | Measure
  | Covary
  | Hold
  | Free
  | Groups
  | ResponseModel
  | Compare
  | Control;

/**
 * A complaint about the text: what stands there, what was expected, and the nearest known name if
 * there is one.
 */
export interface Complaint extends Place {
  message: string;
  suggestion?: string;
  /** The name, when the complaint is that no variable is called so. */
  unknown?: string;
}

/** What of a theory takes part in nothing, since it could not be read. */
export interface LeftOut {
  line: number;
  /** The line as it stands. */
  text: string;
  /** The label that its author gave it; others keep away from it. */
  label: string | null;
  /** Where only one name of the line is left out, that name. */
  name: string | null;
  /** What is wrong with it. */
  message: string;
}

export interface Theory {
  statements: Statement[];
  /**
   * Names that lines beginning with “measure” give, whether the rest of the line is right or not.
   */
  named: string[];
  complaints: Complaint[];
  leftOut: LeftOut[];
}
