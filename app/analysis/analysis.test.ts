import { beforeEach, describe, expect, it, vi } from "vitest";
import {
  analyse,
  prepare,
  Resampler,
  StudyProblem,
  type Evidence,
  type ReplicateBlock,
  type ResamplingProblem,
  type StudyDefinition,
  type Table,
} from "../../core";
import { assembleEvidence } from "../../core/evidence";
import { demoStudy } from "../../demo/study";

/** The workers, in this thread: same work, and a log of what was asked. */
const asked: string[] = [];
let held: ReturnType<typeof prepare> | null = null;
let blocks: ReplicateBlock[] = [];
let table: Table;
let afterBatch: () => void = () => undefined;

vi.mock("../workers/pool", () => ({
  engine: () => ({
    hasTable: async () => true,
    setTable: async () => undefined,
    estimate: async (definition: StudyDefinition) => {
      asked.push("estimate");
      try {
        held = prepare(definition, table, { tolerant: true });
      } catch (error) {
        if (!(error instanceof StudyProblem)) throw error;
        const { code, message, place } = error;
        return { evidence: null, problem: { code, message, place }, complaints: [], resampling: null };
      }
      blocks = [];
      return { evidence: assembleEvidence(held, null), problem: null, complaints: [], resampling: held.resampling };
    },
    addReplicates: async (_: number, added: ReplicateBlock[], assemble: boolean): Promise<Evidence | null> => {
      blocks.push(...added);
      if (!assemble) return null;
      asked.push("assemble");
      return assembleEvidence(held!, { replicates: blocks, jackknife: new Resampler(held!.resampling).jackknife() });
    },
  }),
  prepareReplicates: async (_: number, problem: ResamplingProblem) => void problem,
  makeReplicates: async (_: number, first: number, count: number) => {
    asked.push(`make ${first} ${count}`);
    const block = new Resampler(held!.resampling).replicates(first, count);
    afterBatch();
    return [block];
  },
}));

const { Analysis } = await import("./analysis");
const demo = demoStudy();
const definition = (change: Partial<StudyDefinition> = {}, replications = 2000): StudyDefinition => ({
  ...demo.definition,
  ...change,
  settings: { ...demo.definition.settings, replications },
});

beforeEach(() => {
  asked.length = 0;
  table = demo.table;
  afterBatch = () => undefined;
});

async function until(analysis: InstanceType<typeof Analysis>, status: string): Promise<void> {
  await vi.waitFor(() => expect(analysis.snapshot().status).toBe(status), { timeout: 20_000, interval: 10 });
}

describe("the running analysis", () => {
  it("shows estimates first, then intervals, and ends with the evidence of one straight run", async () => {
    const analysis = new Analysis();
    const seen: (number | null)[] = [];
    analysis.subscribe(() => seen.push(analysis.snapshot().evidence?.bootstrap?.done ?? null));
    analysis.update(definition(), "k", table);
    await until(analysis, "done");
    expect(seen[0]).toBeNull();
    expect(seen.filter((n) => n !== null)[0]).toBe(400);
    expect(analysis.snapshot().evidence).toEqual(analyse(definition(), table));
  });

  it("keeps what is done when stopped, and goes on to the same digits", async () => {
    const analysis = new Analysis();
    afterBatch = () => analysis.stop();
    analysis.update(definition(), "k", table);
    await until(analysis, "stopped");
    const { evidence, done } = analysis.snapshot();
    expect(done).toBeGreaterThan(0);
    expect(done).toBeLessThan(2000);
    expect(evidence!.bootstrap).toMatchObject({ done, requested: 2000 });
    expect(evidence!.effects[0]!.bootstrap!.percentile).toEqual(analyse(definition({}, done), table).effects[0]!.bootstrap!.percentile);
    afterBatch = () => undefined;
    analysis.resume();
    await until(analysis, "done");
    expect(analysis.snapshot().evidence).toEqual(analyse(definition(), table));
  });

  it("drops stale work when the theory changes", async () => {
    const analysis = new Analysis();
    let changed = false;
    const next = definition({ theory: "H1: months raises friends" }, 800);
    afterBatch = () => {
      if (changed) return;
      changed = true;
      analysis.update(next, "k", table);
    };
    analysis.update(definition(), "k", table);
    await vi.waitFor(() => expect(analysis.snapshot().evidence?.bootstrap?.done).toBe(800), { timeout: 20_000 });
    expect(analysis.snapshot().evidence).toEqual(analyse(next, table));
    expect(asked.filter((a) => a === "estimate")).toHaveLength(2);
    expect(asked).not.toContain("make 400 720");
  });

  it("keeps the last evidence beside a problem, and lets it go when nothing is stated", async () => {
    const analysis = new Analysis();
    analysis.update(definition({}, 400), "k", table);
    await until(analysis, "done");
    analysis.update(definition({ theory: "H1: hours raises friends\nH2: friends raises hours" }, 400), "k", table);
    await vi.waitFor(() => expect(analysis.snapshot().problem?.code).toBe("cyclic_model"));
    expect(analysis.snapshot().evidence).not.toBeNull();
    analysis.update(definition({ theory: "" }, 400), "k", table);
    await vi.waitFor(() => expect(analysis.snapshot().evidence).toBeNull());
  });

  it("says so when the program itself fails, and goes on with the next change", async () => {
    const analysis = new Analysis();
    table = null as unknown as Table;
    analysis.update(definition({}, 400), "k", demo.table);
    await vi.waitFor(() => expect(analysis.snapshot().problem?.code).toBe("unexpected"));
    table = demo.table;
    analysis.update(definition({ theory: "H1: hours raises friends" }, 400), "k", demo.table);
    await vi.waitFor(() => expect(analysis.snapshot().evidence?.bootstrap?.done).toBe(400));
    expect(analysis.snapshot().problem).toBeNull();
  });

  it("does nothing when nothing that counts has changed", async () => {
    const analysis = new Analysis();
    analysis.update(definition({}, 400), "k", table);
    await until(analysis, "done");
    const before = asked.length;
    analysis.update(definition({ question: "Other words?" }, 400), "k", table);
    expect(asked).toHaveLength(before);
  });
});
