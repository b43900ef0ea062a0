import type { StoredStudy } from "./database";
import { evidenceKey, findEvidence } from "./results";
import { dataKeyOf, loadStudy } from "./studies";

/**
 * Reads the data and the evidence of a study that is about to be opened, so that they are at hand;
 * what fails here is said when it is opened.
 */
export async function readAhead(study: StoredStudy): Promise<void> {
  const key = evidenceKey(study.definition, dataKeyOf(study));
  await Promise.all([loadStudy(study.id), findEvidence(key)]).catch(() => undefined);
}
