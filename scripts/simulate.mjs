// Simulates what a plan expects: `npm run --silent simulate -- STUDY.hebel.json`.
import { spawn } from "node:child_process";
import { ensurePackages } from "./ensure.mjs";

ensurePackages();
const child = spawn(
  process.execPath,
  ["--import", "tsx", "cli/simulate.ts", ...process.argv.slice(2)],
  {
    stdio: "inherit",
  },
);
for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => child.kill(signal));
child.on("exit", (code) => process.exit(code ?? 1));
