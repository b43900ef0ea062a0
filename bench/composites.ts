import { performance } from "node:perf_hooks";
import {
  Analysis,
  DEFAULT_SETTINGS,
  guessVariable,
  newDefinition,
  TableBuilder,
  type Settings,
  type StudyDefinition,
  type Table,
} from "../core";
import { RandomStream } from "../core/numerics/random";
import { nodePool } from "../cli/threads";

const REPEATS = 4;
const ITEMS = 4;

/** Four constructs of four items each, two of them mediators in parallel. */
export function compositeStudy(
  n: number,
  settings: Partial<Settings>,
  interaction = false,
): { study: StudyDefinition; table: Table } {
  const names = ["a", "b", "c", "d"];
  const items = names.flatMap((name) => Array.from({ length: ITEMS }, (_, k) => `${name}${k + 1}`));
  const builder = new TableBuilder(items);
  for (let i = 0; i < n; i++) {
    const random = new RandomStream(31, i);
    const a = random.normal();
    const b = 0.4 * a + 0.9 * random.normal();
    const c = 0.3 * a + 0.95 * random.normal();
    const d = 0.3 * b + 0.3 * c + 0.1 * a + 0.15 * a * b + 0.8 * random.normal();
    const factors = { a, b, c, d } as Record<string, number>;
    builder.add(items.map((item) => (0.8 * factors[item[0]!]! + 0.6 * random.normal()).toFixed(4)));
  }
  const table = builder.build();
  const lines = names.map(
    (name) =>
      `measure ${name.toUpperCase()} combines ${items.filter((i) => i.startsWith(name)).join(", ")}`,
  );
  const study: StudyDefinition = {
    ...newDefinition("bench", table.columns.map(guessVariable)),
    theory: [
      ...lines,
      "H1: A raises D through B and C",
      ...(interaction ? ["H2: A alters B to D"] : []),
    ].join("\n"),
    settings: { ...DEFAULT_SETTINGS, options: { folds: 0 }, ...settings },
  };
  return { study, table };
}

/** What composite models cost. */
export async function measureComposites(): Promise<void> {
  for (const interaction of [false, true])
    for (const workers of [1, 2]) {
      const pool = nodePool(workers);
      const { study, table } = compositeStudy(
        400,
        { replications: 10_000, interval: "bca" },
        interaction,
      );
      let least = Infinity;
      for (let i = 0; i <= REPEATS; i++) {
        const start = performance.now();
        (await Analysis.of(study, table).completeOn(pool)).evidence();
        if (i > 0) least = Math.min(least, performance.now() - start);
      }
      await pool.close();
      console.log(
        `${`4 composites of 4 items${interaction ? ", an interaction by two stages" : ""}, n = 400, 10,000 with BC and BCa, ${workers} workers`.padEnd(92)} ${(least / 1000).toFixed(3)} s`,
      );
    }
  const studies: Settings["options"][] = [{ folds: 10 }, { folds: 0, exact_fit: 1000 }];
  for (const options of studies) {
    const { study, table } = compositeStudy(400, { replications: 0, options });
    const start = performance.now();
    Analysis.of(study, table).evidence();
    console.log(
      `${JSON.stringify(options).padEnd(92)} ${((performance.now() - start) / 1000).toFixed(3)} s`,
    );
  }
}
