// Changes lines one by one and sees whether a test notices. Not part of `npm test`: it takes
// minutes to hours.
//
//   npm run mutate -- core/inference                      every line of a folder
//   npm run mutate -- "core/evidence/verdict*.ts"         of some files
//   npm run mutate -- core/evidence --sample 40           of 40 blocks of its lines drawn at random
//   npm run mutate -- core/evidence core/analysis core/evidence/**/*.test.ts
//
// The tests beside the files watch, or those that are named; the same seed draws the same blocks.
import { existsSync, readdirSync, readFileSync, statSync } from "node:fs";
import { dirname, join } from "node:path";
import { parseArgs } from "node:util";
import { run } from "./ensure.mjs";

/** Lines of a block: short, so that a sample is spread over the folder. */
const BLOCK = 10;

const { positionals, values } = parseArgs({
  allowPositionals: true,
  options: { sample: { type: "string" }, seed: { type: "string", default: "1" } },
});
const [target, ...tests] = positionals;
if (target === undefined) {
  console.error(
    "Usage: npm run mutate -- FOLDER-OR-PATTERN [TESTS …] [--sample BLOCKS] [--seed SEED]",
  );
  process.exit(2);
}
const folder =
  existsSync(target) && statSync(target).isDirectory() ? target.replace(/\/$/, "") : null;
const whole = folder ? `${folder}/**/*.ts,!${folder}/**/*.test.ts` : `${target},!**/*.test.ts`;
const patterns = values.sample
  ? blocks(folder ?? target, Number(values.sample), Number(values.seed))
  : whole;
const watching = tests.length > 0 ? tests : [`${folder ?? dirname(target)}/**/*.test.ts`];
run("npx", ["stryker", "run", "stryker.config.json", "--mutate", patterns], {
  env: { ...process.env, MUTATE_TESTS: watching.join(",") },
});

/** So many blocks of lines of a folder, one as likely as any other, as patterns of ranges. */
function blocks(inFolder, count, seed) {
  const all = sources(inFolder).flatMap((file) => {
    const length = readFileSync(file, "utf8").split("\n").length;
    return Array.from(
      { length: Math.ceil(length / BLOCK) },
      (_, i) => `${file}:${i * BLOCK + 1}-${Math.min((i + 1) * BLOCK, length)}`,
    );
  });
  const next = draws(seed);
  for (let i = all.length - 1; i > 0; i -= 1) {
    const j = Math.floor(next() * (i + 1));
    [all[i], all[j]] = [all[j], all[i]];
  }
  return all.slice(0, count).sort().join(",");
}

function sources(path) {
  if (!statSync(path).isDirectory()) return [path];
  return readdirSync(path, { recursive: true })
    .map((name) => join(path, name))
    .filter((file) => file.endsWith(".ts") && !file.endsWith(".test.ts"))
    .sort();
}

/** Numbers below one from a linear congruence modulo 2^32; enough to draw lines. */
function draws(seed) {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}
