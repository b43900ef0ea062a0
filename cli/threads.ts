import { Worker } from "node:worker_threads";
import { ReplicatePool, type MakerRequest, type MakerThread, type ReplicateBlock } from "../core";

/** A worker thread of Node that makes replicates. */
class NodeThread implements MakerThread {
  private readonly worker = new Worker(new URL("./replicate-worker.mjs", import.meta.url));

  ask(request: MakerRequest): Promise<ReplicateBlock | null> {
    return new Promise((resolve, reject) => {
      const settle = (then: () => void): void => {
        for (const event of ["message", "error", "exit"]) this.worker.removeAllListeners(event);
        then();
      };
      this.worker.once("message", (block: ReplicateBlock | null) => settle(() => resolve(block)));
      this.worker.once("error", (error) => settle(() => reject(error)));
      this.worker.once("exit", (code) =>
        settle(() => reject(new Error(`A worker thread ended with code ${code}.`))),
      );
      this.worker.postMessage(request);
    });
  }

  end(): void {
    void this.worker.terminate();
  }
}

/** A pool of so many worker threads of Node. */
export const nodePool = (size: number): ReplicatePool =>
  new ReplicatePool(() => new NodeThread(), size);
