import { Worker } from "node:worker_threads";
import {
  PiecePool,
  ReplicatePool,
  type MakerRequest,
  type MakerThread,
  type Piece,
  type PieceResult,
  type PieceThread,
  type ReplicateBlock,
  type SimulationTask,
} from "../core";
import type { ThreadAnswer, ThreadRequest } from "./thread";

/** A worker thread of Node that does one thing at a time. */
export class NodeThread implements MakerThread, PieceThread {
  private readonly worker: Worker;

  /** @param program what a thread runs; by default what stands beside this file */
  constructor(program = new URL("./thread.mjs", import.meta.url)) {
    this.worker = new Worker(program);
  }

  async ask(request: MakerRequest): Promise<ReplicateBlock | null> {
    return (await this.send(request)) as ReplicateBlock | null;
  }

  async make(key: string, task: SimulationTask, piece: Piece): Promise<PieceResult> {
    return (await this.send({ kind: "piece", key, task, piece })) as PieceResult;
  }

  /** What is under way is refused. */
  end(): void {
    void this.worker.terminate();
  }

  private send(request: ThreadRequest): Promise<PieceResult | ReplicateBlock | null> {
    return new Promise((resolve, reject) => {
      const settle = (then: () => void): void => {
        for (const event of ["message", "error", "exit"]) this.worker.removeAllListeners(event);
        then();
      };
      this.worker.once("message", (answer: ThreadAnswer) =>
        settle(() => ("done" in answer ? resolve(answer.done) : reject(new Error(answer.fault)))),
      );
      this.worker.once("error", (error) => settle(() => reject(error)));
      this.worker.once("exit", (code) =>
        settle(() => reject(new Error(`A worker thread ended with code ${code}.`))),
      );
      this.worker.postMessage(request);
    });
  }
}

/** A pool of so many threads of Node that make replicates. */
export const nodePool = (size: number, program?: URL): ReplicatePool =>
  new ReplicatePool(() => new NodeThread(program), size);

/** A pool of so many threads of Node that make pieces of a simulation. */
export const nodePieces = (size: number): PiecePool => new PiecePool(() => new NodeThread(), size);
