import {
  ENGINE,
  type Evidence,
  type Prepared,
  type ReplicateBlock,
  type StudyDefinition,
} from "../../core";
import { database } from "./database";

/** So many bytes of results are kept; the ones not looked at for longest go first. */
const MOST_BYTES = 256 * 1024 * 1024;

/** Names a result: what it depends on as text, and a short hash of it to look it up by. */
export interface ResultKey {
  hash: string;
  text: string;
}

/**
 * FNV-1a over the text, twice with different offsets: 64 bits. The text itself settles the rest.
 */
function hashed(text: string): ResultKey {
  let a = 0x811c9dc5;
  let b = 0x9747b28c;
  for (let i = 0; i < text.length; i++) {
    a = Math.imul(a ^ text.charCodeAt(i), 0x01000193);
    b = Math.imul(b ^ text.charCodeAt(i), 0x85ebca6b);
  }
  return {
    hash: (a >>> 0).toString(16).padStart(8, "0") + (b >>> 0).toString(16).padStart(8, "0"),
    text,
  };
}

/**
 * Everything that evidence depends on: the definition but for words about it, the data, the version
 * of the program.
 */
export const evidenceKey = (definition: StudyDefinition, dataKey: string): ResultKey =>
  hashed(
    JSON.stringify([
      ENGINE,
      dataKey,
      {
        ...definition,
        question: "",
        log: [],
        screening: [],
        report: undefined,
        registered: undefined,
        plan: undefined,
      },
    ]),
  );

/**
 * Everything that replicates depend on: interval, level and words of the sentences are not among
 * it.
 */
export function replicatesKey(
  { study, dataset, theory, fit, resampling }: Prepared,
  dataKey: string,
): ResultKey {
  const { variables, derived, corrections, filters, settings } = study;
  const { engine, options, centring, strata, cluster, seed } = settings;
  const chosen = {
    engine,
    options,
    centring,
    strata,
    cluster,
    seed,
    studentised: resampling.studentised,
  };
  const data = { variables, derived, corrections, filters, measures: dataset.measures };
  return hashed(
    JSON.stringify([ENGINE, dataKey, data, theory.equations, fit.parameters.labels, chosen]),
  );
}

/** The study that a data key belongs to. */
const studyOf = (dataKey: string): string => dataKey.split(" ")[0]!;

/**
 * So long after a result was found its use is noted, so that what is drawn with it need not wait.
 */
const NOTED_AFTER_MS = 2000;

function noteUse(hash: string): void {
  const usedAt = Date.now();
  setTimeout(() => void database.uses.put({ hash, usedAt }).catch(() => undefined), NOTED_AFTER_MS);
}

/** The evidence found last: what it depends on is its name, so it never grows old. */
let lastFound: { text: string; evidence: Evidence } | null = null;

/** Nothing of what was found stays in memory; for when the study it belongs to goes. */
export const forgetFound = (): void => void (lastFound = null);

/** The evidence of a run that was completed before; null where there is none. */
export async function findEvidence({ hash, text }: ResultKey): Promise<Evidence | null> {
  if (lastFound?.text !== text) {
    const found = await database.results.get(hash);
    if (found?.text !== text) return null;
    lastFound = { text, evidence: found.evidence };
  }
  noteUse(hash);
  return lastFound.evidence;
}

export async function keepEvidence(
  { hash, text }: ResultKey,
  dataKey: string,
  evidence: Evidence,
): Promise<void> {
  const size = JSON.stringify(evidence).length;
  await database.results.put({
    hash,
    text,
    study: studyOf(dataKey),
    evidence,
    size,
    usedAt: Date.now(),
  });
  await evict();
}

export interface KeptReplicates {
  blocks: ReplicateBlock[];
  /** Somebody stopped the run: it goes on when asked. */
  stopped: boolean;
}

/** Replicates made before, of a complete, a stopped or an interrupted run. */
export async function findReplicates({ hash, text }: ResultKey): Promise<KeptReplicates | null> {
  const found = await database.replicates.get(hash);
  if (found?.text !== text) return null;
  noteUse(hash);
  return { blocks: found.blocks, stopped: found.stopped };
}

export async function keepReplicates(
  { hash, text }: ResultKey,
  dataKey: string,
  { blocks, stopped }: KeptReplicates,
): Promise<void> {
  const size = blocks.reduce(
    (sum, { values, errors }) => sum + values.byteLength + (errors?.byteLength ?? 0),
    0,
  );
  await database.replicates.put({
    hash,
    text,
    study: studyOf(dataKey),
    blocks,
    stopped,
    size,
    usedAt: Date.now(),
  });
  await evict();
}

/**
 * Forgets the results used least lately until the rest fits; results are a convenience, so a
 * failure here is none.
 */
async function evict(limit = MOST_BYTES): Promise<void> {
  const tables = [database.results, database.replicates] as const;
  const uses = new Map((await database.uses.toArray()).map((u) => [u.hash, u.usedAt]));
  const kept: { forget: () => Promise<void>; size: number; usedAt: number }[] = [];
  for (const table of tables)
    // Keys of the index alone: results would be many megabytes.
    await table.orderBy("[usedAt+size]").eachKey((key, { primaryKey: hash }) => {
      const [written, size] = key as unknown as [number, number];
      const usedAt = Math.max(written, uses.get(hash) ?? 0);
      uses.delete(hash);
      kept.push({ forget: () => table.delete(hash), size, usedAt });
    });
  // Uses of results that are gone.
  await database.uses.bulkDelete([...uses.keys()]);
  let total = kept.reduce((sum, { size }) => sum + size, 0);
  for (const { forget, size } of kept.sort((a, b) => a.usedAt - b.usedAt)) {
    if (total <= limit) return;
    await forget();
    total -= size;
  }
}
