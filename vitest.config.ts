import { availableParallelism } from "node:os";
import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["{core,formats,cli,app,demo,docs,reference,bench}/**/*.test.{ts,tsx}"],
    // The command line is started as people start it: bundled, once for all tests.
    globalSetup: "scripts/command-line.mjs",
    // A limit is for what hangs; a busy machine is no fault.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    // Files of one worker share their modules: what is tested keeps nothing between calls, and
    // what a test puts in place of something global it takes away again.
    isolate: false,
    // A test file is one thread of work nearly always: every processor takes one, while the runner itself rests.
    maxWorkers: availableParallelism(),
  },
});
