import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { dirname, resolve } from "node:path";
import {
  Analysis,
  dataEvidence,
  ENGINE,
  robustness,
  StudyProblem,
  type DataEvidence,
  type Evidence,
} from "../core";
import { decodeText, FormatProblem, parseJson, readStudy, type LoadedStudy } from "../formats";
import {
  compareFiles,
  filesOf,
  looksLikePack,
  readPack,
  verify,
  writePack,
  type FileComparison,
  type Pack,
} from "../formats/pack";
import { demoStudy } from "../demo/study";
import type { QueueClient } from "./queue/client";
import { nodePool } from "./threads";
import { analyseReplicates } from "./replicates";
import { readable, readableData } from "./table";
import { fileWords, verificationWords } from "./verify";

const USAGE = `Usage: npm run --silent analyse -- [STUDY.hebel.json | PACK.zip] [--verify] [--out EVIDENCE.json] [--report FILE] [--workers N | --queue redis://HOST]

Without a study file the demo study is analysed. With one, the evidence is printed as JSON, or written to
the --out file and summarised as a table. The file may also hold replicates made elsewhere (format hebel-replicates).
--verify runs an archive that was handed over again, and says of every number and every file whether it is the same.
--queue has resamples made by the workers of a queue (npm run worker), with the same numbers.
--report also writes the report, as a page, a document or a workbook by the ending of its name: .html, .md, .docx, .xlsx, .tex.
Faults are one line on standard error, code: message.
Exit codes: 0 done, 1 the study cannot be analysed or numbers are not the same, 2 wrong usage.`;

interface Options {
  study: string | null;
  out: string | null;
  report: string | null;
  verify: boolean;
  workers: number;
  queue: string | null;
}

function readOptions(args: string[]): Options | null {
  const options: Options = {
    study: null,
    out: null,
    report: null,
    verify: false,
    workers: 1,
    queue: null,
  };
  for (let i = 0; i < args.length; i++) {
    const arg = args[i]!;
    if (arg === "--out" && args[i + 1] !== undefined) options.out = args[++i]!;
    else if (arg === "--report" && args[i + 1] !== undefined) options.report = args[++i]!;
    else if (arg === "--queue" && args[i + 1] !== undefined) options.queue = args[++i]!;
    else if (arg === "--verify") options.verify = true;
    else if (arg === "--workers" && /^[1-9]\d?$/.test(args[i + 1] ?? ""))
      options.workers = Number(args[++i]);
    else if (!arg.startsWith("-") && options.study === null) options.study = arg;
    else return null;
  }
  return options.verify && options.study === null ? null : options;
}

const readBytes = (path: string): Uint8Array => {
  try {
    return readFileSync(path);
  } catch (error) {
    if (error instanceof FormatProblem) throw error;
    throw new FormatProblem(`Cannot read “${path}”: ${(error as Error).message}.`);
  }
};

const readText = (path: string): string => decodeText(readBytes(path));

async function run(options: Options): Promise<void> {
  let study: LoadedStudy;
  const bytes = options.study === null ? null : readBytes(options.study);
  const pack = bytes && looksLikePack(bytes) ? readPack(bytes) : null;
  if (options.verify) {
    if (!pack) throw new FormatProblem(`“${options.study}” is no archive that could be verified.`);
    await verifyPack(pack, bytes!, options);
    return;
  }
  if (pack) study = pack.study;
  else if (options.study === null || bytes === null) study = demoStudy();
  else {
    const text = decodeText(bytes);
    const beside = (path: string): string => readText(resolve(dirname(options.study!), path));
    const json = parseJson(text);
    if ((json as { format?: unknown } | null)?.format === "hebel-replicates") {
      deliver(JSON.stringify(analyseReplicates(json, beside), null, 2), options.out, null);
      return;
    }
    study = readStudy(text, beside);
  }
  const data = dataEvidence(study.definition, study.table);
  const model = await modelEvidence(study, options);
  if (options.report !== null) {
    if (!model)
      throw new FormatProblem(
        "There is nothing to report: the theory has no sentence about an effect.",
      );
    const { definition } = study;
    // What writes documents, and what speaks to a queue, is read only where somebody asks for it.
    const { reportFile } = await import("./report");
    writeOut(
      options.report,
      await reportFile(options.report, { evidence: model, data, definition }),
    );
  }
  const table =
    options.study === null || options.out !== null
      ? [model && readable(model), readableData(data)].filter(Boolean).join("\n\n")
      : null;
  deliver(
    JSON.stringify(
      { ...(model ?? { format: "hebel-evidence", version: 1, engine: ENGINE }), data },
      null,
      2,
    ),
    options.out,
    table,
  );
}

/**
 * Runs a pack again and says what is the same, of its numbers and of its files; the exit code is 1
 * where something is not.
 */
async function verifyPack(
  { study, evidence }: Pack,
  bytes: Uint8Array,
  options: Options,
): Promise<void> {
  const model = await modelEvidence(study, options);
  const data = dataEvidence(study.definition, study.table);
  const kept = evidence as { engine?: unknown; data?: unknown };
  const now: unknown = JSON.parse(JSON.stringify({ ...model, ...(kept.data ? { data } : {}) }));
  const found = verify(evidence, now);
  const other =
    kept.engine === ENGINE ? "" : `Made by ${String(kept.engine)}, run again by ${ENGINE}.\n`;
  const files = model ? await comparedFiles(study, bytes, model, kept.data ? data : null) : [];
  process.stdout.write(`${other}${verificationWords(found)}\n\n${fileWords(files)}\n`);
  if (found.differences.length > 0 || files.some((f) => f.state !== "same")) process.exitCode = 1;
}

/** Every file of an archive beside what its study gives now. */
async function comparedFiles(
  study: LoadedStudy,
  bytes: Uint8Array,
  evidence: Evidence,
  data: DataEvidence | null,
): Promise<FileComparison[]> {
  const { packExtras } = await import("./report");
  const kept = filesOf(bytes);
  const { definition, table } = study;
  // The other ways are in a report only where somebody asked for them.
  const tried = /id="b-robustness"/.test(decodeText(kept["report.html"] ?? new Uint8Array()));
  const sources = {
    evidence,
    data,
    definition,
    robustness: tried ? robustness(definition, table) : null,
  };
  const made = writePack(study, evidence, data, await packExtras(sources, "report.docx" in kept));
  return compareFiles(kept, filesOf(made));
}

/** A study without sentences about effects is only described and screened. */
async function modelEvidence(
  study: LoadedStudy,
  { workers, queue }: Options,
): Promise<Evidence | null> {
  const client = queue === null ? null : await queueClient(queue);
  const pool = client ? client.replicates() : workers > 1 ? nodePool(workers) : null;
  try {
    const analysis = Analysis.of(study.definition, study.table);
    return (pool ? await analysis.completeOn(pool) : analysis.complete()).evidence();
  } catch (error) {
    if (error instanceof StudyProblem && error.code === "nothing_to_estimate") return null;
    throw error;
  } finally {
    pool?.close();
    await client?.close();
  }
}

const queueClient = async (url: string): Promise<QueueClient> =>
  new (await import("./queue/client")).QueueClient(url);

/** Writes a file, making its folder where there is none. */
function writeOut(path: string, text: string | Uint8Array): void {
  try {
    mkdirSync(dirname(path), { recursive: true });
    writeFileSync(path, text);
  } catch (error) {
    throw new FormatProblem(`Cannot write “${path}”: ${(error as Error).message}.`);
  }
}

function deliver(json: string, out: string | null, table: string | null): void {
  if (out !== null) writeOut(out, `${json}\n`);
  process.stdout.write(`${table ?? (out === null ? json : `Written to ${out}`)}\n`);
}

/** The code of a fault: of the study, of a file, or of the program itself. */
function codeOf(error: unknown): string {
  if (error instanceof StudyProblem) return error.code;
  return error instanceof FormatProblem ? "file" : "unexpected";
}

const options = readOptions(process.argv.slice(2));
if (options === null) {
  console.error(USAGE);
  process.exitCode = 2;
} else {
  try {
    await run(options);
  } catch (error) {
    console.error(`${codeOf(error)}: ${error instanceof Error ? error.message : String(error)}`);
    process.exitCode = 1;
  }
}
