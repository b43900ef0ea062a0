import "fake-indexeddb/auto";
import fc from "fast-check";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { StudyDefinition, Table } from "../../core";
import { cell, TableBuilder } from "../../core";
import { readStudy, writeStudy } from "../../formats";
import { database } from "./database";
import {
  addStudy,
  changeStudy,
  declareVariables,
  ensureDemo,
  historyDepth,
  keepStrip,
  listStudies,
  loadStudy,
  recoverPending,
  replaceData,
  stepHistory,
  studyOfTable,
} from "./studies";
import { clearPending, notePending } from "./pending";
import { removeStudy } from "./removal";

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
const definitionOf = async (id: string): Promise<StudyDefinition> =>
  (await loadStudy(id))!.study.definition;

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
    await keepStrip({
      id: first,
      n: 2,
      verdicts: [{ label: "H1", verdict: "supported", sentence: "a raises b" }],
    });
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
    // Six demo studies, of which one was removed.
    expect(make).toHaveBeenCalledTimes(6);
    expect(await listStudies()).toHaveLength(5);
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
    notePending(id, { patch: { title: "Typed last" }, base: { title: "Study" } });
    await recoverPending(id);
    expect((await definitionOf(id)).title).toBe("Typed last");
    await changeStudy(id, { title: "Later" }, "title");
    await recoverPending(id);
    expect((await definitionOf(id)).title).toBe("Later");
  });
  it("keeps a newer note when an older change is stored", async () => {
    const id = await fresh();
    notePending(id, { patch: { title: "Newer" }, base: {} });
    clearPending(id, { title: "Older" });
    await recoverPending(id);
    expect((await definitionOf(id)).title).toBe("Newer");
  });
});

describe("a tab closed while one change was being written and the next one typed", () => {
  const A = { patch: { title: "A" }, base: { title: "Study" } };
  const AB = { patch: { title: "AB" }, base: { title: "A" }, earlier: [A] };
  /** The study as the closed tab left it: another page has opened it now. */
  const leftAt = async (title: string): Promise<string> => {
    const id = await fresh();
    await changeStudy(id, { title }, "title");
    await database.studies.update(id, { origin: "the closed tab" });
    return id;
  };

  it("loses neither, whether the first was stored or not", async () => {
    for (const title of ["Study", "A", "AB"]) {
      const id = await leftAt(title);
      notePending(id, AB);
      await recoverPending(id);
      expect((await definitionOf(id)).title, title).toBe("AB");
    }
  });

  it("writes what only the first change changed, too", async () => {
    const id = await leftAt("Study");
    const question = { patch: { question: "Why?" }, base: { question: "" } };
    notePending(id, { ...A, earlier: [question] });
    await recoverPending(id);
    expect(await definitionOf(id)).toMatchObject({ title: "A", question: "Why?" });
  });

  it("leaves what another tab has written meanwhile", async () => {
    const id = await leftAt("Another's");
    notePending(id, AB);
    await recoverPending(id);
    expect((await definitionOf(id)).title).toBe("Another's");
  });
});

it("newer data keep what was said of columns that are still there", async () => {
  const id = await fresh();
  await changeStudy(
    id,
    { variables: [{ ...variables[0]!, label: "first" }, variables[1]!] },
    "variables",
  );
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

describe("any sequence of changes", () => {
  const columns = ["a", "b", "c"];
  const edits = fc.array(
    fc.oneof(
      fc.record({
        kind: fc.constant("variable" as const),
        column: fc.constantFrom(...columns),
        label: fc.string({ maxLength: 6 }),
      }),
      fc.record({
        kind: fc.constant("cell" as const),
        column: fc.constantFrom(...columns),
        row: fc.integer({ min: 1, max: 3 }),
        to: fc.string({ maxLength: 4 }),
      }),
      fc.record({ kind: fc.constant("filter" as const), row: fc.integer({ min: 1, max: 3 }) }),
      fc.record({ kind: fc.constant("derive" as const), column: fc.constantFrom(...columns) }),
      fc.record({
        kind: fc.constant("theory" as const),
        line: fc.constantFrom("measure m averages a, b", "a raises b", ""),
      }),
      fc.record({ kind: fc.constant("data" as const), rows: fc.integer({ min: 1, max: 4 }) }),
      fc.record({ kind: fc.constant("log" as const), why: fc.string({ maxLength: 8 }) }),
    ),
    { minLength: 1, maxLength: 7 },
  );
  const tableOf = (rows: number): Table => {
    const builder = new TableBuilder(columns);
    for (let i = 0; i < rows; i++) builder.add([String(i), String(i * i), "x"]);
    return builder.build();
  };
  type Edit = typeof edits extends fc.Arbitrary<(infer E)[]> ? E : never;

  async function apply(id: string, edit: Edit, at: number): Promise<unknown> {
    const { definition } = (await loadStudy(id))!.study;
    const change = (patch: Partial<StudyDefinition>): Promise<unknown> =>
      changeStudy(id, patch, `change ${at}`, "because");
    switch (edit.kind) {
      case "variable":
        return change({
          variables: definition.variables.map((v) =>
            v.name === edit.column ? { ...v, label: edit.label } : v,
          ),
        });
      case "cell":
        return change({
          corrections: [
            ...definition.corrections,
            { column: edit.column, row: edit.row, from: "?", to: edit.to },
          ],
        });
      case "filter":
        return change({
          filters: [
            ...definition.filters,
            { name: `f${at}`, active: true, rule: { kind: "rows", rows: [edit.row] } },
          ],
        });
      case "derive":
        return change({
          derived: [
            ...definition.derived,
            { name: `d${at}`, recipe: { kind: "rank", of: edit.column } },
          ],
        });
      case "theory":
        return change({ theory: edit.line });
      case "data":
        return replaceData(id, tableOf(edit.rows), []);
      case "log":
        return change({ log: definition.log.map((entry) => ({ ...entry, why: edit.why })) });
    }
  }

  const snapshot = async (id: string): Promise<string> => {
    const { study, table } = (await loadStudy(id))!;
    return JSON.stringify([
      study.definition,
      study.rows,
      study.columns,
      table.columns.map((c) => [c.name, c.dictionary, [...c.codes]]),
    ]);
  };

  it("undone gives the identical study, and redone the identical result; out and in again is the same", async () => {
    await fc.assert(
      fc.asyncProperty(edits, async (list) => {
        const id = await addStudy(
          studyOfTable(
            "t",
            tableOf(3),
            columns.map((name) => ({ name, level: "continuous" as const })),
          ),
        );
        const before = await snapshot(id);
        for (const [at, edit] of list.entries()) await apply(id, edit, at);
        const after = await snapshot(id);
        const { undo } = await historyDepth(id);
        for (let i = 0; i < undo; i++) await stepHistory(id, "undo");
        expect(await snapshot(id)).toBe(before);
        for (let i = 0; i < undo; i++) await stepHistory(id, "redo");
        expect(await snapshot(id)).toBe(after);
        const { study, table } = (await loadStudy(id))!;
        const back = readStudy(writeStudy({ definition: study.definition, table }));
        expect(JSON.stringify(back.definition)).toBe(JSON.stringify(study.definition));
      }),
      { numRuns: 40 },
    );
  });
});

describe("variables declared before there are data", () => {
  const declared = [
    { name: "hours", level: "continuous" as const },
    { name: "conf1", level: "ordinal" as const, range: [1, 5] as [number, number] },
  ];

  it("are columns without a row, one step of undo each, and data take their place", async () => {
    const id = await addStudy(studyOfTable("Planned", new TableBuilder([]).build(), []));
    await declareVariables(id, declared);
    const loaded = (await loadStudy(id))!;
    expect(loaded.table.rows).toBe(0);
    expect(loaded.table.columns.map((c) => c.name)).toEqual(["hours", "conf1"]);
    expect(loaded.study.definition.variables).toEqual(declared);
    await stepHistory(id, "undo");
    expect((await loadStudy(id))!.table.columns).toEqual([]);
    await stepHistory(id, "redo");
    const builder = new TableBuilder(["hours", "conf1"]);
    builder.add(["3", "4"]);
    builder.add(["5", "2"]);
    await replaceData(id, builder.build(), []);
    const brought = (await loadStudy(id))!;
    expect(brought.table.rows).toBe(2);
    // What was declared of a variable is kept.
    expect(brought.study.definition.variables[1]).toEqual(declared[1]);
  });

  it("leave a study with data as it is", async () => {
    const id = await fresh();
    await declareVariables(id, declared);
    expect((await loadStudy(id))!.table.columns.map((c) => c.name)).toEqual(["a", "b"]);
  });
});
