import type { Warning } from "../problems";
import { listed, warning } from "../wording";
import { thousands } from "../wording/numbers";
import type { Evidence, HypothesisEvidence } from "./types";

/** What a claim is about, as far as warnings ask. */
type ClaimScope = Pick<
  HypothesisEvidence,
  "from" | "to" | "chains" | "moderators" | "effects" | "components" | "claim"
>;

/** These concern how the whole study was analysed, and so every verdict in it. */
const OF_EVERY_CLAIM = new Set([
  "corrected_matrix_not_pd",
  "few_clusters",
  "interval_replaced",
  "moments_only",
  "not_finite",
]);

/** These concern resamples, and so the verdicts that rest on them. */
const OF_RESAMPLED_CLAIMS = new Set([
  "replicates_failed",
  "many_failed_replicates",
  "replicates_improper",
]);

/** From this share of failed resamples on, a verdict that rests on the others says so. */
const SPOKEN_OF = 0.01;

/** These are findings, or are about what no verdict rests on. */
const OF_NO_CLAIM = new Set([
  // Said once, above all numbers: leftOutTold.
  "sentence_left_out",
  "inconsistent_mediation",
  "proportion_unstable",
  "goodman_undefined",
  "acceleration_zero",
  "probes_unused",
  "probe_outside_range",
  "model_unused",
  "answers_hardly_numbers",
  "levels_left_out",
  "kept_as_numbers",
  "rows_excluded",
  "rows_dropped",
  "rows_empty",
  "unit_changed",
  "main_effect_added",
]);

/**
 * The warnings of an analysis that touch one claim: those on the whole study, on resamples where it
 * rests on them, on a variable of its path, on its effects and their parts. The one place where
 * that is decided: screens, report and exports read what it found.
 * @param itemsOf names of what a variable is measured by; none of an observed one
 */
export function cautionsOf(
  claim: ClaimScope,
  warnings: readonly Warning[],
  itemsOf: (variable: string) => readonly string[],
): Warning[] {
  const variables = [claim.from, claim.to, ...claim.chains.flat(), ...claim.moderators];
  const parts = [...claim.effects, ...claim.components, ...variables.flatMap(itemsOf)];
  const names = new Set([...variables, ...parts]);
  const indirect = claim.chains.some((chain) => chain.length > 0);
  const resampled = claim.claim?.reference === "bootstrap";
  return warnings.filter(({ code, about, data }) => {
    if (OF_NO_CLAIM.has(code)) return false;
    if (OF_EVERY_CLAIM.has(code)) return true;
    if (OF_RESAMPLED_CLAIMS.has(code))
      return resampled && !(Number(data.failed) <= SPOKEN_OF * Number(data.done));
    if (code === "bc_liberal") return indirect && resampled;
    // What an equation's outcome is said of touches who passes through it or ends there, not a
    // predictor that happens to be an outcome elsewhere.
    return about.some((name) => names.has(name) && !(name === claim.from && data.outcome === name));
  });
}

/** Fewer clusters on a side of a claim than can be passed over. */
export const thinContrast = (words: string, label: string): Warning =>
  warning("thin_contrast", { words }, [label]);

/** A claim about several steps that rests on one of them which is not clear by itself. */
export const weakStep = (
  step: string,
  interval: string,
  label: string,
  /** The percentile interval is offered here. */
  other: boolean,
): Warning => warning("bc_weak_step", { step, interval, other }, [label]);

/** What of the theory could not be read, so that all numbers are without it; one sentence each. */
export const leftOutTold = ({ warnings }: { warnings: readonly Warning[] }): string[] =>
  warnings.flatMap(({ code, message }) => (code === "sentence_left_out" ? [message] : []));

/** That resampling has not come to its end, in a sentence; nothing where it has. */
export function provisionalTold({ bootstrap }: Pick<Evidence, "bootstrap">): string[] {
  if (!bootstrap || bootstrap.done >= bootstrap.requested) return [];
  const { done, requested } = bootstrap;
  return [
    `Provisional: intervals rest on ${thousands(done)} of ${thousands(requested)} bootstrap samples.`,
  ];
}

/** Every caution once, after the hypotheses that it touches. */
export function cautionsTold(
  hypotheses: readonly Pick<HypothesisEvidence, "label" | "cautions">[],
): string[] {
  const labels = new Map<string, string[]>();
  for (const { label, cautions } of hypotheses)
    for (const { message } of cautions)
      labels.set(message, [...(labels.get(message) ?? []), label]);
  return [...labels].map(([message, of]) =>
    of.length === hypotheses.length && of.length > 1
      ? `All hypotheses: ${message}`
      : `${listed(of)}: ${message}`,
  );
}
