import type { ModerationVerb, Verb } from "./syntax";
import type { Token } from "./tokens";

/** What a verb of a sentence says, and whether it stands in the plural (“hours raise”). */
export interface Said<V extends string> {
  verb: V;
  plural: boolean;
}

const PLURALS: Record<Verb | ModerationVerb, string> = {
  raises: "raise",
  lowers: "lower",
  affects: "affect",
  strengthens: "strengthen",
  weakens: "weaken",
  alters: "alter",
};

/** The verb as the notation writes it. */
export const writtenVerb = (verb: Verb | ModerationVerb, plural = false): string =>
  plural ? PLURALS[verb] : verb;

/** Words of the trade that mean the same; the notation writes its own. */
const SYNONYMS: Record<Verb | ModerationVerb, string[]> = {
  raises: ["increases", "improves"],
  lowers: ["decreases", "reduces"],
  affects: ["influences", "predicts"],
  strengthens: ["amplifies", "enhances"],
  weakens: ["buffers", "attenuates"],
  alters: ["moderates"],
};

const singular = (text: string): string => (text.endsWith("s") ? text : `${text}s`);

function said<V extends Verb | ModerationVerb>(
  token: Token | undefined,
  verbs: readonly V[],
): Said<V> | null {
  if (token?.kind !== "word") return null;
  const word = singular(token.text);
  const verb = verbs.find((each) => each === word || SYNONYMS[each].includes(word));
  return verb === undefined ? null : { verb, plural: word !== token.text };
}

export const VERBS: readonly Verb[] = ["raises", "lowers", "affects"];
export const MODERATION_VERBS: readonly ModerationVerb[] = ["strengthens", "weakens", "alters"];

/**
 * The verb that a word at the place of a verb stands for; a column may bear any of these names all
 * the same.
 */
export const verbOf = (token: Token | undefined): Said<Verb> | null => said(token, VERBS);
export const moderationVerbOf = (token: Token | undefined): Said<ModerationVerb> | null =>
  said(token, MODERATION_VERBS);

/** “m mediates x to y”. */
export const isMediates = (token: Token | undefined): boolean =>
  token?.kind === "word" && (token.text === "mediates" || token.text === "mediate");

/** What leads to the mediators: through, via. */
export const THROUGH = ["through", "via"] as const;
