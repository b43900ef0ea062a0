import { strToU8 } from "fflate";
import { describe, expect, it } from "vitest";
import { openData, readData } from ".";
import { decodeText } from "./text-encoding";

const latin1 = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));
const joined = (...parts: Uint8Array[]): Uint8Array =>
  Uint8Array.from(parts.flatMap((p) => [...p]));

describe("bytes that are not quite text", () => {
  it("in UTF-8 are named by their place, and never turn the other letters into two", () => {
    const damaged = joined(strToU8("Größe,Straße\n1,Köln\n2,M"), latin1("ü"), strToU8("nchen\n"));
    expect(() => decodeText(damaged)).toThrow(/Line 3, place 4 .*0xFC.*rest is text in UTF-8\./);
    const cut = joined(strToU8("a,é,è,ü\n"), Uint8Array.of(0xe2, 0x82), strToU8("\n"));
    expect(() => decodeText(cut)).toThrow(/Line 2, place 1 .*; 1 more follow/);
  });

  it("alone are letters of Latin-1, as before", () => {
    expect(decodeText(latin1("Größe,Straße\n1,Köln"))).toBe("Größe,Straße\n1,Köln");
    expect(decodeText(strToU8("Größe"))).toBe("Größe");
  });

  it("are refused where they are none at all, wherever in the file", () => {
    const text = strToU8("a,b\n".repeat(3000));
    text[8000] = 0;
    expect(() => decodeText(text)).toThrow(/not text \(the first on line 2001\)/);
  });
});

describe("JSON that says more than can be kept", () => {
  const notes = (text: string): string => {
    const opened = openData(strToU8(text));
    if (opened.kind !== "data") throw new Error("no data");
    return readData(opened.source, opened.layout).notes.join("\n");
  };

  it("is read with a note on keys that stand twice and digits that are lost", () => {
    const found = notes(
      `[{"a": 1, "b": 2}, {"a": 1, "b": "x: {", "a": 3}, {"a": 9007199254740993, "b": {"a": 1, "a": 2}}]`,
    );
    expect(found).toContain("Entry 2 has two values of “a”; the later one was taken.");
    expect(found).toContain("One number has more digits than a number keeps (9007199254740993)");
  });

  it("has no such note where nothing is lost", () =>
    expect(notes(`[{"a": 1.5e20, "b": "9007199254740993"}, {"a": -3, "b": "\\"a\\": 1"}]`)).toBe(
      "",
    ));
});

describe("small files that would be large tables", () => {
  const bytes = (text: string) => strToU8(text);
  const read = (text: string) => {
    const opened = openData(bytes(text));
    if (opened.kind !== "data") throw new Error("no data");
    return readData(opened.source, opened.layout).table;
  };
  const names = Array.from({ length: 4000 }, (_, i) => `n${i}`);

  it("are refused where nearly every cell would be a gap", () => {
    expect(() => read(`${names.join(",")}\n${names.map((_, i) => i).join("\n")}`)).toThrow(
      /4000 columns and hardly a cell in them \(1 in a row\)/,
    );
    expect(() => read(JSON.stringify(names.map((name, i) => ({ [name]: i }))))).toThrow(
      /4000 different fields, and hardly any in common/,
    );
  });

  it("are read where they are tables, however often one name stands there", () => {
    const same = read(`${names.map(() => "x").join(",")}\n${names.map((_, i) => i).join(",")}`);
    expect(same.columns.at(-1)!.name).toBe("x_4000");
    // Half of the answers missing is a survey.
    const some = read(`a,b,c,d\n${"1,2\n".repeat(2000)}`);
    expect(some.rows).toBe(2000);
  });
});
