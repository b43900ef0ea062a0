import type { Settings } from "../../study";
import type { OptionSpec } from "../engine";
import { answersOf, type Answers } from "./ordered/choice";
import { ESTIMATORS, type Estimator } from "./specification";

/** How products of latent variables are made. */
export type ProductRule =
  "matched_double" | "all_double" | "matched_residual" | "all_residual" | "full_information";

/** The choices of this engine. */
export interface StructureOptions {
  estimator: Estimator;
  missing: "complete" | "everybody";
  means: boolean;
  scaling: "marker" | "variance";
  convention: "normal" | "wishart";
  interactions: ProductRule;
  /** Items as numbers, as ordered answers, or as the sentences say. */
  answers: Answers;
  /** Resamples of the Bollen-Stine test; 0 for none. */
  bollenStine: number;
}

export const OPTIONS: OptionSpec[] = [
  {
    name: "estimator",
    label: "Estimator",
    help: "Maximum likelihood suits most data. The others weight deviations of moments: by normal theory (GLS), not at all (ULS, which depends on the items' scales), by fourth moments in full (ADF, for large samples) or their diagonal (DWLS).",
    choices: {
      ml: "maximum likelihood (ML)",
      gls: "generalised least squares (GLS)",
      uls: "unweighted least squares (ULS)",
      adf: "asymptotically distribution-free (ADF)",
      dwls: "diagonally weighted least squares (DWLS)",
    },
    initial: "ml",
  },
  {
    name: "answers",
    label: "Answers to items",
    help: "As ordered, an item is what it is: levels of a tendency that is not seen (polychoric correlations, weighted least squares). A line “model … as ordered” says so of one measure.",
    choices: {
      stated: "as the sentences say (numbers, if they say nothing)",
      numbers: "all as numbers",
      ordered: "all as ordered (items of 2 to 7 levels)",
    },
    initial: "stated",
  },
  {
    name: "missing",
    label: "Missing answers",
    help: "Keep everybody uses every answer there is (full-information maximum likelihood); it assumes that what is missing depends only on what was answered.",
    choices: {
      complete: "complete cases only",
      everybody: "keep everybody (full information)",
    },
    initial: "complete",
  },
  {
    name: "interactions",
    label: "Latent interactions",
    help: "Products of items stand for the product of latent variables, or the likelihood is integrated over the moderator (slower, exact under normality).",
    choices: {
      matched_double: "matched products, double mean centring",
      all_double: "all products, double mean centring",
      matched_residual: "matched products, residual centring",
      all_residual: "all products, residual centring",
      full_information: "full information (integration)",
    },
    initial: "matched_double",
  },
  {
    name: "scaling",
    label: "Scale of latent variables",
    help: "From the first item, whose loading is one, or from a variance of one.",
    choices: { marker: "from the first item", variance: "variance of one" },
    initial: "marker",
  },
  {
    name: "means",
    label: "Means",
    help: "Whether intercepts are parameters of the model.",
    choices: { yes: "with means", no: "covariances only" },
    initial: "yes",
  },
  {
    name: "convention",
    label: "Divisor",
    help: "Covariances with divisor n and n F, or with n - 1 and (n - 1) F as some publications have it; the latter has no likelihood.",
    choices: { normal: "n", wishart: "n - 1" },
    initial: "normal",
  },
  {
    name: "bollen_stine",
    label: "Bollen-Stine resamples",
    help: "So many resamples of data that have been made to fit test exact fit without assuming normality; 0 leaves the test out.",
    initial: 0,
  },
];

const MOST_RESAMPLES = 100_000;

/** The options of a study, as this engine reads them. */
export function optionsOf(settings: Settings): StructureOptions {
  const { options } = settings;
  const answers = answersOf(settings);
  const text = (name: string): string => {
    const spec = OPTIONS.find((o) => o.name === name)!;
    return String(options[name] ?? spec.initial);
  };
  const estimator = ESTIMATORS.find((e) => e === text("estimator")) ?? "ml";
  const wishart = text("convention") === "wishart";
  return {
    estimator,
    answers,
    // Pairs of ordered answers need no likelihood to use what there is.
    missing:
      text("missing") === "everybody" && (estimator === "ml" || answers === "ordered")
        ? "everybody"
        : "complete",
    // Divisor n - 1 is a matter of covariances alone.
    means: text("means") === "yes" && !wishart,
    scaling: text("scaling") === "variance" ? "variance" : "marker",
    convention: wishart ? "wishart" : "normal",
    interactions: text("interactions") as ProductRule,
    bollenStine: Math.max(0, Math.min(MOST_RESAMPLES, Math.round(Number(text("bollen_stine"))))),
  };
}
