import Dexie, { type DexieOptions, type EntityTable } from "dexie";
import {
  DEFAULT_SETTINGS,
  newDefinition,
  type Evidence,
  type HypothesisEvidence,
  type KeptRun,
  type PackedTable,
  type ReplicateBlock,
  type StudyDefinition,
  type Verdict,
} from "../../core";
import { newName } from "./names";

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

/**
 * The raw data of one state of a study; never changed, and kept as long as undo can come back to
 * it.
 */
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
  verdicts: {
    label: string;
    verdict: Verdict;
    sentence: string;
    /** What has to be known of the verdict; strips of earlier versions have none. */
    cautions?: HypothesisEvidence["cautions"];
  }[];
}

/** A run that was kept under a name. */
export interface StoredRun {
  id: string;
  study: string;
  name: string;
  keptAt: number;
  run: KeptRun;
  /** All that the run said; runs kept by earlier versions have none. */
  evidence?: Evidence;
}

/** The evidence of a complete run, under everything that it depends on. */
export interface StoredResult {
  hash: string;
  text: string;
  study: string;
  evidence: Evidence;
  /** In bytes, roughly. */
  size: number;
  /** When it was written; later uses stand beside it. */
  usedAt: number;
}

/** Replicates made so far, under everything that they depend on. */
export interface StoredReplicates {
  hash: string;
  text: string;
  study: string;
  blocks: ReplicateBlock[];
  stopped: boolean;
  size: number;
  usedAt: number;
}

/** When a result was last looked at, beside it: written down without writing the result again. */
export interface StoredUse {
  hash: string;
  usedAt: number;
}

export interface StoredFact {
  key: string;
  value: unknown;
}

/** A definition written by an earlier version, with what has been added since. */
const completed = (definition: StudyDefinition): StudyDefinition => ({
  ...newDefinition("", []),
  ...definition,
  settings: { ...DEFAULT_SETTINGS, ...definition.settings },
});

/** What can happen to the database under the hands of a tab. */
export type Overtaken = "later version" | "deleted";

/** Everything Hebel keeps, in this browser only. */
export class Database extends Dexie {
  studies!: EntityTable<StoredStudy, "id">;
  pages!: EntityTable<StoredSheet, "dataKey">;
  histories!: EntityTable<StoredHistory, "id">;
  strips!: EntityTable<StoredStrip, "id">;
  facts!: EntityTable<StoredFact, "key">;
  runs!: EntityTable<StoredRun, "id">;
  results!: EntityTable<StoredResult, "hash">;
  replicates!: EntityTable<StoredReplicates, "hash">;
  uses!: EntityTable<StoredUse, "hash">;

  /** Its tables are being taken over from an earlier version, which may take a while. */
  upgrading = false;

  private tell: (by: Overtaken) => void = () => undefined;

  /** Calls back when somebody else has taken the database over, or away. */
  overtaken(tell: (by: Overtaken) => void): void {
    this.tell = tell;
  }

  /** @param options where the browser itself keeps nothing: a database in memory */
  constructor(options: DexieOptions = {}) {
    // What somebody has typed is on the disk before a write counts as done: a power cut loses the
    // last moment only.
    super("hebel", { chromeTransactionDurability: "strict", ...options });
    // A later version may have given its tables another shape; nothing of them is touched, at any
    // opening.
    this.on(
      "ready",
      () => {
        if (this.backendDB().version > LATEST * 10) throw new LaterVersion();
      },
      true,
    );
    // Another tab upgrades or deletes it: this one lets go, and never opens it again by itself.
    this.on("versionchange", ({ newVersion }) => {
      this.close({ disableAutoOpen: true });
      this.tell(newVersion === null ? "deleted" : "later version");
      return false;
    });
    this.version(1).stores({
      studies: "id, updatedAt",
      sheets: "id",
      histories: "id",
      strips: "id",
      facts: "key",
    });
    // Version 2 keeps the data of earlier states, so that replacing them can be undone.
    this.version(2)
      .stores({ pages: "dataKey, study", sheets: null })
      .upgrade(async (upgrade) => {
        this.upgrading = true;
        const sheets = await upgrade
          .table<{ id: string; dataKey: string; table: PackedTable }>("sheets")
          .toArray();
        await upgrade
          .table("pages")
          .bulkAdd(sheets.map(({ id, dataKey, table }) => ({ dataKey, study: id, table })));
        await upgrade
          .table<StoredStudy>("studies")
          .toCollection()
          .modify((study) => void (study.definition = completed(study.definition)));
        await upgrade.table("histories").clear();
      });
    this.version(3).stores({ runs: "id, study" });
    // Version 4 keeps results; definitions get the settings that have been added.
    this.version(4)
      .stores({ results: "hash, study, usedAt", replicates: "hash, study, usedAt" })
      .upgrade(async (upgrade) => {
        this.upgrading = true;
        const complete = (state: StudyState): void =>
          void (state.definition = completed(state.definition));
        await upgrade.table<StoredStudy>("studies").toCollection().modify(complete);
        await upgrade
          .table<StoredHistory>("histories")
          .toCollection()
          .modify(({ past, future }) => [...past, ...future].forEach(complete));
      });
    // Version 5 knows sizes by an index and uses by a store of their own, so that nobody reads or
    // writes results for them.
    this.version(5).stores({
      results: "hash, study, [usedAt+size]",
      replicates: "hash, study, [usedAt+size]",
      uses: "hash",
    });
  }
}

/** The version of the tables that this program knows. */
export const LATEST = 5;

/** The studies of this browser were written by a later version of the program. */
export class LaterVersion extends Error {
  constructor() {
    super("The studies of this browser were written by a later version of Hebel.");
    this.name = "LaterVersion";
  }
}

/** Where studies are kept; the page gives it a database in memory where the browser has none. */
export let database = new Database();

/**
 * Puts a database in memory in the place of the browser's, for everybody who asks for one: live
 * questions look for it where Dexie keeps it, and some browsers throw at whoever names theirs.
 */
export function keepInMemory(
  memory: Required<Pick<DexieOptions, "indexedDB" | "IDBKeyRange">>,
): void {
  database.close();
  Object.assign(Dexie.dependencies, memory);
  try {
    void globalThis.indexedDB;
  } catch {
    Object.defineProperty(globalThis, "indexedDB", { value: memory.indexedDB, configurable: true });
  }
  database = new Database(memory);
}

/** Names this tab, so that it can tell its own changes from those of another. */
export const TAB = newName(16);
