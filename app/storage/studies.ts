import {
  newDefinition,
  packTable,
  replaceData as fitTo,
  unpackTable,
  withLog,
  type Evidence,
  type KeptRun,
  type StudyDefinition,
  type Table,
  type Variable,
} from "../../core";
import type { LoadedStudy } from "../../formats";
import {
  database,
  TAB,
  type StoredHistory,
  type StoredReplicates,
  type StoredResult,
  type StoredRun,
  type StoredSheet,
  type StoredStrip,
  type StoredStudy,
  type StudyState,
} from "./database";

const MAX_HISTORY = 200;
/** Changes of one kind within this time are one step of undo. */
const ONE_STEP_MS = 1500;

const newId = (): string => crypto.randomUUID().slice(0, 8);
const emptyHistory = (id: string): StoredHistory => ({
  id,
  past: [],
  future: [],
  lastKind: "",
  lastAt: 0,
});

/** The data of the study opened last, which stay in memory. */
let cachedTable: { key: string; table: Table } | null = null;

/** Puts a study with its data on the shelf; returns its id. */
export async function addStudy({ definition, table }: LoadedStudy, id = newId()): Promise<string> {
  const now = Date.now();
  const dataKey = newId();
  const study: StoredStudy = {
    id,
    definition,
    revision: 1,
    origin: TAB,
    createdAt: now,
    updatedAt: now,
    rows: table.rows,
    columns: table.columns.length,
    dataKey,
  };
  await database.transaction(
    "rw",
    database.studies,
    database.pages,
    database.histories,
    async () => {
      await database.studies.put(study);
      await database.pages.put({ dataKey, study: id, table: packTable(table) });
      await database.histories.put(emptyHistory(id));
    },
  );
  cachedTable = { key: `${id} ${dataKey}`, table };
  return id;
}

/** A new study around imported data. */
export const studyOfTable = (title: string, table: Table, variables: Variable[]): LoadedStudy => ({
  table,
  definition: newDefinition(title, variables),
});

const pendingKey = (id: string): string => `hebel-pending ${id}`;

/** Notes a change that is about to be written, at once: a tab closed in that moment loses nothing. */
export const notePending = (id: string, patch: Partial<StudyDefinition>): void =>
  localStorage.setItem(pendingKey(id), JSON.stringify(patch));

/** Forgets the note once that change is stored; a newer one stays. */
export function clearPending(id: string, stored: Partial<StudyDefinition>): void {
  if (localStorage.getItem(pendingKey(id)) === JSON.stringify(stored))
    localStorage.removeItem(pendingKey(id));
}

/** Stores a change that a closed tab left behind. */
export async function recoverPending(id: string): Promise<void> {
  const noted = localStorage.getItem(pendingKey(id));
  if (noted === null) return;
  localStorage.removeItem(pendingKey(id));
  await changeStudy(id, JSON.parse(noted) as Partial<StudyDefinition>, "recovered");
}

/** A study with its data; the data of the study opened last stay in memory. */
export async function loadStudy(id: string): Promise<{ study: StoredStudy; table: Table } | null> {
  const study = await database.studies.get(id);
  if (!study) return null;
  const key = `${id} ${study.dataKey}`;
  if (cachedTable?.key !== key) {
    const stored = await database.pages.get(study.dataKey);
    if (!stored) return null;
    cachedTable = { key, table: unpackTable(stored.table) };
  }
  return { study, table: cachedTable.table };
}

export interface ShelfEntry {
  study: StoredStudy;
  strip: StoredStrip | null;
}

export async function listStudies(): Promise<ShelfEntry[]> {
  const studies = await database.studies.orderBy("updatedAt").reverse().toArray();
  const strips = await database.strips.bulkGet(studies.map((s) => s.id));
  return studies.map((study, i) => ({ study, strip: strips[i] ?? null }));
}

const stateOf = ({ definition, dataKey, rows, columns }: StudyState): StudyState => ({
  definition,
  dataKey,
  rows,
  columns,
});

/**
 * Changes a definition, remembering the state before and writing what concerns data and measures into the log.
 * @param kind groups quick changes of one thing into one step
 * @param why the reason, for the log
 */
export async function changeStudy(
  id: string,
  patch: Partial<StudyDefinition>,
  kind: string,
  why = "",
): Promise<void> {
  await database.transaction("rw", database.studies, database.histories, async () => {
    const study = await database.studies.get(id);
    if (!study) return;
    const history = (await database.histories.get(id)) ?? emptyHistory(id);
    const now = Date.now();
    const continues =
      history.lastKind === kind && now - history.lastAt < ONE_STEP_MS && history.past.length > 0;
    const since = continues ? history.past.at(-1)!.definition : study.definition;
    const changed = { ...study.definition, ...patch };
    const next = patch.log ? changed : withLog(since, changed, new Date(now).toISOString(), why);
    if (JSON.stringify(next) === JSON.stringify(study.definition)) return;
    if (!continues) history.past = [...history.past, stateOf(study)].slice(-MAX_HISTORY);
    await database.histories.put({ ...history, future: [], lastKind: kind, lastAt: now });
    await database.studies.put({
      ...study,
      definition: next,
      revision: study.revision + 1,
      origin: TAB,
      updatedAt: now,
    });
  });
}

/** Steps back or forward through the states of a study, its data included. */
export async function stepHistory(id: string, direction: "undo" | "redo"): Promise<void> {
  await database.transaction("rw", database.studies, database.histories, async () => {
    const study = await database.studies.get(id);
    const history = await database.histories.get(id);
    if (!study || !history) return;
    const [from, to] =
      direction === "undo" ? [history.past, history.future] : [history.future, history.past];
    const state = from.at(-1);
    if (!state) return;
    const moved = { taken: from.slice(0, -1), given: [...to, stateOf(study)] };
    const past = direction === "undo" ? moved.taken : moved.given;
    const future = direction === "undo" ? moved.given : moved.taken;
    await database.histories.put({ id, past, future, lastKind: "", lastAt: 0 });
    // No tab made this state by typing, so every tab takes it over.
    await database.studies.put({
      ...study,
      ...state,
      revision: study.revision + 1,
      origin: "history",
      updatedAt: Date.now(),
    });
  });
}

export async function historyDepth(id: string): Promise<{ undo: number; redo: number }> {
  const history = await database.histories.get(id);
  return { undo: history?.past.length ?? 0, redo: history?.future.length ?? 0 };
}

/** Replaces the data of a study, keeping what still fits; undo brings the older data back. */
export async function replaceData(id: string, table: Table, variables: Variable[]): Promise<void> {
  const loaded = await loadStudy(id);
  if (!loaded) return;
  const dataKey = newId();
  const when = new Date().toISOString();
  await database.transaction(
    "rw",
    database.studies,
    database.pages,
    database.histories,
    async () => {
      const study = (await database.studies.get(id))!;
      const { definition, misfits } = fitTo(study.definition, loaded.table, table, variables);
      const log = [
        ...study.definition.log,
        {
          when,
          what: `data replaced: ${table.rows} rows, ${table.columns.length} columns`,
          why: misfits.join(" "),
        },
      ];
      const history = (await database.histories.get(id)) ?? emptyHistory(id);
      const past = [...history.past, stateOf(study)].slice(-MAX_HISTORY);
      await database.pages.put({ dataKey, study: id, table: packTable(table) });
      await database.histories.put({ id, past, future: [], lastKind: "", lastAt: 0 });
      await database.studies.put({
        ...study,
        definition: { ...definition, log },
        revision: study.revision + 1,
        origin: "history",
        updatedAt: Date.now(),
        rows: table.rows,
        columns: table.columns.length,
        dataKey,
      });
      await dropUnreachable(id, [dataKey, ...past.map((p) => p.dataKey)]);
    },
  );
}

/** Data that neither the study nor its history can come back to need not be kept. */
async function dropUnreachable(id: string, reachable: string[]): Promise<void> {
  const kept = new Set(reachable);
  const keys = await database.pages.where("study").equals(id).primaryKeys();
  await database.pages.bulkDelete(keys.filter((key) => !kept.has(key)));
}

/** Everything that belongs to one study, so that its removal can be undone. */
export interface RemovedStudy {
  study: StoredStudy;
  pages: StoredSheet[];
  runs: StoredRun[];
  results: StoredResult[];
  replicates: StoredReplicates[];
  history: StoredHistory | undefined;
  strip: StoredStrip | undefined;
}

const everyTable = () => [
  database.studies,
  database.pages,
  database.histories,
  database.strips,
  database.runs,
  database.results,
  database.replicates,
];

/** Takes a study off the shelf with everything that belongs to it; null where there is none. */
export async function removeStudy(id: string): Promise<RemovedStudy | null> {
  return database.transaction("rw", everyTable(), async () => {
    const study = await database.studies.get(id);
    if (!study) return null;
    const [history, strip] = [await database.histories.get(id), await database.strips.get(id)];
    const own = [database.pages, database.runs, database.results, database.replicates].map(
      (table) => table.where("study").equals(id),
    );
    const [pages, runs, results, replicates] = (await Promise.all(
      own.map((rows) => rows.toArray()),
    )) as [StoredSheet[], StoredRun[], StoredResult[], StoredReplicates[]];
    await Promise.all(own.map((rows) => rows.delete()));
    await Promise.all([
      database.studies.delete(id),
      database.histories.delete(id),
      database.strips.delete(id),
    ]);
    return { study, history, strip, pages, runs, results, replicates };
  });
}

/** Puts a removed study back as it was: undo, kept runs and results too. */
export async function restoreStudy({
  study,
  history,
  strip,
  pages,
  runs,
  results,
  replicates,
}: RemovedStudy): Promise<void> {
  await database.transaction("rw", everyTable(), async () => {
    await database.studies.put(study);
    if (history) await database.histories.put(history);
    if (strip) await database.strips.put(strip);
    await Promise.all([
      database.pages.bulkPut(pages),
      database.runs.bulkPut(runs),
      database.results.bulkPut(results),
      database.replicates.bulkPut(replicates),
    ]);
  });
}

/** Keeps a run under a name, with all that it said. */
export async function keepRun(
  study: string,
  name: string,
  run: KeptRun,
  evidence: Evidence,
): Promise<void> {
  await database.runs.put({ id: newId(), study, name, keptAt: Date.now(), run, evidence });
}

/** The kept runs of a study, the newest first. */
export async function listRuns(study: string): Promise<StoredRun[]> {
  return (await database.runs.where("study").equals(study).toArray()).sort(
    (a, b) => b.keptAt - a.keptAt,
  );
}

export const removeRun = (id: string): Promise<void> => database.runs.delete(id);

export const keepStrip = (strip: StoredStrip): Promise<unknown> => database.strips.put(strip);

/** Puts the demo studies on the shelf the first time the shelf is opened; a reader who removes them is not given them again. */
export async function ensureDemo(
  fetchDemo: (about: "mediation" | "moderation") => Promise<LoadedStudy>,
): Promise<void> {
  if (await database.facts.get("demo")) return;
  const [mediation, moderation] = [await fetchDemo("mediation"), await fetchDemo("moderation")];
  await addStudy(moderation, "demo-lever");
  await addStudy(mediation, "demo");
  await database.facts.put({ key: "demo", value: true });
}
