// Changes lines of a folder one by one and sees whether a test notices: `npm run mutate -- core/inference`.
// A pattern of files works too: `npm run mutate -- "core/evidence/verdict*.ts"`. Not part of `npm test`: it takes minutes to hours.
import { existsSync, statSync } from "node:fs";
import { run } from "./ensure.mjs";

const [target] = process.argv.slice(2);
if (target === undefined) {
  console.error("Usage: npm run mutate -- FOLDER, or a pattern of files such as core/evidence/verdict*.ts");
  process.exit(2);
}
const folder = existsSync(target) && statSync(target).isDirectory();
const patterns = folder ? `${target.replace(/\/$/, "")}/**/*.ts,!${target.replace(/\/$/, "")}/**/*.test.ts` : `${target},!**/*.test.ts`;
run("npx", ["stryker", "run", "stryker.config.json", "--mutate", patterns]);
