import { leftOutWords } from "./left-out";
import type { Warning } from "./problem-types";
import { numbered, quoted } from "./condition";
import { INTERVAL_WORDS } from "./intervals";
import { percent, plain } from "./numbers";

interface Pair {
  from: string;
  to: string;
}
interface Listed {
  /** Labels of the effects concerned. */
  effects: string[];
}

const failedWords = ({ failed, done, many }: { failed: number; done: number; many: boolean }) =>
  `${failed} of ${done} bootstrap samples failed (${percent(failed / done)} %) and were left out.${many ? " That is too many: the intervals describe only the samples in which the model could be fitted." : ""}`;

/** What deserves a look whatever engine estimates, in words: the one place where it is said. */
const WARNINGS = {
  moments_only: ({ n, unit, standardised }: { n: number; unit: string; standardised: boolean }) =>
    `Only means and covariances of ${n} ${unit} are known: coefficients and classical errors are exact, but nothing can be resampled, and residuals and robust errors do not exist.${standardised ? " The correlations came without standard deviations, so every coefficient is in standard deviations." : ""}`,
  rows_excluded: ({ excluded, read, unit, filters }: Excluded) =>
    `${excluded} of ${read} ${unit} are left out by ${numbered(filters.length, "the filter", "the filters")} ${quoted(filters)}.`,
  rows_dropped: ({ dropped, read, unit, missing }: Dropped) =>
    `${dropped} of ${read} ${unit} are left out because a value is missing (${missing.map(({ name, count }) => `${name} ${count}`).join(", ")}).`,
  sentence_left_out: leftOutWords,
  model_unused: ({ line, name }: { line: string; name: string }) =>
    `“${line}” changes nothing: nothing explains “${name}” in these sentences, nor is it a latent variable of them.`,
  binary_outcome: ({ outcome, measured }: { outcome: string; measured: boolean }) =>
    `“${outcome}” has two values; its 0/1 coding is explained by a straight line, as a probability, so rest on robust or resampled errors and read effects on it as differences in proportions.${measured ? " A yes/no model of its own it gets where all measures are averages or sums." : ""}`,
  may_be_counted: ({ outcome, name }: { outcome: string; name: string }) =>
    `“${outcome}” holds whole numbers from zero on. If it counts something, write “model ${name} as poisson”: a straight line predicts less than nothing, and its errors take counts to scatter alike. If not, “model ${name} as linear” says so.`,
  unit_changed: ({ name, power }: { name: string; power: number }) =>
    `“${name}” is analysed in units of 2^${power}, since its numbers are too ${power > 0 ? "large" : "small"} to be squared: means, estimates and limits are per that unit; tests, R² and standardised effects are the same in any unit.`,
  not_finite: ({ count, places }: { count: number; places: string[] }) =>
    `${count === 1 ? "One number" : `${count} numbers`} cannot be computed here (a division by zero, or a size beyond what a computer holds) and ${count === 1 ? "is" : "are"} left empty: ${places.join(", ")}${count > places.length ? ", …" : ""}.`,
  rows_empty: ({ empty, read, unit }: { empty: number; read: number; unit: string }) =>
    `${empty} of ${read} ${unit} ${empty === 1 ? "has" : "have"} no answer to anything in the model and ${empty === 1 ? "is" : "are"} left out; all others are kept, whatever they left unanswered.`,
  few_clusters: ({ clusters, name, enough, hardly }: FewClusters) =>
    clusters < hardly
      ? `There are only ${clusters} clusters of “${name}”: cluster-robust errors and cluster resampling cannot be relied on with so few, and no verdict here should rest on them alone.`
      : `There are ${clusters} clusters of “${name}”. Below about ${enough} cluster-robust errors lean on the small-sample correction (CR2, Satterthwaite) and bootstrap limits tend to be too narrow.`,
  interval_replaced: ({ stated, used, reason }: { stated: string; used: string; reason: string }) =>
    `The ${INTERVAL_WORDS[stated]} interval that was chosen is not offered here, and the ${INTERVAL_WORDS[used]} one stands in its place. ${reason}`,
  thin_contrast: ({ words }: { words: string }) => words,
  bc_weak_step: ({ step, interval, other }: { step: string; interval: string; other: boolean }) =>
    `The step ${step} is not clear by its own interval. Bias-corrected intervals (here ${interval}) of paths with several steps exclude zero by chance more often than their level says where one step is nothing, also with many cases${other ? "; the percentile interval errs less" : ""}.`,
  bc_liberal: ({ units, unit, other }: { units: number; unit: string; other: boolean }) =>
    `With ${units} ${unit} bias-corrected intervals (BC, BCa) of indirect effects are liberal: they exclude zero by chance more often than their level says.${other ? " The percentile interval, among the other methods, errs less." : ""}`,
  probes_unused: ({ name, exists }: { name: string; exists: boolean }) =>
    exists
      ? `Comparison values are set for “${name}”, which moderates nothing in this theory; they are not used.`
      : `Comparison values are set for “${name}”, but no variable is called that; they are not used. Is the name spelled as in the data?`,
  probe_outside_range: ({ name, min, max, at }: OutsideRange) =>
    `“${name}” runs from ${min} to ${max} in the data; what is said at ${at.join(", ")} goes beyond what was observed.`,
  goodman_undefined: ({ effect }: { effect: string }) =>
    `Goodman's unbiased standard error does not exist for ${effect}: both paths are too uncertain.`,
  inconsistent_mediation: ({ direct, indirect, from, to }: Opposed) =>
    `The direct effect (${plain(direct)}) and the indirect effect (${plain(indirect)}) of ${from} on ${to} have opposite signs, and both intervals exclude zero (inconsistent mediation). That is a finding, not an error; a proportion mediated has no meaning here.`,
  proportion_unstable: ({ from, to }: Pair) =>
    `The total effect of ${from} on ${to} may be zero, so the proportion mediated is unstable; better not report it.`,
  replicates_failed: failedWords,
  many_failed_replicates: failedWords,
  replicates_improper: ({ improper, done }: { improper: number; done: number }) =>
    `${improper} of ${done} bootstrap samples (${percent(improper / done)} %) have an improper solution (a variance below zero, or a correlation beyond one). They are kept; with many of them the model hardly suits the items.`,
  bc_undefined: ({ effects }: Listed) =>
    `All bootstrap samples lie on one side of the estimate, so bias-corrected intervals do not exist; the percentile interval stays (${counted(effects)}).`,
  bca_undefined: ({ effects }: Listed) =>
    `The acceleration is too strong for a BCa interval (${counted(effects)}).`,
  acceleration_zero: ({ effects }: Listed) =>
    `Leaving out one case never changes the estimate, so the acceleration is taken as zero (${counted(effects)}).`,
  b_too_small: ({ effects }: Listed) =>
    `There are too few bootstrap samples for this level: a limit is simply the most extreme one (${counted(effects)}).`,
  replicates_missing: ({ effects }: Listed) =>
    `In more than 1 % of the bootstrap samples a quantity is not a finite number; they are left out for it alone, and above 10 % it gets no limits (${counted(effects)}).`,
  not_made: ({ name, reason }: { name: string; reason: string }) => `${name}: ${reason}`,
  no_missing: () => "No answer is missing, so there is nothing to test.",
  not_converged: ({ steps }: { steps: number }) =>
    `The estimates behind the test of missing values still moved after ${steps} steps; read it with care.`,
  alpha_negative: ({ defined }: { defined: boolean }) =>
    defined
      ? "Alpha is negative: the items work against one another. Look for items to reverse."
      : "The items cancel one another exactly, so alpha is not defined. Look for items to reverse.",
  negative_item_total: ({ items }: { items: string[] }) =>
    `${items.join(", ")} ${numbered(items.length, "runs", "run")} against the other items. ${numbered(items.length, "It seems", "They seem")} keyed the other way: reverse ${numbered(items.length, "it", "them")}, if the wording says so.`,
  heywood: () =>
    "One item takes up the whole common factor (its uniqueness is at its bound), so omega is to be read with care.",
  mixed_sign_loadings: ({ items }: { items: string[] }) =>
    `${items.join(", ")} ${numbered(items.length, "loads", "load")} on the common factor with the other sign; composite reliability is computed with the signs as they are.`,
};

const counted = (effects: string[]): string =>
  effects.length === 1 ? effects[0]! : `${effects.length} effects`;

/** Sentences by code, each made from the data of its warning. */
export type WarningWords = Record<string, (data: never) => string>;
type DataOf<F extends (data: never) => string> =
  Parameters<F> extends [] ? Record<string, never> : Parameters<F>[0];

/**
 * A maker of warnings whose sentences stand in one table. An engine brings a table of its own, in
 * its own folder.
 * @example const warning = warningsIn({ odd: ({ n }: { n: number }) => `${n} odd rows.` });
 * warning("odd", { n: 3 }, []).message; // "3 odd rows."
 */
export const warningsIn =
  <W extends WarningWords>(words: W) =>
  <C extends keyof W & string>(code: C, data: DataOf<W[C]>, about: string[]): Warning => ({
    code,
    data: data as Warning["data"],
    message: words[code]!(data as never),
    about,
  });

/** A warning of the common part. */
export const warning = warningsIn(WARNINGS);

interface Excluded {
  excluded: number;
  read: number;
  unit: string;
  filters: string[];
}
interface Dropped {
  dropped: number;
  read: number;
  unit: string;
  missing: { name: string; count: number }[];
}
interface FewClusters {
  clusters: number;
  name: string;
  enough: number;
  hardly: number;
}
interface OutsideRange {
  name: string;
  min: number | null;
  max: number | null;
  /** The values in words. */
  at: string[];
}
interface Opposed extends Pair {
  direct: number;
  indirect: number;
}
