import { defineConfig } from "vitest/config";

/** The tests that watch while lines are changed: those that scripts/mutate.mjs names, the slow ones aside. */
export default defineConfig({
  test: {
    include: (process.env.MUTATE_TESTS ?? "core/**/*.test.ts").split(","),
    exclude: ["**/invariance.test.ts", "**/robustness.test.ts", "**/node_modules/**"],
    testTimeout: 60_000,
    maxWorkers: 1,
  },
});
