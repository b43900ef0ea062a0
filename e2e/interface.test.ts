import { readFileSync } from "node:fs";
import { expect, openDemo, settled, test, writeText } from "./fixtures";

test("a sentence by keyboard alone: each choice leads on, and what is typed replaces what stood there", async ({
  page,
}) => {
  await openDemo(page, "hypotheses");
  await settled(page);
  await page
    .getByLabel("New hypothesis")
    .getByRole("button", { name: /Who or what/ })
    .focus();
  await page.keyboard.press("Enter");
  await page.keyboard.type("support");
  await page.keyboard.press("Enter");
  // The choice leads on by itself; a key that comes before would be taken from the slot that it was
  // meant for.
  await expect(
    page.getByLabel("New hypothesis").getByRole("button", { name: /What is affected/ }),
  ).toBeFocused();
  await page.keyboard.press("Enter");
  await page.keyboard.type("belong");
  await page.keyboard.press("Enter");
  const through = page
    .getByLabel("Hypothesis H5")
    .getByRole("button", { name: "Mediator: choose" });
  await expect(through).toBeFocused();
  await page.keyboard.press("Enter");
  await page.keyboard.type("confid");
  await page.keyboard.press("Enter");
  const mediator = page
    .getByLabel("Hypothesis H5")
    .getByRole("button", { name: "Mediator: confidence" });
  await mediator.press("Enter");
  await page.keyboard.type("friends");
  await page.keyboard.press("Enter");
  await expect(
    page.getByLabel("Hypothesis H5").getByRole("button", { name: "Mediator: friends" }),
  ).toBeFocused();
});

test("choosing a command by Enter presses nothing else", async ({ page }) => {
  await openDemo(page, "screening");
  await page.getByRole("button", { name: "Leave rows 94 and 323 out" }).focus();
  await page.keyboard.press("Control+k");
  await page.keyboard.type("glossary");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog", { name: "Glossary" })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByText("420 of 420 people")).toBeVisible();
});

test("the hypothesis table is copied as a table and saved with all digits", async ({
  page,
  context,
}) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await openDemo(page, "evidence");
  await settled(page);
  await page.getByRole("button", { name: "Copy Hypotheses and decisions" }).click();
  await expect(page.getByRole("button", { name: "Copy Hypotheses and decisions" })).toContainText(
    "Copied",
  );
  const copied = await page.evaluate(async () => {
    const [item] = await navigator.clipboard.read();
    const html = await (await item!.getType("text/html")).text();
    return { html, text: await navigator.clipboard.readText() };
  });
  expect(copied.html).toContain("<table");
  expect(copied.text.split("\n")).toHaveLength(5);
  expect(copied.text).toContain("hours raises belonging through confidence\t0.029");

  const [csv] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Hypotheses and decisions as CSV" }).click(),
  ]);
  expect(readFileSync(await csv.path(), "utf8")).toMatch(/0\.02\d{8,}/);
  const [book] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Hypotheses and decisions as XLSX" }).click(),
  ]);
  expect(
    readFileSync(await book.path())
      .subarray(0, 2)
      .toString(),
  ).toBe("PK");
});

test("a row of a table is chosen by mouse or keys, and tells where its numbers come from", async ({
  page,
}) => {
  await openDemo(page, "evidence");
  await settled(page);
  const table = page.getByRole("region", { name: "Hypotheses and decisions" });
  const working = page.getByRole("group", { name: /^Working of H1: hours raises/ });
  await table.getByRole("button", { name: "H1" }).click();
  await expect(working).toBeInViewport();
  await expect(working).toContainText("b(hours → confidence) × b(confidence → belonging)");
  await expect(working).toContainText("supported.");
  await table.getByRole("button", { name: "H3" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("group", { name: /^Working of H3/ })).toBeVisible();
  await expect(working).toHaveCount(0);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("group", { name: /^Working of H3/ })).toHaveCount(0);

  // Of answers before any model, and of checks behind one.
  await page.getByRole("link", { name: /^Screening/ }).click();
  await page
    .getByRole("region", { name: "Descriptive statistics" })
    .getByRole("button", { name: "age" })
    .click();
  await expect(page.getByRole("group", { name: "Working of age" })).toContainText("Σ x / n");
  await page.getByRole("link", { name: /^Checks/ }).click();
  await page.getByRole("button", { name: "Show the working of these checks" }).first().click();
  await expect(page.getByText("Koenker 1981").first()).toBeVisible();
});

test("a study may begin with its theory; the data come later and the sentences stay", async ({
  page,
}) => {
  await page.goto("/");
  await page.getByRole("button", { name: "Start an empty study" }).click();
  await expect(page).toHaveURL(/hypotheses/);
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(page, "H1: x increases y");
  await page.getByRole("link", { name: /^Data/ }).click();
  await page.getByLabel("File with the data").setInputFiles({
    name: "small.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(
      `x,y\n${Array.from({ length: 30 }, (_, i) => `${(i * 7) % 23},${((i * 7) % 23) + ((i * 3) % 5)}`).join("\n")}`,
    ),
  });
  await page.getByRole("button", { name: "Use these data" }).click();
  await page.getByRole("link", { name: /^Hypotheses/ }).click();
  await settled(page);
  await expect(page.getByLabel("Hypothesis H1")).toContainText("supported");
});

test("nothing runs beyond the edge of a phone, and the page prints whole", async ({ page }) => {
  await openDemo(page, "evidence");
  await settled(page);
  await page.setViewportSize({ width: 390, height: 844 });
  const stages = page.getByRole("navigation", { name: "Stages of the work" });
  for (const [study, screen] of [
    ...["data", "screening", "measures", "hypotheses", "evidence", "checks"].map((s) => [
      "demo",
      s,
    ]),
    ["demo-lever", "probe"],
    ["demo-treatment", "evidence"],
  ] as [string, string][]) {
    await page.goto(`/study/${study}/${screen}`);
    await expect(page.getByRole("heading", { level: 1 }).first()).toBeVisible();
    await settled(page);
    await expect(stages.locator("[aria-current=page]")).toBeInViewport({ ratio: 1 });
    if (screen === "probe")
      expect((await page.getByRole("slider").first().boundingBox())!.width).toBeLessThan(380);
    expect(
      await page.evaluate(() => document.documentElement.scrollWidth - innerWidth),
      screen,
    ).toBeLessThanOrEqual(0);
  }
  await page.goto("/study/demo/evidence");
  await settled(page);
  await expect(page.locator("blockquote")).toBeVisible();
  await page.emulateMedia({ media: "print" });
  await expect(page.getByRole("navigation", { name: "Stages of the work" })).toBeHidden();
  const height = await page.evaluate(() => document.documentElement.scrollHeight);
  expect(height).toBeGreaterThan(2000);
});

test("a term leads to its entry, and the manual has a worked example for each design", async ({
  page,
}) => {
  await openDemo(page, "evidence");
  await settled(page);
  await page
    .getByRole("columnheader", { name: "SE", exact: true })
    .first()
    .getByText("SE", { exact: true })
    .click();
  const glossary = page.getByRole("dialog", { name: "Glossary" });
  await expect(glossary.locator("dt").first()).toContainText("SE");
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+k");
  await page.keyboard.type("manual");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "From a file to a sentence" })).toBeVisible();
  await page.getByRole("link", { name: "Mediation", exact: true }).click();
  await expect(page.getByText("H1: hours raises belonging through confidence")).toBeVisible();
  await page.reload();
  await expect(page.getByRole("heading", { name: "Mediation", exact: true })).toBeVisible();
});
