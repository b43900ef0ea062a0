// Shared by the npm scripts: makes sure that what a command needs is there. Progress goes to standard error.
import { spawnSync } from "node:child_process";
import { existsSync, readFileSync, statSync, writeFileSync } from "node:fs";

/** Runs a command to its end and stops this process with its exit code if it fails. */
export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { stdio: "inherit", ...options });
  if (result.status !== 0) process.exit(result.status ?? 1);
}

/** Installs the packages when they are missing or older than the lock file. */
export function ensurePackages() {
  const mark = "node_modules/.package-lock.json";
  const fresh = existsSync(mark) && statSync(mark).mtimeMs >= statSync("package-lock.json").mtimeMs - 1000;
  if (fresh) return;
  if (existsSync(mark) && sameLock()) return;
  console.error("Installing packages …");
  // Not `npm ci`: it refuses a lock file that lists the optional binaries of this platform only.
  run("npm", ["install", "--no-save", "--no-audit", "--no-fund", "--loglevel=error"], { stdio: ["ignore", 2, 2] });
  writeFileSync("node_modules/.hebel-lock", readFileSync("package-lock.json"));
}

function sameLock() {
  const kept = "node_modules/.hebel-lock";
  return existsSync(kept) && readFileSync(kept, "utf8") === readFileSync("package-lock.json", "utf8");
}

/** Path of a Chromium for the browser tests; installs Debian's when run as root, else says what to do. */
export function ensureChromium() {
  const known = [process.env.CHROMIUM, "/usr/bin/chromium", "/usr/bin/chromium-browser", "/usr/bin/google-chrome"];
  const found = known.find((path) => path && existsSync(path));
  if (found) return found;
  if (process.getuid?.() === 0 && existsSync("/usr/bin/apt-get")) {
    console.error("Installing Chromium from Debian's packages …");
    run("apt-get", ["update", "-qq"]);
    run("apt-get", ["install", "-y", "-qq", "chromium"], { env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" } });
    return "/usr/bin/chromium";
  }
  console.error("The browser tests need Chromium. Install it (Debian: sudo apt-get install chromium) or set CHROMIUM to its path.");
  process.exit(1);
}
