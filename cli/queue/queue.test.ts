import { spawn, type ChildProcess } from "node:child_process";
import { once } from "node:events";
import { mkdtempSync, rmSync } from "node:fs";
import { createServer, type AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import {
  Analysis,
  completePlan,
  DEFAULT_SETTINGS,
  inThisThread,
  newDefinition,
  Planner,
  piecesOf,
  type PieceResult,
  type SimulationTask,
} from "../../core";
import { demoStudy } from "../../demo/study";
import { QueueClient } from "./client";

const REDIS = process.env.REDIS;

const task: SimulationTask = {
  study: {
    ...newDefinition(
      "queue",
      ["x", "m", "y"].map((name) => ({ name, level: "continuous" as const })),
    ),
    theory: "H1: x raises y through m",
    settings: { ...DEFAULT_SETTINGS, interval: "bca" },
  },
  plan: completePlan({
    sizes: [
      { from: ["x"], to: "m", size: 0.3 },
      { from: ["m"], to: "y", size: 0.35 },
    ],
    n: 80,
    samples: 400,
    replications: 150,
  }),
  every: true,
};

const freePort = async (): Promise<number> => {
  const server = createServer().listen(0);
  await once(server, "listening");
  const { port } = server.address() as AddressInfo;
  server.close();
  return port;
};
const pause = (ms: number): Promise<void> => new Promise((r) => setTimeout(r, ms));

// A run without Redis says so in its name.
describe.skipIf(!REDIS)(REDIS ? "a queue on Redis" : "a queue (no Redis here)", () => {
  let folder: string;
  let port: number;
  let redis: ChildProcess;
  let workers: ChildProcess[];
  let client: QueueClient;

  const startRedis = async (): Promise<void> => {
    redis = spawn(
      REDIS!,
      ["--port", String(port), "--dir", folder, "--appendonly", "yes", "--appendfsync", "always"],
      { stdio: ["ignore", "pipe", "ignore"] },
    );
    for await (const chunk of redis.stdout!) if (String(chunk).includes("Ready to accept")) break;
    redis.stdout!.resume();
  };
  const startWorker = (): ChildProcess => {
    const worker = spawn(
      process.execPath,
      [
        "build/cli/worker.mjs",
        ...["--queue", `redis://localhost:${port}`, "--workers", "1", "--lost-after", "3"],
      ],
      { stdio: "ignore" },
    );
    workers.push(worker);
    return worker;
  };

  beforeEach(async () => {
    folder = mkdtempSync(join(tmpdir(), "hebel-queue-"));
    port = await freePort();
    workers = [];
    await startRedis();
    client = new QueueClient(`redis://localhost:${port}`);
  });
  afterEach(async () => {
    for (const worker of workers) worker.kill("SIGKILL");
    await client.close();
    redis.kill("SIGKILL");
    rmSync(folder, { recursive: true, force: true });
  });

  it("gives the bits of a local run though workers and Redis die on the way, and counts nothing twice", async () => {
    const local = await new Planner(task, inThisThread).evaluate(80);
    const [first, second] = [startWorker(), startWorker(), startWorker(), startWorker()];
    const came: number[] = [];
    const planner = new Planner(task, async (of, pieces, each, signal) =>
      client.run(
        of,
        pieces,
        (result) => {
          came.push(result.first);
          each(result);
        },
        signal,
      ),
    );
    const running = planner.evaluate(80);
    while (came.length < 4) await pause(20);
    first!.kill("SIGKILL");
    second!.kill("SIGKILL");
    redis.kill("SIGKILL");
    await once(redis, "exit");
    const before = came.length;
    await pause(300);
    await startRedis();
    const found = await running;
    expect(before).toBeLessThan(20);
    expect(found).toEqual(local);
    expect([...came].sort((a, b) => a - b)).toEqual(piecesOf(80, 400).map((piece) => piece.first));
  });

  it("goes on where a producer died, without doing anything again", async () => {
    const pieces = piecesOf(80, 200);
    const results: PieceResult[] = [];
    startWorker();
    await client.run(task, pieces.slice(0, 5), (r) => results.push(r));
    for (const worker of workers) worker.kill("SIGKILL");
    await client.close();
    // Nobody works any more: what comes now was kept.
    client = new QueueClient(`redis://localhost:${port}`);
    const again: PieceResult[] = [];
    await client.run(task, pieces.slice(0, 5), (r) => again.push(r));
    const inOrder = (list: PieceResult[]) => list.sort((a, b) => a.first - b.first);
    expect(inOrder(again)).toEqual(inOrder(results));
  });

  it("makes the resamples of an analysis to the last bit", async () => {
    const { definition, table } = demoStudy();
    const settings = { ...definition.settings, replications: 400 };
    const local = Analysis.of({ ...definition, settings }, table)
      .complete()
      .evidence();
    startWorker();
    const pool = client.replicates();
    const analysis = await Analysis.of({ ...definition, settings }, table).completeOn(pool);
    expect(analysis.evidence()).toEqual(local);
  });
});
