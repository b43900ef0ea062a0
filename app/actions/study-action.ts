import { z } from "zod";
import { unpackTable, type StudyDefinition, type Variable } from "../../core";
import { changeStudy, clearPending, replaceData, stepHistory } from "../storage/studies";
import { engine } from "../workers/engine";

/** What can be done to a study. Patches and variables come from this program's own screens, which are typed. */
const StudyRequest = z.discriminatedUnion("intent", [
  z.object({
    intent: z.literal("change"),
    patch: z.custom<Partial<StudyDefinition>>((v) => typeof v === "object" && v !== null),
    kind: z.string(),
    why: z.string(),
  }),
  z.object({
    intent: z.literal("replace"),
    asMatrix: z.boolean().optional(),
    variables: z.custom<Variable[]>((v) => Array.isArray(v)),
  }),
  z.object({ intent: z.enum(["undo", "redo"]) }),
]);

/** Carries a request out, in the database of the browser. @throws when the request is none of these */
export async function studyAction(id: string, body: unknown): Promise<{ ok: true }> {
  const request = StudyRequest.parse(body);
  switch (request.intent) {
    case "change":
      await changeStudy(id, request.patch, request.kind, request.why);
      clearPending(id, request.patch);
      break;
    case "replace": {
      const table = unpackTable(await engine().takeTable(request.asMatrix === true));
      await replaceData(id, table, request.variables);
      break;
    }
    default:
      await stepHistory(id, request.intent);
  }
  return { ok: true };
}
