import { availableParallelism } from "node:os";
import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["{core,formats,cli,app,demo,docs,reference,bench}/**/*.test.{ts,tsx}"],
    testTimeout: 30_000,
    setupFiles: [],
    // A test file is one thread of work nearly always: every processor takes one, while the runner itself rests.
    maxWorkers: availableParallelism(),
  },
});
