import { useDeferredValue } from "react";
import type { StudyContext } from "./use-study";

/**
 * What is typed in the head of the page and only repeated on the screens; the log follows every
 * write.
 */
const IN_THE_HEAD: ReadonlySet<string> = new Set(["title", "question", "log"]);

/**
 * Do two states of a study differ in nothing but its title, its question and what was written down
 * of it?
 */
export function differInHeadOnly(a: StudyContext, b: StudyContext): boolean {
  const keys = new Set([...Object.keys(a.definition), ...Object.keys(b.definition)]);
  const same = (key: string): boolean =>
    IN_THE_HEAD.has(key) ||
    a.definition[key as keyof typeof a.definition] ===
      b.definition[key as keyof typeof b.definition];
  return (
    [...keys].every(same) &&
    a.raw === b.raw &&
    a.dataset === b.dataset &&
    a.dataKey === b.dataKey &&
    a.edit === b.edit &&
    a.writer === b.writer &&
    a.analysis === b.analysis &&
    a.study.id === b.study.id &&
    a.study.rows === b.study.rows
  );
}

/**
 * The study as the screens get it. A letter typed into the title or the question is shown in the
 * head at once, and on the screens when there is time: drawing them again would hold up the next
 * letter. Whatever else changes is theirs at once.
 */
export function useForScreens(now: StudyContext): StudyContext {
  const later = useDeferredValue(now);
  return differInHeadOnly(later, now) ? later : now;
}
