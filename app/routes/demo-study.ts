import { demoCompositesStudy } from "../../demo/composites";
import { demoFactorsStudy } from "../../demo/factors";
import { demoPlannedStudy } from "../../demo/planned";
import { demoLeverStudy, demoStudy, demoTreatmentStudy } from "../../demo/study";
import { writeStudy } from "../../formats";
import type { Route } from "./+types/demo-study";

const files = new Map<string, string>();
const STUDIES = {
  mediation: demoStudy,
  moderation: demoLeverStudy,
  measurement: demoFactorsStudy,
  composites: demoCompositesStudy,
  treatment: demoTreatmentStudy,
  planning: demoPlannedStudy,
};

/** A demo study as a study file; the shelf fetches each once. */
export const loader = ({ request }: Route.LoaderArgs) => {
  const about = new URL(request.url).searchParams.get("about");
  const which = about !== null && about in STUDIES ? (about as keyof typeof STUDIES) : "mediation";
  const file = files.get(which) ?? writeStudy(STUDIES[which]());
  files.set(which, file);
  return new Response(file, {
    headers: {
      "Content-Type": "application/json; charset=utf-8",
      "Cache-Control": "public, max-age=3600",
    },
  });
};
