import { performance } from "node:perf_hooks";
import {
  Analysis,
  DEFAULT_SETTINGS,
  guessVariable,
  newDefinition,
  TableBuilder,
  type StudyDefinition,
  type Table,
} from "../core";
import { RandomStream } from "../core/numerics/random";
import { nodePool } from "../cli/threads";

/** A treatment by lot, a normal mediator, a yes/no outcome, their product and two covariates. */
function responseStudy(n: number): { study: StudyDefinition; table: Table } {
  const builder = new TableBuilder(["x", "m", "y", "age", "months"]);
  for (let i = 0; i < n; i++) {
    const random = new RandomStream(41, i);
    const x = random.uniform() < 0.5 ? 0 : 1;
    const [age, months] = [random.normal(), random.normal()];
    const m = 0.6 * x + 0.2 * age + random.normal();
    const chance = 1 / (1 + Math.exp(0.5 - 0.3 * x - 0.6 * m - 0.2 * x * m - 0.1 * months));
    const y = random.uniform() < chance ? 1 : 0;
    builder.add([String(x), m.toFixed(4), String(y), age.toFixed(4), months.toFixed(4)]);
  }
  const table = builder.build();
  const study: StudyDefinition = {
    ...newDefinition("bench", table.columns.map(guessVariable)),
    theory: "H1: x raises y through m\nadjust m, y for age, months",
    settings: { ...DEFAULT_SETTINGS, replications: 5000 },
  };
  return { study, table };
}

/** What potential outcomes cost. */
export async function measureResponses(): Promise<void> {
  const { study, table } = responseStudy(500);
  for (const workers of [1, 2]) {
    const pool = nodePool(workers);
    let least = Infinity;
    for (let i = 0; i < 3; i++) {
      const start = performance.now();
      (await Analysis.of(study, table).completeOn(pool)).evidence();
      least = Math.min(least, performance.now() - start);
    }
    await pool.close();
    console.log(
      `logistic outcome, linear mediator, product, two covariates, n = 500, 5,000 with BCa, ${workers} workers: ${(least / 1000).toFixed(2)} s`,
    );
  }
}
