import { availableParallelism } from "node:os";
import { defineConfig } from "vitest/config";
import { BaseSequencer, type TestSpecification } from "vitest/node";

/** What takes longest begins first, so that no processor waits for it in the end. */
const LONGEST = [
  "cli/queue/queue",
  "docs/manual",
  "cli/cli",
  "cli/simulate",
  "hostile/crossings",
  "reference/planning",
  "core/robustness",
  "generalised/moderated-means",
  "planning/planning",
  "reference/causal",
  "covariance-structure/structure",
  "report/report-files",
  "evidence/invariance",
];

class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const rank = ({ moduleId }: TestSpecification): number => {
      const at = LONGEST.findIndex((part) => moduleId.includes(part));
      return at < 0 ? LONGEST.length : at;
    };
    return (await super.sort(files)).sort((a, b) => rank(a) - rank(b));
  }
}

export default defineConfig({
  test: {
    // The command line is started as people start it: bundled, once for all tests.
    globalSetup: "scripts/command-line.mjs",
    // A limit is for what hangs; a busy machine is no fault.
    testTimeout: 300_000,
    hookTimeout: 120_000,
    projects: [
      {
        extends: true,
        test: {
          name: "pure",
          include: [
            "{core,formats,cli,demo,docs,reference,bench,scripts,app/components}/**/*.test.{ts,tsx}",
          ],
          // Files of one worker share their modules: what is tested keeps nothing between calls.
          isolate: false,
        },
      },
      {
        extends: true,
        test: {
          name: "app",
          include: ["app/{actions,analysis,offline,storage,workers}/**/*.test.ts"],
          // Here storage, clock and windows stand in place of the browser's, and modules remember
          // what is on the screen: each file has its own.
          isolate: true,
        },
      },
    ],
    sequence: { sequencer: LongestFirst },
    // A test file is one thread of work nearly always: every processor takes one, while the runner itself rests.
    maxWorkers: availableParallelism(),
  },
});
