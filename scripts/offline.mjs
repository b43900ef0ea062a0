// Builds the service worker, which keeps the whole program in the browser, from the finished build
// of the app.
import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { build } from "vite";
import { injectManifest } from "workbox-build";

/** Nothing that the app loads is larger. */
const LARGEST = 8 * 1024 * 1024;

/** @param folder where the client build stands; @param entry the source of the service worker */
export async function buildServiceWorker(folder, entry) {
  const files = {
    globDirectory: folder,
    globPatterns: ["assets/**/*", "*.svg", "*.png", "*.webmanifest"],
  };
  const { getManifest } = await import("workbox-build");
  const { manifestEntries } = await getManifest({
    ...files,
    maximumFileSizeToCacheInBytes: LARGEST,
  });
  const version = createHash("sha256")
    .update(JSON.stringify(manifestEntries))
    .update(readFileSync(join(folder, "../server/index.js")))
    .digest("hex")
    .slice(0, 16);
  await build({
    configFile: false,
    logLevel: "warn",
    publicDir: false,
    envFile: false,
    define: {
      BUILD: JSON.stringify(version),
      "process.env.NODE_ENV": JSON.stringify("production"),
    },
    build: {
      outDir: folder,
      emptyOutDir: false,
      lib: { entry, formats: ["iife"], name: "offline", fileName: () => "sw.js" },
    },
  });
  const target = join(folder, "sw.js");
  const { count, size, warnings } = await injectManifest({
    ...files,
    swSrc: target,
    swDest: target,
    maximumFileSizeToCacheInBytes: LARGEST,
    dontCacheBustURLsMatching: /^assets\//,
  });
  for (const warning of warnings) console.warn(warning);
  console.error(`Offline: ${count} files, ${Math.round(size / 1024)} kB.`);
}
