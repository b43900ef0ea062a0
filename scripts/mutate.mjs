// Changes lines of a folder one by one and sees whether a test notices: `npm run mutate --
// core/inference`. A pattern of files works too: `npm run mutate -- "core/evidence/verdict*.ts"`.
// The tests beside the files watch, those that take many seconds aside. Not part of `npm test`: it
// takes minutes to hours.
import { existsSync, statSync } from "node:fs";
import { dirname } from "node:path";
import { run } from "./ensure.mjs";

const [target, ...tests] = process.argv.slice(2);
if (target === undefined) {
  console.error(
    "Usage: npm run mutate -- FOLDER-OR-PATTERN [TESTS …], as in core/inference, or core/evidence/verdict*.ts",
  );
  process.exit(2);
}
const folder =
  existsSync(target) && statSync(target).isDirectory() ? target.replace(/\/$/, "") : null;
const patterns = folder ? `${folder}/**/*.ts,!${folder}/**/*.test.ts` : `${target},!**/*.test.ts`;
const watching = tests.length > 0 ? tests : [`${folder ?? dirname(target)}/**/*.test.ts`];
run("npx", ["stryker", "run", "stryker.config.json", "--mutate", patterns], {
  env: { ...process.env, MUTATE_TESTS: watching.join(",") },
});
