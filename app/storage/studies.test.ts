import "fake-indexeddb/auto";
import fc from "fast-check";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { StudyDefinition } from "../../core";
import { cell, TableBuilder } from "../../core";
import { database } from "./database";
import {
  addStudy,
  changeStudy,
  clearPending,
  ensureDemo,
  historyDepth,
  keepStrip,
  listStudies,
  loadStudy,
  notePending,
  recoverPending,
  removeStudy,
  replaceData,
  stepHistory,
  studyOfTable,
} from "./studies";

function tableOf(rows: string[][]) {
  const builder = new TableBuilder(["a", "b"]);
  for (const row of rows) builder.add(row);
  return builder.build();
}
const variables = [
  { name: "a", level: "continuous" as const },
  { name: "b", level: "ordinal" as const },
];
const fresh = () =>
  addStudy(
    studyOfTable(
      "Study",
      tableOf([
        ["1", "2"],
        ["3", "x"],
      ]),
      variables,
    ),
  );
const definitionOf = async (id: string): Promise<StudyDefinition> => (await loadStudy(id))!.study.definition;

beforeEach(async () => {
  vi.useRealTimers();
  const kept = new Map<string, string>();
  vi.stubGlobal("localStorage", {
    getItem: (k: string) => kept.get(k) ?? null,
    setItem: (k: string, v: string) => kept.set(k, v),
    removeItem: (k: string) => kept.delete(k),
  });
  await Promise.all(database.tables.map((table) => table.clear()));
});

describe("a study on the shelf", () => {
  it("comes back with its data, cell by cell", async () => {
    const id = await fresh();
    await fresh();
    const loaded = (await loadStudy(id))!;
    expect(loaded.study).toMatchObject({ rows: 2, columns: 2, revision: 1 });
    expect(loaded.table.columns.map((c) => [cell(c, 0), cell(c, 1)])).toEqual([
      ["1", "3"],
      ["2", "x"],
    ]);
  });

  it("is listed newest first, with the verdicts of its last run", async () => {
    const first = await fresh();
    const second = await fresh();
    await keepStrip({ id: first, n: 2, verdicts: [{ label: "H1", verdict: "supported", sentence: "a raises b" }] });
    await new Promise((resolve) => setTimeout(resolve, 5));
    await changeStudy(first, { title: "Changed" }, "title");
    const entries = await listStudies();
    expect(entries.map((e) => e.study.id)).toEqual([first, second]);
    expect(entries[0]!.strip!.verdicts[0]!.label).toBe("H1");
    expect(entries[1]!.strip).toBeNull();
  });

  it("is gone whole when removed", async () => {
    const id = await fresh();
    await removeStudy(id);
    expect(await loadStudy(id)).toBeNull();
    expect(await database.pages.where("study").equals(id).first()).toBeUndefined();
  });

  it("the demo is put there once, also after it was removed, and again when it could not be fetched", async () => {
    const make = vi.fn(async () => studyOfTable("Demo", tableOf([["1", "2"]]), variables));
    await expect(ensureDemo(() => Promise.reject(new Error("offline")))).rejects.toThrow();
    await ensureDemo(make);
    await ensureDemo(make);
    await removeStudy("demo");
    await ensureDemo(make);
    expect(make).toHaveBeenCalledTimes(1);
    expect(await listStudies()).toHaveLength(0);
  });
});

describe("undo", () => {
  const step = fc.oneof(
    fc.record({ title: fc.string({ maxLength: 6 }) }),
    fc.record({ theory: fc.constantFrom("a raises b", "a lowers b", "") }),
    fc.record({ unit: fc.constantFrom("people", "teams") }),
  );

  it("of any sequence of changes returns the identical study, and redo the last one", async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(step, { maxLength: 8 }), async (patches) => {
        const id = await fresh();
        const before = await definitionOf(id);
        for (const [i, patch] of patches.entries()) await changeStudy(id, patch, `step ${i}`);
        const after = await definitionOf(id);
        const { undo } = await historyDepth(id);
        for (let i = 0; i < undo; i++) await stepHistory(id, "undo");
        expect(await definitionOf(id)).toEqual(before);
        for (let i = 0; i < undo; i++) await stepHistory(id, "redo");
        expect(await definitionOf(id)).toEqual(after);
      }),
      { numRuns: 20 },
    );
  });

  it("takes quick typing back as one step, but separate things apart", async () => {
    const id = await fresh();
    for (const title of ["S", "St", "Stu"]) await changeStudy(id, { title }, "title");
    await changeStudy(id, { question: "Why?" }, "question");
    expect((await historyDepth(id)).undo).toBe(2);
    await stepHistory(id, "undo");
    expect(await definitionOf(id)).toMatchObject({ title: "Stu", question: "" });
  });

  it("a new change forgets what was undone; a change to the same is none", async () => {
    const id = await fresh();
    await changeStudy(id, { title: "One" }, "title");
    await stepHistory(id, "undo");
    await changeStudy(id, { title: "Two" }, "other");
    expect((await historyDepth(id)).redo).toBe(0);
    const { revision } = (await loadStudy(id))!.study;
    await changeStudy(id, { title: "Two" }, "again");
    expect((await loadStudy(id))!.study.revision).toBe(revision);
  });

  it("does nothing at either end", async () => {
    const id = await fresh();
    const before = await definitionOf(id);
    await stepHistory(id, "undo");
    await stepHistory(id, "redo");
    expect(await definitionOf(id)).toEqual(before);
  });
});

describe("a tab closed while a change was on its way", () => {
  it("loses nothing", async () => {
    const id = await fresh();
    notePending(id, { title: "Typed last" });
    await recoverPending(id);
    expect((await definitionOf(id)).title).toBe("Typed last");
    await changeStudy(id, { title: "Later" }, "title");
    await recoverPending(id);
    expect((await definitionOf(id)).title).toBe("Later");
  });
  it("keeps a newer note when an older change is stored", async () => {
    const id = await fresh();
    notePending(id, { title: "Newer" });
    clearPending(id, { title: "Older" });
    await recoverPending(id);
    expect((await definitionOf(id)).title).toBe("Newer");
  });
});

it("newer data keep what was said of columns that are still there", async () => {
  const id = await fresh();
  await changeStudy(id, { variables: [{ ...variables[0]!, label: "first" }, variables[1]!] }, "variables");
  const builder = new TableBuilder(["a", "c"]);
  for (let i = 0; i < 5; i++) builder.add([String(i), i % 2 ? "yes" : "no"]);
  await replaceData(id, builder.build(), []);
  const { study, table } = (await loadStudy(id))!;
  expect(study.rows).toBe(5);
  expect(study.definition.variables).toEqual([
    { name: "a", level: "continuous", label: "first" },
    { name: "c", level: "binary" },
  ]);
  expect(table.columns[1]!.name).toBe("c");
});
