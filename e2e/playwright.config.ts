import { defineConfig } from "@playwright/test";
import { CHROMIUM_FLAGS } from "../scripts/chromium-flags.mjs";

const PORT = 4173;
export const VIEWPORT = { width: 1280, height: 800 };

/** Real-browser journeys against the built app; Debian's Chromium, no other browser. */
export default defineConfig({
  testDir: ".",
  outputDir: "../test-results",
  // Limits are for what hangs: a busy machine is no fault.
  timeout: 240_000,
  // A busy machine estimates slowly; what is waited for comes, or does not come at all.
  expect: { timeout: 120_000 },
  retries: process.env.CI ? 1 : 0,
  workers: 2,
  fullyParallel: true,
  reporter: "list",
  use: {
    baseURL: `http://localhost:${PORT}`,
    viewport: VIEWPORT,
    // Only the tests of work without a network let the program settle in the browser.
    serviceWorkers: "block",
    permissions: ["clipboard-read", "clipboard-write"],
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
      args: CHROMIUM_FLAGS,
    },
  },
  webServer: {
    command: "node server.mjs",
    cwd: "..",
    port: PORT,
    env: { PORT: String(PORT), NODE_ENV: "production" },
    reuseExistingServer: false,
  },
});
