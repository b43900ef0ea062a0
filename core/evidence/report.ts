import type { Settings } from "../study";
import { INTERVAL_WORDS, percent, pClause, plain, thousands } from "./wording";
import type { EffectEvidence } from "./types";

/** The sentence for the paper. It states estimate and doubt, and never that an effect is absent. */
export function reportSentence(effects: EffectEvidence[], used: number | null, settings: Settings): string {
  return effects.map((effect) => one(effect, used, settings)).join(" ");
}

function one(effect: EffectEvidence, used: number | null, settings: Settings): string {
  const { shown, estimate } = effect;
  if (estimate === null || shown.lower === null) return `The effect of ${effect.label} could not be estimated.`;
  const relative = effect.from?.includes(".") && effect.label.includes("against") ? "relative " : "";
  const name = { direct: "direct", specific_indirect: "indirect", claim: "combined indirect" }[effect.kind as string] ?? effect.kind;
  const contains = shown.lower <= 0 && shown.upper! >= 0;
  const sign = estimate > 0 ? "positive" : "negative";
  const finding = contains ? "was not distinguishable from zero" : `was ${sign}`;
  const bootstrapped = ["bca", "bc", "percentile", "basic", "normal"].includes(shown.method);
  const basis = bootstrapped && used !== null ? `, ${thousands(used)} resamples` : "";
  const robust = settings.errors === "classical" || bootstrapped ? "" : `, ${settings.errors} errors`;
  const se = shown.se === null ? "" : `, SE = ${plain(shown.se)}`;
  const tail = settings.tail === "one" ? ", one-tailed" : "";
  const p = shown.p === null ? "" : `, ${pClause(shown.p, shown.pIsBound)}${tail}`;
  return `The ${relative}${name} effect of ${effect.label} ${finding} (b = ${plain(estimate)}${se}, ${percent(shown.level)} % ${INTERVAL_WORDS[shown.method]} CI [${plain(shown.lower)}, ${plain(shown.upper)}]${basis}${robust}${p}).${isUnsettled(effect) ? " Its nearer limit lies within the Monte Carlo error of zero, so another seed could change this finding." : ""}`;
}

/** Does the shown bootstrap limit lie so near zero that another seed could move it across? */
export function isUnsettled({ bootstrap, shown }: EffectEvidence): boolean {
  const { method } = shown;
  return bootstrap !== null && (method === "bca" || method === "bc" || method === "percentile") && (bootstrap[method]?.unsettled ?? false);
}
