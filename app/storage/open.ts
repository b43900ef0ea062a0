import { database, LaterVersion, keepInMemory, type Database, type Overtaken } from "./database";

/**
 * Where what is done here is kept: in this browser, or only until the tab is closed, and then why.
 */
export type Keeping =
  | { kind: "browser" }
  | { kind: "memory"; reason: "no storage" | "no answer" | "later version" }
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

/** The browser has a storage that says nothing, neither yes nor no. */
class NoAnswer extends Error {}

/** So often is it looked whether the storage has answered, and so many ms apart: four seconds. */
const LOOKS = 8;
const APART = 500;

/**
 * Opens the database, or gives up waiting. A page that was busy has not waited: each look comes
 * after the answers that were there before it. Tables that are being taken over from an earlier
 * version have all the time they need.
 * @throws NoAnswer
 */
async function answered(own: Database): Promise<void> {
  let looks = 0;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const silence = new Promise<never>((_resolve, reject) => {
    const look = (): void => {
      if (!own.upgrading) looks++;
      if (looks > LOOKS) reject(new NoAnswer());
      else timer = setTimeout(look, APART);
    };
    look();
  });
  try {
    await Promise.race([own.open(), silence]);
  } finally {
    clearTimeout(timer);
  }
}

/**
 * Opens the database of the browser, before anything else is shown. Where there is none (a private
 * window, storage forbidden), it does not answer, or a later version of the program has written it,
 * everything works in memory, and the screens say so.
 */
export async function openStore(): Promise<void> {
  try {
    if (typeof indexedDB === "undefined") throw new Error("This browser has no IndexedDB.");
    await answered(database);
    database.overtaken((reason) => {
      keeping = { kind: "overtaken", reason };
      for (const listener of listeners) listener();
    });
  } catch (error) {
    keeping = { kind: "memory", reason: reasonOf(error) };
    const { IDBFactory, IDBKeyRange: keyRange } = await import("fake-indexeddb");
    keepInMemory({ indexedDB: new IDBFactory(), IDBKeyRange: keyRange });
    await database.open();
  }
}

function reasonOf(error: unknown): "no storage" | "no answer" | "later version" {
  if (isLater(error)) return "later version";
  return error instanceof NoAnswer ? "no answer" : "no storage";
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
