import { redirect } from "react-router";
import type { Route } from "./+types/study-start";
import { loadStudy, placeOf } from "../storage/studies";

/**
 * Opens a study where its work stands. The shelf leads there itself; an address that somebody typed
 * comes by here.
 */
export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  const loaded = await loadStudy(params.id);
  throw redirect(loaded ? placeOf(loaded.study) : `/study/${params.id}/data`);
}

export default function StudyStart() {
  return null;
}
