import type { Settings } from "../study";
import { percent, plain } from "../wording/numbers";
import { intervalName } from "./wording";
import type { EffectEvidence } from "./types";

/** Quantities that a size in SDs exists for and makes sense of: one effect, not a change of one. */
const SIZED = new Set<EffectEvidence["kind"]>(["direct", "specific_indirect"]);

/**
 * Which effect size may be reported of a claimed effect, and why, in a sentence; null where no size
 * exists for it. SDs of both variables where both are numeric, of the outcome alone where the
 * predictor has groups; shares of the total only where these mean something (Preacher & Kelley
 * 2011, Psychol Methods 16; Wen & Fan 2015, Psychol Methods 20).
 * @param sizedIn what has the SDs, where it is not the outcome as it is seen
 */
export function effectSizeWords(
  effect: EffectEvidence | undefined,
  effects: readonly EffectEvidence[],
  settings: Pick<Settings, "level">,
  sizedIn: string | null = null,
): string | null {
  if (!effect || !SIZED.has(effect.kind)) return null;
  const scaled = (kind: EffectEvidence["kind"]): EffectEvidence | undefined =>
    effects.find((e) => e.of === effect.id && e.kind === kind && e.shown !== null);
  const complete = scaled("completely_standardised");
  const partial = scaled("partially_standardised");
  const size = complete ?? partial;
  if (!size || size.estimate === null) return null;
  const why = complete
    ? `for one SD more of ${effect.from}${sizedIn === null ? ", since both are numeric" : ""}`
    : "for the groups compared, since groups have no SD";
  const number = `${plain(size.estimate)} SDs of ${sizedIn ?? effect.to}${limits(size, settings)}`;
  return `As an effect size report ${number}, ${why}.${bandWords(effect, complete)}${shareWords(effect, effects)}`;
}

function limits({ shown }: EffectEvidence, { level }: Pick<Settings, "level">): string {
  if (!shown || shown.lower === null || shown.upper === null) return "";
  return ` (${percent(level)} % ${intervalName(shown)} CI [${plain(shown.lower)}, ${plain(shown.upper)}])`;
}

/**
 * The squares of the usual bands of correlations (Cohen 1988), since an indirect effect is a
 * product of two of them.
 */
const BANDS: [number, string][] = [
  [0.25, "large"],
  [0.09, "medium"],
  [0.01, "small"],
];

/** Of a single mediator in SDs of both: what convention calls its size. */
function bandWords({ kind, via }: EffectEvidence, complete: EffectEvidence | undefined): string {
  if (kind !== "specific_indirect" || via.length !== 1 || !complete) return "";
  const size = BANDS.find(([from]) => Math.abs(complete.estimate!) >= from)?.[1] ?? "below small";
  return ` Convention calls it ${size} (.01 small, .09 medium, .25 large: squares of the bands of correlations, Kenny & Judd 2014); that is guidance, no judgement of what matters.`;
}

/** Of an indirect effect: whether its share of the total may stand beside it. */
function shareWords(effect: EffectEvidence, effects: readonly EffectEvidence[]): string {
  if (effect.kind !== "specific_indirect") return "";
  // One mediator: the share of this very path. With several it is of all paths together, and no
  // size of one of them.
  const share = effects.find((e) => e.of === effect.id && e.kind === "proportion_mediated");
  if (!share) return "";
  return share.withheld
    ? ` Not the proportion mediated: ${share.withheld.charAt(0).toLowerCase()}${share.withheld.slice(1)}`
    : ` The proportion mediated, ${plain(share.estimate)}, may stand beside it; it says nothing of the size of the total effect.`;
}
