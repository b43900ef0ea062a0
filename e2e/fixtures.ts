import { readFileSync } from "node:fs";
import { join } from "node:path";
import { DEMO_MEASURES } from "../demo/study";
import { written } from "./store";
import { VIEWPORT } from "./playwright.config";
import { prepareShelf, shelfAsPrepared } from "./shelf";
import {
  test as base,
  expect,
  type BrowserContext,
  type BrowserContextOptions,
  type ConsoleMessage,
  type Locator,
  type Page,
} from "@playwright/test";

/** Every test fails on a console error or an uncaught exception. */
export const test = base.extend<{ page: Page; fresh: boolean }, { profile: BrowserContext }>({
  /** Begins with nothing, as on somebody's first visit. */
  fresh: [false, { option: true }],
  profile: [
    async ({ browser }, use, { project }) => {
      const context = await browser.newContext(project.use as BrowserContextOptions);
      await prepareShelf(context);
      await use(context);
      await context.close();
    },
    { scope: "worker" },
  ],
  // Where a test asks for a browser of its own kind, it gets one, with nothing in it.
  context: async ({ profile, fresh, context }, use) => {
    if (fresh) return use(context);
    await use(profile);
    await profile.setOffline(false);
  },
  page: async ({ profile, fresh, context }, use) => {
    const page = fresh ? await context.newPage() : await pageOf(profile);
    const complaints: string[] = [];
    const complain = (message: ConsoleMessage): unknown =>
      message.type() === "error" &&
      complaints.push(`${message.text()} (${message.location().url})`);
    const fail = (error: Error): unknown => complaints.push(String(error));
    page.on("console", complain);
    page.on("pageerror", fail);
    await use(page);
    page.off("console", complain);
    page.off("pageerror", fail);
    expect(complaints).toEqual([]);
  },
});

/**
 * The page of a worker, with the shelf as prepared: one process of the browser, which has compiled
 * the program already, serves all its tests.
 */
async function pageOf(profile: BrowserContext): Promise<Page> {
  const [first, ...others] = profile.pages();
  for (const other of others) await other.close();
  const page = first ?? (await profile.newPage());
  await page.unrouteAll({ behavior: "ignoreErrors" });
  await page.emulateMedia({ colorScheme: null, media: null });
  await page.setViewportSize(VIEWPORT);
  await shelfAsPrepared(page);
  return page;
}

export { expect };

/**
 * A small study with a strong indirect effect; the numbers are from the reference study of that
 * name.
 */
export const gardenCsv = (): Buffer =>
  readFileSync(join(import.meta.dirname, "../reference/simple-mediation/data.csv"));

export async function openDemo(
  page: Page,
  screen: "data" | "screening" | "measures" | "hypotheses" | "evidence",
): Promise<void> {
  await openStudy(page, "demo", screen);
}

/** Opens a screen of a study that is on the shelf, ready for what somebody does. */
export async function openStudy(page: Page, study: string, screen: string): Promise<void> {
  await page.goto(`/study/${study}/${screen}`);
  await expect(
    page
      .getByRole("navigation", { name: "Stages of the work" })
      .getByRole("link", { name: new RegExp(screen, "i") }),
  ).toHaveAttribute("aria-current", "page");
  await expect(page.getByRole("heading", { level: 1 }).first()).toBeVisible();
}

/** A theory about the demo study, with its measures above. */
export const aboutDemo = (...lines: string[]): string => `${DEMO_MEASURES}\n${lines.join("\n")}`;

/** Waits until every resample is made. */
export async function settled(page: Page): Promise<void> {
  await expect(page.getByRole("progressbar", { name: "Bootstrap samples" })).toHaveCount(0);
  await expect(page.getByText(/not estimated yet/)).toHaveCount(0);
  await expect(page.getByText("Estimating …")).toHaveCount(0);
}

/** So many studies stand on the shelf at first. */
export const DEMO_STUDIES = 6;

/** The studies on the shelf. */
export const cards = (page: Page): Locator => page.locator("main > ul > li");

/** The theory as it stands in the editor of its text. */
export const theoryText = (page: Page): Promise<string> =>
  page
    .getByLabel("Theory as text")
    .locator(".cm-line")
    .allTextContents()
    .then((lines) => lines.join("\n"));

/** Writes the theory as text, and waits until it has been taken over. */
export async function writeText(page: Page, text: string): Promise<void> {
  await page.getByLabel("Theory as text").click();
  await page.keyboard.press("Control+a");
  await page.keyboard.insertText(text);
  await written(page, text);
  await expect.poll(() => theoryText(page)).toBe(text);
}

/** Opens a file of data on the shelf, as somebody who chooses it. */
export async function openFile(page: Page, name: string, buffer: Buffer): Promise<void> {
  await page.goto("/");
  await page.getByLabel("File to open").setInputFiles({ name, mimeType: "text/csv", buffer });
}
