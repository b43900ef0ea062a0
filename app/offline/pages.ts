/** The screens of a study, as addresses end. */
const SCREENS = [
  "data",
  "screening",
  "measures",
  "hypotheses",
  "plan",
  "evidence",
  "probe",
  "checks",
  "compare",
  "report",
];

/**
 * Every page that the server can give. What it sends for a study does not depend on which: studies
 * live in the browser, so one page for each screen serves all of them.
 */
export const PAGES: readonly string[] = [
  "/",
  "/manual",
  "/study/_",
  ...SCREENS.map((screen) => `/study/_/${screen}`),
];

/** Data of the demo studies, which the first shelf asks for. */
export const DEMO = [
  "/demo.hebel.json?about=mediation",
  "/demo.hebel.json?about=moderation",
  "/demo.hebel.json?about=measurement",
  "/demo.hebel.json?about=composites",
  "/demo.hebel.json?about=treatment",
  "/demo.hebel.json?about=planning",
] as const;

/** The kept page for an address; null for addresses that no screen has. */
export function pageFor(pathname: string): string | null {
  const path = pathname.length > 1 ? pathname.replace(/\/+$/, "") : pathname;
  const page = path.replace(/^\/study\/[^/]+/, "/study/_");
  return PAGES.includes(page) ? page : null;
}
