import { readFileSync, writeFileSync } from "node:fs";
import { availableParallelism } from "node:os";
import { dirname, resolve } from "node:path";
import {
  completePlan,
  ENGINE,
  Planner,
  StudyProblem,
  type Goal,
  type PieceRunner,
  type PlanFound,
  type SmallestSample,
  type StudyPlan,
} from "../core";
import { decodeText, FormatProblem, readStudy, type LoadedStudy } from "../formats";
import { planTable, smallestWords } from "./plan-table";
import { nodePieces } from "./threads";

const USAGE = `Usage: npm run --silent simulate -- STUDY.hebel.json [--people N[,N...]] [--samples N] [--resamples N] [--seed N] [--every]
       [--smallest all | LABEL | joint:LABEL | width:LABEL:W] [--workers N | --queue redis://HOST] [--out RESULT.json]

Simulates what a study's plan expects: samples of so many people are made from its theory and analysed like any others. Says how often each
sentence is supported, with the error of the simulation; with --smallest the smallest number of people whose power reaches the target
(for one sentence, for all, for joint significance) or whose interval is narrow enough. --every keeps the limits of every interval.
The same plan and seed give the same numbers on any number of workers, and on a queue.
Exit codes: 0 done, 1 the plan cannot be simulated, 2 wrong usage.`;

interface Options {
  study: string;
  people: number[] | null;
  plan: Partial<StudyPlan>;
  every: boolean;
  smallest: Goal | null;
  workers: number;
  queue: string | null;
  out: string | null;
}

function goalOf(text: string): Goal | null {
  const [kind, label, most] = text.split(":");
  if (text === "all") return { kind: "all" };
  if (kind === "joint" && label) return { kind: "joint", label };
  if (kind === "width" && label && Number(most) > 0)
    return { kind: "width", label, most: Number(most) };
  return label === undefined && kind ? { kind: "sentence", label: kind } : null;
}

function readOptions(args: string[]): Options | null {
  const options: Options = {
    study: "",
    people: null,
    plan: {},
    every: false,
    smallest: null,
    workers: availableParallelism(),
    queue: null,
    out: null,
  };
  const whole = /^\d+$/;
  for (let i = 0; i < args.length; i++) {
    const arg = args[i]!;
    if (arg === "--every") options.every = true;
    else if (!arg.startsWith("-") && options.study === "") options.study = arg;
    else {
      const value = args[++i];
      if (value === undefined) return null;
      const number = whole.test(value) ? Number(value) : NaN;
      if (arg === "--people") options.people = value.split(",").map(Number);
      else if (arg === "--samples") options.plan.samples = number;
      else if (arg === "--resamples") options.plan.replications = number;
      else if (arg === "--seed") options.plan.seed = number;
      else if (arg === "--workers") options.workers = number;
      else if (arg === "--queue") options.queue = value;
      else if (arg === "--out") options.out = value;
      else if (arg === "--smallest") {
        options.smallest = goalOf(value);
        if (!options.smallest) return null;
      } else return null;
    }
  }
  const wrong =
    options.study === "" ||
    !(options.workers >= 1) ||
    Object.values(options.plan).some((v) => Number.isNaN(v)) ||
    (options.people?.some((n) => !Number.isInteger(n) || n < 4) ?? false);
  return wrong ? null : options;
}

function loaded(path: string): LoadedStudy {
  try {
    return readStudy(decodeText(readFileSync(path)), (beside) =>
      decodeText(readFileSync(resolve(dirname(path), beside))),
    );
  } catch (error) {
    if (error instanceof FormatProblem) throw error;
    throw new FormatProblem(`Cannot read “${path}”: ${(error as Error).message}.`);
  }
}

async function simulate(options: Options, run: PieceRunner): Promise<void> {
  const { definition } = loaded(options.study);
  const plan = completePlan({ ...definition.plan, ...options.plan });
  const planner = new Planner({ study: definition, plan, every: options.every }, run);
  const points: PlanFound[] = [];
  let smallest: SmallestSample | null = null;
  if (options.smallest) {
    smallest = await planner.smallest(options.smallest);
    for (const point of smallest.points)
      points.push({ point, exact: planner.exactAt(point.people) });
  } else
    for (const people of options.people ?? [plan.n]) {
      const point = await planner.evaluate(people);
      points.push({ point, exact: planner.exactAt(people) });
    }
  const result = {
    format: "hebel-plan",
    version: 1,
    engine: ENGINE,
    plan,
    exactTests: planner.exactTests,
    smallest: smallest && { people: smallest.people, range: smallest.range },
    points: points.map(({ point, exact }) => ({ ...point, exact })),
  };
  if (options.out !== null) writeFileSync(options.out, `${JSON.stringify(result, null, 2)}\n`);
  process.stdout.write(
    [
      ...(smallest ? [smallestWords(smallest, options.smallest!, plan)] : []),
      ...points.map((found) => planTable(found, planner.exactTests)),
    ].join("\n\n") + "\n",
  );
}

const options = readOptions(process.argv.slice(2));
if (options === null) {
  console.error(USAGE);
  process.exitCode = 2;
} else {
  const client =
    options.queue === null ? null : new (await import("./queue/client")).QueueClient(options.queue);
  const pool = client ? null : nodePieces(options.workers);
  try {
    await simulate(options, client ? client.run : pool!.run);
  } catch (error) {
    const code = error instanceof StudyProblem ? error.code : "file";
    console.error(`${code}: ${error instanceof Error ? error.message : String(error)}`);
    process.exitCode = 1;
  } finally {
    pool?.close();
    await client?.close();
  }
}
