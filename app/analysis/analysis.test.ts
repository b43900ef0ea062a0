import "fake-indexeddb/auto";
import { beforeEach, describe, expect, it, vi } from "vitest";
import {
  analyse,
  buildDataset,
  ReplicateMaker,
  ReplicatePool,
  type MakerRequest,
  type StudyDefinition,
  type Table,
} from "../../core";
import { demoStudy } from "../../demo/study";
import { LiveAnalysis, type Update } from "../workers/live-analysis";

vi.stubGlobal("localStorage", {
  getItem: () => null,
  setItem: () => undefined,
  removeItem: () => undefined,
});

/** The workers, in this thread: the same work, and a log of what was asked of them. */
const asked: MakerRequest[] = [];
let afterBatch: () => void = () => undefined;
let table: Table | null = null;
let watcher: (() => void) | null = null;
/** What a busy worker waits for before it answers. */
let busy: Promise<void> | null = null;
/** So often the page has asked for room. */
let roomMade = 0;
const keys = new EventTarget();
vi.stubGlobal("addEventListener", keys.addEventListener.bind(keys));

const thread = () => {
  const maker = new ReplicateMaker();
  return {
    ask: async (request: MakerRequest) => {
      asked.push(request);
      const block = maker.answer(request);
      if (block) afterBatch();
      return block;
    },
    end: () => undefined,
  };
};
const live = new LiveAnalysis(new ReplicatePool(thread, 1), 20);
const KEY = "study sheet";

vi.mock("../workers/engine", () => ({
  engine: () => ({
    hasTable: async () => {
      await busy;
      return true;
    },
    setTable: async () => undefined,
    follow: (definition: StudyDefinition, wanted: { goOn: boolean }, tell: (u: Update) => void) =>
      live.follow(
        { definition, dataKey: KEY, table: table!, dataset: buildDataset(definition, table!) },
        wanted,
        tell,
      ),
    stop: () => live.stop(),
    typed: async () => void (roomMade += 1),
  }),
  onEngineLost: (callback: () => void) => {
    watcher = callback;
    return () => void (watcher = null);
  },
}));
vi.mock("comlink", () => ({ proxy: <T>(value: T): T => value }));

const { Analysis } = await import("./analysis");
const { Quiet } = await import("./quiet");
const { database } = await import("../storage/database");
const { forgetFound } = await import("../storage/results");
const demo = demoStudy();
const definition = (
  change: Partial<StudyDefinition> = {},
  replications = 2000,
): StudyDefinition => ({
  ...demo.definition,
  ...change,
  settings: { ...demo.definition.settings, replications },
});
const batches = () => asked.flatMap((r) => (r.kind === "replicates" ? [[r.first, r.count]] : []));

beforeEach(async () => {
  asked.length = 0;
  table = demo.table;
  afterBatch = () => undefined;
  await live.settled();
  await Promise.all([database.results.clear(), database.replicates.clear()]);
  forgetFound();
});

type Running = InstanceType<typeof Analysis>;
async function until(analysis: Running, status: string): Promise<void> {
  await vi.waitFor(() => expect(analysis.snapshot().status).toBe(status), {
    timeout: 20_000,
    interval: 5,
  });
}
const started = (of: StudyDefinition): Running => {
  const analysis = new Analysis();
  analysis.update(of, KEY, demo.table);
  return analysis;
};

describe("the running analysis", () => {
  it("shows estimates first, then intervals, and ends with the evidence of one straight run", async () => {
    const analysis = new Analysis();
    const seen: (number | null)[] = [];
    analysis.subscribe(() => seen.push(analysis.snapshot().evidence?.bootstrap?.done ?? null));
    analysis.update(definition(), KEY, demo.table);
    await until(analysis, "done");
    expect(seen[0]).toBeNull();
    expect(seen.filter((n) => n !== null)[0]).toBe(400);
    expect(analysis.snapshot()).toMatchObject({
      done: 2000,
      requested: 2000,
      secondsLeft: null,
      problem: null,
    });
    expect(analysis.snapshot().evidence).toEqual(analyse(definition(), demo.table));
  });

  it("shows kept evidence at once, asks nobody for it, and follows the next change", async () => {
    const evidence = analyse(definition({}, 400), demo.table);
    const analysis = Analysis.of({ evidence, definition: definition({}, 400), key: KEY });
    expect(analysis.snapshot()).toMatchObject({ evidence, status: "done", done: 400 });
    analysis.update(definition({ question: "in other words?" }, 400), KEY, demo.table);
    await live.settled();
    expect(asked).toEqual([]);
    expect(analysis.snapshot().evidence).toBe(evidence);
    const next = definition({ theory: "H1: months raises friends" }, 400);
    analysis.update(next, KEY, demo.table);
    await vi.waitFor(
      () => expect(analysis.snapshot().evidence).toEqual(analyse(next, demo.table)),
      { timeout: 20_000 },
    );
    expect(analysis.snapshot().status).toBe("done");
  });

  it("says of numbers that they are of before, from when the study changes until it is answered", async () => {
    const evidence = analyse(definition({}, 400), demo.table);
    const analysis = Analysis.of({ evidence, definition: definition({}, 400), key: KEY });
    let free = (): void => undefined;
    busy = new Promise((resolve) => (free = resolve));
    const next = definition({ theory: "H1: months raises friends" }, 400);
    analysis.update(next, KEY, demo.table);
    await vi.waitFor(() => expect(analysis.snapshot().status).toBe("estimating"));
    expect(analysis.snapshot()).toMatchObject({ before: true, evidence });
    busy = null;
    free();
    await until(analysis, "done");
    expect(analysis.snapshot()).toMatchObject({ before: false, problem: null });
    expect(analysis.snapshot().evidence!.hypotheses[0]!.sentence).toContain("friends");
    // Where nothing can be estimated the last numbers stay, and stay of before.
    analysis.update(definition({ theory: "H1: months raises months" }, 400), KEY, demo.table);
    await vi.waitFor(() => expect(analysis.snapshot().problem).not.toBeNull());
    expect(analysis.snapshot().before).toBe(true);
    analysis.update(next, KEY, demo.table);
    await vi.waitFor(() => expect(analysis.snapshot().before).toBe(false));
  });

  it("tells a label given twice, which leaves nothing out", async () => {
    const analysis = started(
      definition({ theory: "H1: months raises friends\nH1: age raises friends" }, 0),
    );
    await until(analysis, "done");
    expect(analysis.snapshot().complaints).toHaveLength(1);
    expect(analysis.snapshot().leftOut).toEqual([]);
  });

  it("draws what resampling adds when the hand rests, first estimates and progress at once", async () => {
    let typing = true;
    const quiet = new Quiet(() => (typing ? performance.now() : -Infinity));
    const analysis = new Analysis(quiet);
    const seen: [number | null, number][] = [];
    analysis.subscribe(() => {
      const { evidence, done } = analysis.snapshot();
      seen.push([evidence?.bootstrap?.done ?? null, done]);
    });
    analysis.update(definition(), KEY, demo.table);
    await vi.waitFor(() => expect(seen.at(-1)![1]).toBe(2000), { timeout: 20_000 });
    expect(seen.filter(([drawn]) => drawn !== null)).toEqual([]);
    expect(analysis.snapshot()).toMatchObject({ status: "resampling" });
    expect(analysis.snapshot().evidence!.effects.length).toBeGreaterThan(0);
    typing = false;
    await until(analysis, "done");
    expect(seen.at(-1)).toEqual([2000, 2000]);
    expect(analysis.snapshot().evidence).toEqual(analyse(definition(), demo.table));
    // What is known is the answer to the letter that was typed.
    typing = true;
    await live.settled();
    analysis.update(definition({ theory: "H1: months raises friends" }), KEY, demo.table);
    await vi.waitFor(() => expect(analysis.snapshot().evidence!.bootstrap).toBeNull());
    analysis.update(definition(), KEY, demo.table);
    await until(analysis, "done");
    expect(analysis.snapshot().evidence!.bootstrap!.done).toBe(2000);
  });

  it("asks for room when a key is pressed while it resamples, as long as somebody watches", async () => {
    const analysis = new Analysis();
    const press = (): number => {
      roomMade = 0;
      keys.dispatchEvent(new Event("keydown"));
      return roomMade;
    };
    const during: number[] = [];
    afterBatch = () => void during.push(press());
    const end = analysis.watch();
    expect(press()).toBe(0);
    analysis.update(definition(), KEY, demo.table);
    await until(analysis, "done");
    expect(during.length).toBeGreaterThan(1);
    expect(new Set(during)).toEqual(new Set([1]));
    expect(press()).toBe(0);
    end();
    const unseen: number[] = [];
    afterBatch = () => void unseen.push(press());
    analysis.update(definition({ theory: "H1: months raises friends" }), KEY, demo.table);
    await until(analysis, "resampling");
    await until(analysis, "done");
    expect(new Set(unseen)).toEqual(new Set([0]));
  });

  it("keeps what is done when stopped, and goes on to the same digits", async () => {
    afterBatch = () => live.stop();
    const analysis = started(definition());
    await until(analysis, "stopped");
    const { evidence, done } = analysis.snapshot();
    expect(done).toBeGreaterThan(0);
    expect(done).toBeLessThan(2000);
    expect(evidence!.bootstrap).toMatchObject({ done, requested: 2000 });
    const straight = analyse(definition({}, done), demo.table);
    expect(evidence!.effects[0]!.bootstrap!.percentile).toEqual(
      straight.effects[0]!.bootstrap!.percentile,
    );
    afterBatch = () => undefined;
    analysis.resume();
    await until(analysis, "done");
    expect(analysis.snapshot().evidence).toEqual(analyse(definition(), demo.table));
    const made = batches().reduce((sum, [, count]) => sum + count!, 0);
    expect(made).toBe(2000);
  });

  it("drops stale work when the theory changes", async () => {
    const analysis = new Analysis();
    let changed = false;
    const next = definition({ theory: "H1: months raises friends" }, 800);
    afterBatch = () => {
      if (changed) return;
      changed = true;
      analysis.update(next, KEY, demo.table);
    };
    analysis.update(definition(), KEY, demo.table);
    await vi.waitFor(() => expect(analysis.snapshot().evidence?.bootstrap?.done).toBe(800), {
      timeout: 20_000,
    });
    expect(analysis.snapshot().evidence).toEqual(analyse(next, demo.table));
    expect(asked.filter((a) => a.kind === "prepare")).toHaveLength(2);
  });

  it("keeps the last evidence beside a problem, and lets it go when nothing is stated", async () => {
    const analysis = started(definition({}, 400));
    await until(analysis, "done");
    analysis.update(
      definition({ theory: "H1: hours raises friends\nH2: friends raises hours" }, 400),
      KEY,
      demo.table,
    );
    await vi.waitFor(() => expect(analysis.snapshot().problem?.code).toBe("cyclic_model"));
    expect(analysis.snapshot().evidence).not.toBeNull();
    analysis.update(definition({ theory: "" }, 400), KEY, demo.table);
    await vi.waitFor(() => expect(analysis.snapshot().evidence).toBeNull());
  });

  it("says so when the program itself fails, and goes on with the next change", async () => {
    table = null;
    const analysis = started(definition({}, 400));
    await vi.waitFor(() => expect(analysis.snapshot().problem?.code).toBe("unexpected"));
    table = demo.table;
    analysis.update(definition({ theory: "H1: hours raises friends" }, 400), KEY, demo.table);
    await vi.waitFor(() => expect(analysis.snapshot().evidence?.bootstrap?.done).toBe(400));
    expect(analysis.snapshot().problem).toBeNull();
  });

  it("starts again after a fault when asked to", async () => {
    table = null;
    const analysis = started(definition({}, 400));
    await vi.waitFor(() => expect(analysis.snapshot().problem?.code).toBe("unexpected"));
    table = demo.table;
    analysis.retry();
    expect(analysis.snapshot()).toMatchObject({ problem: null, status: "estimating" });
    await until(analysis, "done");
    expect(analysis.snapshot().evidence).toEqual(analyse(definition({}, 400), demo.table));
  });

  it("does nothing when nothing that counts has changed", async () => {
    const analysis = started(definition({}, 400));
    await until(analysis, "done");
    const before = asked.length;
    analysis.update(definition({ question: "Other words?" }, 400), KEY, demo.table);
    expect(asked).toHaveLength(before);
  });
});

describe("results that are kept", () => {
  it("are there again without any work, digit for digit", async () => {
    await until(started(definition({}, 500)), "done");
    await live.settled();
    asked.length = 0;
    const again = started(definition({}, 500));
    await until(again, "done");
    expect(asked).toEqual([]);
    expect(again.snapshot().evidence).toEqual(analyse(definition({}, 500), demo.table));
    expect(again.snapshot()).toMatchObject({ done: 500, requested: 500 });
  });

  it("serve another interval and another level, which need no other resamples", async () => {
    await until(started(definition({}, 500)), "done");
    asked.length = 0;
    const other = definition({}, 500);
    other.settings = { ...other.settings, interval: "percentile", level: 0.9 };
    const analysis = started(other);
    await until(analysis, "done");
    expect(asked).toEqual([]);
    expect(analysis.snapshot().evidence).toEqual(analyse(other, demo.table));
  });

  it("are made anew under another seed, and for other data", async () => {
    await until(started(definition({}, 500)), "done");
    asked.length = 0;
    const other = definition({}, 500);
    other.settings = { ...other.settings, seed: 5 };
    await until(started(other), "done");
    expect(batches()).not.toEqual([]);
  });

  it("let a run go on from where more replicates are wanted, or fewer", async () => {
    await until(started(definition({}, 500)), "done");
    asked.length = 0;
    const more = started(definition({}, 900));
    await until(more, "done");
    expect(batches()[0]![0]).toBe(500);
    expect(more.snapshot().evidence).toEqual(analyse(definition({}, 900), demo.table));
    asked.length = 0;
    const fewer = started(definition({}, 300));
    await until(fewer, "done");
    expect(asked).toEqual([]);
    expect(fewer.snapshot().evidence).toEqual(analyse(definition({}, 300), demo.table));
  });

  it("are not needed: a store that cannot be read costs no analysis", async () => {
    const broken = vi.spyOn(database.results, "get").mockRejectedValue(new Error("no store"));
    const other = vi.spyOn(database.replicates, "get").mockRejectedValue(new Error("no store"));
    const analysis = started(definition({}, 400));
    await until(analysis, "done");
    expect(analysis.snapshot().problem).toBeNull();
    expect(analysis.snapshot().evidence).toEqual(analyse(definition({}, 400), demo.table));
    broken.mockRestore();
    other.mockRestore();
  });

  it("leave a stopped run stopped when the study is opened again, until somebody goes on", async () => {
    afterBatch = () => live.stop();
    const first = started(definition());
    await until(first, "stopped");
    const { done } = first.snapshot();
    await live.settled();
    afterBatch = () => undefined;
    asked.length = 0;
    const again = started(definition());
    await until(again, "stopped");
    expect(again.snapshot()).toMatchObject({ done, requested: 2000 });
    expect(batches()).toEqual([]);
    again.resume();
    await until(again, "done");
    expect(batches()[0]![0]).toBe(done);
    expect(again.snapshot().evidence).toEqual(analyse(definition(), demo.table));
  });

  it("a lost worker is replaced, and the run goes on from what was written down", async () => {
    const analysis = new Analysis();
    const end = analysis.watch();
    let lost = false;
    afterBatch = () => {
      if (lost) return;
      lost = true;
      watcher!();
    };
    analysis.update(definition(), KEY, demo.table);
    await until(analysis, "done");
    expect(lost).toBe(true);
    expect(analysis.snapshot().evidence).toEqual(analyse(definition(), demo.table));
    end();
    expect(watcher).toBeNull();
  });
});
