import Dexie, { type EntityTable } from "dexie";
import type { PackedTable, StudyDefinition } from "../../core";
import type { Verdict } from "../../core";

/** A study on the shelf. `revision` grows with every change; `origin` is the tab that made it. */
export interface StoredStudy {
  id: string;
  definition: StudyDefinition;
  revision: number;
  origin: string;
  createdAt: number;
  updatedAt: number;
  rows: number;
  columns: number;
  /** Changes whenever the data are replaced. */
  dataKey: string;
}

export interface StoredTable {
  id: string;
  dataKey: string;
  table: PackedTable;
}

/** Definitions before and after, for undo and redo; the newest last. */
export interface StoredHistory {
  id: string;
  past: StudyDefinition[];
  future: StudyDefinition[];
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

export interface StoredFact {
  key: string;
  value: unknown;
}

/** Everything Hebel keeps, in this browser only. */
export class Database extends Dexie {
  studies!: EntityTable<StoredStudy, "id">;
  sheets!: EntityTable<StoredTable, "id">;
  histories!: EntityTable<StoredHistory, "id">;
  strips!: EntityTable<StoredStrip, "id">;
  facts!: EntityTable<StoredFact, "key">;

  constructor() {
    super("hebel");
    this.version(1).stores({ studies: "id, updatedAt", sheets: "id", histories: "id", strips: "id", facts: "key" });
  }
}

export const database = new Database();

/** Names this tab, so that it can tell its own changes from those of another. */
export const TAB = crypto.randomUUID();
