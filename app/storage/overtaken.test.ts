import "fake-indexeddb/auto";
import { beforeEach, describe, expect, it } from "vitest";
import { newDefinition } from "../../core";
import { Database, LATEST } from "./database";

/** A study as it lies in the store. */
const study = (id: string) =>
  ({
    id,
    revision: 1,
    updatedAt: 1,
    definition: newDefinition("t", []),
    dataKey: "d",
    rows: 0,
    columns: 0,
  }) as never;

/** Opens the same database as a program of another version would; null deletes it. */
const asked = (version: number | null): Promise<IDBDatabase | null> =>
  new Promise((resolve, reject) => {
    const request =
      version === null ? indexedDB.deleteDatabase("hebel") : indexedDB.open("hebel", version);
    request.onsuccess = () => resolve(version === null ? null : (request.result as IDBDatabase));
    request.onerror = () => reject(request.error!);
  });

describe("a tab whose database somebody else takes over", () => {
  beforeEach(async () => {
    await asked(null);
  });

  it("writes nothing any more once a later version has upgraded it, and says which it was", async () => {
    const mine = new Database();
    const told: string[] = [];
    mine.overtaken((by) => told.push(by));
    await mine.studies.put(study("a"));
    const theirs = (await asked(LATEST * 10 + 10))!;
    expect(told).toEqual(["later version"]);
    await expect(mine.studies.put(study("b"))).rejects.toThrow();
    await expect(mine.studies.toArray()).rejects.toThrow();
    const there = await new Promise<unknown[]>((resolve) => {
      const got = theirs.transaction("studies").objectStore("studies").getAll();
      got.onsuccess = () => resolve(got.result);
    });
    expect(there).toHaveLength(1);
    theirs.close();
    // A tab that opens afterwards refuses it from the beginning.
    await expect(new Database().open()).rejects.toThrow(/later version/);
  });

  it("makes no new one where it was deleted under its hands", async () => {
    const mine = new Database();
    const told: string[] = [];
    mine.overtaken((by) => told.push(by));
    await mine.studies.put(study("a"));
    await asked(null);
    expect(told).toEqual(["deleted"]);
    await expect(mine.studies.put(study("b"))).rejects.toThrow();
  });
});
