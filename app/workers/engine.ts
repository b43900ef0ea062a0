import { wrap, type Remote } from "comlink";
import type { Engine } from "./engine.worker";

let held: { worker: Worker; engine: Remote<Engine> } | null = null;
const watchers = new Set<() => void>();

/** The one engine worker of this tab. A worker that has died is replaced by the next call. */
export function engine(): Remote<Engine> {
  if (held) return held.engine;
  const worker = new Worker(new URL("./engine.worker.ts", import.meta.url), { type: "module" });
  const lost = (): void => {
    if (held?.worker !== worker) return;
    held = null;
    worker.terminate();
    for (const watcher of watchers) watcher();
  };
  worker.onerror = lost;
  worker.onmessageerror = lost;
  held = { worker, engine: wrap<Engine>(worker) };
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
