import { DEMO_STUDIES } from "../../demo";
import { writeStudy } from "../../formats";
import type { Route } from "./+types/demo-study";

const files = new Map<string, string>();

/** A demo study as a study file; the shelf fetches each once. */
export const loader = ({ request }: Route.LoaderArgs) => {
  const about = new URL(request.url).searchParams.get("about");
  const which =
    about !== null && Object.hasOwn(DEMO_STUDIES, about)
      ? (about as keyof typeof DEMO_STUDIES)
      : "mediation";
  const file = files.get(which) ?? writeStudy(DEMO_STUDIES[which]());
  files.set(which, file);
  return new Response(file, {
    headers: {
      "Content-Type": "application/json; charset=utf-8",
      "Cache-Control": "public, max-age=3600",
    },
  });
};
