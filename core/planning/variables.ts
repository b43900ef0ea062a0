import type { Variable } from "../data";
import { StudyProblem } from "../problems";
import {
  answerShares,
  counted,
  NORMAL,
  sharesAreUsable,
  SKEWED,
  stepped,
  type Marginal,
} from "./marginal";
import type { StudyPlan } from "../study";

/** How a column of made-up data is filled: from a normal score to a cell. */
export interface PlannedColumn {
  name: string;
  marginal: Marginal;
  /** Cells by code; null where the cell is the number itself. */
  texts: string[] | null;
  skewed: boolean;
}

/** A variable may be declared with at most so many answers. */
export const MOST_ANSWERS = 25;
/** Levels of a categorical variable of which nothing is said. */
const CATEGORIES = 3;

/**
 * How a declared variable is filled.
 * @param scale answers of the measure it is an item of, where the sentence says them
 * @throws StudyProblem `plan_shares` for shares that do not fit the levels
 */
export function plannedColumn(
  variable: Variable,
  plan: StudyPlan,
  scale: readonly [number, number] | null = null,
): PlannedColumn {
  const { name, level } = variable;
  const expected = plan.variables[name] ?? {};
  const skewed = expected.shape === "skewed";
  const of = (texts: string[], shares: number[]): PlannedColumn => {
    if (shares.length !== texts.length || !sharesAreUsable(shares))
      throw new StudyProblem("plan_shares", { name, levels: texts.length }, { variables: [name] });
    return { name, marginal: stepped(shares), texts, skewed };
  };
  const known = variable.levels === undefined ? expected.answers : undefined;
  if (level === "binary") {
    const texts = known?.length === 2 ? known : binaryTexts(variable);
    return of(texts, expected.shares ?? [0.5, 0.5]);
  }
  if (level === "categorical") {
    const texts =
      variable.levels ??
      known ??
      Array.from({ length: expected.shares?.length ?? CATEGORIES }, (_, i) => String(i + 1));
    return of(texts, expected.shares ?? texts.map(() => 1 / texts.length));
  }
  const answers = (level === "ordinal" ? known : undefined) ?? answersOf(variable, scale);
  if (answers) return of(answers, expected.shares ?? answerShares(answers.length, skewed));
  if (expected.shape === "count") {
    const marginal = counted(countMean(name, expected.mean ?? 3));
    return { name, marginal, texts: null, skewed: false };
  }
  return { name, marginal: skewed ? SKEWED : NORMAL, texts: null, skewed };
}

/** The level that counts as 0, then the other. */
function binaryTexts({ levels, one }: Variable): string[] {
  const texts = levels?.length === 2 ? [...levels] : ["0", one ?? "1"];
  return one !== undefined && texts[0] === one ? texts.reverse() : texts;
}

/** The answers a column can hold, where they are few whole numbers; null for a continuous one. */
function answersOf(
  { level, levels, range }: Variable,
  scale: readonly [number, number] | null,
): string[] | null {
  if (levels && levels.length > 1 && levels.every((l) => Number.isFinite(Number(l)))) return levels;
  const limits = range ?? scale ?? (level === "ordinal" ? [1, 5] : null);
  if (!limits || (level !== "ordinal" && !scale)) return null;
  const [low, high] = limits;
  const whole = Number.isInteger(low) && Number.isInteger(high);
  if (!whole || high <= low || high - low >= MOST_ANSWERS) return null;
  return Array.from({ length: high - low + 1 }, (_, i) => String(low + i));
}

function countMean(name: string, mean: number): number {
  if (!(mean > 0 && mean <= 1000))
    throw new StudyProblem("plan_count_mean", { name, mean }, { variables: [name] });
  return mean;
}
