import Dexie, { type EntityTable } from "dexie";
import { newDefinition, type KeptRun, type PackedTable, type StudyDefinition } from "../../core";
import type { Verdict } from "../../core";

/** A state of a study that one can go back to: its definition and the data it was about. */
export interface StudyState {
  definition: StudyDefinition;
  dataKey: string;
  rows: number;
  columns: number;
}

/** A study on the shelf. `revision` grows with every change; `origin` is the tab that made it. */
export interface StoredStudy extends StudyState {
  id: string;
  revision: number;
  origin: string;
  createdAt: number;
  updatedAt: number;
}

/** The raw data of one state of a study; never changed, and kept as long as undo can come back to it. */
export interface StoredSheet {
  dataKey: string;
  study: string;
  table: PackedTable;
}

/** States before and after, for undo and redo; the newest last. */
export interface StoredHistory {
  id: string;
  past: StudyState[];
  future: StudyState[];
  /** What the last change was about and when, so that typing becomes one step. */
  lastKind: string;
  lastAt: number;
}

/** What the last complete analysis said, for the shelf. */
export interface StoredStrip {
  id: string;
  n: number;
  verdicts: { label: string; verdict: Verdict; sentence: string }[];
}

/** A run that was kept under a name. */
export interface StoredRun {
  id: string;
  study: string;
  name: string;
  keptAt: number;
  run: KeptRun;
}

export interface StoredFact {
  key: string;
  value: unknown;
}

/** A definition written by an earlier version, with what has been added since. */
const completed = (definition: StudyDefinition): StudyDefinition => ({ ...newDefinition("", []), ...definition });

/** Everything Hebel keeps, in this browser only. */
export class Database extends Dexie {
  studies!: EntityTable<StoredStudy, "id">;
  pages!: EntityTable<StoredSheet, "dataKey">;
  histories!: EntityTable<StoredHistory, "id">;
  strips!: EntityTable<StoredStrip, "id">;
  facts!: EntityTable<StoredFact, "key">;
  runs!: EntityTable<StoredRun, "id">;

  constructor() {
    super("hebel");
    this.version(1).stores({ studies: "id, updatedAt", sheets: "id", histories: "id", strips: "id", facts: "key" });
    // Version 2 keeps the data of earlier states, so that replacing them can be undone.
    this.version(2)
      .stores({ pages: "dataKey, study", sheets: null })
      .upgrade(async (upgrade) => {
        const sheets = await upgrade.table<{ id: string; dataKey: string; table: PackedTable }>("sheets").toArray();
        await upgrade.table("pages").bulkAdd(sheets.map(({ id, dataKey, table }) => ({ dataKey, study: id, table })));
        await upgrade
          .table<StoredStudy>("studies")
          .toCollection()
          .modify((study) => void (study.definition = completed(study.definition)));
        await upgrade.table("histories").clear();
      });
    this.version(3).stores({ runs: "id, study" });
  }
}

export const database = new Database();

/** Names this tab, so that it can tell its own changes from those of another. */
export const TAB = crypto.randomUUID();
