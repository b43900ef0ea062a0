import { strFromU8, strToU8, unzipSync, zipSync } from "fflate";
import { describe, expect, it } from "vitest";
import { analyse } from "../../core";
import { demoStudy } from "../../demo/study";
import { openData } from "../open-data";
import { compareFiles, filesOf, readPack, verify, writePack } from ".";

const study = demoStudy();
study.definition.settings.replications = 0;
study.definition.settings.interval = "delta";
const evidence = analyse(study.definition, study.table);
const extras = { reportHtml: "<p>", reportDocx: null, figures: new Map([["figure-1", "<svg/>"]]) };
const bytes = writePack(study, evidence, null, extras);

describe("an archive that is handed over", () => {
  it("gives study and evidence back, and is the same whenever it is made", () => {
    const back = readPack(bytes);
    expect(back.study.definition).toEqual(study.definition);
    expect(back.evidence).toEqual(JSON.parse(JSON.stringify(evidence)));
    expect(writePack(study, evidence, null, extras)).toEqual(bytes);
    expect(Object.keys(unzipSync(bytes)).sort()).toEqual(
      [
        "README.txt",
        "codebook.csv",
        "data.csv",
        "evidence.json",
        "figures/figure-1.svg",
        "report.html",
        "study.hebel.json",
      ].sort(),
    );
  });

  it("opens as the study it holds, where a workbook opens as data", () => {
    const opened = openData(bytes);
    expect(opened.kind).toBe("study");
    expect(opened.kind === "study" && opened.study.definition.title).toBe(study.definition.title);
  });

  it("says what is wrong with a file that is none", () => {
    expect(() => readPack(bytes.subarray(0, 500))).toThrow(/damaged/);
    const rest = unzipSync(bytes, { filter: ({ name }) => name !== "evidence.json" });
    expect(() => readPack(zipSync(rest))).toThrow(/holds no “evidence.json”/);
  });
});

describe("comparing with what was kept", () => {
  it("counts numbers by part, and names each that is not the same", () => {
    const kept = { a: [1, 2, { b: 0.1 }], c: null, engine: "x", d: { e: -0 } };
    expect(
      verify(kept, structuredClone({ ...kept, engine: "y", d: { e: 0 } })).differences,
    ).toEqual([]);
    const { numbers, differences } = verify(kept, {
      ...kept,
      a: [1, 2 + 2 ** -51, { b: 0.1, f: 1 }],
      c: 3,
    });
    expect(numbers).toEqual(
      new Map([
        ["a", 4],
        ["c", 1],
        ["d", 1],
      ]),
    );
    expect(differences.map((d) => [d.path, d.kept])).toEqual([
      ["a[1]", "2"],
      ["a[2].f", "nothing"],
      ["c", "null"],
    ]);
  });
});

describe("the files of an archive", () => {
  const files = unzipSync(bytes);

  it("are compared one by one, with the place where they part", () => {
    expect(compareFiles(files, filesOf(bytes)).map((f) => f.state)).toEqual(Array(5).fill("same"));
    const { "codebook.csv": codebook, ...rest } = files;
    const lines = strFromU8(files["data.csv"]!).split("\n");
    lines[7] = lines[7]!.replace(/\d/, (digit) => String((Number(digit) + 1) % 10));
    const changed = { ...rest, "data.csv": strToU8(lines.join("\n")), "note.txt": strToU8("?") };
    const off = compareFiles(changed, files).filter((f) => f.state !== "same");
    expect(off.map(({ name, state, where }) => [name, state, where?.line])).toEqual([
      ["codebook.csv", "missing", undefined],
      ["data.csv", "different", 8],
      ["note.txt", "unknown", undefined],
    ]);
    expect(codebook!.length).toBeGreaterThan(0);
  });

  it("are none where a byte is not what was packed", () => {
    for (let at = 60; at < bytes.length; at += 997) {
      const off = bytes.slice();
      off[at] = off[at]! ^ 4;
      let read: Record<string, Uint8Array> | null = null;
      try {
        read = filesOf(off);
      } catch (error) {
        expect(String(error)).toMatch(/damaged|too large/);
      }
      // A byte that belongs to no file, as of a date, changes nothing.
      if (read) for (const [name, file] of Object.entries(read)) expect(file).toEqual(files[name]);
    }
  });
});
