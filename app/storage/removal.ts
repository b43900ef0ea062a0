import {
  database,
  type StoredHistory,
  type StoredReplicates,
  type StoredResult,
  type StoredRun,
  type StoredSheet,
  type StoredStrip,
  type StoredStudy,
} from "./database";
import { forgetFound } from "./results";
import { writing } from "./room";

/** Everything that belongs to one study, so that its removal can be undone. */
export interface RemovedStudy {
  study: StoredStudy;
  pages: StoredSheet[];
  runs: StoredRun[];
  results: StoredResult[];
  replicates: StoredReplicates[];
  history: StoredHistory | undefined;
  strip: StoredStrip | undefined;
}

const everyTable = () => [
  database.studies,
  database.pages,
  database.histories,
  database.strips,
  database.runs,
  database.results,
  database.replicates,
];

/** Takes a study off the shelf with everything that belongs to it; null where there is none. */
export async function removeStudy(id: string): Promise<RemovedStudy | null> {
  return database.transaction("rw", everyTable(), async () => {
    const study = await database.studies.get(id);
    if (!study) return null;
    const [history, strip] = [await database.histories.get(id), await database.strips.get(id)];
    const own = [database.pages, database.runs, database.results, database.replicates].map(
      (table) => table.where("study").equals(id),
    );
    const [pages, runs, results, replicates] = (await Promise.all(
      own.map((rows) => rows.toArray()),
    )) as [StoredSheet[], StoredRun[], StoredResult[], StoredReplicates[]];
    await Promise.all(own.map((rows) => rows.delete()));
    await Promise.all([
      database.studies.delete(id),
      database.histories.delete(id),
      database.strips.delete(id),
    ]);
    forgetFound();
    return { study, history, strip, pages, runs, results, replicates };
  });
}

/** Puts a removed study back as it was: undo, kept runs and results too. */
export async function restoreStudy({
  study,
  history,
  strip,
  pages,
  runs,
  results,
  replicates,
}: RemovedStudy): Promise<void> {
  await writing(...everyTable())(async () => {
    await database.studies.put(study);
    if (history) await database.histories.put(history);
    if (strip) await database.strips.put(strip);
    await Promise.all([
      database.pages.bulkPut(pages),
      database.runs.bulkPut(runs),
      database.results.bulkPut(results),
      database.replicates.bulkPut(replicates),
    ]);
  });
}
