import type { Settings } from "../study";
import { INTERVAL_WORDS, percent, pClause, plain, thousands } from "./wording";
import type { EffectEvidence } from "./types";

/** The sentence for the paper. It states estimate and doubt, and never that an effect is absent. */
export function reportSentence(effects: EffectEvidence[], used: number | null, settings: Settings): string {
  return effects.map((effect) => one(effect, used, settings)).join(" ");
}

/** How a sentence about an effect of each kind begins. */
const SUBJECTS: Partial<Record<EffectEvidence["kind"], (label: string) => string>> = {
  direct: (label) => `The direct effect of ${label}`,
  specific_indirect: (label) => `The indirect effect of ${label}`,
  claim: (label) => `The combined indirect effect of ${label}`,
  interaction: (label) => `The interaction of ${label}`,
  index: (label) => `The effect of ${label.replace(": index of", ", the index of").replace("mediation by", "mediation by")},`,
  conditional_index: (label) => `The effect of ${label.replace(": index", ", the conditional index")},`,
  conditional_contrast: (label) => `The difference of the conditional effects of ${label.replace(": ", ", ")},`,
  conditional_direct: (label) => `The conditional effect of ${label}`,
  conditional_indirect: (label) => `The conditional indirect effect of ${label}`,
};

function one(effect: EffectEvidence, used: number | null, settings: Settings): string {
  const { shown, estimate } = effect;
  if (estimate === null || shown.lower === null) return `The effect of ${effect.label} could not be estimated.`;
  const relative = effect.from?.includes(".") && effect.label.includes("against") ? "relative " : "";
  const subject = SUBJECTS[effect.kind]?.(effect.label) ?? `The ${relative}${effect.kind.replaceAll("_", " ")} effect of ${effect.label}`;
  const contains = shown.lower <= 0 && shown.upper! >= 0;
  const sign = estimate > 0 ? "positive" : "negative";
  const finding = contains ? "was not distinguishable from zero" : `was ${sign}`;
  const bootstrapped = ["bca", "bc", "percentile", "basic", "normal"].includes(shown.method);
  const basis = bootstrapped && used !== null ? `, ${thousands(used)} resamples` : "";
  const robust = settings.errors === "classical" || bootstrapped ? "" : `, ${settings.errors} errors`;
  const se = shown.se === null ? "" : `, SE = ${plain(shown.se)}`;
  const tail = settings.tail === "one" ? ", one-tailed" : "";
  const p = shown.p === null ? "" : `, ${pClause(shown.p, shown.pIsBound)}${tail}`;
  return `${subject.replace("The ", `The ${SUBJECTS[effect.kind] ? relative : ""}`)} ${finding} (b = ${plain(estimate)}${se}, ${percent(shown.level)} % ${INTERVAL_WORDS[shown.method]} CI [${plain(shown.lower)}, ${plain(shown.upper)}]${basis}${robust}${p}).${isUnsettled(effect) ? " Its nearer limit lies within the Monte Carlo error of zero, so another seed could change this finding." : ""}`;
}

/** Does the shown bootstrap limit lie so near zero that another seed could move it across? */
export function isUnsettled({ bootstrap, shown }: EffectEvidence): boolean {
  const { method } = shown;
  return bootstrap !== null && (method === "bca" || method === "bc" || method === "percentile") && (bootstrap[method]?.unsettled ?? false);
}
