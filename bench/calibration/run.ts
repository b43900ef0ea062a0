import { readFileSync, writeFileSync } from "node:fs";
import { availableParallelism } from "node:os";
import { Worker } from "node:worker_threads";
import { INTERVAL_WORDS, type IntervalKind } from "../../core";
import { DESIGNS, type SimulationDesign } from "./designs";
import { METHODS, type Job, type Tally } from "./simulate";

const SEED = 20261125;
const CHUNK = 20;

interface Options {
  samples: number;
  replications: number;
  /** Only designs whose name contains this. */
  only: string;
  /** Writes the rows to docs/calibration.md, in place of those of the same designs there. */
  write: boolean;
}

/**
 * Simulates every design at every size and prints coverage and error rates of each interval method.
 */
export async function calibrate(args: string[]): Promise<void> {
  const number = (flag: string, usual: number): number =>
    Number(args[args.indexOf(flag) + 1] ?? NaN) || usual;
  const options: Options = {
    samples: number("--samples", 1000),
    replications: number("--resamples", 999),
    only: args.includes("--only") ? (args[args.indexOf("--only") + 1] ?? "") : "",
    write: args.includes("--write"),
  };
  const started = Date.now();
  const chosen = DESIGNS.filter((design) => design.name.includes(options.only));
  const jobs = chosen.flatMap((design) =>
    design.sizes.flatMap((n) =>
      Array.from({ length: Math.ceil(options.samples / CHUNK) }, (_, k): Job => {
        const first = k * CHUNK;
        return {
          design: DESIGNS.indexOf(design),
          n,
          seed: SEED,
          replications: options.replications,
          first,
          count: Math.min(CHUNK, options.samples - first),
        };
      }),
    ),
  );
  const results = await runAll(jobs);
  const rows = chosen.flatMap((design) =>
    design.sizes.flatMap((n) => rowsOf(design, n, mergeOf(results, DESIGNS.indexOf(design), n))),
  );
  const text = [HEAD, RULE, ...rows].join("\n");
  console.log(text);
  const over = rows.filter((row) => row.includes("⚠"));
  console.log(
    `\n${over.length} of ${rows.length} rows above nominal + 3 simulation errors; ${Math.round((Date.now() - started) / 1000)} s`,
  );
  if (options.write) {
    const document = new URL("../../docs/calibration.md", import.meta.url);
    const others = readFileSync(document, "utf8")
      .split("\n")
      .filter((line) =>
        DESIGNS.some(({ name }) => nameIn(line) === name && !chosen.some((c) => c.name === name)),
      );
    const order = (line: string): number => DESIGNS.findIndex(({ name }) => name === nameIn(line));
    const all = [...others, ...rows].sort((a, b) => order(a) - order(b));
    writeFileSync(document, documentOf(options, [HEAD, RULE, ...all].join("\n")));
  }
}

/** The design that a row of the table is about. */
const nameIn = (line: string): string => line.split("|")[1]?.trim() ?? "";

interface Result {
  job: Job;
  tallies: Partial<Record<IntervalKind, Tally>>;
}

/** Runs the jobs on one thread a core. */
async function runAll(jobs: Job[]): Promise<Result[]> {
  const results: Result[] = [];
  let next = 0;
  const work = async (): Promise<void> => {
    const worker = new Worker(new URL("./worker.mjs", import.meta.url));
    while (next < jobs.length) {
      const job = jobs[next++]!;
      const tallies = await new Promise<Result["tallies"]>((resolve, reject) => {
        worker.once("message", resolve);
        worker.once("error", reject);
        worker.postMessage(job);
      });
      results.push({ job, tallies });
      if (results.length % 50 === 0) process.stderr.write(`${results.length} of ${jobs.length}\n`);
    }
    await worker.terminate();
  };
  await Promise.all(Array.from({ length: availableParallelism() }, work));
  return results;
}

function mergeOf(
  results: Result[],
  design: number,
  n: number,
): Partial<Record<IntervalKind, Tally>> {
  const merged: Partial<Record<IntervalKind, Tally>> = {};
  for (const { job, tallies } of results) {
    if (job.design !== design || job.n !== n) continue;
    for (const method of METHODS) {
      const tally = tallies[method]!;
      const all = (merged[method] ??= { samples: 0, covered: 0, verdicts: {} });
      all.samples += tally.samples;
      all.covered += tally.covered;
      for (const verdict of ["supported", "opposite", "unsettled"] as const)
        all.verdicts[verdict] = (all.verdicts[verdict] ?? 0) + (tally.verdicts[verdict] ?? 0);
    }
  }
  return merged;
}

const HEAD =
  "| design | n | interval | coverage % | supported % | opposite % | unsettled % | simulation error of a 5 % rate |";
const RULE = "|---|---|---|---|---|---|---|---|";
const percent = (share: number): string => (100 * share).toFixed(1);

/**
 * A rate above nominal by more than three simulation errors is marked; in true claims only
 * “opposite” is an error.
 */
function rowsOf(
  design: SimulationDesign,
  n: number,
  tallies: Partial<Record<IntervalKind, Tally>>,
): string[] {
  return METHODS.map((method) => {
    const { samples, covered, verdicts } = tallies[method]!;
    const rate = (verdict: "supported" | "opposite" | "unsettled"): number =>
      (verdicts[verdict] ?? 0) / samples;
    const marked = (verdict: "supported" | "opposite"): string => {
      const nominal = design.nominal[verdict];
      const error = Math.sqrt((nominal * (1 - nominal)) / samples);
      const counts = verdict === "opposite" || design.isNull;
      return `${percent(rate(verdict))}${counts && rate(verdict) > nominal + 3 * error ? " ⚠" : ""}`;
    };
    const cells = [
      design.name,
      n,
      INTERVAL_WORDS[method],
      design.truth === null ? "–" : percent(covered / samples),
      marked("supported"),
      marked("opposite"),
      percent(rate("unsettled")),
      percent(Math.sqrt((0.05 * 0.95) / samples)),
    ];
    return `| ${cells.join(" | ")} |`;
  });
}

const documentOf = (
  { replications }: Options,
  table: string,
): string => `# Coverage and error rates, measured

Made by \`npm run bench -- calibration --write\`, last on ${new Date().toISOString().slice(0, 10)}: ${replications} resamples of each sample, seed ${SEED}; the last column tells how many samples of a design and size there were. Every sample goes through the whole pipeline, from the table to the verdict; all interval methods read the same resamples. Two-tailed at 95 %.

- **coverage**: share of samples whose interval holds the true value. “–” where the claim is a joint test.
- **supported, opposite**: share of samples with that verdict. Where the claim is false both are errors: nominally 2.5 % each for a directional claim, 5 % “supported” for a joint test. ⚠ marks a rate above nominal by more than three simulation errors.
- **unsettled**: the limit that decides lies within two Monte Carlo errors of zero. With so few resamples that is frequent; more of them settle it.

Bias-corrected intervals (BC, BCa) of indirect effects are known to be liberal in small samples when one path is zero and the other is not (Fritz, Taylor & MacKinnon 2012, Multivar Behav Res 47); the settings say so, and the percentile interval stands beside them. With both paths zero every method is conservative: the product is then far more concentrated at zero than its interval.

What the marks say:

- **A buffer without a stated sign** (n = 50): where no hypothesis states the sign of the path and the average effect is not clear by itself, “weakens” is read as “becomes more negative”, the reason says so, and a true buffer then counts as opposite. With the sign stated the rate is nominal, as the last design shows: state it.
- **Ten clusters** (n = 100) are too few for resampled clusters: every bootstrap interval is too narrow, bias-corrected ones also at 40 clusters. CR2 errors with Satterthwaite degrees of freedom hold their level (rows “delta-method”). The app warns below 40 clusters, strongly below 10, and of bias-corrected intervals of indirect effects below 100 independent cases or clusters.
- **Serial mediation whose middle step is nothing**: bias-corrected intervals stay liberal at 100 cases and more. The app warns where a claim about several steps rests on one and a step of its path is not clear by its own test.
- **Composites of estimated weights**: weights lean towards whatever makes the paths strong, so that estimate and resamples lie further from zero than the truth. The basic interval, which mirrors the resamples, finds effects in noise; the percentile and the normal one err as well. Among constructs with estimated weights only bias-corrected intervals are offered, with the reason, and one stands in where another was chosen.

${table}
`;
