import { describe, expect, it } from "vitest";
import { analyse, cell, newDefinition, type Evidence, type Table, type Variable } from "../core";
import { normals } from "../core/test-kit";
import { FormatProblem, openData, readData, readStudy, writeStudy } from ".";

/** Names that every object inherits something under. */
const NAMES = [
  "constructor",
  "toString",
  "valueOf",
  "hasOwnProperty",
  "__proto__",
  "isPrototypeOf",
];
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

function readBytes(text: string): Table {
  const opened = openData(bytes(text));
  if (opened.kind !== "data") throw new Error("not data");
  return readData(opened.source, opened.layout).table;
}
const rowOf = (table: Table, row: number): string[] => table.columns.map((c) => cell(c, row));

describe("names that every object has too", () => {
  it("are fields of JSON records only where a record has them", () => {
    const table = readBytes(
      `[{"id":1,"toString":"a"},{"id":2,"constructor":7,"__proto__":"p"},{"id":3}]`,
    );
    expect(table.columns.map((c) => c.name)).toEqual([
      "id",
      "toString",
      "constructor",
      "__proto__",
    ]);
    expect([0, 1, 2].map((i) => rowOf(table, i))).toEqual([
      ["1", "a", "", ""],
      ["2", "", "7", "p"],
      ["3", "", "", ""],
    ]);
  });

  it("nested without end are refused in words", () => {
    const deep = `[["a"],[${"[".repeat(30_000)}${"]".repeat(30_000)}]]`;
    expect(() => readBytes(deep)).toThrow(/nested far too deeply|not readable JSON/);
  });

  it("come back from a study file as columns, levels, labels, codes and settings", () => {
    const table = readBytes(`${NAMES.join(",")}\n1,a,toString,2,3,4\n2,b,constructor,3,4,4\n`);
    const variables: Variable[] = NAMES.map((name) => ({
      name,
      level: name === "valueOf" ? "categorical" : "continuous",
      ...(name === "valueOf" ? { labels: { toString: "text", constructor: "maker" } } : {}),
    }));
    const definition = {
      ...newDefinition("names", variables),
      derived: [
        {
          name: "recoded",
          recipe: {
            kind: "recode" as const,
            of: "valueOf",
            map: { constructor: "one" },
            otherwise: "keep" as const,
          },
        },
      ],
      settings: { ...newDefinition("", []).settings, probes: { constructor: [1.5] } },
    };
    const read = readStudy(writeStudy({ definition, table }));
    expect(read.definition).toEqual(definition);
    expect([0, 1].map((i) => rowOf(read.table, i))).toEqual([0, 1].map((i) => rowOf(table, i)));
  });

  it("are analysed as any other", () => {
    const n = 40;
    const [a, b, c] = [normals(n, 1), normals(n, 2), normals(n, 3)] as [
      number[],
      number[],
      number[],
    ];
    const m = a.map((v, i) => v + b[i]!);
    const run = (names: string[]): Evidence => {
      const [x, via, y] = names as [string, string, string];
      const rows = a.map((v, i) => [v, m[i]!, m[i]! + c[i]!].join(","));
      const table = readBytes(`${names.join(",")}\n${rows.join("\n")}\n`);
      const definition = {
        ...newDefinition(
          "",
          names.map((name) => ({ name, level: "continuous" as const })),
        ),
        theory: `H1: ${x} raises ${y} through ${via}\nH2: ${x} alters ${via} to ${y}`,
        settings: { ...newDefinition("", []).settings, replications: 200 },
      };
      return analyse(definition, table);
    };
    const plain = run(["x", "m", "y"]);
    for (const names of [
      ["constructor", "toString", "valueOf"],
      ["hasOwnProperty", "__proto__", "isPrototypeOf"],
    ]) {
      const odd = run(names);
      expect(odd.hypotheses.map((h) => h.claim)).toEqual(plain.hypotheses.map((h) => h.claim));
      expect(Object.keys(odd.descriptives).sort()).toEqual([...names].sort());
      expect(Object.keys(odd.sample.missing).sort()).toEqual([...names].sort());
    }
  });
});

describe("a study file with a value of an odd kind", () => {
  const said = (extra: object): string => {
    try {
      readStudy(
        JSON.stringify({ format: "hebel-study", version: 1, data: { text: "a\n1\n" }, ...extra }),
      );
      return "accepted";
    } catch (error) {
      expect(error).toBeInstanceOf(FormatProblem);
      return (error as Error).message;
    }
  };

  it.each([
    [{ theory: 5 }, "“theory” should be text or a list, but it is 5"],
    [{ theory: ["H1", 3] }, "“theory”, entry 2 should be text, but it is 3"],
    [{ settings: { seed: "x" } }, '“settings.seed” should be a number, but it is "x"'],
    [{ settings: { probes: { w: [[]] } } }, "“settings.probes.w”, entry 1 should be one of"],
    [{ data: { columns: 5 } }, "“data.columns” should be a list or an object with named fields"],
    [{ data: {} }, "“data.csv” is missing; it should be text"],
    [{ colour: 1 }, "“colour” is no field that this version knows"],
    [
      { derived: [{ name: "q", recipe: { kind: "zz" } }] },
      '“derived”, entry 1, “recipe.kind” should be one of "formula"',
    ],
    [{ filters: [{ name: "", rule: { kind: "rows", rows: [0] } }] }, "at least 1"],
  ])("%j", (extra, words) => {
    expect(said(extra)).toContain(words);
    expect(said(extra)).toMatch(/Nothing has been changed\.$/);
  });
});
