import "fake-indexeddb/auto";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { Analysis, type Evidence, type StudyDefinition } from "../../core";
import { demoStudy } from "../../demo/study";

vi.stubGlobal("localStorage", {
  getItem: () => null,
  setItem: () => undefined,
  removeItem: () => undefined,
});
const { database } = await import("./database");
const {
  evidenceKey,
  findEvidence,
  findReplicates,
  forgetFound,
  keepEvidence,
  keepReplicates,
  replicatesKey,
} = await import("./results");
const {
  addStudy,
  changeStudy,
  dataKeyOf,
  historyDepth,
  keepRun,
  keepStrip,
  listRuns,
  listStudies,
  loadStudy,
} = await import("./studies");
const { removeStudy, restoreStudy } = await import("./removal");
const { readAhead } = await import("./ahead");

const { definition: demo, table } = demoStudy();
const definition = (
  change: Partial<StudyDefinition> = {},
  settings: Partial<StudyDefinition["settings"]> = {},
): StudyDefinition => ({
  ...demo,
  ...change,
  settings: { ...demo.settings, replications: 40, ...settings },
});
const analysis = Analysis.of(definition(), table).complete();
const evidence = analysis.evidence();

beforeEach(async () => {
  await Promise.all(
    [database.results, database.replicates, database.studies, database.pages, database.runs].map(
      (t) => t.clear(),
    ),
  );
  forgetFound();
});

describe("names of results", () => {
  const key = evidenceKey(definition(), "a b");

  it("change with everything that evidence depends on, and with nothing else", () => {
    const other: [StudyDefinition, string][] = [
      [definition({ theory: "H1: hours raises friends" }), "a b"],
      [definition({ title: "Another" }), "a b"],
      [definition({}, { level: 0.9 }), "a b"],
      [definition({}, { interval: "percentile" }), "a b"],
      [definition({}, { seed: 1 }), "a b"],
      [definition({ unit: "teams" }), "a b"],
      [definition(), "a c"],
    ];
    for (const [changed, data] of other) {
      expect(evidenceKey(changed, data).text).not.toBe(key.text);
      expect(evidenceKey(changed, data).hash).not.toBe(key.hash);
    }
    expect(new Set(other.map(([d, k]) => evidenceKey(d, k).hash)).size).toBe(other.length);
    const words = definition({
      question: "Why?",
      log: [{ when: "", what: "", why: "" }],
      screening: [{ name: "a", variables: [] }],
    });
    expect(evidenceKey(words, "a b")).toEqual(key);
    expect(key.hash).toMatch(/^[0-9a-f]{16}$/);
  });

  it("of replicates leave interval, level and wording out, but not seed, data, paths or filters", () => {
    const of = (d: StudyDefinition, data = "a b") =>
      replicatesKey(Analysis.of(d, table).prepared, data).text;
    const own = of(definition());
    expect(
      of(
        definition(
          {},
          { level: 0.9, interval: "percentile", tail: "one", several: "holm", replications: 70 },
        ),
      ),
    ).toBe(own);
    expect(of(definition({ title: "Other words", unit: "teams" }))).toBe(own);
    for (const changed of [
      definition({}, { seed: 2 }),
      definition({}, { centring: "standardised" }),
      definition({}, { interval: "bootstrap_t" }),
      definition({}, { strata: "group" }),
      definition({ theory: "H1: hours raises friends" }),
      definition({ filters: [{ name: "f", active: true, rule: { kind: "rows", rows: [1] } }] }),
    ])
      expect(of(changed)).not.toBe(own);
    expect(of(definition(), "a c")).not.toBe(own);
  });
});

describe("results", () => {
  it("come back as they were, and not under another name with the same hash", async () => {
    const key = evidenceKey(definition(), "study sheet");
    await keepEvidence(key, "study sheet", evidence);
    expect(await findEvidence(key)).toEqual(evidence);
    expect(await findEvidence({ ...key, text: `${key.text} ` })).toBeNull();
    expect(await findEvidence(evidenceKey(definition(), "study other"))).toBeNull();
    const store = replicatesKey(analysis.prepared, "study sheet");
    await keepReplicates(store, "study sheet", { blocks: [...analysis.made], stopped: true });
    const found = (await findReplicates(store))!;
    expect(found.stopped).toBe(true);
    expect(found.blocks).toEqual(analysis.made);
    expect(await findReplicates({ ...store, text: "" })).toBeNull();
  });

  it("found ahead are at hand when the study is opened, and belong to that state of it alone", async () => {
    const id = await addStudy({ definition: definition(), table });
    const { study } = (await loadStudy(id))!;
    const key = evidenceKey(study.definition, dataKeyOf(study));
    await keepEvidence(key, dataKeyOf(study), evidence);
    await readAhead(study);
    const read = vi.spyOn(database.results, "get");
    expect(await findEvidence(key)).toEqual(evidence);
    expect(read).not.toHaveBeenCalled();
    const other = { ...study.definition, unit: "teams" };
    expect(await findEvidence(evidenceKey(other, dataKeyOf(study)))).toBeNull();
    expect(read).toHaveBeenCalledTimes(1);
    read.mockRejectedValue(new Error("no store"));
    // What fails ahead is no matter.
    await expect(readAhead({ ...study, definition: other })).resolves.toBeUndefined();
    read.mockRestore();
  });

  it("those not looked at for longest go first when there are too many bytes", async () => {
    const huge = { ...evidence, title: "x".repeat(1000) } as Evidence;
    for (let i = 0; i < 4; i++) {
      const key = evidenceKey(definition({ title: String(i) }), "s d");
      await database.results.put({
        hash: key.hash,
        text: key.text,
        study: "s",
        evidence: huge,
        size: 90 * 2 ** 20,
        usedAt: i,
      });
    }
    // Looking at the oldest makes it the newest.
    vi.useFakeTimers({ toFake: ["setTimeout"] });
    await findEvidence(evidenceKey(definition({ title: "0" }), "s d"));
    await database.uses.put({ hash: "of a result that is gone", usedAt: 1 });
    vi.advanceTimersByTime(5000);
    vi.useRealTimers();
    await vi.waitFor(async () => expect(await database.uses.count()).toBe(2));
    await keepReplicates(replicatesKey(analysis.prepared, "s d"), "s d", {
      blocks: [...analysis.made],
      stopped: false,
    });
    const left = await Promise.all(
      [0, 1, 2, 3].map((i) => findEvidence(evidenceKey(definition({ title: String(i) }), "s d"))),
    );
    expect(left.map((e) => e !== null)).toEqual([true, false, false, true]);
    expect(await database.replicates.count()).toBe(1);
    expect(await database.uses.get("of a result that is gone")).toBeUndefined();
  });
});

describe("a study taken off the shelf", () => {
  it("comes back with its history, its kept runs, its verdicts and its results", async () => {
    const id = await addStudy({ definition: definition(), table });
    await changeStudy(id, { title: "Changed" }, "title");
    await keepRun(id, "first", { n: 1 } as never, evidence);
    await keepStrip({ id, n: 3, verdicts: [{ label: "H1", verdict: "supported", sentence: "" }] });
    const dataKey = `${id} ${(await loadStudy(id))!.study.dataKey}`;
    await keepEvidence(evidenceKey(definition(), dataKey), dataKey, evidence);
    await keepReplicates(replicatesKey(analysis.prepared, dataKey), dataKey, {
      blocks: [...analysis.made],
      stopped: false,
    });
    // What was found last stands in memory, too.
    expect(await findEvidence(evidenceKey(definition(), dataKey))).toEqual(evidence);
    const removed = (await removeStudy(id))!;
    expect(await loadStudy(id)).toBeNull();
    expect(await findEvidence(evidenceKey(definition(), dataKey))).toBeNull();
    expect(await listRuns(id)).toEqual([]);
    expect(await database.replicates.count()).toBe(0);
    await restoreStudy(removed);
    const again = (await loadStudy(id))!;
    expect(again.study.definition.title).toBe("Changed");
    expect(again.table.rows).toBe(table.rows);
    expect(await historyDepth(id)).toEqual({ undo: 1, redo: 0 });
    const [run] = await listRuns(id);
    expect(run!.name).toBe("first");
    expect(run!.evidence).toEqual(evidence);
    expect((await listStudies())[0]!.strip).toMatchObject({ n: 3 });
    expect(await findEvidence(evidenceKey(definition(), dataKey))).toEqual(evidence);
    expect(await findReplicates(replicatesKey(analysis.prepared, dataKey))).not.toBeNull();
    expect(await removeStudy("no such study")).toBeNull();
  });
});
