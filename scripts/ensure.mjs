// Shared by the npm scripts: makes sure that what a command needs is there. Progress goes to
// standard error.
import { spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { gzipSync } from "node:zlib";

/** Runs a command to its end and stops this process with its exit code if it fails. */
export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { stdio: "inherit", ...options });
  if (result.status !== 0) process.exit(result.status ?? 1);
}

/** Installs the packages when they are missing or older than the lock file. */
export function ensurePackages() {
  const mark = "node_modules/.package-lock.json";
  const fresh =
    existsSync(mark) && statSync(mark).mtimeMs >= statSync("package-lock.json").mtimeMs - 1000;
  if (fresh) return;
  if (existsSync(mark) && sameLock()) return;
  console.error("Installing packages …");
  run("npm", ["ci", "--ignore-scripts", "--no-audit", "--no-fund", "--loglevel=error"], {
    stdio: ["ignore", 2, 2],
  });
  writeFileSync("node_modules/.hebel-lock", readFileSync("package-lock.json"));
}

function sameLock() {
  const kept = "node_modules/.hebel-lock";
  return (
    existsSync(kept) && readFileSync(kept, "utf8") === readFileSync("package-lock.json", "utf8")
  );
}

/** What the built app is made of. */
const SOURCES = [
  "app",
  "core",
  "formats",
  "demo",
  "docs/manual",
  "public",
  "package-lock.json",
  "react-router.config.ts",
  "vite.config.ts",
  "scripts/offline.mjs",
  "scripts/licences.mjs",
];
const STAMP = "build/.made-from";

/** Builds the app when its sources are not those that it was built from last. */
export function ensureBuild() {
  const now = fingerprint(SOURCES);
  if (existsSync(STAMP) && readFileSync(STAMP, "utf8") === now) {
    console.error("The app is built already.");
    return;
  }
  console.error("Building the app (half a minute) …");
  run("npx", ["react-router", "build", "--logLevel", "warn"], { stdio: ["ignore", 2, 2] });
  compress("build/client/assets");
  writeFileSync(STAMP, now);
}

/** Lays every text of a folder beside itself compressed, for a server that need not do it anew. */
function compress(folder) {
  for (const name of readdirSync(folder))
    if (/\.(js|css|svg)$/.test(name)) {
      const path = join(folder, name);
      writeFileSync(`${path}.gz`, gzipSync(readFileSync(path)));
    }
}

const COMMAND_LINE = "build/cli";
/** What is started from outside: commands, and the thread that they start. */
const COMMANDS = ["cli/main.ts", "cli/simulate.ts", "cli/queue/worker.ts", "cli/thread.ts"];

/**
 * Bundles the command line when its sources are not those that it was made from last: a program
 * that starts in a fifth of a second, where reading every module by itself takes four.
 */
export function ensureCommandLine() {
  const stamp = join(COMMAND_LINE, ".made-from");
  const now = fingerprint(["cli", "core", "formats", "demo", "package-lock.json"]);
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === now) return;
  run("node_modules/.bin/esbuild", [
    ...COMMANDS,
    ...["--bundle", "--splitting", "--platform=node", "--format=esm", "--packages=external"],
    ...["--target=node20", "--sourcemap", "--log-level=warning", "--entry-names=[name]"],
    ...["--out-extension:.js=.mjs", `--outdir=${COMMAND_LINE}`],
  ]);
  writeFileSync(stamp, now);
}

/**
 * Runs a program of the command line in the place of this one: its output, its exit code, and the
 * signals that this one gets.
 */
export function runCommand(name) {
  ensurePackages();
  ensureCommandLine();
  const child = spawn(
    process.execPath,
    ["--enable-source-maps", `${COMMAND_LINE}/${name}.mjs`, ...process.argv.slice(2)],
    { stdio: "inherit" },
  );
  for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => child.kill(signal));
  child.on("exit", (code) => process.exit(code ?? 1));
}

/** A hash of the contents of all these. */
function fingerprint(sources) {
  const hash = createHash("sha256");
  const take = (path) => {
    if (statSync(path).isDirectory())
      for (const name of readdirSync(path).sort()) take(join(path, name));
    else if (!path.includes(".test.")) hash.update(path).update(readFileSync(path));
  };
  for (const path of sources) take(path);
  return hash.digest("hex");
}

/**
 * Path of a Chromium for the browser tests; installs Debian's when run as root, else says what to
 * do.
 */
export function ensureChromium() {
  const known = [
    process.env.CHROMIUM,
    "/usr/bin/chromium-headless-shell",
    "/usr/bin/chromium",
    "/usr/bin/chromium-browser",
    "/usr/bin/google-chrome",
  ];
  const found = known.find((path) => path && existsSync(path));
  if (found) return found;
  if (process.getuid?.() === 0 && existsSync("/usr/bin/apt-get")) {
    console.error("Installing Chromium from Debian's packages …");
    run("apt-get", ["update", "-qq"]);
    const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
    // The engine without a window around it, where this Debian has it by itself.
    for (const name of ["chromium-headless-shell", "chromium"]) {
      const wanted = ["install", "-y", "-qq", "--no-install-recommends", name];
      const { status } = spawnSync("apt-get", wanted, { stdio: "inherit", env });
      if (status === 0) return `/usr/bin/${name}`;
    }
  }
  console.error(
    "The browser tests need Chromium. Install it (Debian: sudo apt-get install chromium) or set CHROMIUM to its path.",
  );
  process.exit(1);
}

/**
 * Path of a Redis server for the tests of runs on several machines; installs Debian's when run as
 * root. Null where there is none: those tests are then left out, and say so.
 */
export function ensureRedis() {
  const known = [process.env.REDIS, "/usr/bin/redis-server", "/usr/local/bin/redis-server"];
  const found = known.find((path) => path && existsSync(path));
  if (found) return found;
  if (process.getuid?.() === 0 && existsSync("/usr/bin/apt-get")) {
    console.error("Installing Redis from Debian's packages …");
    run("apt-get", ["update", "-qq"]);
    run("apt-get", ["install", "-y", "-qq", "--no-install-recommends", "redis-server"], {
      env: { ...process.env, DEBIAN_FRONTEND: "noninteractive", RUNLEVEL: "1" },
    });
    return "/usr/bin/redis-server";
  }
  console.error("Without Redis runs on several machines are not tested.");
  return null;
}

/**
 * Path of a LibreOffice that opens word-processor files without a screen, for the tests of what the
 * report writes; installs Debian's when run as root. Null where there is none: those tests are then
 * left out, and say so.
 */
export function ensureOffice() {
  const known = [process.env.OFFICE, "/usr/bin/soffice", "/usr/bin/libreoffice"];
  const found = known.find((path) => path && existsSync(path));
  if (found) return found;
  if (process.getuid?.() === 0 && existsSync("/usr/bin/apt-get")) {
    console.error("Installing LibreOffice from Debian's packages …");
    run("apt-get", ["update", "-qq"]);
    run(
      "apt-get",
      [
        "install",
        "-y",
        "-qq",
        "--no-install-recommends",
        "libreoffice-writer-nogui",
        "libreoffice-calc-nogui",
      ],
      { env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" } },
    );
    return "/usr/bin/soffice";
  }
  console.error("Without LibreOffice the report is not opened in a word processor.");
  return null;
}
