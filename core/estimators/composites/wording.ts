import { plain } from "../../wording/numbers";
import { quoted } from "../../wording/condition";
import { warningsIn } from "../../wording/warnings";

/**
 * What is said of composite models where something deserves a look; each sentence stands here and
 * nowhere else.
 */
export const warning = warningsIn({
  not_converged: ({ rounds }: { rounds: number }) =>
    `Weights still moved after ${rounds} rounds; what is reported are the last ones. Constructs that hardly correlate do that: look at the paths between them, or choose another inner weighting.`,
  mean_replaced: ({ columns }: { columns: { name: string; cells: number }[] }) =>
    `Empty cells were filled with the mean of their column (${columns.map((c) => `${c.name} ${c.cells}`).join(", ")}). That makes variances and correlations smaller than they are.`,
  vif_high: ({ items }: { items: string[] }) =>
    `${quoted(items)} ${items.length === 1 ? "is" : "are"} largely explained by other items of the same measure (variance inflation 5 or more; guidance after Hair et al. 2017). Weights of single items then say little; nothing is left out by itself.`,
  mixed_sign_loadings: ({ construct, items }: { construct: string; items: string[] }) =>
    `${quoted(items)} ${items.length === 1 ? "runs" : "run"} against the score of “${construct}”. If the wording is reversed, write “reversed” before ${items.length === 1 ? "it" : "them"}.`,
  negative_weight: ({ construct, items }: { construct: string; items: string[] }) =>
    `${quoted(items)} ${items.length === 1 ? "has" : "have"} a negative weight in “${construct}”. With collinear items that can be suppression; a raw score can then leave the range of its items.`,
  sign_tie: ({ construct }: { construct: string }) =>
    `As many items of “${construct}” run with its score as against it, so the direction of the score was settled by the size of its loadings. Write “signed by” and an item to settle it.`,
  rho_a_above_one: ({ construct, value }: { construct: string; value: number }) =>
    `The reliability of “${construct}” is estimated at ${plain(value, 3)}, above one; it is used as it is. Its items hardly behave like those of one common factor.`,
  loading_above_one: ({ items }: { items: string[] }) =>
    `The corrected loading of ${quoted(items)} is above one, which no correlation can be (Heywood case). It is shown as it is.`,
  corrected_correlation_above_one: ({ a, b, value }: { a: string; b: string; value: number }) =>
    `Corrected for unreliability, “${a}” and “${b}” correlate ${plain(value, 2)}: they cannot be told apart.`,
  corrected_matrix_not_pd: () =>
    "The corrected correlations of the constructs cannot belong to any variables (the matrix is not positive definite). Look for constructs that are hardly different.",
  r2_out_of_range: ({ outcome, value }: { outcome: string; value: number }) =>
    `The corrected R² of “${outcome}” is ${plain(value, 3)}, outside zero to one; adjusted R² and f² are the formula's values.`,
  product_reliability_nonpositive: ({ product }: { product: string }) =>
    `The product ${product} has no positive reliability in this sample, so its equation has no corrected estimate.`,
  rho_a_nonpositive: ({ construct, value }: { construct: string; value: number }) =>
    `The items of “${construct}” hardly correlate as those of a common factor do: its reliability (rho_A) is ${plain(value)}, not above zero. So nothing can be corrected, and all numbers here are those of composites as they are.`,
  sign_flips: ({
    constructs,
    done,
  }: {
    constructs: { name: string; group: string | null; count: number }[];
    done: number;
  }) =>
    `In some of ${done} resamples a score points the other way than in the sample (${constructs.map((c) => `${c.name}${c.group === null ? "" : ` in ${c.group}`} ${c.count}`).join(", ")}). Intervals of its paths may then be too wide; “turn them back”, in the settings, aligns them.`,
  groups_not_alike: ({ names }: { names: string[] }) =>
    `${quoted(names)} ${names.length === 1 ? "is" : "are"} not made of the items in the same way in all groups: weights differ more than by chance. A path that differs between groups there may differ because of measurement.`,
  fit_not_defined_with_products: () =>
    "With products of items there is no measure of fit: products are indicators of something that is not measured by itself.",
  main_effect_added: ({ from, to }: { from: string; to: string }) =>
    `“${from}” has no path to “${to}” of its own; it was added, since a product without its main effects cannot be read.`,
  correction_not_with_products: () =>
    "Products of items are estimated without correction for reliability; choose two stages for a corrected interaction.",
});

/** Why a composite model cannot be estimated, in words that say what to do. */
export const UNSUITED = {
  paths: "Composites need at least one path: state a hypothesis among the measures.",
  clusters:
    "Clusters are not allowed for yet in composite models. Take the cluster column out of the analysis settings.",
  moments:
    "Composites are estimated from single cases here, since every interval is resampled. Import the data themselves.",
  joint:
    "Products of three variables are not estimated among composites. Leave one moderator out, or measure by averages.",
  squares:
    "A composite's own curve is not estimated. Measure it by an average (“averages”) for a curve by least squares.",
  secondOrder: (name: string) =>
    `“${name}” is measured by other measures. Among composites, measures are made of columns only.`,
  constraints:
    "Paths held equal or at a value, and covariances that are drawn, belong to models of covariances. Take these lines out, or measure by factors.",
  equal:
    "Composites are estimated in each group by itself, so nothing can be held equal. Write “groups by” without “with … equal”; whether groups measure alike is tested by permutation.",
  grouped: (name: string) =>
    `“${name}” tells the groups and has an effect of its own in another sentence. It can be one or the other.`,
  outcome: (name: string) =>
    `“${name}” has more than two levels and is explained by others; this engine explains numbers only.`,
  items: (name: string) =>
    `“${name}” holds names, not numbers, so it cannot be an item. Recode it, or leave it out.`,
} as const;

export const MODE_WORDS = {
  correlation: "weighted by correlation",
  regression: "weighted by regression",
  equal: "weighted equally",
  single: "a single item",
} as const;
