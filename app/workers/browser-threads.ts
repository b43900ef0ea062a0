import { ReplicatePool, type MakerRequest, type ReplicateBlock } from "../../core";
import { BrowserThread } from "./browser-thread";
import { withoutWorkers, type Work } from "./thread";

const REPLICATES: Work = {
  worker: () => new Worker(new URL("./replicates.worker.ts", import.meta.url), { type: "module" }),
  tasks: () => import("./replicates-tasks"),
};

const MAX_THREADS = 8;

/**
 * One thread for each processor but the one that draws the screen; one for all where workers do not
 * start.
 * @param free how many of so many may work next, where others need room
 */
export const browserPool = (free: (threads: number) => Promise<number>): ReplicatePool => {
  const size = Math.max(1, Math.min(MAX_THREADS, (navigator.hardwareConcurrency || 2) - 1));
  return new ReplicatePool(
    () => new BrowserThread<MakerRequest, ReplicateBlock | null>(REPLICATES),
    size,
    (threads) => free(withoutWorkers() ? 1 : threads),
  );
};
