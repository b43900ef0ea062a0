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

/** Sources of the program, without tests. */
const sourcesIn = (...folders: string[]): Graph => {
  const files = folders.flatMap((folder) =>
    readdirSync(join(ROOT, folder), { recursive: true, encoding: "utf8" })
      .filter((name) => /\.tsx?$/.test(name) && !name.includes(".test."))
      .map((name) => join(folder, name)),
  );
  return importsIn(files, (file) => readFileSync(join(ROOT, file), "utf8"));
};

/** The folders of core from the ground up, as its README lists them. */
const floors = [
  ...readFileSync(join(ROOT, "core/README.md"), "utf8").matchAll(/^\| `([\w-]+)\/` /gm),
].map((line) => line[1]!);

/** Imports of a higher folder of core by a lower one. */
const upward = (graph: Graph): string[] =>
  [...graph].flatMap(([file, imported]) =>
    imported
      .filter((other) => floorOf(other) > floorOf(file))
      .map((other) => `${file} -> ${other}`),
  );

const floorOf = (file: string): number => floors.indexOf(file.split("/")[1]!);

describe("folders of core", () => {
  it("are all on the map, each on a floor of its own", () => {
    const folders = readdirSync(join(ROOT, "core"), { withFileTypes: true });
    expect(folders.filter((f) => f.isDirectory()).map((f) => f.name)).toEqual(
      [...floors].sort((a, b) => (a < b ? -1 : 1)),
    );
    // Nothing lies loose but what the rest of the house sees of core.
    expect(folders.filter((f) => f.isFile()).map((f) => f.name)).toEqual(["README.md", "index.ts"]);
  });

  it("look down only", () => {
    const graph = sourcesIn("core");
    graph.delete("core/index.ts");
    expect(upward(graph)).toEqual([]);
    expect(
      upward(new Map([["core/data/a.ts", ["core/theory/b.ts", "core/numerics/c.ts"]]])),
    ).toEqual(["core/data/a.ts -> core/theory/b.ts"]);
  });
});

describe("files", () => {
  it("import one another in no circle, not even of types", () => {
    const graph = sourcesIn("core", "formats", "cli", "app");
    // The way from a theory to evidence is there to be seen, so the search saw it.
    expect(graph.get("core/analysis/analyse.ts")).toContain("core/analysis/analysis.ts");
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
