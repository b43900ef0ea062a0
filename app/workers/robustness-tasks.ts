import { expose } from "comlink";
import {
  eachWay,
  StudyProblem,
  unpackTable,
  type PackedTable,
  type Specification,
  type StudyDefinition,
} from "../../core";
import { plainProblem, type PlainProblem } from "./attempt";
import { breath } from "./portions";
import type { Port } from "./scope";

/**
 * Tries ways of analysing, away from whatever is typed; ended from outside.
 * @param ended nobody waits for more
 */
const tries = (ended?: AbortSignal) => ({
  /** @returns what stood in the way */
  run: async (
    definition: StudyDefinition,
    table: PackedTable,
    only: Specification["group"] | undefined,
    tell: (done: number, of: number, found: Specification) => void,
  ): Promise<PlainProblem | null> => {
    try {
      for (const { done, of, found } of eachWay(definition, unpackTable(table), only)) {
        tell(done, of, found);
        await breath();
        if (ended?.aborted) break;
      }
      return null;
    } catch (error) {
      if (!(error instanceof StudyProblem)) throw error;
      return plainProblem(error);
    }
  },
});

export type Tries = ReturnType<typeof tries>;

/** Answers what is asked at a port, in whatever thread this is run. */
export const serve = (port: Port, ended?: AbortSignal): void => expose(tries(ended), port);
