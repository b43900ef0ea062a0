import { demoStudy } from "../../demo/study";
import { writeStudy } from "../../formats";

let file: string | null = null;

/** The demo study as a study file; the shelf fetches it once. */
export const loader = () => {
  file ??= writeStudy(demoStudy());
  return new Response(file, { headers: { "Content-Type": "application/json; charset=utf-8", "Cache-Control": "public, max-age=3600" } });
};
