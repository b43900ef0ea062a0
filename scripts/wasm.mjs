// Compiles core/numerics/wasm/weighted-sums.as.ts and writes its bytes where the program reads them: `npm run wasm`.
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { run } from "./ensure.mjs";

const SOURCE = "core/numerics/wasm/weighted-sums.as.ts";
const TARGET = "core/numerics/wasm/weighted-sums.wasm.ts";

/** The bytes that the source compiles to, in base64. */
export function compiled() {
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
    ["node_modules/assemblyscript/bin/asc.js", SOURCE, "--outFile", out, ...flags],
    { stdio: ["ignore", 2, 2] },
  );
  const bytes = readFileSync(out).toString("base64");
  rmSync(folder, { recursive: true });
  return bytes;
}

if (process.argv[1]?.endsWith("wasm.mjs")) {
  const lines = compiled().match(/.{1,100}/g);
  const text = `/** Compiled from weighted-sums.as.ts by \`npm run wasm\`; a test holds the two together. */\nexport const WEIGHTED_SUMS_WASM =\n${lines.map((line) => `  "${line}"`).join(" +\n")};\n`;
  writeFileSync(TARGET, text);
  console.error(`${TARGET}: ${Buffer.from(lines.join(""), "base64").length} bytes.`);
}
