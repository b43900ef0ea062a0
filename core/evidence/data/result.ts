import { StudyProblem } from "../../problems";
import type { Result } from "./types";

/** A result, or the study's problem as plain data; faults of the program go on up. */
export function attempt<T>(task: () => T): Result<T> {
  try {
    return { value: task(), problem: null };
  } catch (error) {
    if (!(error instanceof StudyProblem)) throw error;
    return {
      value: null,
      problem: { code: error.code, message: error.message, variables: error.place.variables ?? [] },
    };
  }
}
