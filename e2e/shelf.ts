import { expect, type BrowserContext, type Page } from "@playwright/test";

/**
 * One profile of a browser serves all tests of a worker: the program is read and compiled once, the
 * demo studies are put on the shelf and analysed once, and every test begins with that shelf.
 */

/** These have kept results from the beginning; the others are analysed where a test opens them. */
const ANALYSED = ["demo", "demo-lever"];

/** What somebody finds who has opened the program and two of its studies before. */
export async function prepareShelf(context: BrowserContext): Promise<void> {
  const page = await context.newPage();
  await page.goto("/");
  await expect(page.getByRole("link", { name: /^Language café Do/ })).toBeVisible();
  for (const study of ANALYSED) {
    await page.goto(`/study/${study}/evidence`);
    await expect(page.getByRole("heading", { level: 1 }).first()).toBeVisible();
    await expect.poll(() => kept(page)).toContain(study);
  }
  await onEmptyPage(page, fewerSamples);
  await onEmptyPage(page, keepStore);
}

/**
 * Models whose resamples take long get a tenth of them: what screens do with limits does not depend
 * on how many there are, and the numbers have tests of their own. Runs in the page.
 */
async function fewerSamples(): Promise<void> {
  interface Row {
    id: string;
    definition: { settings: { replications: number } };
  }
  const database = await new Promise<IDBDatabase>((resolve, reject) => {
    const asked = indexedDB.open("hebel");
    asked.onsuccess = () => resolve(asked.result);
    asked.onerror = () => reject(asked.error!);
  });
  await new Promise<void>((resolve, reject) => {
    const writing = database.transaction("studies", "readwrite");
    const store = writing.objectStore("studies");
    for (const id of ["demo-factors", "demo-composites", "demo-treatment"]) {
      const got = store.get(id);
      got.onsuccess = () => {
        const row = got.result as Row;
        row.definition.settings.replications = 500;
        store.put(row);
      };
    }
    writing.oncomplete = () => resolve();
    writing.onerror = () => reject(writing.error!);
  });
  database.close();
}

/** The shelf as it was prepared; nothing else is remembered. */
export const shelfAsPrepared = (page: Page): Promise<void> => onEmptyPage(page, restoreStore);

/** The studies with results of all resamples. */
const kept = (page: Page): Promise<string[]> =>
  page.evaluate(
    () =>
      new Promise<string[]>((done, fail) => {
        const asked = indexedDB.open("hebel");
        asked.onerror = () => fail(asked.error!);
        asked.onsuccess = () => {
          const all = asked.result.transaction("results").objectStore("results").getAll();
          all.onsuccess = () => {
            asked.result.close();
            const rows = all.result as { study: string; evidence?: unknown }[];
            done(rows.filter((row) => row.evidence).map((row) => row.study));
          };
        };
      }),
  );

/** Does something in the page's origin while the program itself is not running. */
async function onEmptyPage(page: Page, work: () => Promise<void>): Promise<void> {
  await page.goto("/favicon.svg");
  await page.evaluate(work);
}

/** Copies the program's database into one beside it. Runs in the page. */
async function keepStore(): Promise<void> {
  const done = <T>(asked: IDBRequest<T>): Promise<T> =>
    new Promise((resolve, reject) => {
      asked.onsuccess = () => resolve(asked.result);
      asked.onerror = () => reject(asked.error!);
    });
  const from = await done(indexedDB.open("hebel"));
  const names = [...from.objectStoreNames];
  const reading = from.transaction(names);
  const stores = await Promise.all(
    names.map(async (name) => {
      const store = reading.objectStore(name);
      const { keyPath, autoIncrement } = store;
      const indexes = [...store.indexNames].map((index) => {
        const { keyPath: path, unique, multiEntry } = store.index(index);
        return { index, path, unique, multiEntry };
      });
      const [keys, values] = await Promise.all([
        done(store.getAllKeys()),
        done(store.getAll() as IDBRequest<unknown[]>),
      ]);
      return { name, keyPath, autoIncrement, indexes, keys, values };
    }),
  );
  const opening = indexedDB.open("prepared", 1);
  opening.onupgradeneeded = () => opening.result.createObjectStore("all");
  const to = await done(opening);
  const writing = to.transaction("all", "readwrite").objectStore("all");
  await done(writing.put({ version: from.version, stores }, "hebel"));
  from.close();
  to.close();
}

/** Puts the copy in the place of the program's database, and forgets all else. Runs in the page. */
async function restoreStore(): Promise<void> {
  interface Kept {
    version: number;
    stores: {
      name: string;
      keyPath: string | string[] | null;
      autoIncrement: boolean;
      indexes: { index: string; path: string | string[]; unique: boolean; multiEntry: boolean }[];
      keys: IDBValidKey[];
      values: unknown[];
    }[];
  }
  const done = <T>(asked: IDBRequest<T>): Promise<T> =>
    new Promise((resolve, reject) => {
      asked.onsuccess = () => resolve(asked.result);
      asked.onerror = () => reject(asked.error!);
    });
  localStorage.clear();
  sessionStorage.clear();
  for (const { name } of await indexedDB.databases())
    if (name !== "prepared") await done(indexedDB.deleteDatabase(name!));
  const from = await done(indexedDB.open("prepared"));
  const kept = (await done(from.transaction("all").objectStore("all").get("hebel"))) as Kept;
  from.close();
  const opening = indexedDB.open("hebel", kept.version);
  opening.onupgradeneeded = () => {
    for (const { name, keyPath, autoIncrement, indexes } of kept.stores) {
      const store = opening.result.createObjectStore(name, { keyPath, autoIncrement });
      for (const { index, path, unique, multiEntry } of indexes)
        store.createIndex(index, path, { unique, multiEntry });
    }
  };
  const to = await done(opening);
  const writing = to.transaction(
    kept.stores.map((s) => s.name),
    "readwrite",
  );
  for (const { name, keyPath, keys, values } of kept.stores)
    values.forEach((value, i) =>
      keyPath === null
        ? writing.objectStore(name).put(value, keys[i]!)
        : writing.objectStore(name).put(value),
    );
  await new Promise((resolve) => (writing.oncomplete = resolve));
  to.close();
}
