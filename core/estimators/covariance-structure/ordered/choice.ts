import type { Settings } from "../../../study";
import type { CompiledTheory } from "../../../theory";

/** How answers are taken: as the sentences say, or all alike. */
export const ANSWERS = ["stated", "numbers", "ordered"] as const;
export type Answers = (typeof ANSWERS)[number];

export const answersOf = ({ options }: Pick<Settings, "options">): Answers =>
  ANSWERS.find((each) => each === options.answers) ?? "stated";

/** Is anything said to be taken as ordered answers? */
export const saysOrdered = ({ models }: CompiledTheory, answers: Answers): boolean =>
  answers === "ordered" || (answers === "stated" && models.some((m) => m.family === "ordered"));
