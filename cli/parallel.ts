import { Worker } from "node:worker_threads";
import { analyse, prepare, Resampler, type Evidence, type ReplicateBlock, type StudyDefinition, type Table } from "../core";
import { assembleEvidence } from "../core/evidence";
import type { Reply, Request } from "./replicate-worker";

/** Worker threads that make replicates; the result does not depend on how many there are. */
export class ReplicatePool {
  private readonly workers: Worker[];

  constructor(size: number) {
    const start = new URL("./replicate-worker.mjs", import.meta.url);
    this.workers = Array.from({ length: size }, () => new Worker(start));
  }

  /** Resolves when every thread has loaded its code. */
  async ready(): Promise<void> {
    await Promise.all(this.workers.map((worker) => ask(worker, { kind: "ping" })));
  }

  /** Replicates 0 .. count - 1 of a problem, split evenly. */
  async replicates(problem: Request["problem"], count: number): Promise<ReplicateBlock[]> {
    const share = Math.ceil(count / this.workers.length);
    const parts = this.workers
      .map((worker, i) => ({ worker, first: i * share, count: Math.min(share, count - i * share) }))
      .filter((part) => part.count > 0);
    return Promise.all(
      parts.map(
        ({ worker, first, count: size }) => ask(worker, { kind: "replicates", problem, first, count: size }) as Promise<ReplicateBlock>,
      ),
    );
  }

  async close(): Promise<void> {
    await Promise.all(this.workers.map((worker) => worker.terminate()));
  }
}

function ask(worker: Worker, request: Request): Promise<Reply> {
  return new Promise((resolve, reject) => {
    worker.once("message", resolve);
    worker.once("error", reject);
    worker.postMessage(request);
  });
}

/** `analyse` with the replicates made by `workers` threads. */
export async function analyseInParallel(study: StudyDefinition, table: Table, workers: number): Promise<Evidence> {
  if (workers <= 1) return analyse(study, table);
  const prepared = prepare(study, table);
  const { replications } = prepared.study.settings;
  if (replications === 0) return assembleEvidence(prepared, null);
  const pool = new ReplicatePool(workers);
  try {
    const making = pool.replicates(prepared.resampling, replications);
    const jackknife = new Resampler(prepared.resampling).jackknife();
    return assembleEvidence(prepared, { replicates: await making, jackknife });
  } finally {
    await pool.close();
  }
}
