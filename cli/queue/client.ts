import { Job, Queue, QueueEvents } from "bullmq";
import {
  ReplicatePool,
  type MakerRequest,
  type MakerThread,
  type PieceResult,
  type PieceRunner,
  type ReplicateBlock,
  type ResamplingProblem,
} from "../../core";
import { connectionTo, QUEUE } from "./connection";
import { nameOf, packed, unpackedDone } from "./payload";
import type { Done, Work } from "./work";

/** Results are kept so long, seconds, for a producer that comes back. */
const KEPT = 24 * 3600;
/**
 * Events may be missed while Redis is away, so what is awaited is also looked up so often,
 * milliseconds.
 */
const LOOK_EVERY = 1500;
/** So often a job is tried again after a fault. */
const ATTEMPTS = 5;
/** Shares into which resamples are cut, however many workers there are. */
const SHARES = 16;

interface Awaited {
  /** Puts the work on the queue; once more does no harm. */
  ask(): Promise<unknown>;
  settle(text: string): void;
  fail(error: Error): void;
}

/** Puts work on a queue and waits for what is done. The same work asked for twice is done once. */
export class QueueClient {
  private readonly queue: Queue;
  private readonly events: QueueEvents;
  private readonly awaited = new Map<string, Awaited>();
  private readonly timer: NodeJS.Timeout;
  private looking = false;

  constructor(url: string) {
    const connection = connectionTo(url);
    this.queue = new Queue(QUEUE, { connection });
    this.events = new QueueEvents(QUEUE, { connection });
    // Redis being away shows in the waiting, and mends itself.
    this.queue.on("error", () => undefined);
    this.events.on("error", () => undefined);
    this.events.on("completed", ({ jobId, returnvalue }) =>
      this.settle(jobId, returnvalue as unknown as string | null),
    );
    this.events.on("failed", () => void this.look());
    this.timer = setInterval(() => void this.look(), LOOK_EVERY);
  }

  /** Has work done by any worker of the queue. */
  async do(work: Work): Promise<Done> {
    const text = packed(work);
    const id = nameOf(text);
    const ask = (): Promise<unknown> =>
      this.queue.add(work.kind, text, {
        jobId: id,
        attempts: ATTEMPTS,
        removeOnComplete: { age: KEPT },
        removeOnFail: { age: KEPT },
      });
    const done = new Promise<string>((settle, fail) => this.awaited.set(id, { ask, settle, fail }));
    await ask();
    return unpackedDone(await done);
  }

  /** Makes pieces on the queue; all are put there at once. */
  readonly run: PieceRunner = async (task, pieces, each, signal) => {
    const key = nameOf(packed(task));
    await Promise.all(
      pieces.map(async (piece) => {
        const result = await this.do({ kind: "piece", key, task, piece });
        if (!signal?.aborted) each(result as PieceResult);
      }),
    );
  };

  /** A pool whose replicates are made on the queue. */
  replicates(): ReplicatePool {
    return new ReplicatePool(() => new QueuedMaker(this), SHARES);
  }

  async close(): Promise<void> {
    clearInterval(this.timer);
    await Promise.allSettled([this.events.close(), this.queue.close()]);
  }

  /**
   * @param text null where the job was read before it was done, though it is by now: the next look
   *   finds it
   */
  private settle(id: string, text: string | null): void {
    if (typeof text !== "string") return;
    this.awaited.get(id)?.settle(text);
    this.awaited.delete(id);
  }

  /** Looks awaited jobs up one by one; one that Redis has lost is asked for again. */
  private async look(): Promise<void> {
    if (this.looking) return;
    this.looking = true;
    try {
      for (const [id, { ask, fail }] of [...this.awaited]) {
        const job = await Job.fromId(this.queue, id);
        if (!job) await ask();
        else if (await job.isCompleted()) this.settle(id, job.returnvalue as string | null);
        else if (await job.isFailed()) {
          this.awaited.delete(id);
          fail(new Error(`A worker could not do its work: ${job.failedReason}`));
        }
      }
    } catch {
      // Redis is away: the next look will tell.
    } finally {
      this.looking = false;
    }
  }
}

/** A seat of a pool whose work is done on the queue. */
class QueuedMaker implements MakerThread {
  private held: { key: string; problem: ResamplingProblem } | null = null;

  constructor(private readonly client: QueueClient) {}

  async ask(request: MakerRequest): Promise<ReplicateBlock | null> {
    if (request.kind === "prepare") {
      this.held = { key: nameOf(packed(request.problem)), problem: request.problem };
      return null;
    }
    const { kind, first, count } = request;
    return (await this.client.do({ kind, ...this.held!, first, count })) as ReplicateBlock;
  }

  end(): void {
    this.held = null;
  }
}
