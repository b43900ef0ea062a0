// Does work of a queue: `npm run --silent worker -- --queue redis://HOST`.
import { spawn } from "node:child_process";
import { ensurePackages } from "./ensure.mjs";

ensurePackages();
const child = spawn(
  process.execPath,
  ["--import", "tsx", "cli/queue/worker.ts", ...process.argv.slice(2)],
  {
    stdio: "inherit",
  },
);
for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => child.kill(signal));
child.on("exit", (code) => process.exit(code ?? 1));
