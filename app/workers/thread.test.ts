import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import type { Work } from "./thread";

/** A worker as this test wants it. */
class Fake {
  static made: Fake[] = [];
  onmessage: ((event: { data: unknown }) => void) | null = null;
  onerror: ((event: { message: string }) => void) | null = null;
  readonly heard: unknown[] = [];
  ended = false;
  constructor() {
    Fake.made.push(this);
  }
  postMessage(message: unknown): void {
    this.heard.push(message);
  }
  terminate(): void {
    this.ended = true;
  }
}

/** Work that is done here by answering every question in capitals. */
const WORK: Work = {
  worker: () => new Worker("somewhere"),
  tasks: () =>
    Promise.resolve({
      serve: (port) =>
        port.addEventListener("message", (event) =>
          port.postMessage(String((event as MessageEvent).data).toUpperCase()),
        ),
    }),
};

type Module = typeof import("./thread");
let threads: Module;

beforeEach(async () => {
  vi.resetModules();
  Fake.made = [];
  vi.stubGlobal("Worker", Fake);
  threads = await import("./thread");
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** A thread that was asked something, and what it says. */
function asked(question = "well"): {
  thread: InstanceType<Module["Thread"]>;
  said: Promise<unknown>;
} {
  const thread = new threads.Thread(WORK);
  const said = new Promise((resolve, reject) => {
    thread.addEventListener("message", (event) => resolve((event as MessageEvent).data));
    thread.addEventListener("error", (event) => reject(new Error((event as ErrorEvent).message)));
  });
  thread.postMessage(question);
  return { thread, said };
}

describe("a thread", () => {
  test("asks a worker as soon as that is there", async () => {
    const { said } = asked();
    const worker = Fake.made[0]!;
    expect(worker.heard).toEqual([]);
    worker.onmessage!({ data: "here" });
    expect(worker.heard).toEqual(["well"]);
    worker.onmessage!({ data: "answer" });
    expect(await said).toBe("answer");
    expect(threads.withoutWorkers()).toBe(false);
    // What is known is not waited for again.
    asked("more");
    expect(Fake.made[1]!.heard).toEqual(["more"]);
  });

  test("does the work itself where workers are forbidden, and tells who listens", async () => {
    vi.stubGlobal(
      "Worker",
      vi.fn(function () {
        throw new Error("forbidden");
      }),
    );
    const heard = vi.fn();
    threads.onWithoutWorkers(heard);
    const { thread, said } = asked();
    expect(await said).toBe("WELL");
    expect(heard).toHaveBeenCalledTimes(1);
    expect(threads.withoutWorkers()).toBe(true);
    thread.terminate();
    expect(await asked("again").said).toBe("AGAIN");
    expect(heard).toHaveBeenCalledTimes(1);
  });

  test("does the work itself where a worker breaks before it is there", async () => {
    const { thread, said } = asked();
    Fake.made[0]!.onerror!({ message: "" });
    expect(await said).toBe("WELL");
    expect(Fake.made[0]!.ended).toBe(true);
    thread.terminate();
  });

  test("waits four seconds for a worker that says nothing, and hears it no more afterwards", async () => {
    vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
    const { thread, said } = asked();
    await vi.advanceTimersByTimeAsync(3900);
    expect(Fake.made[0]!.ended).toBe(false);
    await vi.advanceTimersByTimeAsync(200);
    vi.useRealTimers();
    expect(await said).toBe("WELL");
    expect(Fake.made[0]!.ended).toBe(true);
    Fake.made[0]!.onmessage!({ data: "here" });
    expect(Fake.made[0]!.heard).toEqual([]);
    expect(threads.withoutWorkers()).toBe(true);
    thread.terminate();
  });

  test("that is ended before its worker is there gives that nothing to do", () => {
    const { thread } = asked();
    thread.terminate();
    expect(Fake.made[0]!.ended).toBe(true);
  });

  test("does not take a worker for silent whose programs are still on their way", async () => {
    vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
    const tasks = () =>
      new Promise<Awaited<ReturnType<Work["tasks"]>>>((resolve) =>
        setTimeout(() => void WORK.tasks().then(resolve), 20_000),
      );
    const thread = new threads.Thread({ ...WORK, tasks });
    thread.postMessage("well");
    await vi.advanceTimersByTimeAsync(22_700);
    expect(Fake.made[0]!.ended).toBe(false);
    Fake.made[0]!.onmessage!({ data: "here" });
    expect(Fake.made[0]!.heard).toEqual(["well"]);
    await vi.advanceTimersByTimeAsync(10_000);
    expect(threads.withoutWorkers()).toBe(false);
  });

  test("says when a worker that was there breaks: that is no reason to do without workers", async () => {
    const { said } = asked();
    const worker = Fake.made[0]!;
    worker.onmessage!({ data: "here" });
    worker.onerror!({ message: "out of memory" });
    await expect(said).rejects.toThrow("out of memory");
    expect(threads.withoutWorkers()).toBe(false);
  });
});
