import type { Page } from "@playwright/test";
import { analyse, type Evidence, type StudyDefinition } from "../core";
import { demoLeverStudy, demoStudy } from "../demo/study";
import {
  DEMO_STUDIES,
  cards,
  aboutDemo,
  expect,
  openDemo,
  settled,
  test,
  writeText,
} from "./fixtures";
import { rowsOf } from "./store";

/** The evidence that the browser has kept, the newest first. */
const kept = (page: Page): Promise<Evidence[]> =>
  rowsOf<{ usedAt: number; evidence: Evidence }>(page, "results").then((rows) =>
    rows.sort((a, b) => b.usedAt - a.usedAt).map((row) => row.evidence),
  );

test.use({ fresh: true });

async function firstVisit(page: Page): Promise<void> {
  await page.goto("/");
  await expect(cards(page)).toHaveCount(DEMO_STUDIES);
}

for (const [name, demo] of [
  ["demo", demoStudy],
  ["demo-lever", demoLeverStudy],
] as const) {
  test(`browser and Node give the same bits: ${name}`, async ({ page }) => {
    await firstVisit(page);
    await page.goto(`/study/${name}/evidence`);
    await settled(page);
    await expect.poll(async () => (await kept(page)).length).toBe(1);
    const { definition, table } = demo();
    expect((await kept(page))[0]).toEqual(
      JSON.parse(JSON.stringify(analyse(definition as StudyDefinition, table))),
    );
  });
}

test("a study opened again shows its evidence at once, and nothing is resampled", async ({
  page,
}) => {
  await firstVisit(page);
  await openDemo(page, "evidence");
  await settled(page);
  await expect.poll(async () => (await kept(page)).length).toBe(1);
  // A worker that never answers: what is shown now is what was kept.
  await page.route(/engine\.worker/, (route) => new Promise(() => void route));
  await page.reload();
  await expect(page.locator("blockquote")).toBeVisible();
  await settled(page);
  await page.getByRole("link", { name: /Hypotheses/ }).click();
  await expect(page.getByText("supported", { exact: true }).first()).toBeVisible();
});

test("a study put back on the shelf has its verdicts and its undo", async ({ page }) => {
  await firstVisit(page);
  await openDemo(page, "evidence");
  await expect.poll(async () => (await kept(page)).length).toBe(1);
  await page.goto("/");
  const card = cards(page).filter({ has: page.getByRole("link", { name: /^Language café Do/ }) });
  await expect(card.getByRole("img", { name: "supported" }).first()).toBeVisible();
  await card.getByRole("button", { name: /^Remove/ }).click();
  await expect(card).toHaveCount(0);
  await page.getByRole("button", { name: "Put it back" }).click();
  await expect(card.getByRole("img", { name: "supported" }).first()).toBeVisible();
  await expect.poll(async () => (await kept(page)).length).toBe(1);
});

test("what stops the analysis is said on every screen, beside the last numbers", async ({
  page,
}) => {
  await firstVisit(page);
  await openDemo(page, "hypotheses");
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(page, aboutDemo("H1: hours raises friends", "H2: friends raises hours"));
  await expect(page.getByRole("alert").filter({ hasText: "go round in a circle" })).toBeVisible();
  for (const screen of ["Evidence", "Probe", "Checks", "Compare", "Data"]) {
    await page.getByRole("link", { name: new RegExp(screen) }).click();
    await expect(page.getByRole("alert").filter({ hasText: "go round in a circle" })).toBeVisible();
  }
});
