import { availableParallelism } from "node:os";
import { Worker } from "bullmq";
import { NodeThread } from "../threads";
import { connectionTo, QUEUE } from "./connection";
import { packed, unpackedWork } from "./payload";
import { Hand } from "./work";

const USAGE = `Usage: npm run --silent worker -- --queue redis://HOST [--workers N] [--lost-after SECONDS]

Does work of a queue until it is stopped (Ctrl C: what is begun is finished first). Start it on as many machines as there are.
Who has not been heard of for so many seconds (10) has died: its work goes to another.`;

/** So many deaths one piece of work may survive. */
const MOST_DEATHS = 20;

const args = process.argv.slice(2);
const valueOf = (name: string): string | undefined => {
  const at = args.indexOf(name);
  return at < 0 ? undefined : args[at + 1];
};
const url = valueOf("--queue");
const size = Number(valueOf("--workers") ?? availableParallelism());
/** A worker that has not been heard of for so long, milliseconds, has died. */
const silence = 1000 * Number(valueOf("--lost-after") ?? 10);

if (url === undefined || !Number.isInteger(size) || size < 1 || !(silence > 0)) {
  console.error(USAGE);
  process.exitCode = 2;
} else {
  // Work is done on threads, so that this one is free to say that it lives.
  const free: Hand[] = [];
  const worker = new Worker<string, string>(
    QUEUE,
    async (job) => {
      const hand = free.pop() ?? new Hand(new NodeThread());
      try {
        const done = packed(await hand.do(unpackedWork(job.data)));
        free.push(hand);
        return done;
      } catch (error) {
        hand.end();
        throw error;
      }
    },
    {
      connection: connectionTo(url),
      concurrency: size,
      lockDuration: silence,
      stalledInterval: silence / 3,
      maxStalledCount: MOST_DEATHS,
    },
  );
  worker.on("error", () => undefined);
  worker.on("ready", () =>
    process.stdout.write(`Waiting for work at ${QUEUE}, ${size} at a time.\n`),
  );
  const stop = async (): Promise<void> => {
    await worker.close();
    for (const hand of free) hand.end();
    process.exit(0);
  };
  process.once("SIGINT", () => void stop());
  process.once("SIGTERM", () => void stop());
}
