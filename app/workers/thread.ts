import { HELLO, type Port } from "./scope";

/** What is done in a thread: the worker for it, and the same tasks where there is none. */
export interface Work {
  worker: () => Worker;
  tasks: () => Promise<{ serve: (port: Port, shared: AbortSignal) => void }>;
}

/** So often is it looked whether the first worker is there, and so many ms apart: four seconds. */
const LOOKS = 8;
const APART = 500;
/** After so many of them its programs are fetched by the page, too. */
const FETCHED_AFTER = 6;

/** Whether workers start here is known as soon as the first has said something, or has not. */
let start: "unknown" | "workers" | "none" = "unknown";
const listeners = new Set<() => void>();

/** No worker starts in this browser: everything is done in the thread of the page. */
export const withoutWorkers = (): boolean => start === "none";

/** Calls back when that becomes known; returns how to end it. */
export function onWithoutWorkers(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

type Told = [message: unknown, transfer: Transferable[]];

/**
 * A thread for some work, used like a worker of the browser. Where workers do not start (forbidden,
 * blocked, or they say nothing), the work is done in the thread that asks, by the same programs:
 * slower, and what has been asked meanwhile is not lost.
 */
export class Thread extends EventTarget {
  private to: Worker | MessagePort | null = null;
  private worker: Worker | null = null;
  private readonly waiting: Told[] = [];
  private readonly end = new AbortController();

  constructor(private readonly work: Work) {
    super();
    if (start === "none") void this.here();
    else this.apart();
  }

  postMessage(message: unknown, transfer: Transferable[] = []): void {
    if (this.to) this.to.postMessage(message, transfer);
    else this.waiting.push([message, transfer]);
  }

  terminate(): void {
    this.end.abort();
    this.worker?.terminate();
    if (this.to instanceof MessagePort) this.to.close();
  }

  /** In a worker of its own. */
  private apart(): void {
    let worker: Worker;
    try {
      worker = this.work.worker();
    } catch (error) {
      if (start !== "workers") void this.here();
      else queueMicrotask(() => this.fail(error));
      return;
    }
    this.worker = worker;
    let there = start === "workers";
    if (there) this.lead(worker);
    else
      this.await(
        () => there,
        () => {
          worker.terminate();
          void this.here();
        },
      );
    worker.onmessage = ({ data }) => {
      if (data !== HELLO) return void this.tell(new MessageEvent("message", { data }));
      if (there || this.to) return;
      there = true;
      start = "workers";
      this.lead(worker);
    };
    worker.onerror = ({ message }) => {
      if (!there && !this.to) {
        there = true;
        worker.terminate();
        void this.here();
      } else this.fail(message);
    };
    worker.onmessageerror = () => this.tell(new MessageEvent("messageerror"));
  }

  /**
   * Looks a few times: a page that was busy has not waited. A worker whose programs are still on
   * their way over a slow network is not silent either, so the last looks come after the same
   * programs have arrived here.
   */
  private await(there: () => boolean, otherwise: () => void): void {
    let looks = 0;
    const later = (): void => void setTimeout(look, APART);
    const look = (): void => {
      if (there() || this.to || this.ended()) return;
      looks++;
      if (looks > LOOKS) otherwise();
      else if (looks === FETCHED_AFTER) void this.work.tasks().then(later, otherwise);
      else later();
    };
    look();
  }

  /** In the thread that asks. */
  private async here(): Promise<void> {
    const { port1, port2 } = new MessageChannel();
    try {
      const { serve } = await this.work.tasks();
      if (this.ended()) return;
      if (start !== "none") {
        start = "none";
        for (const listener of listeners) listener();
      }
      serve(port2, this.end.signal);
    } catch (error) {
      this.fail(error);
      return;
    }
    port2.start();
    port1.onmessage = ({ data }) => this.tell(new MessageEvent("message", { data }));
    this.lead(port1);
  }

  private lead(to: Worker | MessagePort): void {
    this.to = to;
    for (const [message, transfer] of this.waiting.splice(0)) to.postMessage(message, transfer);
  }

  private ended(): boolean {
    return this.end.signal.aborted;
  }

  private fail(error: unknown): void {
    const message = error instanceof Error ? error.message : String(error);
    this.tell(Object.assign(new Event("error"), { message }));
  }

  private tell(event: Event): void {
    if (!this.ended()) this.dispatchEvent(event);
  }
}
