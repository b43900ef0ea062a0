import { z } from "zod";
import { unpackTable, type StudyDefinition, type Variable } from "../../core";
import { askToPersist } from "../storage/open";
import { clearPending } from "../storage/pending";
import { changeStudy, declareVariables, replaceData, stepHistory } from "../storage/studies";
import { engine } from "../workers/engine";

/**
 * What can be done to a study. Patches and variables come from this program's own screens, which
 * are typed.
 */
const StudyRequest = z.discriminatedUnion("intent", [
  z.object({
    intent: z.literal("change"),
    patch: z.custom<Partial<StudyDefinition>>((v) => typeof v === "object" && v !== null),
    kind: z.string(),
    why: z.string(),
    base: z.custom<Partial<StudyDefinition>>((v) => typeof v === "object" && v !== null),
    serial: z.number(),
    seen: z.number(),
  }),
  z.object({
    intent: z.literal("replace"),
    asMatrix: z.boolean().optional(),
    variables: z.custom<Variable[]>((v) => Array.isArray(v)),
  }),
  z.object({
    intent: z.literal("declare"),
    variables: z.custom<Variable[]>((v) => Array.isArray(v)),
  }),
  z.object({ intent: z.enum(["undo", "redo"]) }),
]);

/**
 * How a request ended: `lost` is this tab's version of what another has changed too; `message` why
 * nothing was written.
 */
export type StudyOutcome =
  { ok: true; lost: Partial<StudyDefinition> | null } | { ok: false; message: string };

/**
 * Carries a request out, in the database of the browser.
 * @throws when the request is none of these
 */
export async function studyAction(id: string, body: unknown): Promise<StudyOutcome> {
  const request = StudyRequest.parse(body);
  try {
    const lost = await carryOut(id, request);
    void askToPersist();
    return { ok: true, lost };
  } catch (error) {
    // What was typed is still on the screen; a fault page would take it away.
    const message = error instanceof Error ? error.message : String(error);
    return { ok: false, message };
  }
}

async function carryOut(
  id: string,
  request: z.infer<typeof StudyRequest>,
): Promise<Partial<StudyDefinition> | null> {
  switch (request.intent) {
    case "change": {
      const { patch, kind, why, base, serial, seen } = request;
      const lost = await changeStudy(id, patch, kind, why, { base, serial, seen });
      clearPending(id, patch);
      return lost;
    }
    case "replace": {
      const table = unpackTable(await engine().takeTable(request.asMatrix === true));
      await replaceData(id, table, request.variables);
      break;
    }
    case "declare":
      await declareVariables(id, request.variables);
      break;
    default:
      await stepHistory(id, request.intent);
  }
  return null;
}
