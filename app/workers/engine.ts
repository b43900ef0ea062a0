import { wrap, type Remote } from "comlink";
import type { Engine } from "./engine-tasks";
import { Thread, type Work } from "./thread";

const ENGINE: Work = {
  worker: () => new Worker(new URL("./engine.worker.ts", import.meta.url), { type: "module" }),
  tasks: () => import("./engine-tasks"),
};

let held: { thread: Thread; engine: Remote<Engine> } | null = null;
const watchers = new Set<() => void>();

/** The one engine of this tab. A thread that has died is replaced by the next call. */
export function engine(): Remote<Engine> {
  if (held) return held.engine;
  const thread = new Thread(ENGINE);
  const lost = (): void => {
    if (held?.thread !== thread) return;
    held = null;
    thread.terminate();
    for (const watcher of watchers) watcher();
  };
  thread.addEventListener("error", lost);
  thread.addEventListener("messageerror", lost);
  held = { thread, engine: wrap<Engine>(thread) };
  return held.engine;
}

/**
 * Calls back when the worker has died: answers that were awaited will never come. Returns how to
 * stop watching.
 */
export function onEngineLost(watcher: () => void): () => void {
  watchers.add(watcher);
  return () => watchers.delete(watcher);
}
