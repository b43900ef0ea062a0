import { Worker } from "node:worker_threads";
import {
  PiecePool,
  type Piece,
  type PieceResult,
  type PieceThread,
  type ReplicateBlock,
  type SimulationTask,
} from "../core";
import type { Work } from "./work";

type Answer = { done: PieceResult | ReplicateBlock } | { fault: string };

/** A worker thread of Node that does one piece of work at a time. */
export class WorkThread implements PieceThread {
  private readonly worker = new Worker(new URL("./work-thread.mjs", import.meta.url));

  do(work: Work): Promise<PieceResult | ReplicateBlock> {
    return new Promise((resolve, reject) => {
      const settle = (then: () => void): void => {
        for (const event of ["message", "error", "exit"]) this.worker.removeAllListeners(event);
        then();
      };
      this.worker.once("message", (answer: Answer) =>
        settle(() => ("done" in answer ? resolve(answer.done) : reject(new Error(answer.fault)))),
      );
      this.worker.once("error", (error) => settle(() => reject(error)));
      this.worker.once("exit", (code) =>
        settle(() => reject(new Error(`A worker thread ended with code ${code}.`))),
      );
      this.worker.postMessage(work);
    });
  }

  async make(key: string, task: SimulationTask, piece: Piece): Promise<PieceResult> {
    return (await this.do({ kind: "piece", key, task, piece })) as PieceResult;
  }

  end(): void {
    void this.worker.terminate();
  }
}

/** A pool of so many worker threads of Node that make pieces. */
export const nodePieces = (size: number): PiecePool => new PiecePool(() => new WorkThread(), size);
