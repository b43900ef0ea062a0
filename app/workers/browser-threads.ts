import {
  ReplicatePool,
  type MakerRequest,
  type MakerThread,
  type ReplicateBlock,
} from "../../core";

const MAX_THREADS = 8;

/** A worker of the browser that makes replicates. */
class BrowserThread implements MakerThread {
  private readonly worker = new Worker(new URL("./replicates.worker.ts", import.meta.url), {
    type: "module",
  });

  ask(request: MakerRequest): Promise<ReplicateBlock | null> {
    return new Promise((resolve, reject) => {
      this.worker.onmessage = ({ data }: MessageEvent<ReplicateBlock | null>) => resolve(data);
      this.worker.onerror = (event) =>
        reject(new Error(event.message || "A worker could not be started."));
      this.worker.onmessageerror = () =>
        reject(new Error("A worker sent something that cannot be read."));
      this.worker.postMessage(request);
    });
  }

  end(): void {
    this.worker.terminate();
  }
}

/** One thread for each processor but the one that draws the screen. */
export const browserPool = (): ReplicatePool => {
  const size = Math.max(1, Math.min(MAX_THREADS, (navigator.hardwareConcurrency || 2) - 1));
  return new ReplicatePool(() => new BrowserThread(), size);
};
