import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { expect, openStudy, settled, test, writeText } from "./fixtures";

const STUDY = "/study/demo-composites";

async function open(page: Page, screen: string): Promise<void> {
  await openStudy(page, "demo-composites", screen);
  await settled(page);
}

async function faults(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).setLegacyMode().analyze();
  return violations
    .filter((v) => v.impact !== "minor")
    .map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(" | ")}`);
}

test("measurement on one page, paths with their sizes, prediction in words", async ({ page }) => {
  await open(page, "evidence");
  const paths = page.getByRole("region", { name: "Structural paths" });
  await expect(paths.getByRole("row", { name: /confidence routine × support/ })).toContainText(
    "0.200",
  );
  await expect(
    page.getByText(/In new cases belonging is predicted better than by the mean/),
  ).toBeVisible();
  await expect(page.getByRole("heading", { name: "Prediction of new people" })).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.goto(`${STUDY}/checks`);
  const measures = page.getByRole("table", { name: "Measures" });
  await expect(
    measures.getByRole("row", { name: /^routine weighted by regression/ }),
  ).toBeVisible();
  await expect(measures.getByRole("row", { name: /^belonging/ })).toContainText("holds");
  expect(await faults(page)).toEqual([]);
});

test("an item left out in one click is a new run, with before and after", async ({ page }) => {
  await open(page, "checks");
  await page.getByRole("button", { name: "Leave variety out of routine" }).click();
  await expect(page.getByText(/Tried: variety out of routine/)).toBeVisible();
  await settled(page);
  await expect(page.getByRole("row", { name: /^variety/ })).toHaveCount(0);
  await page.getByRole("link", { name: "Compare", exact: true }).first().click();
  await expect(page.getByText("before: variety out of routine").first()).toBeVisible();
});

test("sites are compared by permutation, and the picture unfolds to weights", async ({ page }) => {
  await open(page, "hypotheses");
  await page.getByRole("checkbox", { name: "items" }).check();
  await expect(
    page.getByLabel("Path diagram").locator("text", { hasText: "minutes" }).first(),
  ).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(
    page,
    [
      "measure routine combines days, minutes, variety weighted by regression",
      "measure confidence combines conf1, conf2, reversed conf3r, conf4",
      "measure belonging combines bel1, bel2, bel3, bel4",
      "H1: routine raises belonging through confidence",
      "groups by site",
    ].join("\n"),
  );
  await settled(page);
  await page.goto(`${STUDY}/evidence`);
  const groups = page.getByRole("region", { name: "harbour and old town" });
  await expect(groups.getByText(/Not measured alike: routine\./)).toBeVisible();
  // Among the warnings, and at the verdict that it touches.
  for (const list of ["Deserves a look", "To be known of H1"])
    await expect(
      page.getByRole("list", { name: list }).getByText(/not made of the items in the same way/),
    ).toBeVisible();
  expect(await faults(page)).toEqual([]);
});

test("slopes of scores on the lever, weighting on the card, three ways of measuring", async ({
  page,
}) => {
  await open(page, "probe");
  await expect(page.getByText(/one SD more of routine goes with/)).toBeVisible();
  await expect(page.getByRole("slider")).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.goto(`${STUDY}/measures`);
  const card = page.getByLabel("Measure routine");
  await expect(card.getByText(/alpha and omega say nothing of it/)).toBeVisible();
  await card.getByLabel(/^weighted/).selectOption("equal");
  await settled(page);
  await page.goto(`${STUDY}/checks`);
  await expect(page.getByRole("row", { name: /routine weighted equally/ })).toBeVisible();
  await page.goto(`${STUDY}/compare`);
  await page.getByRole("button", { name: "Try the other specifications" }).click();
  await expect(page.getByRole("row", { name: /measured by averages of the items/ })).toBeVisible();
  await expect(page.getByRole("row", { name: /measured by latent variables/ })).toBeVisible();
});
