import { pClause, plain } from "../../wording/numbers";
import { listed } from "../../wording";
import type { FittedModel } from "./fit-model";
import type { ModelFit } from "./model-fit";
import type { Estimator } from "./specification";
import type { TheoryModel } from "./theory-model";

const ESTIMATOR_WORDS: Record<Estimator, string> = {
  ml: "maximum likelihood",
  gls: "generalised least squares",
  uls: "unweighted least squares",
  adf: "asymptotically distribution-free weights (ADF)",
  dwls: "diagonally weighted least squares",
};

/** The estimator in a few words, for heads of screens. */
export const estimatorLabel = ({ spec, ordered }: FittedModel): string =>
  ordered
    ? `ordered answers, ${spec.estimator === "adf" ? "WLS" : spec.estimator.toUpperCase()}`
    : ESTIMATOR_WORDS[spec.estimator];

const ERROR_WORDS: Record<string, string> = {
  expected: "standard errors from the expected information",
  observed: "standard errors from the observed information",
  robust: "robust (sandwich) standard errors",
  robust_expected: "robust standard errors from the expected information",
  naive: "standard errors that take the weights as right",
  normal_theory: "standard errors by normal theory",
};

/** How a model was estimated, as a report says it. */
export function methodWords(
  { options, built, grouping }: TheoryModel,
  { spec, sample, n, ordered }: FittedModel,
  errors: string,
): string {
  if (ordered) return orderedWords(spec, sample.groups[0]!.patterns.length > 1, n);
  const missing = sample.missing
    ? "all answers of everybody were used (full information)"
    : "complete cases";
  const groups =
    grouping.names.length > 1 ? `, in ${grouping.names.length} groups by ${grouping.variable}` : "";
  const products =
    built.interactions.length > 0
      ? "; latent interactions by full information, integrated over the moderator"
      : built.products.length > 0
        ? `; latent interactions by ${options.interactions.startsWith("all_") ? "all" : "matched"} products of items, ${built.residualCentring ? "residual centring" : "double mean centring"}`
        : "";
  const means = spec.means ? "" : ", covariances only";
  const divisor = spec.convention === "wishart" ? ", divisor n - 1" : "";
  return `Estimated by ${ESTIMATOR_WORDS[spec.estimator]}${means}${divisor}${groups} (${missing}, n = ${n}), ${ERROR_WORDS[errors] ?? errors}${products}.`;
}

/** The same where answers are ordered. */
function orderedWords(
  { estimator, observed, ordered }: FittedModel["spec"],
  gaps: boolean,
  n: number,
): string {
  const names = observed.filter((name) => ordered!.includes(name));
  const numbers = names.length < observed.length ? " and polyserial" : "";
  const missing = gaps
    ? `all answers that each pair has (pairwise), which assumes that they are missing completely at random, n = ${n}`
    : `complete cases, n = ${n}`;
  const by =
    estimator === "adf"
      ? "weighted least squares with full weights (WLS)"
      : ESTIMATOR_WORDS[estimator];
  return `Answers to ${listed(names)} were taken as ordered: tendencies behind them, with thresholds between the levels. Estimated by ${by} from polychoric${numbers} correlations (${missing}), robust (sandwich) standard errors, test statistic scaled and shifted.`;
}

/**
 * What fit says, in sentences. Cut-offs are guidance from the literature (Hu & Bentler 1999, Struct
 * Equ Modeling 6; Browne & Cudeck 1993; Marsh, Hau & Wen 2004 warn against taking them for rules),
 * never a verdict.
 */
export function fitWords(fit: ModelFit, estimator: Estimator): string[] {
  const { plain: own, satorraBentler, scaled } = fit;
  if (own.df === 0)
    return [
      "The model has no degrees of freedom: it reproduces the data whatever they are. Its fit is neither good nor bad, it cannot be tested.",
    ];
  const test = fit.shifted ?? (fit.chiSquared ? own : scaled);
  const exact =
    test === null
      ? []
      : [
          `${test.p! < 0.05 ? "An exact fit is rejected" : "An exact fit is not rejected"}: χ²(${test.df}) = ${plain(test.chi2, 2)}, ${pClause(test.p)}.${test.p! < 0.05 ? " With many cases small misfit is enough for that; look where it lies." : ""}`,
        ];
  const other =
    estimator === "ml" && satorraBentler && Math.abs(satorraBentler.scaling - 1) > 0.1
      ? [
          `The items are not normal (scaling factor ${plain(satorraBentler.scaling, 2)}): the scaled test says χ² = ${plain(satorraBentler.chi2, 2)}, ${pClause(satorraBentler.p)}.`,
        ]
      : [];
  const indices = fit.shifted ?? (fit.chiSquared ? own : null);
  const approximate = [
    ...(indices
      ? [
          `RMSEA ${index(indices.rmsea)} (90 % CI ${index(indices.rmseaLimits[0])} to ${index(indices.rmseaLimits[1])}); up to about .06 is usually called close, above .10 poor (Browne & Cudeck 1993; Hu & Bentler 1999).`,
          `CFI ${index(indices.cfi)}${indices.tli === null ? "" : `, TLI ${index(indices.tli)}`}; .95 and more is usually called good (Hu & Bentler 1999).`,
        ]
      : []),
    ...(fit.shifted
      ? [
          "These indices rest on the scaled and shifted statistic; with ordered answers they tend to look better than with numbers, so the usual marks are guidance only (Xia & Yang 2019).",
        ]
      : []),
    `SRMR ${index(fit.srmr)}; up to about .08 is usually called good (Hu & Bentler 1999).`,
  ];
  return [...exact, ...other, ...approximate];
}

/** An index of fit with three decimals. */
const index = (value: number): string => value.toFixed(3).replace("-", "−");
