import type { Claim } from "../effects";
import type { CompiledTheory } from "../theory";

/** Sentences that claim something, in the order of the text. */
export const claimsInOrder = ({
  hypotheses,
  moderations,
}: Pick<CompiledTheory, "hypotheses" | "moderations">): Claim[] =>
  [...hypotheses, ...moderations].sort((a, b) => a.line - b.line);
