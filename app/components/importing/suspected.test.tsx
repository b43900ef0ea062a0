import { describe, expect, it } from "vitest";
import type { Variable } from "../../../core";
import { importing, type ImportPreview } from "../../workers/importing";
import { markupOf, textOf } from "../test-kit";
import { SuspectedCodes, withSuspected } from "./suspected";

/** What the worker shows of a file before it becomes a study. */
function previewOf(csv: string): ImportPreview {
  const opened = importing.openFile(new TextEncoder().encode(csv));
  if (!opened.ok || opened.value.kind !== "data") throw new Error("no data");
  const read = importing.preview(opened.value.layout, () => undefined);
  if (!read.ok) throw new Error(read.message);
  return read.value;
}

const rows = (columns: Record<string, (string | number)[]>): string =>
  [
    Object.keys(columns).join(","),
    ...Object.values(columns)[0]!.map((_, i) =>
      Object.values(columns)
        .map((c) => c[i]!)
        .join(","),
    ),
  ].join("\n");

const SURVEY = rows({
  age: [31, 44, 52, 28, 60, 99],
  trust1: [1, 2, 3, 4, 5, 99],
  trust2: [5, 4, 3, 99, 1, 2],
  joined: [0, 1, 1, 0, 99, 1],
});

const said = (preview: ImportPreview, variables = preview.variables): string =>
  textOf(
    markupOf(<SuspectedCodes preview={preview} variables={variables} accept={() => undefined} />),
  );

const named = (variables: Variable[], name: string): Variable =>
  variables.find((v) => v.name === name)!;

describe("codes for no answer in a file that is opened", () => {
  const preview = previewOf(SURVEY);

  it("are asked about, and left alone until the answer", () => {
    expect(said(preview)).toContain(
      "99 in trust1, trust2 and joined: a number far from all others",
    );
    expect(said(preview)).toContain("Read 99 as missing");
    expect(preview.variables.every((v) => v.missing === undefined)).toBe(true);
  });

  it("become missing in their columns alone, and the guess follows", () => {
    const accepted = withSuspected(preview, preview.variables);
    expect(named(accepted, "age").missing).toBeUndefined();
    expect(named(accepted, "trust1").missing).toEqual(["99"]);
    expect(named(preview.variables, "joined").level).toBe("ordinal");
    expect(named(accepted, "joined").level).toBe("binary");
    expect(said(preview, accepted)).toBe("");
  });

  it("keep a level that was chosen, and codes that were stated", () => {
    const chosen = preview.variables.map((v) =>
      v.name === "joined" ? { ...v, level: "categorical" as const, missing: ["9"] } : v,
    );
    expect(named(withSuspected(preview, chosen), "joined")).toMatchObject({
      level: "categorical",
      missing: ["9", "99"],
    });
  });

  it("are counted where there are many", () => {
    const items = Array.from({ length: 6 }, (_, j) => [`item${j + 1}`, [1, 2, 3, 4, 5, 88, 99]]);
    const many = previewOf(rows(Object.fromEntries(items) as Record<string, number[]>));
    expect(said(many)).toContain("88 in item1, item2, item3 and 3 more columns;");
    expect(said(many)).toContain("Read them as missing");
  });

  it("are not asked about where there are none", () => {
    expect(said(previewOf(rows({ trust: [1, 2, 3, 4, 5], age: [20, 30, 40, 50, 60] })))).toBe("");
  });
});
