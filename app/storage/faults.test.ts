import "fake-indexeddb/auto";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { DEFAULT_SETTINGS, newDefinition, TableBuilder, type StudyDefinition } from "../../core";

const notes = new Map<string, string>();
vi.stubGlobal("localStorage", {
  getItem: (k: string) => notes.get(k) ?? null,
  setItem: (k: string, v: string) => notes.set(k, v),
  removeItem: (k: string) => notes.delete(k),
});
const { database, TAB } = await import("./database");
const { addStudy, changeStudy, listStudies, loadStudy } = await import("./studies");
const { damagedStudies, remainsOf } = await import("./damage");
const { mergePatch } = await import("./merge");
const { isFull, StorageFull, withRoom } = await import("./room");
const { boundedHistory } = await import("./history");
const { takePending } = await import("./pending");

const builder = new TableBuilder(["x", "y"]);
builder.add(["1", "2"]);
const table = builder.build();
const definition = (theory = "H1: x raises y"): StudyDefinition => ({
  ...newDefinition("Study", []),
  theory,
});
const stored = async (id: string): Promise<StudyDefinition> =>
  (await loadStudy(id))!.study.definition;

beforeEach(async () => {
  notes.clear();
  await Promise.all(database.tables.map((one) => one.clear()));
});

describe("two tabs that change one study", () => {
  const theirs = { ...definition("H1: x raises y\nH2: y raises x"), title: "Theirs" };
  const base = { theory: "H1: x raises y", settings: DEFAULT_SETTINGS, title: "Study" };

  it("keep both tabs' lines, also where both add at the end", () => {
    const mine = { theory: "H1: x raises y\nH3: x lowers y" };
    const { patch, lost } = mergePatch(base, mine, theirs);
    expect(patch.theory!.split("\n")).toEqual([
      "H1: x raises y",
      "H2: y raises x",
      "H3: x lowers y",
    ]);
    expect(lost).toBeNull();
  });

  it("let the first stand where both change the same line, and hand the other back", () => {
    const other = { ...theirs, theory: "H1: x lowers y" };
    const mine = { theory: "H1: x affects y" };
    expect(mergePatch(base, mine, other)).toEqual({ patch: {}, lost: mine });
  });

  it("merge settings one by one, and say when both changed the same one", () => {
    const other = { ...theirs, settings: { ...DEFAULT_SETTINGS, seed: 7, level: 0.9 } };
    const mine = { settings: { ...DEFAULT_SETTINGS, replications: 10 } };
    expect(mergePatch(base, mine, other)).toEqual({
      patch: { settings: { ...DEFAULT_SETTINGS, seed: 7, level: 0.9, replications: 10 } },
      lost: null,
    });
    const clash = { settings: { ...DEFAULT_SETTINGS, seed: 9 } };
    expect(mergePatch(base, clash, other).lost).toEqual(clash);
  });

  it("does not call it a conflict when both wrote the same, or the other touched something else", () => {
    expect(mergePatch(base, { title: "Theirs" }, theirs)).toEqual({
      patch: { title: "Theirs" },
      lost: null,
    });
    const untouched = { ...definition(), title: "Theirs" };
    expect(mergePatch(base, { theory: "H1: y raises x" }, untouched)).toEqual({
      patch: { theory: "H1: y raises x" },
      lost: null,
    });
  });

  it("are merged in the store, for every tab to take over", async () => {
    const id = await addStudy({ definition: definition(), table });
    await database.studies.update(id, {
      origin: "another tab",
      "definition.theory": "H1: x raises y\nH2: y raises x",
    } as object);
    const lost = await changeStudy(id, { theory: "H1: x raises y\nH3: x lowers y" }, "theory", "", {
      base: { theory: "H1: x raises y" },
    });
    expect(lost).toBeNull();
    expect((await stored(id)).theory).toBe("H1: x raises y\nH2: y raises x\nH3: x lowers y");
    const study = (await loadStudy(id))!.study;
    expect(study.origin).not.toBe(TAB);
    // Until this tab has shown what was brought together, it has to take it over.
    const title = async (to: string, base: string, seen: number): Promise<string> => {
      await changeStudy(id, { title: to }, "title", "", { base: { title: base }, seen });
      return (await loadStudy(id))!.study.origin;
    };
    expect(await title("Mine", "Study", study.revision - 1)).not.toBe(TAB);
    expect(await title("Mine again", "Mine", study.revision + 1)).toBe(TAB);
  });

  it("are merged as well where this tab typed on before it saw what was brought together", async () => {
    const id = await addStudy({ definition: definition(), table });
    await database.studies.update(id, {
      origin: "another tab",
      "definition.theory": "H2: y raises x\nH1: x raises y",
    } as object);
    const change = async (to: string, base: string): Promise<unknown> =>
      changeStudy(id, { theory: to }, "theory", "", { base: { theory: base }, seen: 1 });
    const [once, twice] = ["H3: y lowers x", "H3: y lowers x\nH4: x lowers y"];
    await change(`H1: x raises y\n${once}`, "H1: x raises y");
    await change(`H1: x raises y\n${twice}`, `H1: x raises y\n${once}`);
    expect((await stored(id)).theory).toBe(`H2: y raises x\nH1: x raises y\n${twice}`);
  });
});

describe("a full store", () => {
  const full = (): Error => Object.assign(new Error("no room"), { name: "QuotaExceededError" });
  const wrapped = (): Error => Object.assign(new Error("aborted"), { inner: full() });

  it("is known, also when a transaction wraps the reason", () => {
    expect([full(), wrapped(), new Error("other"), null].map(isFull)).toEqual([
      true,
      true,
      false,
      false,
    ]);
  });

  it("gives up results for what people have made", async () => {
    await database.results.put({
      hash: "h",
      text: "",
      study: "s",
      evidence: {} as never,
      size: 1,
      usedAt: 1,
    });
    let tries = 0;
    const value = await withRoom(async () => {
      tries += 1;
      if (tries === 1) throw wrapped();
      return database.results.count();
    });
    expect([tries, value]).toEqual([2, 0]);
  });

  it("says so when that was not enough, and passes other faults on", async () => {
    await expect(withRoom(() => Promise.reject(full()))).rejects.toBeInstanceOf(StorageFull);
    await expect(withRoom(() => Promise.reject(new Error("other")))).rejects.toThrow("other");
  });
});

describe("a damaged row", () => {
  it("does not take the shelf along; what is left of it can be had", async () => {
    const whole = await addStudy({ definition: definition(), table });
    const broken = await addStudy({ definition: definition("H9: a note"), table });
    await database.studies.update(broken, { "definition.variables": "gone" } as object);
    expect((await listStudies()).map((e) => e.study.id)).toEqual([whole]);
    expect(await damagedStudies()).toEqual([{ id: broken, title: "Study" }]);
    expect(await remainsOf(broken)).toContain("H9: a note");
    await expect(loadStudy(broken)).rejects.toThrow(/damaged/);
  });

  it("is known by what its lists hold, too", async () => {
    const whole = definition("H9: a note");
    for (const wrong of [
      { variables: [null] },
      { variables: [{ level: "continuous" }] },
      { derived: [{ name: 3 }] },
      { derived: [{ name: "z", recipe: { kind: "spell", of: "a" } }] },
      { filters: [{}, null] },
      { corrections: [{ column: "a", row: "first", from: "1", to: "2" }] },
      { screening: [["a"]] },
      { log: ["once"] },
    ]) {
      const id = await addStudy({ definition: { ...whole, ...wrong } as never, table });
      expect(
        (await damagedStudies()).map((d) => d.id),
        JSON.stringify(wrong),
      ).toContain(id);
      await expect(loadStudy(id)).rejects.toThrow(/damaged/);
    }
    // What a later version knows of a variable is no damage.
    const later = { ...whole, variables: whole.variables.map((v) => ({ ...v, colour: "red" })) };
    const id = await addStudy({ definition: later, table });
    expect(await loadStudy(id)).not.toBeNull();
  });

  it("of data is said when the study is opened", async () => {
    const id = await addStudy({ definition: definition(), table });
    const other = await addStudy({ definition: definition(), table });
    const { dataKey } = (await database.studies.get(id))!;
    await database.pages.update(dataKey, { table: null } as object);
    await expect(loadStudy(id)).rejects.toThrow(/damaged/);
    expect(await loadStudy(other)).not.toBeNull();
  });

  it("of the note about unwritten changes is passed over", () => {
    notes.set("hebel-pending s", "{broken");
    expect(takePending("s")).toBeNull();
    notes.set("hebel-pending s", `{"title":"Old form"}`);
    expect(takePending("s")).toEqual({ patch: { title: "Old form" }, base: {} });
    expect(notes.size).toBe(0);
  });
});

describe("undo", () => {
  it("is bounded by size, and always has the last state", () => {
    const state = (size: number) => ({
      definition: definition("x".repeat(size)),
      dataKey: "d",
      rows: 1,
      columns: 2,
    });
    const many = Array.from({ length: 300 }, () => state(10));
    expect(boundedHistory(many)).toHaveLength(200);
    const large = Array.from({ length: 10 }, () => state(600_000));
    expect(boundedHistory(large)).toHaveLength(3);
    expect(boundedHistory([state(5_000_000)])).toHaveLength(1);
    expect(boundedHistory([])).toEqual([]);
  });
});
