/** A question that has been sent, by its ticket. */
interface Question {
  ticket: string;
  /** Resolves with the answer. */
  told: Promise<unknown>;
}

/**
 * Answers on their way from an action to who asked. A router gives up waiting for a request that a
 * newer one has replaced, while its action goes on; its answer counts all the same.
 */
export class Answers {
  private readonly waiting = new Map<string, (answer: unknown) => void>();
  private asked = 0;

  /** Opens a question; its ticket travels with the request. */
  open(): Question {
    const ticket = String((this.asked += 1));
    const told = new Promise<unknown>((resolve) => this.waiting.set(ticket, resolve));
    return { ticket, told };
  }

  /** Answers a question; nobody hears it where nobody waits any more. */
  answer(ticket: string, answer: unknown): void {
    this.waiting.get(ticket)?.(answer);
    this.waiting.delete(ticket);
  }

  /**
   * Waits until the router is through, and then a while longer for an answer that has not come yet.
   * @param sent settles when the router is through
   * @param graceMs so long an action may go on without the router
   * @returns the answer; undefined where none came
   */
  async hear({ ticket, told }: Question, sent: Promise<void>, graceMs: number): Promise<unknown> {
    let timer: ReturnType<typeof setTimeout> | undefined;
    try {
      await sent;
      const late = new Promise<undefined>((resolve) => {
        timer = setTimeout(() => resolve(undefined), graceMs);
      });
      return await Promise.race([told, late]);
    } finally {
      clearTimeout(timer);
      this.waiting.delete(ticket);
    }
  }
}
