import {
  completePlan,
  DEFAULT_SETTINGS,
  newDefinition,
  Planner,
  type SimulationTask,
} from "../core";
import { nodePieces } from "../cli/threads";

/**
 * A thousand samples with a thousand resamples each of a simple mediation among a hundred people;
 * the goal is 5 s on two threads.
 */
const task: SimulationTask = {
  study: {
    ...newDefinition(
      "speed",
      ["x", "m", "y"].map((name) => ({ name, level: "continuous" as const })),
    ),
    theory: "H1: x raises y through m",
    settings: { ...DEFAULT_SETTINGS, interval: "bc" },
  },
  plan: completePlan({
    sizes: [
      { from: ["x"], to: "m", size: 0.3 },
      { from: ["m"], to: "y", size: 0.35 },
      { from: ["x"], to: "y", size: 0.1 },
    ],
    n: 100,
    samples: 1000,
    replications: 1000,
  }),
  every: false,
};

export async function measurePlanning(): Promise<void> {
  for (const threads of [1, 2, 4]) {
    const pool = nodePieces(threads);
    const planner = new Planner(task, pool.run);
    // The first pieces start the threads and warm them.
    await planner.evaluate(99);
    const began = performance.now();
    const { sentences } = await planner.evaluate(100);
    const seconds = (performance.now() - began) / 1000;
    console.log(
      `1,000 samples x 1,000 resamples, n = 100, ${threads} threads: ${seconds.toFixed(2)} s (power ${(100 * sentences[0]!.power.share).toFixed(1)} %)`,
    );
    pool.close();
  }
}
