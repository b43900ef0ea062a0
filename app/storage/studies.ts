import {
  newDefinition,
  packTable,
  replaceData as fitTo,
  tableOfNames,
  unpackTable,
  withLog,
  type Evidence,
  type KeptRun,
  type StudyDefinition,
  type Table,
  type Variable,
} from "../../core";
import type { LoadedStudy } from "../../formats";
import { isWhole, isWholeSheet } from "./damage";
import { emptyHistory, boundedHistory, stateOf } from "./history";
import { mergePatch } from "./merge";
import { newName } from "./names";
import { resumed, takePending } from "./pending";
import { writing } from "./room";
import { noteThrough } from "./through";
import { database, TAB, type StoredRun, type StoredStrip, type StoredStudy } from "./database";

/** Changes of one kind within this time are one step of undo. */
const ONE_STEP_MS = 1500;

/** The origin of a state in which this tab has brought its changes together with another's. */
const MERGED = `merged by ${TAB}`;

const newId = (): string => newName(4);

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
  await writing(
    database.studies,
    database.pages,
    database.histories,
  )(async () => {
    await database.studies.put(study);
    await database.pages.put({ dataKey, study: id, table: packTable(table) });
    await database.histories.put(emptyHistory(id));
  });
  cachedTable = { key: `${id} ${dataKey}`, table };
  return id;
}

/** A new study around imported data. */
export const studyOfTable = (title: string, table: Table, variables: Variable[]): LoadedStudy => ({
  table,
  definition: newDefinition(title, variables),
});

/** Stores a change that a closed tab left behind. */
export async function recoverPending(id: string): Promise<void> {
  const noted = takePending(id);
  if (!noted) return;
  const study = await database.studies.get(id);
  const { patch, base } = resumed(noted, study?.definition ?? {});
  await changeStudy(id, patch, "recovered", "", { base });
}

/** A study with its data; the data of the study opened last stay in memory. */
export async function loadStudy(id: string): Promise<{ study: StoredStudy; table: Table } | null> {
  const study = await database.studies.get(id);
  if (!study) return null;
  if (!isWhole(study)) throw damage(id);
  const key = `${id} ${study.dataKey}`;
  if (cachedTable?.key !== key) {
    const stored = await database.pages.get(study.dataKey);
    if (!isWholeSheet(stored)) throw damage(id);
    cachedTable = { key, table: unpackTable(stored.table) };
  }
  return { study, table: cachedTable.table };
}

const damage = (id: string): Error =>
  new Error(
    `What this browser has stored of the study “${id}” is damaged, so it cannot be opened. The shelf offers to export what is left of it.`,
  );

/** Names a state of the raw data of a study. */
export const dataKeyOf = ({ id, dataKey }: StoredStudy): string => `${id} ${dataKey}`;

/** The address at which the work on a study stands: its data until there is a theory. */
export const placeOf = ({ id, definition }: StoredStudy): string =>
  `/study/${id}/${definition.theory.trim() ? "hypotheses" : "data"}`;

export interface ShelfEntry {
  study: StoredStudy;
  strip: StoredStrip | null;
  /** The study as it stands exists in this browser alone. */
  onlyHere: boolean;
}

const exportedKey = (id: string): string => `exported ${id}`;

/** Remembers that a state of a study has been given out as a file. */
export const noteExported = (id: string, revision: number): Promise<unknown> =>
  database.facts.put({ key: exportedKey(id), value: revision });

export async function listStudies(): Promise<ShelfEntry[]> {
  const rows = await database.studies.toArray();
  const studies = rows.filter(isWhole).sort((a, b) => b.updatedAt - a.updatedAt);
  const strips = await database.strips.bulkGet(studies.map((s) => s.id));
  const exported = await database.facts.bulkGet(studies.map((s) => exportedKey(s.id)));
  return studies.map((study, i) => ({
    study,
    strip: strips[i] ?? null,
    // An untouched demo study can be had again at any time.
    onlyHere:
      study.revision > Number(exported[i]?.value ?? 0) &&
      !(DEMOS.includes(study.id) && study.revision === 1),
  }));
}

/** Where a change of this tab comes from. */
interface ChangeOrigin {
  /** The changed parts as they were before it. */
  base: Partial<StudyDefinition>;
  /** Which change of this tab it is. */
  serial?: number;
  /** The revision that this tab's screen has shown last. */
  seen?: number;
}

/**
 * Changes a definition, remembering the state before and writing what concerns data and measures
 * into the log.
 * @param kind groups quick changes of one thing into one step
 * @param why the reason, for the log
 * @param from what the change started from: what another tab has changed since is kept beside it
 * @returns this tab's version of what both have changed, where the other's stands; null nearly
 *   always
 */
export async function changeStudy(
  id: string,
  patch: Partial<StudyDefinition>,
  kind: string,
  why = "",
  from: ChangeOrigin | null = null,
): Promise<Partial<StudyDefinition> | null> {
  return writing(
    database.studies,
    database.histories,
  )(async () => {
    const study = await database.studies.get(id);
    if (!study) return null;
    const history = (await database.histories.get(id)) ?? emptyHistory(id);
    const now = Date.now();
    const foreign = from !== null && study.origin !== TAB;
    const merged = foreign ? mergePatch(from.base, patch, study.definition) : { patch, lost: null };
    // What was brought together is on no screen at first, so every tab takes it over, this one too.
    const known = study.origin === MERGED && (from?.seen ?? 0) >= study.revision;
    const continues =
      history.lastKind === kind && now - history.lastAt < ONE_STEP_MS && history.past.length > 0;
    const since = continues ? history.past.at(-1)!.definition : study.definition;
    const changed = { ...study.definition, ...merged.patch };
    const next = patch.log ? changed : withLog(since, changed, new Date(now).toISOString(), why);
    const unchanged = JSON.stringify(next) === JSON.stringify(study.definition);
    const revision = unchanged ? study.revision : study.revision + 1;
    if (from?.serial !== undefined) noteThrough(from.serial, revision);
    if (unchanged) return merged.lost;
    if (!continues) history.past = boundedHistory([...history.past, stateOf(study)]);
    await database.histories.put({ ...history, future: [], lastKind: kind, lastAt: now });
    await database.studies.put({
      ...study,
      definition: next,
      revision,
      origin: foreign && !known ? MERGED : TAB,
      updatedAt: now,
    });
    return merged.lost;
  });
}

/** Steps back or forward through the states of a study, its data included. */
export async function stepHistory(id: string, direction: "undo" | "redo"): Promise<void> {
  await writing(
    database.studies,
    database.histories,
  )(async () => {
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
  const when = new Date().toISOString();
  await writing(
    database.studies,
    database.pages,
    database.histories,
  )(async () => {
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
    await putData(study, { ...definition, log }, table);
  });
}

/** Says which variables a study without data will have; a study with data keeps its own. */
export async function declareVariables(id: string, variables: Variable[]): Promise<void> {
  await writing(
    database.studies,
    database.pages,
    database.histories,
  )(async () => {
    const study = await database.studies.get(id);
    if (!study || study.rows > 0) return;
    const table = tableOfNames(variables.map((v) => v.column ?? v.name));
    await putData(study, { ...study.definition, variables }, table);
  });
}

/**
 * Writes other data with what is said of them, as one step of undo; within a transaction over
 * studies, pages and histories.
 */
async function putData(
  study: StoredStudy,
  definition: StudyDefinition,
  table: Table,
): Promise<void> {
  const { id } = study;
  const dataKey = newId();
  const history = (await database.histories.get(id)) ?? emptyHistory(id);
  const past = boundedHistory([...history.past, stateOf(study)]);
  await database.pages.put({ dataKey, study: id, table: packTable(table) });
  await database.histories.put({ id, past, future: [], lastKind: "", lastAt: 0 });
  await database.studies.put({
    ...study,
    definition,
    revision: study.revision + 1,
    origin: "history",
    updatedAt: Date.now(),
    rows: table.rows,
    columns: table.columns.length,
    dataKey,
  });
  await dropUnreachable(id, [dataKey, ...past.map((p) => p.dataKey)]);
}

/** Data that neither the study nor its history can come back to need not be kept. */
async function dropUnreachable(id: string, reachable: string[]): Promise<void> {
  const kept = new Set(reachable);
  const keys = await database.pages.where("study").equals(id).primaryKeys();
  await database.pages.bulkDelete(keys.filter((key) => !kept.has(key)));
}

/** Keeps a run under a name, with all that it said. */
export async function keepRun(
  study: string,
  name: string,
  run: KeptRun,
  evidence: Evidence,
): Promise<void> {
  await writing(database.runs)(async () => {
    await database.runs.put({ id: newId(), study, name, keptAt: Date.now(), run, evidence });
  });
}

/** The kept runs of a study, the newest first. */
export async function listRuns(study: string): Promise<StoredRun[]> {
  return (await database.runs.where("study").equals(study).toArray()).sort(
    (a, b) => b.keptAt - a.keptAt,
  );
}

export const removeRun = (id: string): Promise<void> => database.runs.delete(id);

export const keepStrip = (strip: StoredStrip): Promise<unknown> => database.strips.put(strip);

const DEMOS = [
  "demo",
  "demo-lever",
  "demo-factors",
  "demo-composites",
  "demo-treatment",
  "demo-planned",
];

/**
 * Puts the demo studies on the shelf the first time the shelf is opened; a reader who removes them
 * is not given them again.
 */
export async function ensureDemo(
  fetchDemo: (
    about: "mediation" | "moderation" | "measurement" | "composites" | "treatment" | "planning",
  ) => Promise<LoadedStudy>,
): Promise<void> {
  if (await database.facts.get("demo")) return;
  const measurement = await fetchDemo("measurement");
  const [mediation, moderation] = [await fetchDemo("mediation"), await fetchDemo("moderation")];
  await addStudy(await fetchDemo("planning"), "demo-planned");
  await addStudy(await fetchDemo("treatment"), "demo-treatment");
  await addStudy(await fetchDemo("composites"), "demo-composites");
  await addStudy(measurement, "demo-factors");
  await addStudy(moderation, "demo-lever");
  await addStudy(mediation, "demo");
  await database.facts.put({ key: "demo", value: true });
}
