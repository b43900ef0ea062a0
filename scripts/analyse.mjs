// Headless analysis of a study file: `npm run --silent analyse -- STUDY.hebel.json`.
import { spawnSync } from "node:child_process";
import { ensurePackages } from "./ensure.mjs";

ensurePackages();
const result = spawnSync(
  process.execPath,
  ["--import", "tsx", "cli/main.ts", ...process.argv.slice(2)],
  { stdio: "inherit" },
);
process.exit(result.status ?? 1);
