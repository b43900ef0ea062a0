import { expect, type Page } from "@playwright/test";
import type { StudyDefinition } from "../core";

/** All rows of one table of the program's database, as the page's browser holds them now. */
export const rowsOf = <Row>(page: Page, table: "studies" | "results"): Promise<Row[]> =>
  page.evaluate(
    (name) =>
      new Promise<never[]>((done, fail) => {
        const asked = indexedDB.open("hebel");
        asked.onerror = () => fail(asked.error!);
        asked.onsuccess = () => {
          const all = asked.result.transaction(name).objectStore(name).getAll();
          all.onsuccess = () => {
            asked.result.close();
            done(JSON.parse(JSON.stringify(all.result)));
          };
        };
      }),
    table,
  );

/** Waits until what was done to any study has been written down, as this piece of text. */
export const written = (page: Page, text: string): Promise<void> =>
  expect
    .poll(() =>
      page.evaluate(
        (piece) =>
          new Promise<boolean>((done, fail) => {
            const asked = indexedDB.open("hebel");
            asked.onerror = () => fail(asked.error!);
            asked.onsuccess = () => {
              const all = asked.result.transaction("studies").objectStore("studies").getAll();
              all.onsuccess = () => {
                asked.result.close();
                const rows = all.result as { definition: StudyDefinition }[];
                done(rows.some((row) => JSON.stringify(row.definition).includes(piece)));
              };
            };
          }),
        JSON.stringify(text).slice(1, -1),
      ),
    )
    .toBe(true);
