import { performance } from "node:perf_hooks";
import {
  Analysis,
  buildDataset,
  DEFAULT_SETTINGS,
  guessVariable,
  newDefinition,
  resamplerOf,
  TableBuilder,
  type Settings,
  type StudyDefinition,
  type Table,
} from "../core";
import { RandomStream } from "../core/numerics/random";
import { nodePool } from "../cli/threads";

const REPEATS = 3;

/** Three factors measured by 5, 4 and 4 items, the second a mediator. */
export function latentStudy(
  n: number,
  settings: Partial<Settings>,
  { missing = 0, seed = 21, loading = 0.75 } = {},
): { study: StudyDefinition; table: Table } {
  const items = [5, 4, 4].flatMap((count, f) =>
    Array.from({ length: count }, (_, k) => `${"xmy"[f]}${k + 1}`),
  );
  const builder = new TableBuilder(items);
  const error = Math.sqrt(1 - loading * loading);
  for (let i = 0; i < n; i++) {
    const random = new RandomStream(seed, i);
    const x = random.normal();
    const m = 0.5 * x + Math.sqrt(0.75) * random.normal();
    const y = 0.2 * x + 0.4 * m + 0.8 * random.normal();
    const factors = { x, m, y } as Record<string, number>;
    builder.add(
      items.map((item, j) => {
        const value = loading * factors[item[0]!]! + error * random.normal();
        return j > 0 && random.uniform() < missing ? "" : (3 + value).toFixed(4);
      }),
    );
  }
  const table = builder.build();
  const of = (letter: string): string => items.filter((i) => i.startsWith(letter)).join(", ");
  const study: StudyDefinition = {
    ...newDefinition("bench", table.columns.map(guessVariable)),
    theory: `measure F reflects ${of("x")}\nmeasure G reflects ${of("m")}\nmeasure H reflects ${of("y")}\nH1: F raises H through G`,
    settings: { ...DEFAULT_SETTINGS, ...settings },
  };
  return { study, table };
}

async function timed(what: string, task: () => unknown, repeats = REPEATS): Promise<void> {
  let least = Infinity;
  for (let i = 0; i < repeats; i++) {
    const start = performance.now();
    await task();
    least = Math.min(least, performance.now() - start);
  }
  console.log(`${what.padEnd(72)} ${least.toFixed(1).padStart(9)} ms`);
}

/** What models of latent variables cost. */
export async function measureLatent(): Promise<void> {
  const plain = latentStudy(320, { replications: 5000, interval: "bc" });
  for (const workers of [1, 2]) {
    const pool = nodePool(workers);
    const once = async (): Promise<unknown> =>
      (await Analysis.of(plain.study, plain.table).completeOn(pool)).evidence();
    await once();
    await timed(`5,000 ML replicates, 13 items, n = 320, ${workers} worker(s), all evidence`, once);
    pool.close();
  }
  const { resampling } = Analysis.of(plain.study, plain.table).prepared;
  const resampler = resamplerOf(resampling);
  await timed("1,000 of these replicates alone, this thread", () => resampler.replicates(0, 1000));
  await timed("leaving one out, all 320", () => resampler.jackknife());
  const four = latentStudy(400, { replications: 5000 });
  const dataset = buildDataset(four.study, four.table);
  await timed("live estimates while typing, n = 400", () =>
    Analysis.of(four.study, four.table, { dataset }).evidence(),
  );
  const everybody = latentStudy(
    320,
    { replications: 1000, options: { missing: "everybody" } },
    { missing: 0.15 },
  );
  await timed(
    "15 % missing, keep everybody: one fit with all its errors",
    () => Analysis.of(everybody.study, everybody.table).prepared,
  );
  await timed("15 % missing, keep everybody: the same with all that is told of it", () =>
    Analysis.of(everybody.study, everybody.table).prepared.fit.sections!({
      level: 0.95,
      errors: "observed",
      bootstrap: null,
      drawn: null,
      flags: null,
      complete: false,
      interval: "delta",
      exact: new Set(),
    }),
  );
  const gaps = resamplerOf(Analysis.of(everybody.study, everybody.table).prepared.resampling);
  await timed("15 % missing: 100 replicates, this thread", () => gaps.replicates(0, 100), 1);
}
