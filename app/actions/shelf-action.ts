import { redirect } from "react-router";
import { z } from "zod";
import { newDefinition, TableBuilder, unpackTable, type Variable } from "../../core";
import { readStudy, type LoadedStudy } from "../../formats";
import { addStudy, loadStudy, studyOfTable } from "../storage/studies";
import { removeStudy, restoreStudy, type RemovedStudy } from "../storage/removal";
import { askToPersist } from "../storage/open";
import { engine } from "../workers/engine";

const id = z.string();

/** What can be done on the shelf. */
const ShelfRequest = z.discriminatedUnion("intent", [
  z.object({ intent: z.literal("open") }),
  z.object({
    intent: z.literal("import"),
    title: z.string(),
    variables: z.custom<Variable[]>((v) => Array.isArray(v)),
    asMatrix: z.boolean().optional(),
  }),
  z.object({ intent: z.literal("demo") }),
  z.object({ intent: z.literal("begin") }),
  z.object({ intent: z.literal("copy"), id }),
  z.object({ intent: z.literal("remove"), id }),
  z.object({ intent: z.literal("restore") }),
]);

export type DemoStudy =
  "mediation" | "moderation" | "measurement" | "composites" | "treatment" | "planning";

export async function fetchDemo(about: DemoStudy): Promise<LoadedStudy> {
  const response = await fetch(`/demo.hebel.json?about=${about}`);
  if (!response.ok) throw new Error("The demo study could not be fetched.");
  return readStudy(await response.text());
}

let removed: RemovedStudy | null = null;

/** How a request ended; where it failed, why. */
export interface ShelfOutcome {
  ok: boolean;
  message?: string;
}

/**
 * Carries a request out. `ok` is false where the study is gone, or could not be written.
 * @returns a redirect to a study that was opened
 */
export async function shelfAction(body: unknown): Promise<Response | ShelfOutcome> {
  const request = ShelfRequest.parse(body);
  try {
    const outcome = await carryOut(request);
    if (request.intent !== "demo") void askToPersist();
    return outcome;
  } catch (error) {
    return { ok: false, message: error instanceof Error ? error.message : String(error) };
  }
}

async function carryOut(request: z.infer<typeof ShelfRequest>): Promise<Response | ShelfOutcome> {
  switch (request.intent) {
    case "open": {
      const { definition, table } = await engine().takeStudy();
      return redirect(`/study/${await addStudy({ definition, table: unpackTable(table) })}`);
    }
    case "import": {
      const table = unpackTable(await engine().takeTable(request.asMatrix === true));
      const described = table.moments
        ? table.columns.map(({ name }) => ({ name, level: "continuous" as const }))
        : request.variables;
      return redirect(
        `/study/${await addStudy(studyOfTable(request.title, table, described))}/data`,
      );
    }
    case "begin": {
      const empty = {
        definition: newDefinition("Untitled study", []),
        table: new TableBuilder([]).build(),
      };
      return redirect(`/study/${await addStudy(empty)}/hypotheses`);
    }
    case "demo":
      for (const about of [
        "planning",
        "treatment",
        "composites",
        "measurement",
        "moderation",
        "mediation",
      ] as const)
        await addStudy(await fetchDemo(about));
      return { ok: true };
    case "copy":
      return { ok: await copyStudy(request.id) };
    case "remove":
      removed = await removeStudy(request.id);
      return { ok: true };
    case "restore": {
      const back = removed;
      if (back) await restoreStudy(back);
      removed = null;
      return { ok: back !== null };
    }
  }
}

async function copyStudy(id: string): Promise<boolean> {
  const loaded = await loadStudy(id);
  if (!loaded) return false;
  const { definition } = loaded.study;
  await addStudy({
    definition: { ...definition, title: `${definition.title} (copy)` },
    table: loaded.table,
  });
  return true;
}
