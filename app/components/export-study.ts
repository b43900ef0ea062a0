import type { StudyDefinition, Table } from "../../core";
import { noteExported } from "../storage/studies";
import { download, fileName } from "./download";

/** Gives a study out as a file, and remembers that it exists outside this browser. */
export async function exportStudy(
  { id, revision }: { id: string; revision: number },
  definition: StudyDefinition,
  table: Table,
): Promise<void> {
  // Writers come when they are asked for: the shelf opens without them.
  const { writeStudy } = await import("../../formats");
  download(
    fileName(definition.title, ".hebel.json"),
    writeStudy({ definition, table }),
    "application/json",
  );
  void noteExported(id, revision).catch(() => undefined);
}
