import { z } from "zod";
import type { Evidence, KeptRun } from "../../core";
import { keepRun, removeRun } from "../storage/studies";

const isObject = (value: unknown): boolean => typeof value === "object" && value !== null;

/** What can be done with the runs of a study. */
const RunsRequest = z.discriminatedUnion("intent", [
  z.object({
    intent: z.literal("keep"),
    name: z.string(),
    run: z.custom<KeptRun>(isObject),
    evidence: z.custom<Evidence>(isObject),
  }),
  z.object({ intent: z.literal("remove"), id: z.string() }),
]);

/** How a request ended: where nothing was written, why. */
export type RunsOutcome = { ok: true } | { ok: false; message: string };

/** Keeps a run under a name, or removes one. @throws when the request is neither */
export async function runsAction(study: string, body: unknown): Promise<RunsOutcome> {
  const request = RunsRequest.parse(body);
  try {
    if (request.intent === "keep")
      await keepRun(study, request.name, request.run, request.evidence);
    else await removeRun(request.id);
    return { ok: true };
  } catch (error) {
    return { ok: false, message: error instanceof Error ? error.message : String(error) };
  }
}
