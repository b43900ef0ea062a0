// The whole check: `npm test`, on a laptop and in CI alike. `npm run test:quick` is what somebody
// runs before a commit (below a minute), `npm run test:long` what runs before a release (an hour).
import { existsSync } from "node:fs";
import { spawn } from "node:child_process";
import {
  ensureBuild,
  ensureChromium,
  ensureOffice,
  ensurePackages,
  ensureRedis,
  run,
} from "./ensure.mjs";

const mode = process.argv[2] ?? "whole";
const started = Date.now();
/** What was not there to be tested, one line each. */
const leftOut = [];

ensurePackages();

/** Runs commands beside each other, each at its own processor; stops where one fails. */
async function beside(...commands) {
  const codes = await Promise.all(
    commands.map(
      ([name, ...command]) =>
        new Promise((resolve) => {
          const begun = Date.now();
          const pieces = [];
          const child = spawn("sh", ["-c", command.join(" && ")]);
          for (const stream of [child.stdout, child.stderr])
            stream.on("data", (piece) => pieces.push(piece));
          child.on("exit", (code) => {
            process.stderr.write(Buffer.concat(pieces));
            console.error(`${name}: ${code === 0 ? "sound" : "FAILED"}, ${seconds(begun)} s`);
            resolve(code ?? 1);
          });
        }),
    ),
  );
  const failed = codes.find((code) => code !== 0);
  if (failed !== undefined) process.exit(failed);
}

const seconds = (since) => Math.round((Date.now() - since) / 1000);

const TYPES = ["Types", "npm run --silent typecheck"];
const LINT = ["Lint", "npx eslint . --max-warnings 0"];
const FORM = ["Form", "npx prettier --check --log-level warn ."];

if (mode === "quick") {
  await beside(TYPES, ["Lint and form of what changed", "node scripts/changed.mjs"]);
  run("npx", ["vitest", "run", "--changed", process.argv[3] ?? "HEAD"]);
} else if (mode === "long") {
  run("npx", ["vitest", "run", "--mode", "long"], { env: withPrograms() });
} else {
  const chromium = ensureChromium();
  const env = withPrograms();
  await beside([TYPES[0], TYPES[1]], ["Lint", LINT[1]]);
  await beside(FORM, [
    "App",
    `node -e "import('./scripts/ensure.mjs').then((m) => m.ensureBuild())"`,
  ]);
  run("npm", ["run", "--silent", "test:unit"], { env });
  ensureBuild();
  run("npm", ["run", "--silent", "test:browser"], { env: { ...env, CHROMIUM: chromium } });
}
console.error(`All of it took ${seconds(started)} s.`);
for (const line of leftOut) console.error(`Left out: ${line}`);

/** The environment with what is there of other programs; says what is not. */
function withPrograms() {
  const office = ensureOffice();
  const redis = ensureRedis();
  if (!office) leftOut.push("documents opened in a word processor (no LibreOffice: OFFICE=…)");
  const tex = ["/usr/bin/pdflatex", process.env.TEX].find((path) => path && existsSync(path));
  if (!tex) leftOut.push("tables set by TeX (no pdflatex: TEX=…); their grammar is tested");
  if (!redis) leftOut.push("runs on several machines (no Redis server: REDIS=…)");
  return {
    ...process.env,
    ...(office ? { OFFICE: office } : {}),
    ...(tex ? { TEX: tex } : {}),
    ...(redis ? { REDIS: redis } : {}),
  };
}
