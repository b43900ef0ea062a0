import type { NaturalEffectKind } from "./types";

/** Short names of the trade, beside the words (Pearl 2001; VanderWeele 2015). */
export const SHORT_NATURAL: Partial<Record<NaturalEffectKind, string>> = {
  total_effect: "TE",
  pure_natural_direct: "pure NDE",
  total_natural_indirect: "total NIE",
  total_natural_direct: "total NDE",
  pure_natural_indirect: "pure NIE",
  controlled_direct: "CDE",
  mediated_interaction: "mediated interaction",
  reference_interaction: "reference interaction",
  proportion_mediated: "proportion mediated",
  proportion_eliminated: "proportion eliminated",
};

/** What the short names among these stand for, in a sentence; nothing where there are none. */
export function shortNaturalWords(kinds: readonly NaturalEffectKind[]): string {
  const names = kinds.flatMap((kind) => SHORT_NATURAL[kind] ?? []);
  const told = (["TE", "NDE", "NIE", "CDE"] as const).filter((short) =>
    names.some((name) => name.endsWith(short)),
  );
  return told.length === 0 ? "" : `${told.map((short) => `${short}: ${LONG[short]}`).join("; ")}.`;
}

const LONG = {
  TE: "total effect",
  NDE: "natural direct effect",
  NIE: "natural indirect effect",
  CDE: "controlled direct effect",
} as const;
