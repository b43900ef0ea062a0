import { describe, expect, it } from "vitest";
import { analyse } from "./analyse";
import { Analysis } from "./analysis";
import { ReplicateMaker, type MakerRequest } from "../preparation/replicate-maker";
import { ReplicatePool, type MakerThread } from "./replicate-pool";
import { madeStudy, normals } from "../test-kit";

const [a, b, c] = [normals(60, 1), normals(60, 2), normals(60, 3)] as [
  number[],
  number[],
  number[],
];
const m = a.map((v, i) => 0.5 * v + b[i]!);
const made = (settings = {}) =>
  madeStudy({
    columns: { x: a, m, y: m.map((v, i) => 0.5 * v + c[i]!) },
    theory: "H1: x raises y through m",
    settings: { replications: 700, ...settings },
  });

/** Threads in this thread, with a log; `dies` tells which request kills the thread that gets it. */
function threads(dies: (request: MakerRequest, nth: number) => boolean = () => false) {
  const log: MakerRequest[] = [];
  let started = 0;
  let ended = 0;
  const start = (): MakerThread => {
    started += 1;
    const maker = new ReplicateMaker();
    return {
      ask: async (request) => {
        log.push(request);
        if (dies(request, log.length)) throw new Error("out of memory");
        return maker.answer(structuredClone(request));
      },
      end: () => void (ended += 1),
    };
  };
  return { start, log, counts: () => ({ started, ended }) };
}

/** Threads that answer nothing until they end. */
function unanswered() {
  let started = 0;
  const start = (): MakerThread => {
    started += 1;
    let refuse: (reason: Error) => void;
    return {
      ask: () => new Promise((_, reject) => (refuse = reject)),
      end: () => refuse(new Error("ended")),
    };
  };
  return { start, counts: () => ({ started }) };
}

describe("a pool of threads", () => {
  const { definition, table } = made();
  const straight = analyse(definition, table);

  it.each([1, 2, 3, 7])(
    "gives the evidence of one thread, however many there are: %i",
    async (size) => {
      const pool = new ReplicatePool(threads().start, size);
      expect((await Analysis.of(definition, table).completeOn(pool)).evidence()).toEqual(straight);
    },
  );

  it("leaves threads free when it is told to, and waits until one may work; no digit changes", async () => {
    const { start, counts } = threads();
    const allowed = [1, 3, 2];
    let waited = 0;
    const pool = new ReplicatePool(start, 3, async (size) => {
      expect(size).toBe(3);
      await Promise.resolve((waited += 1));
      return allowed.shift() ?? 0;
    });
    const { resampling } = Analysis.of(definition, table).prepared;
    const parts: number[] = [];
    for (const [first, count] of [
      [0, 90],
      [90, 300],
      [390, 200],
      [590, 110],
    ] as const) {
      const blocks = await pool.replicates("one", resampling, first, count);
      parts.push(blocks.length);
      if (first === 0) expect(counts().started).toBe(1);
    }
    // Nobody who asked for none to work is taken at the word: a run that never ends helps nobody.
    expect(parts).toEqual([1, 3, 2, 1]);
    expect(waited).toBe(4);
    const whole = await new ReplicatePool(threads().start, 1).replicates("one", resampling, 0, 700);
    const again = await pool.replicates("one", resampling, 590, 110);
    expect([...again[0]!.values]).toEqual([...whole[0]!.values.slice(590 * whole[0]!.size)]);
  });

  it("splits evenly, in order, and starts no thread that has nothing to do", async () => {
    const { start, log, counts } = threads();
    const pool = new ReplicatePool(start, 4);
    const { resampling } = Analysis.of(definition, table).prepared;
    const blocks = await pool.replicates("one", resampling, 10, 3);
    expect(blocks.map(({ first, count }) => [first, count])).toEqual([
      [10, 1],
      [11, 1],
      [12, 1],
    ]);
    expect(counts().started).toBe(3);
    // The problem is handed over once, not with every batch.
    await pool.replicates("one", resampling, 13, 4);
    expect(log.filter((r) => r.kind === "prepare")).toHaveLength(4);
    await pool.replicates("two", resampling, 0, 4);
    expect(log.filter((r) => r.kind === "prepare")).toHaveLength(8);
  });

  it("replaces a thread that dies, and makes its share again to the same digits", async () => {
    const { start, counts } = threads((request, nth) => request.kind === "replicates" && nth === 3);
    const pool = new ReplicatePool(start, 2);
    expect((await Analysis.of(definition, table).completeOn(pool)).evidence()).toEqual(straight);
    expect(counts()).toEqual({ started: 3, ended: 1 });
  });

  it("says the fault when threads keep dying, and can be used again", async () => {
    let broken = true;
    const { start, counts } = threads(() => broken);
    const pool = new ReplicatePool(start, 1);
    await expect(Analysis.of(definition, table).completeOn(pool)).rejects.toThrow("out of memory");
    expect(counts()).toEqual({ started: 3, ended: 3 });
    broken = false;
    expect((await Analysis.of(definition, table).completeOn(pool)).evidence()).toEqual(straight);
    pool.close();
    expect(counts()).toEqual({ started: 4, ended: 4 });
  });

  it("gives a thread one problem at a time, and none that was given up while it waited for room", async () => {
    const { start, log } = threads();
    let open: (free: number) => void = () => undefined;
    let waiting = true;
    const room = () => (waiting ? new Promise<number>((resolve) => (open = resolve)) : 1);
    const pool = new ReplicatePool(start, 1, room);
    const { resampling } = Analysis.of(definition, table).prepared;
    const other = Analysis.of({ ...definition, theory: "H1: x raises y" }, table).prepared;
    const late = pool.replicates("one", resampling, 0, 8);
    waiting = false;
    const newer = pool.replicates("two", other.resampling, 0, 8);
    open(1);
    expect((await newer)[0]!.count).toBe(8);
    expect((await late)[0]!.count).toBe(8);
    expect(log.map(({ kind, key }) => `${kind} ${key}`)).toEqual([
      "prepare two",
      "replicates two",
      "prepare one",
      "replicates one",
    ]);
    waiting = true;
    const control = new AbortController();
    const givenUp = pool.replicates("one", resampling, 8, 8, control.signal);
    control.abort();
    open(1);
    expect(await givenUp).toEqual([]);
    expect(log).toHaveLength(4);
  });

  it("starts no thread when it is closed while it waits for room", async () => {
    const { start, counts } = threads();
    let go: (free: number) => void = () => undefined;
    const pool = new ReplicatePool(start, 2, () => new Promise((resolve) => (go = resolve)));
    const making = pool.replicates("one", Analysis.of(definition, table).prepared.resampling, 0, 8);
    pool.close();
    go(2);
    await expect(making).rejects.toThrow("the pool was closed");
    expect(counts().started).toBe(0);
  });

  it("starts no thread again when it is closed in the middle", async () => {
    const { start, counts } = unanswered();
    const pool = new ReplicatePool(start, 2);
    const { resampling } = Analysis.of(definition, table).prepared;
    const running = pool.replicates("one", resampling, 0, 10);
    pool.close();
    await expect(running).rejects.toThrow("ended");
    expect(counts().started).toBe(2);
  });

  it("does not begin what waits for a thread when it is closed", async () => {
    const { start, counts } = unanswered();
    const pool = new ReplicatePool(start, 1);
    const { resampling } = Analysis.of(definition, table).prepared;
    const running = pool.replicates("one", resampling, 0, 10);
    const waiting = pool.replicates("two", resampling, 0, 10);
    pool.close();
    await expect(running).rejects.toThrow("ended");
    await expect(waiting).rejects.toThrow("the pool was closed");
    expect(counts().started).toBe(1);
  });

  it("leaves one out on the threads where a replicate takes long, in batches", async () => {
    const { start, log } = threads();
    const analysis = Analysis.of(definition, table);
    analysis.prepared.fit.batch = 25;
    const pool = new ReplicatePool(start, 2);
    let last = null;
    for await (const { evidence } of analysis.resample(pool, new AbortController().signal))
      last = evidence ?? last;
    expect(last).toEqual(straight);
    const left = log.filter((r) => r.kind === "jackknife");
    expect(left.map(({ first, count }) => [first, count])).toEqual([
      [0, 13],
      [13, 12],
      [25, 13],
      [38, 12],
      [50, 5],
      [55, 5],
    ]);
    expect(Math.max(...log.map((r) => (r.kind === "replicates" ? r.count : 0)))).toBe(13);
  });

  it("knows only the problem it was given last", () => {
    const maker = new ReplicateMaker();
    expect(() => maker.answer({ kind: "replicates", key: "unknown", first: 0, count: 1 })).toThrow(
      /not known/,
    );
    const { resampling } = Analysis.of(definition, table).prepared;
    expect(maker.answer({ kind: "prepare", key: "a", problem: resampling })).toBeNull();
    expect(maker.answer({ kind: "jackknife", key: "a", first: 0, count: 60 })!.count).toBe(60);
    expect(maker.answer({ kind: "replicates", key: "a", first: 3, count: 2 })).toMatchObject({
      first: 3,
      count: 2,
    });
  });
});

describe("a run in batches", () => {
  const { definition, table } = made();

  it("tells of every batch, puts evidence together now and then, and ends with all of it", async () => {
    const analysis = Analysis.of(definition, table);
    const seen: [number, boolean][] = [];
    for await (const { done, evidence } of analysis.resample(
      new ReplicatePool(threads().start, 2),
      new AbortController().signal,
    )) {
      seen.push([done, evidence !== null]);
      if (evidence) expect(evidence.bootstrap).toMatchObject({ done, requested: 700 });
    }
    expect(seen).toEqual([
      [400, true],
      [700, true],
    ]);
    expect(analysis.evidence()).toEqual(analyse(definition, table));
    expect(analysis.done).toBe(700);
  });

  it("ends between batches when it is stopped, and keeps what is made", async () => {
    const { definition: long, table: rows } = made({ replications: 5000 });
    const analysis = Analysis.of(long, rows);
    const control = new AbortController();
    const pool = new ReplicatePool(threads().start, 1);
    for await (const { done } of analysis.resample(pool, control.signal))
      if (done >= 400) control.abort();
    const { done } = analysis;
    expect(done).toBeLessThan(5000);
    expect(analysis.evidence().bootstrap).toMatchObject({ done, requested: 5000 });
    // What follows is what one straight run would have made.
    for await (const progress of analysis.resample(pool, new AbortController().signal))
      void progress;
    expect(analysis.evidence()).toEqual(analyse(long, rows));
  });

  it("another interval, level or tail reads the same resamples", () => {
    const analysis = Analysis.of(definition, table).complete();
    for (const change of [
      { interval: "percentile" as const },
      { level: 0.9 },
      { tail: "one" as const },
      { interval: "delta" as const },
    ]) {
      const other = made(change);
      expect(analysis.evidence(change)).toEqual(analyse(other.definition, other.table));
    }
  });
});
