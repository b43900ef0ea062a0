import type { ReplicateBlock } from "../inference";
import type { ResamplingProblem } from "../preparation";
import type { MakerRequest } from "../preparation/replicate-maker";

/** A thread that makes replicates, as a browser or Node starts it. */
export interface MakerThread {
  /** Answers in the order asked; rejects when the thread has died. */
  ask(request: MakerRequest): Promise<ReplicateBlock | null>;
  end(): void;
}

/** So often a share is tried again on a fresh thread before the fault is said. */
const MOST_TRIES = 3;

/**
 * Threads that make the replicates of one problem at a time. Which thread makes which changes no
 * digit. A thread that dies is replaced, and its share made again.
 */
export class ReplicatePool {
  private readonly seats: Seat[];
  private closings = 0;

  /**
   * @param free how many of the threads may work next; resolves when at least one may, so that a
   *   pool can make room for others
   */
  constructor(
    start: () => MakerThread,
    size: number,
    private readonly free: (size: number) => number | Promise<number> = (all) => all,
  ) {
    this.seats = Array.from({ length: Math.max(1, size) }, () => new Seat(start));
  }

  /**
   * Replicates first .. first + count - 1, split evenly, in order.
   * @param key names the problem
   * @param signal where it is aborted before a thread may work, nothing is made
   */
  replicates(
    key: string,
    problem: ResamplingProblem,
    first: number,
    count: number,
    signal?: AbortSignal,
  ): Promise<ReplicateBlock[]> {
    return this.share("replicates", key, problem, { first, count, signal });
  }

  /**
   * Parameter vectors with units first .. first + count - 1 left out in turn, split evenly, in
   * order.
   */
  jackknife(
    key: string,
    problem: ResamplingProblem,
    first: number,
    count: number,
    signal?: AbortSignal,
  ): Promise<ReplicateBlock[]> {
    return this.share("jackknife", key, problem, { first, count, signal });
  }

  private async share(
    kind: "replicates" | "jackknife",
    key: string,
    problem: ResamplingProblem,
    { first, count, signal }: { first: number; count: number; signal: AbortSignal | undefined },
  ): Promise<ReplicateBlock[]> {
    const { closings } = this;
    const free = this.free(this.seats.length);
    const seats = this.seats.slice(0, Math.max(1, typeof free === "number" ? free : await free));
    if (closings !== this.closings) throw new Error("the pool was closed");
    if (signal?.aborted) return [];
    const share = Math.ceil(count / seats.length);
    const parts = seats
      .map((seat, i) => ({
        seat,
        from: first + i * share,
        size: Math.min(share, count - i * share),
      }))
      .filter((part) => part.size > 0);
    return Promise.all(
      parts.map(({ seat, from, size }) =>
        seat.make(key, problem, { kind, key, first: from, count: size }),
      ),
    );
  }

  /** Ends every thread; a later call starts new ones. */
  close(): void {
    this.closings += 1;
    for (const seat of this.seats) seat.close();
  }
}

/** The place of one thread. */
class Seat {
  private thread: MakerThread | null = null;
  private prepared = "";
  private busy: Promise<unknown> | null = null;
  private closings = 0;

  constructor(private readonly start: () => MakerThread) {}

  /** One request after another: a thread knows one problem at a time. */
  async make(
    key: string,
    problem: ResamplingProblem,
    request: MakerRequest,
  ): Promise<ReplicateBlock> {
    const { closings } = this;
    while (this.busy) {
      await this.busy;
      if (closings !== this.closings) throw new Error("the pool was closed");
    }
    const making = this.makeNow(key, problem, request);
    const free = (): void => {
      this.busy = null;
    };
    this.busy = making.then(free, free);
    return making;
  }

  private async makeNow(
    key: string,
    problem: ResamplingProblem,
    request: MakerRequest,
  ): Promise<ReplicateBlock> {
    for (let attempt = 1; ; attempt++) {
      const thread = (this.thread ??= this.start());
      try {
        if (this.prepared !== key) {
          await thread.ask({ kind: "prepare", key, problem });
          this.prepared = key;
        }
        return (await thread.ask(request))!;
      } catch (error) {
        // The pool was closed while it worked: nothing is to be tried again.
        if (this.thread !== thread) throw error;
        this.end();
        if (attempt === MOST_TRIES) throw error;
      }
    }
  }

  /** Ends the thread; what waits for it is not begun. */
  close(): void {
    this.closings += 1;
    this.end();
  }

  end(): void {
    this.thread?.end();
    this.thread = null;
    this.prepared = "";
  }
}
