import { readdirSync, readFileSync } from "node:fs";
import { dirname, join, normalize } from "node:path";
import ts from "typescript";
import { describe, expect, it } from "vitest";

const ROOT = join(import.meta.dirname, "..");

type Graph = Map<string, string[]>;

/** What each file imports of the others, types included: a reader has to follow those too. */
function importsIn(files: readonly string[], read: (file: string) => string): Graph {
  const known = new Set(files);
  const resolved = (from: string, specifier: string): string[] => {
    const path = normalize(join(dirname(from), specifier));
    return [path, `${path}.ts`, `${path}.tsx`, `${path}/index.ts`].filter((p) => known.has(p));
  };
  return new Map(
    files.map((file) => [
      file,
      ts
        .preProcessFile(read(file), true, true)
        .importedFiles.map((f) => f.fileName)
        .filter((name) => name.startsWith("."))
        .flatMap((name) => resolved(file, name)),
    ]),
  );
}

/** Circles of imports, each as the way round it; depth first, a file is looked at once. */
function circlesIn(graph: Graph): string[][] {
  const done = new Set<string>();
  const way: string[] = [];
  const circles: string[][] = [];
  const visit = (file: string): void => {
    const at = way.indexOf(file);
    if (at >= 0) return void circles.push([...way.slice(at), file]);
    if (done.has(file)) return;
    way.push(file);
    for (const next of graph.get(file) ?? []) visit(next);
    way.pop();
    done.add(file);
  };
  for (const file of graph.keys()) visit(file);
  return circles;
}

const circlesOf = (sources: Record<string, string>): string[][] =>
  circlesIn(importsIn(Object.keys(sources), (file) => sources[file]!));

describe("files", () => {
  it("import one another in no circle, not even of types", () => {
    const files = ["core", "formats", "cli", "app"].flatMap((folder) =>
      readdirSync(join(ROOT, folder), { recursive: true, encoding: "utf8" })
        .filter((name) => /\.tsx?$/.test(name) && !name.includes(".test."))
        .map((name) => join(folder, name)),
    );
    const graph = importsIn(files, (file) => readFileSync(join(ROOT, file), "utf8"));
    // The way from a theory to evidence is there to be seen, so the search saw it.
    expect(graph.get("core/analyse.ts")).toContain("core/analysis.ts");
    expect(circlesIn(graph)).toEqual([]);
  });

  it("are found where they do", () => {
    expect(
      circlesOf({
        "core/a.ts": `import type { B } from "./b";`,
        "core/b/index.ts": `export { c } from "../c";`,
        "core/c.ts": `import "./a";\nimport fc from "fast-check";`,
        "core/d.ts": `export * from "./a";`,
      }),
    ).toEqual([["core/a.ts", "core/b/index.ts", "core/c.ts", "core/a.ts"]]);
    expect(circlesOf({ "a.ts": `import "./b";`, "b.ts": "" })).toEqual([]);
  });
});
