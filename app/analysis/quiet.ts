import { restLeft } from "../workers/room-for-typing";

let lastKey = -Infinity;
const watchers = new Set<() => void>();

function pressed(): void {
  lastKey = performance.now();
  for (const watcher of watchers) watcher();
}
if (typeof addEventListener === "function")
  addEventListener("keydown", pressed, { capture: true, passive: true });

/** Calls back with every key that is pressed; returns how to end that. */
export function onTyped(watcher: () => void): () => void {
  watchers.add(watcher);
  return () => watchers.delete(watcher);
}

/**
 * Does something when nobody types: at once, or when the hand rests. Drawing what a long run has
 * found costs frames that belong to the letters.
 */
export class Quiet {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private since: number | null = null;

  /**
   * @param typedAt when the last key was pressed
   * @param now the time, in milliseconds on the same clock
   */
  constructor(
    private readonly typedAt = (): number => lastKey,
    private readonly now = (): number => performance.now(),
  ) {}

  /** Does the task, now or later, instead of one that waits. */
  do(task: () => void): void {
    clearTimeout(this.timer);
    this.since ??= this.now();
    const rest = restLeft(this.typedAt(), this.since, this.now());
    if (rest > 0) this.timer = setTimeout(() => this.do(task), rest);
    else {
      this.since = null;
      task();
    }
  }

  /** What waits is no longer wanted. */
  forget(): void {
    clearTimeout(this.timer);
    this.since = null;
  }
}
