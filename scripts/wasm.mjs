// Compiles AssemblyScript and writes its bytes where the program reads them: `npm run wasm`.
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { run } from "./ensure.mjs";

/** Sources, each beside what is made of it, and the name it is exported by. */
const SOURCES = {
  "core/numerics/wasm/weighted-sums": "WEIGHTED_SUMS_WASM",
  "core/estimators/covariance-structure/wasm/refit": "REFIT_WASM",
};

/** The bytes that a source compiles to, in base64. */
export function compiled(source = "core/numerics/wasm/weighted-sums") {
  const folder = mkdtempSync(join(tmpdir(), "hebel-wasm-"));
  const out = join(folder, "out.wasm");
  const flags = [
    "--optimizeLevel",
    "3",
    "--shrinkLevel",
    "0",
    "--runtime",
    "stub",
    "--enable",
    "simd",
    "--importMemory",
    "--noAssert",
  ];
  run(
    process.execPath,
    ["node_modules/assemblyscript/bin/asc.js", `${source}.as.ts`, "--outFile", out, ...flags],
    { stdio: ["ignore", 2, 2] },
  );
  const bytes = readFileSync(out).toString("base64");
  rmSync(folder, { recursive: true });
  return bytes;
}

if (process.argv[1]?.endsWith("wasm.mjs")) {
  for (const [source, name] of Object.entries(SOURCES)) {
    const lines = compiled(source).match(/.{1,100}/g);
    const file = source.split("/").at(-1);
    const text = `/** Compiled from ${file}.as.ts by \`npm run wasm\`; a test holds the two together. */\nexport const ${name} =\n${lines.map((line) => `  "${line}"`).join(" +\n")};\n`;
    writeFileSync(`${source}.wasm.ts`, text);
    console.error(`${source}: ${Buffer.from(lines.join(""), "base64").length} bytes.`);
  }
}
