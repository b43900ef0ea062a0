import {
  packTable,
  PiecePool,
  type Piece,
  type PieceResult,
  type PieceThread,
  type PlanBasis,
  type SimulationTask,
  type StudyDefinition,
  type StudyPlan,
  type Table,
} from "../../core";
import type { Attempt } from "./attempt";
import { BrowserThread } from "./browser-thread";
import type { PlanAnswer, PlanRequest } from "./planning-tasks";
import type { Work } from "./thread";

const PLANNING: Work = {
  worker: () => new Worker(new URL("./planning.worker.ts", import.meta.url), { type: "module" }),
  tasks: () => import("./planning-tasks"),
};

const MAX_THREADS = 16;

/** A worker of the browser that simulates. */
class PlanThread extends BrowserThread<PlanRequest, PlanAnswer> implements PieceThread {
  constructor() {
    super(PLANNING);
  }

  async make(key: string, task: SimulationTask, piece: Piece): Promise<PieceResult> {
    return (await this.ask({ kind: "piece", key, task, piece })) as PieceResult;
  }
}

/** A thread for each processor: the screen itself has little to do while a plan runs. */
export const planningPool = (): PiecePool =>
  new PiecePool(
    () => new PlanThread(),
    Math.max(1, Math.min(MAX_THREADS, navigator.hardwareConcurrency || 2)),
  );

async function once<T>(request: PlanRequest): Promise<T> {
  const thread = new PlanThread();
  try {
    return (await thread.ask(request)) as T;
  } finally {
    thread.end();
  }
}

/** What a plan says before anything is simulated, found in a thread of its own. */
export const findBasis = (task: SimulationTask): Promise<Attempt<PlanBasis>> =>
  once({ kind: "basis", task });

/** What a study with data found, as what is expected of another. */
export const findExpectations = (
  definition: StudyDefinition,
  table: Table,
  plan: StudyPlan,
): Promise<Attempt<StudyPlan>> =>
  once({ kind: "expect", definition, table: packTable(table), plan });
