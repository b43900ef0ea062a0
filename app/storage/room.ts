import type { Table } from "dexie";
import { database } from "./database";

/** Said when a change could not be written though all results had been given up for it. */
export class StorageFull extends Error {
  constructor() {
    super(
      "This browser's storage is full, and giving up kept results was not enough. What you see is not saved: export the study now, then make room (remove a study from the shelf, or free space on the disk) and try again.",
    );
    this.name = "StorageFull";
  }
}

/** Is it for want of room that something could not be written? Transactions wrap the reason. */
export function isFull(error: unknown): boolean {
  if (typeof error !== "object" || error === null) return false;
  const { name, inner } = error as { name?: string; inner?: unknown };
  return name === "QuotaExceededError" || (inner !== error && isFull(inner));
}

/**
 * Writes what people have made; where the storage is full, results that can be made again are given
 * up for it first.
 * @throws StorageFull when that was not enough
 */
export async function withRoom<T>(write: () => Promise<T>): Promise<T> {
  try {
    return await write();
  } catch (error) {
    if (!isFull(error)) throw error;
    await Promise.all([database.results.clear(), database.replicates.clear()]).catch(
      () => undefined,
    );
    try {
      return await write();
    } catch (again) {
      throw isFull(again) ? new StorageFull() : again;
    }
  }
}

/** Writes what people have made, all of it or nothing, making room where there is none. */
export const writing =
  (...tables: Table[]) =>
  <T>(task: () => Promise<T>): Promise<T> =>
    withRoom(() => database.transaction("rw", tables, task));
