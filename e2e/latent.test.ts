import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { expect, openStudy, settled, test, theoryText, writeText } from "./fixtures";

async function open(page: Page, screen: string): Promise<void> {
  await openStudy(page, "demo-factors", screen);
  await settled(page);
}

async function faults(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).setLegacyMode().analyze();
  return violations
    .filter((v) => v.impact !== "minor")
    .map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(" | ")}`);
}

test("measurement is judged first, and an item that fails is left out in one click", async ({
  page,
}) => {
  await open(page, "checks");
  await expect(page.getByText(/sup4 loads below \.50/)).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.getByRole("button", { name: "Leave sup4 out of support" }).click();
  await expect(page.getByText(/Tried: sup4 out of support/)).toBeVisible();
  await settled(page);
  await expect(page.getByText(/sup4 loads below/)).toHaveCount(0);
  await page.getByRole("link", { name: "Compare", exact: true }).first().click();
  const fit = page.getByRole("region", { name: /^Fit of before: sup4 out of support/ });
  await expect(fit.getByRole("row", { name: /degrees of freedom/ })).toContainText("62");
  await expect(fit.getByRole("row", { name: /degrees of freedom/ })).toContainText("51");
});

test("a change that a score test suggests is tried, and the difference in fit is tested", async ({
  page,
}) => {
  await open(page, "checks");
  const first = page.getByRole("list", { name: "Changes" }).getByRole("listitem").first();
  await expect(first).toContainText("“bel4” and “bel5” go together");
  await first.getByRole("button", { name: /^Working/ }).click();
  await expect(first).toContainText("Rao 1948");
  await first.getByRole("button", { name: /^Try it/ }).click();
  await settled(page);
  await page.goto("/study/demo-factors/hypotheses");
  await expect(page.getByLabel("Covariance", { exact: true })).toContainText("bel4");
  await page.goto("/study/demo-factors/compare");
  await expect(
    page.getByText(/If “before: covary bel4 with bel5” is a special case/),
  ).toBeVisible();
  await expect(page.getByText(/Δχ²\(1\)/)).toBeVisible();
});

test("the picture unfolds to items, and a plain figure goes into the paper", async ({ page }) => {
  await open(page, "hypotheses");
  await page.getByRole("checkbox", { name: "items" }).check();
  const item = page.getByLabel("Path diagram").locator("text", { hasText: "conf3r" });
  await expect(item.first()).toBeVisible();
  await page.getByRole("button", { name: "For the paper" }).click();
  const figure = page.getByRole("dialog").getByRole("img");
  await expect(figure.locator("ellipse")).toHaveCount(3);
  await page.getByRole("button", { name: "concepts only" }).click();
  await expect(figure.getByText("conf1")).toHaveCount(0);
});

test("groups, latent interactions and everybody's answers come by sentence and setting", async ({
  page,
}) => {
  await open(page, "hypotheses");
  await page.getByRole("button", { name: "Text", exact: true }).click();
  const theory = [
    "measure confidence reflects conf1, conf2, reversed conf3r, conf4",
    "measure support reflects sup1, sup2, sup3",
    "measure belonging reflects bel1, bel2, bel3, bel4",
    "H1: support raises belonging through confidence",
  ];
  await writeText(page, [...theory, "H2: support alters confidence to belonging"].join("\n"));
  await settled(page);
  await page.goto("/study/demo-factors/probe");
  await expect(page.getByRole("slider")).toBeVisible();
  await expect(page.getByText(/Standardised interaction/)).toBeVisible();
  await page.goto("/study/demo-factors/hypotheses");
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(page, [...theory, "groups by site with loadings equal"].join("\n"));
  await settled(page);
  await page.goto("/study/demo-factors/evidence");
  await expect(page.getByRole("region", { name: "Invariance of measurement" })).toContainText(
    "scalar",
  );
  expect(await faults(page)).toEqual([]);
  await page.goto("/study/demo-factors/hypotheses");
  await page.getByLabel("Groups", { exact: true }).hover();
  await page.getByRole("button", { name: "One group again" }).click();
  await page.getByRole("button", { name: "Analysis settings" }).click();
  await page.getByLabel("Missing answers").selectOption("everybody");
  await page.getByRole("button", { name: "Close", exact: true }).click();
  await expect(page.getByRole("link", { name: /360 of 360/ })).toBeVisible();
});

test("factors are chosen in sentences like any variable, before their items", async ({ page }) => {
  await open(page, "hypotheses");
  await page.getByRole("button", { name: "Who or what: choose" }).click();
  const offered = page.getByRole("listbox").getByRole("option");
  await expect(offered.first()).toContainText("a common factor of");
  await offered.filter({ hasText: /^confidence/ }).click();
  await page.getByRole("button", { name: "What is affected: choose" }).last().click();
  await offered.filter({ hasText: /^belonging/ }).click();
  await settled(page);
  const line = page.getByLabel(/^Hypothesis H\d$/).last();
  await expect(line).toContainText("confidence");
  await expect(line).toContainText(/supported|unsettled/);
});

test("factors of second order and known reliabilities are made by clicks", async ({ page }) => {
  await open(page, "measures");
  const make = async (name: string, items: RegExp[]): Promise<void> => {
    await page.getByRole("button", { name: "New measure" }).click();
    const dialog = page.getByRole("dialog");
    await dialog.getByLabel("Name", { exact: true }).fill(name);
    await dialog.getByRole("combobox", { name: "Items" }).click();
    for (const item of items) await page.getByRole("option", { name: item }).click();
    await dialog.getByLabel("Name", { exact: true }).click();
    await dialog.getByRole("button", { name: "Make the measure" }).click();
  };
  await make("strength", [/^confidence$/, /^support$/]);
  const whole = page.getByRole("region", { name: "Measure strength", exact: true });
  await expect(whole).toContainText("A factor of second order");
  await whole.getByRole("combobox", { name: "its scale comes from" }).selectOption("confidence");
  await make("stay", [/^hours$/]);
  const single = page.getByRole("region", { name: "Measure stay", exact: true });
  await single.getByRole("combobox", { name: "How stay is made" }).selectOption("common factor");
  await single.getByLabel("known reliability of hours").fill("1.2");
  await page.keyboard.press("Enter");
  await expect(single.getByRole("alert")).toContainText("above 0 and up to 1");
  await single.getByLabel("known reliability of hours").fill("0,85");
  await page.keyboard.press("Enter");
  await page.goto("/study/demo-factors/hypotheses");
  await page.getByRole("button", { name: "Text", exact: true }).click();
  const text = page.getByRole("textbox", { name: "Theory as text" });
  await expect(text).toContainText(
    "measure strength reflects confidence, support scaled by confidence",
  );
  await expect(text).toContainText("measure stay reflects hours with reliability 0.85");
});

test("answers are taken as ordered by one line, and everything says so", async ({ page }) => {
  await open(page, "hypotheses");
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await expect.poll(() => theoryText(page)).toContain("measure support");
  const theory = await theoryText(page);
  await writeText(page, `${theory.trimEnd()}\nmodel support as ordered`);
  await page.getByRole("button", { name: "Sentences", exact: true }).click();
  await expect(page.getByRole("combobox", { name: "Model of support" })).toHaveValue("ordered");
  await page.goto("/study/demo-factors/evidence");
  await expect(page.getByText(/ordered answers, DWLS/).first()).toBeVisible();
  const fit = page.getByRole("region", { name: "Fit" });
  await expect(fit.getByText(/Answers to sup1, sup2, sup3 and sup4 were taken as/)).toBeVisible();
  await fit.getByText("All indices of fit").click();
  await expect(fit.getByRole("columnheader", { name: "scaled and shifted" })).toBeVisible();
  await page.goto("/study/demo-factors/checks");
  const thresholds = page.getByRole("img", { name: /^Thresholds at/ });
  await expect(thresholds).toHaveCount(4);
  await expect(page.getByRole("row", { name: /^support/ }).last()).toBeVisible();
  expect(await faults(page)).toEqual([]);
});
