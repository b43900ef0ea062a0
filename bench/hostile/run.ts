import { fork, type ChildProcess } from "node:child_process";
import { join } from "node:path";
import { hostile, wellFormed, type CorpusFile } from "./corpus";
import { tryCrossings } from "./crossings";
import { tryTheories } from "./theories";

const LIMIT_MS = 20_000;
const LIMIT_MB = 1_500;
const PROCESSES = 2;

interface Told {
  kind: "read" | "refused" | "fault";
  words: string;
  milliseconds: number;
  megabytes: number;
}

/** A process that reads files within limits, and is replaced when it breaks them. */
class Reader {
  private child: ChildProcess | null = null;

  private async started(): Promise<ChildProcess> {
    if (this.child) return this.child;
    const child = fork(join(import.meta.dirname, "child.mjs"), {
      execArgv: [`--max-old-space-size=${LIMIT_MB}`],
      serialization: "advanced",
      stdio: ["ignore", "ignore", "ignore", "ipc"],
    });
    await new Promise((resolve, reject) => {
      child.once("message", resolve);
      child.once("exit", reject);
    });
    return (this.child = child);
  }

  async read({ bytes, cells }: CorpusFile): Promise<Told> {
    const child = await this.started();
    return new Promise((resolve) => {
      const over = (words: string): void => {
        child.removeAllListeners();
        child.kill("SIGKILL");
        this.child = null;
        resolve({ kind: "fault", words, milliseconds: LIMIT_MS, megabytes: LIMIT_MB });
      };
      const timer = setTimeout(() => over("longer than 20 s"), LIMIT_MS);
      child.once("exit", () => {
        clearTimeout(timer);
        over("the process ended: more than 1.5 GB");
      });
      child.once("message", (told: Told) => {
        clearTimeout(timer);
        child.removeAllListeners();
        // Memory is that of the worst file so far: a reader that has grown is not judged for the
        // next ones.
        if (told.megabytes > LIMIT_MB / 2) {
          child.kill();
          this.child = null;
        }
        resolve(
          told.megabytes > LIMIT_MB ? { ...told, kind: "fault", words: "more than 1.5 GB" } : told,
        );
      });
      child.send({ bytes, cells });
    });
  }

  end(): void {
    this.child?.removeAllListeners();
    this.child?.kill();
  }
}

interface Tally {
  files: number;
  read: number;
  refused: number;
  faults: string[];
  slowest: number;
  largest: number;
}

async function readAll(files: Generator<CorpusFile>): Promise<Map<string, Tally>> {
  const tallies = new Map<string, Tally>();
  const work = async (): Promise<void> => {
    const reader = new Reader();
    for (const file of files) {
      const told = await reader.read(file);
      const tally = tallies.get(file.kind) ?? {
        files: 0,
        read: 0,
        refused: 0,
        faults: [],
        slowest: 0,
        largest: 0,
      };
      tallies.set(file.kind, tally);
      tally.files += 1;
      if (told.kind === "read") tally.read += 1;
      else if (told.kind === "refused") tally.refused += 1;
      else tally.faults.push(told.words);
      tally.slowest = Math.max(tally.slowest, told.milliseconds);
      tally.largest = Math.max(tally.largest, told.megabytes);
    }
    reader.end();
  };
  await Promise.all(Array.from({ length: PROCESSES }, work));
  return tallies;
}

const COLUMNS = ["files", "read", "refused", "faults", "slowest ms", "largest MB"];
const line = (what: string, values: (number | string)[]): void =>
  console.log([what.padEnd(32), ...values.map((v) => String(v).padStart(10))].join("  "));

function print(title: string, tallies: Map<string, Tally>): void {
  console.log(`\n${title}`);
  line("kind", COLUMNS);
  for (const [kind, t] of [...tallies].sort())
    line(kind, [
      t.files,
      t.read,
      t.refused,
      t.faults.length,
      Math.round(t.slowest),
      Math.round(t.largest),
    ]);
  for (const [kind, { faults }] of tallies)
    for (const fault of faults.slice(0, 3)) console.log(`  ${kind}: ${fault.slice(0, 600)}`);
}

/** `npm run bench -- hostile [files] [well-formed] [theories] [seed]` */
export async function attackReaders(args: string[]): Promise<void> {
  const [files = 2000, whole = 500, theories = 10_000, seed = 1, crossed = 300] = args.map(Number);
  print(`${whole} well-formed files, cell for cell`, await readAll(wellFormed(whole, seed)));
  print(`${files} broken and hostile files`, await readAll(hostile(files, seed)));
  const { counts, faults, slowest } = tryTheories(theories, seed);
  console.log(
    `\n${theories} theories: ${[...counts].map(([k, n]) => `${n} ${k}`).join(", ")}; slowest ${Math.round(slowest)} ms`,
  );
  for (const { theory, fault } of faults.slice(0, 5)) console.log(JSON.stringify(theory), fault);
  const crossings = tryCrossings(crossed, seed);
  console.log(
    `\n${crossed} crossings: ${[...crossings.counts].map(([k, n]) => `${n} ${k}`).join(", ")}`,
  );
  for (const fault of crossings.faults.slice(0, 5)) console.log(JSON.stringify(fault));
}
