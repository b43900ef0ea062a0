import type { Settings } from "../../study";
import type { OptionSpec } from "../engine";
import { APPROACHES, SCHEMES, type Approach, type Scheme } from "./specification";

/** The choices of this engine. */
export interface CompositeOptions {
  scheme: Scheme;
  /** Which constructs are corrected for their reliability. */
  correction: "reflective" | "none";
  approach: Approach;
  /** What becomes of empty cells. */
  missing: "complete" | "means";
  /** Turn constructs that a resample turned round. */
  align: boolean;
  /**
   * Resamples of the test of exact fit, and permutations of the comparison of groups; 0 for none.
   */
  exactFit: number;
  permutations: number;
  /** Folds and repetitions of out-of-sample prediction; 0 folds for none. */
  folds: number;
  repetitions: number;
  /** The column that says which fold each row is in; null where folds are drawn. */
  foldColumn: string | null;
}

export const OPTIONS: OptionSpec[] = [
  {
    name: "scheme",
    label: "Inner weighting",
    help: "How constructs joined by a path draw on each other while weights are found: by regression on what explains them (path), by correlation (factor), or by its sign alone (centroid).",
    choices: { path: "path", factor: "factor", centroid: "centroid" },
    initial: "path",
  },
  {
    name: "correction",
    label: "Common factors",
    help: "Measures that reflect are common factors: correlations of their scores are corrected for unreliability (consistent estimation). Without correction they count as composites, and paths are too weak.",
    choices: { reflective: "corrected for reliability", none: "as composites, not corrected" },
    initial: "reflective",
  },
  {
    name: "interactions",
    label: "Interactions of constructs",
    help: "Scores multiplied in a second step, or products of items as a construct of their own. Simple slopes exist for the first three.",
    choices: {
      two_stage: "two stages",
      centred: "products of centred items",
      standardised: "products of standardised items",
      raw: "products of raw items",
      orthogonal: "residual products (orthogonalised)",
    },
    initial: "two_stage",
  },
  {
    name: "missing",
    label: "Missing answers",
    help: "Complete cases, or every empty cell filled with the mean of its column, which makes variances and correlations too small.",
    choices: { complete: "complete cases only", means: "mean of the column" },
    initial: "complete",
  },
  {
    name: "signs",
    label: "Signs in resamples",
    help: "A construct's score may point the other way in a resample. It is turned back, or the effects of such resamples are counted as they are; turned constructs are counted in any case.",
    choices: { aligned: "turn them back", counted: "count them as they are" },
    initial: "aligned",
  },
  {
    name: "exact_fit",
    label: "Exact-fit resamples",
    help: "So many resamples of data that have been made to fit tell how large misfit would be by chance; 0 leaves the test out.",
    initial: 0,
  },
  {
    name: "permutations",
    label: "Permutations of groups",
    help: "So many times people are dealt to the groups anew, to see which differences chance makes; 0 leaves the comparison out.",
    initial: 1000,
  },
  {
    name: "folds",
    label: "Folds of prediction",
    help: "Everybody's answers are predicted from a model of all other folds; 0 leaves prediction out.",
    initial: 10,
  },
  {
    name: "repetitions",
    label: "Repetitions of prediction",
    help: "So many ways of dividing people into folds are averaged.",
    initial: 1,
  },
  {
    name: "fold_column",
    label: "Column of folds",
    help: "A column that says which fold each row is in; without one, folds are drawn.",
    column: true,
    initial: "",
  },
];

const MOST = 100_000;

/** The options of a study, as this engine reads them. */
export function optionsOf({ options }: Pick<Settings, "options">): CompositeOptions {
  const text = (name: string): string => {
    const spec = OPTIONS.find((o) => o.name === name);
    return String(options[name] ?? spec?.initial ?? "");
  };
  const count = (name: string): number =>
    Math.max(0, Math.min(MOST, Math.round(Number(text(name))) || 0));
  return {
    scheme: SCHEMES.find((s) => s === text("scheme")) ?? "path",
    correction: text("correction") === "none" ? "none" : "reflective",
    approach: APPROACHES.find((a) => a === text("interactions")) ?? "two_stage",
    missing: text("missing") === "means" ? "means" : "complete",
    align: text("signs") === "aligned",
    exactFit: count("exact_fit"),
    permutations: count("permutations"),
    folds: count("folds"),
    repetitions: Math.max(1, count("repetitions")),
    foldColumn: text("fold_column") || null,
  };
}
