import { StudyProblem, type Condition, type ProblemPlace } from "../../core";

/** What stops an analysis, as plain data. */
export interface PlainProblem {
  code: string;
  /** Absent where the program, not the study, is at fault. */
  condition?: Condition;
  data?: unknown;
  message: string;
  place: ProblemPlace;
}

export type Attempt<T> = { value: T; problem: null } | { value: null; problem: PlainProblem };

export const plainProblem = ({
  code,
  condition,
  data,
  message,
  place,
}: StudyProblem): PlainProblem => ({
  code,
  condition,
  data,
  message,
  place,
});

/** What a task gives, or what is wrong with the study; faults of the program are thrown on. */
export function attempt<T>(task: () => T): Attempt<T> {
  try {
    return { value: task(), problem: null };
  } catch (error) {
    if (!(error instanceof StudyProblem)) throw error;
    return { value: null, problem: plainProblem(error) };
  }
}
