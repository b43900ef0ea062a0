import { expose } from "comlink";
import {
  robustness,
  unpackTable,
  type PackedTable,
  type Specification,
  type StudyDefinition,
} from "../../core";
import { attempt, type Attempt } from "./attempt";

/**
 * Tries ways of analysing in a thread of its own, so that typing never waits; ended from outside.
 */
const tries = {
  run: (
    definition: StudyDefinition,
    table: PackedTable,
    only: Specification["group"] | undefined,
    tell: (done: number, of: number, found: Specification) => void,
  ): Attempt<Specification[]> =>
    attempt(() => robustness(definition, unpackTable(table), { only, tell })),
};

export type Tries = typeof tries;
expose(tries);
