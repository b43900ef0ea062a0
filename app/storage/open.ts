import { database, LaterVersion, keepInMemory, type Overtaken } from "./database";

/**
 * Where what is done here is kept: in this browser, or only until the tab is closed, and then why.
 */
export type Keeping =
  | { kind: "browser" }
  | { kind: "memory"; reason: "no storage" | "later version" }
  /** Nothing is written any more, since somebody else has changed the database. */
  | { kind: "overtaken"; reason: Overtaken };

let keeping: Keeping = { kind: "browser" };
const listeners = new Set<() => void>();

export const keepingOf = (): Keeping => keeping;

/** Calls back when that changes; returns how to end it. */
export function onKeeping(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/**
 * Opens the database of the browser, before anything else is shown. Where there is none (a private
 * window, storage forbidden) or a later version of the program has written it, everything works in
 * memory, and the screens say so.
 */
export async function openStore(): Promise<void> {
  try {
    if (typeof indexedDB === "undefined") throw new Error("This browser has no IndexedDB.");
    await database.open();
    database.overtaken((reason) => {
      keeping = { kind: "overtaken", reason };
      for (const listener of listeners) listener();
    });
  } catch (error) {
    keeping = { kind: "memory", reason: isLater(error) ? "later version" : "no storage" };
    const { IDBFactory, IDBKeyRange: keyRange } = await import("fake-indexeddb");
    keepInMemory({ indexedDB: new IDBFactory(), IDBKeyRange: keyRange });
    await database.open();
  }
}

const isLater = (error: unknown): boolean =>
  error instanceof LaterVersion ||
  (error as { name?: string; inner?: unknown }).name === "VersionError" ||
  (error as { inner?: unknown }).inner instanceof LaterVersion;

/**
 * Asks the browser not to throw studies away when the disk fills: at the moment somebody has made
 * something worth keeping, once. Some browsers ask the user, some decide alone.
 */
export async function askToPersist(): Promise<void> {
  if (asked || keeping.kind !== "browser") return;
  asked = true;
  try {
    if (!(await navigator.storage.persisted())) await navigator.storage.persist();
  } catch {
    // Old browsers have no such question; exporting remains.
  }
}
let asked = false;
