import { parentPort } from "node:worker_threads";
import {
  PieceMaker,
  ReplicateMaker,
  Simulator,
  type MakerRequest,
  type Piece,
  type PieceResult,
  type ReplicateBlock,
  type SimulationTask,
} from "../core";

/** What a thread of Node is asked: replicates of an analysis, or a piece of a simulation. */
export type ThreadRequest =
  MakerRequest | { kind: "piece"; key: string; task: SimulationTask; piece: Piece };

/** A fault is an answer, too: the thread says it and lives on. */
export type ThreadAnswer = { done: PieceResult | ReplicateBlock | null } | { fault: string };

const pieces = new PieceMaker((task) => new Simulator(task));
const replicates = new ReplicateMaker();

function answer(request: ThreadRequest): PieceResult | ReplicateBlock | null {
  if (request.kind === "piece") return pieces.make(request.key, request.task, request.piece);
  return replicates.answer(request);
}

parentPort?.on("message", (request: ThreadRequest) => {
  try {
    const done = answer(request);
    const bytes = done && "values" in done ? [done.values.buffer as ArrayBuffer] : [];
    parentPort!.postMessage({ done } satisfies ThreadAnswer, bytes);
  } catch (error) {
    const fault = error instanceof Error ? error.message : String(error);
    parentPort!.postMessage({ fault } satisfies ThreadAnswer);
  }
});
