import { spawn } from "node:child_process";
import { chromium, type Page } from "playwright-core";
import { CHROMIUM_FLAGS } from "../scripts/chromium-flags.mjs";
import { ensureBuild, ensureChromium } from "../scripts/ensure.mjs";

const STARTING_MS = 1500;

/**
 * Opens the built app, served on a port of its own, in a browser that keeps nothing; ends both
 * afterwards.
 */
export async function withApp(port: number, task: (page: Page) => Promise<void>): Promise<void> {
  const executablePath = ensureChromium();
  ensureBuild();
  const server = spawn("node", ["server.mjs"], {
    env: { ...process.env, PORT: String(port), NODE_ENV: "production" },
    stdio: "ignore",
  });
  const browser = await chromium.launch({ executablePath, args: CHROMIUM_FLAGS });
  try {
    await new Promise((resolve) => setTimeout(resolve, STARTING_MS));
    const context = await browser.newContext({
      viewport: { width: 1280, height: 800 },
      baseURL: `http://localhost:${port}`,
      serviceWorkers: "block",
    });
    await task(await context.newPage());
  } finally {
    await browser.close();
    server.kill();
  }
}
