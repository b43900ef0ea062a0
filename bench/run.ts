import { performance } from "node:perf_hooks";
import {
  Analysis,
  buildDataset,
  resamplerOf,
  DEFAULT_SETTINGS,
  guessVariable,
  newDefinition,
  TableBuilder,
  type StudyDefinition,
  type Table,
} from "../core";
import { RandomStream } from "../core/numerics/random";
import { nodePool } from "../cli/threads";
import { readDelimited } from "../formats";

const REPEATS = 5;

/** Two parallel mediators and two covariates. */
function twoMediatorStudy(
  n: number,
  replications: number,
): { study: StudyDefinition; table: Table } {
  const builder = new TableBuilder(["x", "m1", "m2", "y", "age", "months"]);
  for (let i = 0; i < n; i++) {
    const random = new RandomStream(11, i);
    const [x, age, months] = [random.normal(), random.normal(), random.normal()];
    const m1 = 0.4 * x + 0.1 * age + random.normal();
    const m2 = 0.3 * x + 0.2 * months + random.normal();
    const y = 0.1 * x + 0.3 * m1 + 0.2 * m2 + 0.1 * age + random.normal();
    builder.add([x, m1, m2, y, age, months].map((v) => v.toFixed(4)));
  }
  const table = builder.build();
  const study: StudyDefinition = {
    ...newDefinition("bench", table.columns.map(guessVariable)),
    theory: "H1: x raises y through m1 and m2\nadjust m1, m2, y for age, months",
    settings: { ...DEFAULT_SETTINGS, replications },
  };
  return { study, table };
}

const report = (
  what: string,
  n: number,
  replicates: number | string,
  seconds: number,
  workers: number | string,
): void => {
  const rate =
    typeof replicates === "number" ? Math.round(replicates / seconds).toLocaleString("en") : "–";
  console.log(
    [
      what.padEnd(44),
      String(n).padStart(7),
      String(replicates).padStart(10),
      String(workers).padStart(7),
      seconds.toFixed(3).padStart(8),
      rate.padStart(12),
    ].join("  "),
  );
};

async function best(task: () => Promise<unknown>): Promise<number> {
  let seconds = Infinity;
  for (let i = 0; i < REPEATS; i++) {
    const start = performance.now();
    await task();
    seconds = Math.min(seconds, (performance.now() - start) / 1000);
  }
  return seconds;
}

if (process.argv[2] === "calibration") {
  const { calibrate } = await import("./calibration/run");
  await calibrate(process.argv.slice(3));
  process.exit(0);
}

if (process.argv[2] === "hostile") {
  const { attackReaders } = await import("./hostile/run");
  await attackReaders(process.argv.slice(3));
  process.exit(0);
}

if (process.argv[2] === "typing") {
  const { measureTyping } = await import("./hostile/typing");
  await measureTyping(...process.argv.slice(3).map(Number));
  process.exit(0);
}

if (process.argv[2] === "serving") {
  const { measureServing } = await import("./hostile/serving");
  await measureServing(...process.argv.slice(3).map(Number));
  process.exit(0);
}

if (process.argv[2] === "memory") {
  const { measureMemory } = await import("./memory");
  await measureMemory();
  process.exit(0);
}

if (process.argv[2] === "convergence") {
  const { measureConvergence } = await import("./convergence");
  measureConvergence(Number(process.argv[3] ?? 1000));
  process.exit(0);
}

if (process.argv[2] === "latent") {
  const { measureLatent } = await import("./latent");
  await measureLatent();
  process.exit(0);
}

if (process.argv[2] === "composites") {
  const { measureComposites } = await import("./composites");
  await measureComposites();
  process.exit(0);
}

if (process.argv[2] === "ordered") {
  const { calibrateOrdered } = await import("./ordered");
  calibrateOrdered(Number(process.argv[3] ?? 500));
  process.exit(0);
}

if (process.argv[2] === "report") {
  const { measureReport } = await import("./report");
  await measureReport();
  process.exit(0);
}

if (process.argv[2] === "planning") {
  const { measurePlanning } = await import("./planning");
  await measurePlanning();
  process.exit(0);
}

if (process.argv[2] === "responses") {
  const { measureResponses } = await import("./responses");
  await measureResponses();
  process.exit(0);
}

if (process.argv[2] === "browser") {
  const { measureBrowser } = await import("./browser");
  await measureBrowser();
  process.exit(0);
}

console.log(
  [
    "what".padEnd(44),
    "n".padStart(7),
    "replicates".padStart(10),
    "workers".padStart(7),
    "seconds".padStart(8),
    "per second".padStart(12),
  ].join("  "),
);
/**
 * First-stage moderated mediation with two covariates: three conditional indirect effects, the
 * index and a band.
 */
function moderatedStudy(n: number, replications: number): { study: StudyDefinition; table: Table } {
  const builder = new TableBuilder(["x", "w", "m", "y", "age", "months"]);
  for (let i = 0; i < n; i++) {
    const random = new RandomStream(12, i);
    const [x, w, age, months] = [
      random.normal(),
      random.normal(),
      random.normal(),
      random.normal(),
    ];
    const m = 0.3 * x + 0.2 * w + 0.2 * x * w + 0.1 * age + random.normal();
    builder.add(
      [x, w, m, 0.1 * x + 0.4 * m + 0.1 * months + random.normal(), age, months].map((v) =>
        v.toFixed(4),
      ),
    );
  }
  const table = builder.build();
  const theory = "H1: w strengthens x to y through m on x to m\nadjust m, y for age, months";
  const definition = newDefinition("bench", table.columns.map(guessVariable));
  return {
    study: { ...definition, theory, settings: { ...DEFAULT_SETTINGS, replications } },
    table,
  };
}

const { study, table } = twoMediatorStudy(500, 10_000);
const moderated = moderatedStudy(500, 10_000);
for (const [what, task] of [
  ["two mediators, two covariates, BCa, all effects", { study, table }],
  ["first-stage moderated mediation, BCa, band", moderated],
  [
    "first-stage moderated mediation, bootstrap-t",
    {
      ...moderated,
      study: {
        ...moderated.study,
        settings: { ...moderated.study.settings, interval: "bootstrap_t" },
      },
    },
  ],
] as const)
  for (const workers of [1, 2]) {
    const pool = nodePool(workers);
    const once = async (): Promise<unknown> =>
      (await Analysis.of(task.study, task.table).completeOn(pool)).evidence();
    await once();
    report(what, 500, 10_000, await best(once), workers);
    pool.close();
  }
for (const n of [500, 5_000, 50_000]) {
  const large = moderatedStudy(n, 0);
  const dataset = buildDataset(large.study, large.table);
  // As in the app, whose settings ask for resamples that are still to come.
  const { settings } = large.study;
  const asked = { ...large.study, settings: { ...settings, replications: 10_000 } };
  const live = async () => Analysis.of(asked, large.table, { dataset }).evidence();
  report("live estimates while typing", n, "–", await best(live), 1);
  const resampler = resamplerOf(Analysis.of(large.study, large.table).prepared.resampling);
  const replicates = Math.max(100, 500_000 / n);
  report(
    "replicates alone",
    n,
    replicates,
    await best(async () => resampler.replicates(0, replicates)),
    1,
  );
  report("leaving one out, all rows", n, n, await best(async () => resampler.jackknife()), 1);
}
console.log(`memory at the most: ${Math.round(process.memoryUsage.rss() / 2 ** 20)} MB`);
const wide = [Array.from({ length: 50 }, (_, j) => `v${j}`).join(",")];
for (let i = 0; i < 100_000; i++)
  wide.push(Array.from({ length: 50 }, (_, j) => ((i * 31 + j * 17) % 997) / 10).join(","));
const csv = wide.join("\n");
report(
  "read a CSV of 100,000 x 50",
  100_000,
  "–",
  await best(async () => readDelimited(csv, { separator: ",", headerRow: 1 })),
  1,
);
