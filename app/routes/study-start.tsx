import { redirect } from "react-router";
import type { Route } from "./+types/study-start";
import { loadStudy } from "../storage/studies";

/** Opens a study where its work stands: at the data until there is a theory. */
export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  const loaded = await loadStudy(params.id);
  throw redirect(
    `/study/${params.id}/${loaded?.study.definition.theory.trim() ? "hypotheses" : "data"}`,
  );
}

export default function StudyStart() {
  return null;
}
