import type { Reply } from "./answering";
import { Thread, type Work } from "./thread";

/** A thread that answers one question at a time. */
export class BrowserThread<Question, Answer> {
  private readonly thread: Thread;
  private resolve: ((answer: Answer) => void) | null = null;
  private refuse: ((reason: Error) => void) | null = null;

  constructor(work: Work) {
    this.thread = new Thread(work);
    this.thread.addEventListener("message", (event) => {
      const reply = (event as MessageEvent<Reply<Answer>>).data;
      if ("fault" in reply) this.refuse?.(new Error(reply.fault));
      else this.resolve?.(reply.answer);
    });
    this.thread.addEventListener("error", (event) =>
      this.refuse?.(new Error((event as ErrorEvent).message || "A thread could not be started.")),
    );
    this.thread.addEventListener("messageerror", () =>
      this.refuse?.(new Error("A thread sent something that cannot be read.")),
    );
  }

  /** Rejects when the thread dies, and when it is ended before it has answered. */
  ask(question: Question): Promise<Answer> {
    return new Promise((resolve, reject) => {
      this.resolve = resolve;
      this.refuse = reject;
      this.thread.postMessage(question);
    });
  }

  end(): void {
    this.thread.terminate();
    this.refuse?.(new Error("The work was ended."));
  }
}
