import { defineConfig } from "vitest/config";

/** The tests that watch over the statistics: those of the core and the reference studies. */
export default defineConfig({
  test: { include: ["core/**/*.test.ts", "reference/**/*.test.ts"], testTimeout: 60_000, maxWorkers: 1 },
});
