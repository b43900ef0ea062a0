/** So long after the last letter the hand is taken to rest, in milliseconds. */
export const REST_MS = 200;
/** Nothing waits longer than this for a hand that does not rest, in milliseconds. */
export const MOST_MS = 10_000;

/**
 * While somebody types, one processor more is left to the page: a letter that shares its processor
 * with a thread of resampling waits for it.
 */
export class RoomForTyping {
  private typedAt = -Infinity;

  /** @param now the time, in milliseconds */
  constructor(private readonly now = (): number => performance.now()) {}

  /** A key was pressed. */
  typed(): void {
    this.typedAt = this.now();
  }

  /**
   * How many of so many threads may work next: all, or one less while somebody types; resolves when
   * at least one may.
   */
  readonly free = async (threads: number): Promise<number> => {
    const since = this.now();
    for (;;) {
      const rest = Math.min(this.typedAt + REST_MS, since + MOST_MS) - this.now();
      if (rest <= 0) return threads;
      if (threads > 1) return threads - 1;
      await new Promise((resolve) => setTimeout(resolve, rest));
    }
  };
}
