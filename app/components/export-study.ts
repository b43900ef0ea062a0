import type { StudyDefinition, Table } from "../../core";
import { writeStudy } from "../../formats";
import { noteExported } from "../storage/studies";
import { download, fileName } from "./download";

/**
 * Gives a study out as a file, and remembers that it exists outside this browser. The writer is
 * there from the beginning: it is needed most where nothing can be fetched any more.
 */
export function exportStudy(
  { id, revision }: { id: string; revision: number },
  definition: StudyDefinition,
  table: Table,
): void {
  download(
    fileName(definition.title, ".hebel.json"),
    writeStudy({ definition, table }),
    "application/json",
  );
  void noteExported(id, revision).catch(() => undefined);
}
