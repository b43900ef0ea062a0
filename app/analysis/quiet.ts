/** So long after the last key the hand is taken to rest, in milliseconds. */
const REST_MS = 200;
/** What waits for a hand that does not rest is done after so long, in milliseconds. */
const MOST_MS = 10_000;

let lastKey = -Infinity;
if (typeof addEventListener === "function")
  addEventListener("keydown", () => (lastKey = performance.now()), {
    capture: true,
    passive: true,
  });

/**
 * Does something when nobody types: at once, or when the hand rests. Drawing what a long run has found costs frames that belong
 * to the letters.
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
    const rest = Math.min(this.typedAt() + REST_MS, this.since + MOST_MS) - this.now();
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
