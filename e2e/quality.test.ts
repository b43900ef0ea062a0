import AxeBuilder from "@axe-core/playwright";
import {
  DEMO_STUDIES,
  cards,
  aboutDemo,
  expect,
  gardenCsv,
  openDemo,
  settled,
  test,
  writeText,
} from "./fixtures";
import type { Page } from "@playwright/test";

/** Waits until nothing moves any more. */
const atRest = (page: Page): Promise<unknown> =>
  page.evaluate(async () => {
    await new Promise((next) => requestAnimationFrame(() => requestAnimationFrame(next)));
    const moving = document.getAnimations().filter((a) => a.effect?.getTiming().iterations === 1);
    await Promise.allSettled(moving.map((animation) => animation.finished));
  });

/**
 * Faults of accessibility of a screen, in both looks. The dark one has the marks of the light one
 * in other colours: what depends on colours is looked at there, all else once.
 */
async function serious(page: Page): Promise<string[]> {
  const faults = await faultsIn(page, "light");
  faults.push(...(await faultsIn(page, "dark")));
  await page.emulateMedia({ colorScheme: "light" });
  return faults;
}

async function faultsIn(page: Page, look: "light" | "dark"): Promise<string[]> {
  await page.emulateMedia({ colorScheme: look });
  // Colours on their way from one to another are none that anybody reads.
  await atRest(page);
  // One frame: there is nothing to be put together from several.
  // Of rows that are made alike, the first few.
  const axe = new AxeBuilder({ page })
    .setLegacyMode()
    .exclude("tbody tr:nth-child(n+6)")
    .exclude("[role=rowgroup] > [role=row]:nth-child(n+6)");
  if (look === "dark") axe.withRules(["color-contrast", "link-in-text-block"]);
  const { violations } = await axe.analyze();
  return violations
    .filter((v) => v.impact !== "minor")
    .map(
      (v) =>
        `${look}, ${v.id}: ${v.nodes
          .map((n) => `${n.target.join(" ")} ${n.any[0]?.message ?? ""}`)
          .slice(0, 3)
          .join(" | ")}`,
    );
}

test("no screen has a moderate or serious accessibility fault, light or dark", async ({ page }) => {
  // A dozen screens, each looked over whole.
  await page.goto("/");
  await expect(cards(page)).toHaveCount(DEMO_STUDIES);
  expect(await serious(page)).toEqual([]);
  await page
    .getByLabel("File to open")
    .setInputFiles({ name: "garden.csv", mimeType: "text/csv", buffer: gardenCsv() });
  await expect(page.getByText("240 rows, 5 columns")).toBeVisible();
  expect(await serious(page)).toEqual([]);
  await page.getByRole("button", { name: "Cancel" }).click();
  await openDemo(page, "data");
  await page
    .getByRole("grid", { name: "Data" })
    .getByRole("button", { name: /^group/ })
    .click();
  expect(await serious(page)).toEqual([]);
  await page.getByRole("link", { name: /Screening/ }).click();
  await expect(page.getByRole("heading", { name: "Variables together" })).toBeVisible();
  await expect(page.locator("[aria-busy=true]")).toHaveCount(0);
  expect(await serious(page)).toEqual([]);
  await page.getByRole("link", { name: /Measures/ }).click();
  await expect(page.getByText("0.815").first()).toBeVisible();
  expect(await serious(page)).toEqual([]);
  await page.getByRole("link", { name: /Hypotheses/ }).click();
  await settled(page);
  await page.getByRole("button", { name: /hours to confidence/ }).press("Enter");
  await expect(page.getByRole("heading", { name: "hours to confidence" })).toBeVisible();
  expect(await serious(page)).toEqual([]);
  await page.getByRole("button", { name: "Text", exact: true }).click();
  expect(await serious(page)).toEqual([]);
  await page.getByRole("link", { name: /Evidence/ }).click();
  await expect(page.locator("blockquote")).toBeVisible();
  expect(await serious(page)).toEqual([]);
  await page.goto("/study/demo/checks");
  await expect(page.getByText(/most influential rows/)).toBeVisible();
  expect(await serious(page)).toEqual([]);
  await page.getByRole("link", { name: /Compare/ }).click();
  await page.getByRole("button", { name: "Try the other specifications" }).click();
  await expect(page.getByRole("row", { name: /HC4 errors/ })).toBeVisible();
  expect(await serious(page)).toEqual([]);
  await page.getByRole("link", { name: /Report/ }).click();
  await expect(page.getByRole("article", { name: "Report" })).toBeVisible();
  expect(await serious(page)).toEqual([]);
  await page.goto("/study/demo-lever/probe");
  await expect(page.getByRole("slider")).toBeVisible();
  expect(await serious(page)).toEqual([]);
  await page.getByRole("button", { name: "Analysis settings" }).click();
  await expect(page.getByRole("heading", { name: "Analysis settings" })).toBeVisible();
  expect(await serious(page)).toEqual([]);
});

test("planning and the manual have no moderate or serious accessibility fault, light or dark", async ({
  page,
}) => {
  await page.goto("/");
  await expect(cards(page)).toHaveCount(DEMO_STUDIES);
  for (const screen of ["data", "hypotheses", "evidence"]) {
    await page.goto(`/study/demo-planned/${screen}`);
    await expect(page.getByText(/There are no data yet/)).toBeVisible();
    expect(await serious(page), screen).toEqual([]);
  }
  await page.goto("/study/demo-planned/plan");
  await page.getByLabel("simulated samples").fill("20");
  await page.getByLabel("bootstrap samples in each").fill("50");
  await page.getByRole("button", { name: "Draw power over people" }).click();
  await expect(page.getByRole("img", { name: "Power over people" })).toBeVisible();
  expect(await serious(page)).toEqual([]);
  await page.setViewportSize({ width: 390, height: 844 });
  await atRest(page);
  expect(
    await page.evaluate(() => document.documentElement.scrollWidth - innerWidth),
  ).toBeLessThanOrEqual(0);
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto("/manual#planning");
  await expect(page.getByRole("heading", { name: /^Planning/ })).toBeVisible();
  expect(await serious(page)).toEqual([]);
});

test("estimates follow a change without a button, and typing is never blocked", async ({
  page,
}) => {
  await openDemo(page, "hypotheses");
  await page.getByRole("button", { name: "Text", exact: true }).click();
  const area = page.getByLabel("Theory as text");
  await writeText(page, aboutDemo("H1: hours raises belonging"));
  await expect(page.getByRole("button", { name: /hours to belonging/ })).toBeVisible();
  await area.press("Control+End");
  const start = Date.now();
  await area.pressSequentially(" through confidence then friends", { delay: 5 });
  expect(Date.now() - start).toBeLessThan(60_000);
  await expect(page.getByRole("button", { name: /friends to belonging/ })).toBeVisible();
});

test("the headers keep the page to itself, and the server takes no data", async ({ request }) => {
  const page = await request.get("/");
  const policy = page.headers()["content-security-policy"]!;
  expect(policy).toContain("default-src 'none'");
  expect(policy).toMatch(/script-src 'self' 'wasm-unsafe-eval' 'nonce-[^']+'/);
  expect(policy).not.toContain("'unsafe-eval'");
  expect(page.headers()["x-content-type-options"]).toBe("nosniff");
  expect((await request.post("/", { data: "x".repeat(100_000) })).status()).toBe(405);
  expect(await (await request.get("/health")).json()).toMatchObject({ status: "ok" });
  expect((await (await request.get("/demo.hebel.json")).json()).format).toBe("hebel-study");
});

test("a commands dialog opens by keyboard and leads to a screen", async ({ page }) => {
  await openDemo(page, "data");
  await page.keyboard.press("Control+k");
  await page.getByRole("combobox", { name: "Find a command" }).fill("evidence");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/evidence/);
});
