// Lint and form of the files that are not as the last commit has them.
import { execFileSync } from "node:child_process";
import { existsSync } from "node:fs";
import { run } from "./ensure.mjs";

const git = (...args) => execFileSync("git", args, { encoding: "utf8" }).split("\n");
const files = [
  ...git("diff", "--name-only", "HEAD"),
  ...git("ls-files", "--others", "--exclude-standard"),
].filter((path) => path !== "" && existsSync(path));
const code = files.filter((path) => /\.(ts|tsx|mjs|js)$/.test(path));
if (code.length > 0) run("npx", ["eslint", "--max-warnings", "0", "--no-warn-ignored", ...code]);
if (files.length > 0)
  run("npx", ["prettier", "--check", "--log-level", "warn", "--ignore-unknown", ...files]);
