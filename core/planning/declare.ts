import type { Variable } from "../data";
import { checkedName } from "../study/rename-variable";
import { StudyProblem } from "../problems";

/** "conf1 to conf4": names that count up. */
const COUNTED = /^(.*?)(\d+)\s+to\s+(.*?)(\d+)$/;
const MOST_NAMES = 500;

/**
 * Names as they are typed for variables to come: apart by commas, with "conf1 to conf4" for four of
 * them.
 * @throws StudyProblem for a name that no variable can have, or that there is already
 */
export function declaredNames(typed: string, taken: readonly string[]): string[] {
  const names: string[] = [];
  for (const part of typed.split(",").map((p) => p.trim())) {
    if (part === "") continue;
    const counted = COUNTED.exec(part);
    if (counted && counted[1] === counted[3]) {
      const [from, to] = [Number(counted[2]), Number(counted[4])];
      for (let i = from; i <= to && names.length < MOST_NAMES; i++) names.push(`${counted[1]}${i}`);
    } else names.push(part);
  }
  const made: string[] = [];
  for (const name of names) made.push(checkedName(name, [...taken, ...made]));
  return made;
}

/** Kinds of variables as they are declared. */
export const DECLARED_KINDS = ["number", "answers", "yes or no", "groups"] as const;
export type DeclaredKind = (typeof DECLARED_KINDS)[number];

/** A variable to come. @param answers number of points or of groups */
export function declaredVariable(name: string, kind: DeclaredKind, answers: number): Variable {
  if (!(Number.isInteger(answers) && answers >= 2 && answers <= 25))
    throw new StudyProblem("plan_number", {
      what: "The number of answers",
      value: answers,
      from: 2,
      to: 25,
    });
  switch (kind) {
    case "number":
      return { name, level: "continuous" };
    case "answers":
      return { name, level: "ordinal", range: [1, answers] };
    case "yes or no":
      return { name, level: "binary", levels: ["no", "yes"], one: "yes" };
    case "groups":
      return {
        name,
        level: "categorical",
        levels: Array.from({ length: answers }, (_, i) => `group ${i + 1}`),
      };
  }
}

/** What a declared variable is, in words. */
export const declaredWords = ({ level, range, levels }: Variable): string => {
  if (level === "ordinal") return range ? `answers from ${range[0]} to ${range[1]}` : "answers";
  if (level === "binary") return levels ? levels.join(" or ") : "yes or no";
  if (level === "categorical") return levels ? levels.join(", ") : "groups";
  return level === "identifier" ? "identifier" : "a number";
};
