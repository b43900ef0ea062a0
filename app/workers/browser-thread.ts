/** A worker of the browser that answers one question at a time. */
export class BrowserThread<Question, Answer> {
  private refuse: ((reason: Error) => void) | null = null;

  constructor(private readonly worker: Worker) {}

  /** Rejects when the worker dies, and when it is ended before it has answered. */
  ask(question: Question): Promise<Answer> {
    return new Promise((resolve, reject) => {
      this.refuse = reject;
      this.worker.onmessage = ({ data }: MessageEvent<Answer>) => resolve(data);
      this.worker.onerror = (event) =>
        reject(new Error(event.message || "A worker could not be started."));
      this.worker.onmessageerror = () =>
        reject(new Error("A worker sent something that cannot be read."));
      this.worker.postMessage(question);
    });
  }

  end(): void {
    this.worker.terminate();
    this.refuse?.(new Error("The work was ended."));
  }
}
