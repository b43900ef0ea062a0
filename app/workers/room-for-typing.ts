/** So long after the last letter the hand is taken to rest, in milliseconds. */
const REST_MS = 200;
/** Nothing waits longer than this for a hand that does not rest, in milliseconds. */
const MOST_MS = 10_000;

/**
 * How much longer to wait for the hand to rest, in milliseconds; none is left where it is not above
 * zero.
 * @param typedAt when the last key was pressed
 * @param since when the waiting began, and @param now the time, all on the same clock
 */
export const restLeft = (typedAt: number, since: number, now: number): number =>
  Math.min(typedAt + REST_MS, since + MOST_MS) - now;

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
      const rest = restLeft(this.typedAt, since, this.now());
      if (rest <= 0) return threads;
      if (threads > 1) return threads - 1;
      await new Promise((resolve) => setTimeout(resolve, rest));
    }
  };
}
