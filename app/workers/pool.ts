import { wrap, type Remote } from "comlink";
import type { ReplicateBlock, ResamplingProblem } from "../../core";
import type { Engine } from "./engine.worker";
import type { ReplicateMaker } from "./replicates.worker";

const MAX_WORKERS = 8;

let engineHeld: Remote<Engine> | null = null;

/** The one engine worker of this tab. */
export function engine(): Remote<Engine> {
  engineHeld ??= wrap<Engine>(new Worker(new URL("./engine.worker.ts", import.meta.url), { type: "module" }));
  return engineHeld;
}

let makers: Remote<ReplicateMaker>[] | null = null;

/** The workers that make replicates: one for each processor but the one that draws the screen. */
function pool(): Remote<ReplicateMaker>[] {
  const size = Math.max(1, Math.min(MAX_WORKERS, (navigator.hardwareConcurrency || 2) - 1));
  makers ??= Array.from({ length: size }, () =>
    wrap<ReplicateMaker>(new Worker(new URL("./replicates.worker.ts", import.meta.url), { type: "module" })),
  );
  return makers;
}

/** Starts the workers before they are needed. */
export function warmUp(): void {
  engine();
  pool();
}

/** Replicates first .. first + count - 1, split over the pool, in order; null when the problem is no longer wanted. */
export async function makeReplicates(token: number, first: number, count: number): Promise<ReplicateBlock[] | null> {
  const workers = pool();
  const share = Math.ceil(count / workers.length);
  const parts = workers
    .map((worker, i) => ({ worker, from: first + i * share, size: Math.min(share, count - i * share) }))
    .filter((p) => p.size > 0);
  const blocks = await Promise.all(parts.map(({ worker, from, size }) => worker.make(token, from, size)));
  return blocks.some((b) => b === null) ? null : (blocks as ReplicateBlock[]);
}

export async function prepareReplicates(token: number, problem: ResamplingProblem): Promise<void> {
  await Promise.all(pool().map((worker) => worker.prepare(token, problem)));
}
