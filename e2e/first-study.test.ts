import { readFileSync } from "node:fs";
import {
  DEMO_STUDIES,
  cards,
  writeText,
  theoryText,
  aboutDemo,
  expect,
  gardenCsv,
  openDemo,
  settled,
  test,
} from "./fixtures";
import { written } from "./store";

test("from a spreadsheet to a verdict, and the study out and in again with the same digits", async ({
  page,
}) => {
  await page.goto("/");
  await expect(page.getByRole("heading", { name: "Language café", exact: true })).toBeVisible();

  await page
    .getByLabel("File to open")
    .setInputFiles({ name: "garden_study.csv", mimeType: "text/csv", buffer: gardenCsv() });
  await expect(page.getByText("240 rows, 5 columns")).toBeVisible();
  await page.getByRole("button", { name: "Start a study with these data" }).click();
  await expect(page.getByRole("grid", { name: "Data" })).toContainText("plot_hours");

  await page.getByRole("link", { name: /Hypotheses/ }).click();
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(
    page,
    "H1: plot_hours raises harvest through skill\nadjust skill, harvest for age, years_member",
  );
  await page.getByRole("button", { name: "Sentences" }).click();
  await expect(page.getByRole("button", { name: /plot_hours to skill: 0.25/ })).toBeVisible();
  await settled(page);
  await expect(page.getByLabel("Hypothesis H1")).toContainText("supported");
  await expect(page.getByLabel("Hypothesis H1")).toContainText("0.855");

  await page.getByRole("link", { name: /Evidence/ }).click();
  const report = page.locator("blockquote");
  await expect(report).toContainText("b = 0.855");
  const sentence = await report.textContent();
  await expect(page.getByText(/partial \(complementary\) mediation/)).toBeVisible();

  const downloading = page.waitForEvent("download");
  await page.getByRole("button", { name: "Export the study" }).click();
  const file = await (await downloading).path();
  const exported = JSON.parse(readFileSync(file, "utf8"));
  expect(exported.format).toBe("hebel-study");
  expect(exported.data.columns).toHaveLength(5);

  await page.getByRole("link", { name: "To the shelf" }).click();
  await page.getByRole("button", { name: "Remove Garden study" }).click();
  await expect(page.getByRole("heading", { name: "Garden study" })).toHaveCount(0);
  await page.getByLabel("File to open").setInputFiles({
    name: "back.hebel.json",
    mimeType: "application/json",
    buffer: readFileSync(file),
  });
  await expect(page).toHaveURL(/hypotheses/);
  await settled(page);
  await page.getByRole("link", { name: /Evidence/ }).click();
  await expect(report).toHaveText(sentence!);
});

test("the composer writes a sentence by slots, and undo takes it back", async ({ page }) => {
  await openDemo(page, "hypotheses");
  await settled(page);
  const fresh = page.getByLabel("New hypothesis");
  await fresh.getByRole("button", { name: /Who or what/ }).click();
  await page.getByRole("combobox", { name: "Who or what" }).fill("supp");
  await page.getByRole("option", { name: "support" }).click();
  await fresh.getByRole("button", { name: /What is affected/ }).click();
  await page.getByRole("combobox", { name: "What is affected" }).fill("belong");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Hypothesis H5")).toContainText("support");
  await settled(page);
  await expect(page.getByLabel("Hypothesis H5")).toContainText("direct");
  await written(page, "H5: support");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByLabel("Hypothesis H5")).toHaveCount(0);
  await page.getByRole("button", { name: "Redo" }).click();
  await expect(page.getByLabel("Hypothesis H5")).toBeVisible();
});

test("a faulty line names place and nearest name, and one click mends it", async ({ page }) => {
  await openDemo(page, "hypotheses");
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(page, aboutDemo("H1: hours raises belongin through confidence"));
  await expect(
    page.getByText("Line 4, column 18: No variable is called “belongin”."),
  ).toBeVisible();
  await page.getByRole("button", { name: "Write “belonging”" }).click();
  await expect
    .poll(() => theoryText(page))
    .toBe(aboutDemo("H1: hours raises belonging through confidence"));
  await writeText(
    page,
    aboutDemo("H1: hours raises belonging through confidence", "H2: belonging raises hours"),
  );
  await expect(page.getByRole("alert")).toContainText("hours → ");
});

test("everything is kept: reload, a second tab, a long run stopped", async ({ page, context }) => {
  await openDemo(page, "hypotheses");
  await page.getByLabel("Research question").fill("Does the café help?");
  await written(page, "Does the café help?");
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByLabel("Research question")).toHaveValue("Does the café help?");
  await other.getByLabel("Title of the study").fill("Café, again");
  await expect(page.getByLabel("Title of the study")).toHaveValue("Café, again");
  await other.close();
  await page.reload();
  await expect(page.getByLabel("Title of the study")).toHaveValue("Café, again");

  await page.getByRole("button", { name: "Analysis settings" }).click();
  await page.getByLabel("Bootstrap samples", { exact: true }).fill("100000");
  await page.getByRole("button", { name: "Close", exact: true }).click();
  await page.getByRole("button", { name: "Stop" }).click();
  await expect(page.getByText(/stopped at/)).toBeVisible();
  await expect(page.getByLabel("Hypothesis H1")).toContainText("supported");
});

test("wrong files get a message and change nothing", async ({ page }) => {
  await page.goto("/");
  await expect(cards(page)).toHaveCount(DEMO_STUDIES);
  const open = async (name: string, body: string | Buffer, says: RegExp): Promise<void> => {
    await page
      .getByLabel("File to open")
      .setInputFiles({ name, mimeType: "application/octet-stream", buffer: Buffer.from(body) });
    await expect(page.getByRole("alert")).toContainText(says);
    await page.getByRole("button", { name: "Close" }).click();
  };
  await open("damaged.hebel.json", '{"format":"hebel-study","version":1,', /not readable JSON/);
  await open("foreign.json", '{"hello":"world"}', /not a Hebel study/);
  await open("picture.csv", Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0]), /PNG picture/);
  await open("ragged.csv", "a,b\n1,2\n3,4,5\n", /Row 3 has 3 cells/);
  await expect(cards(page)).toHaveCount(DEMO_STUDIES);
});

test("works with the network cut after loading", async ({ page, context }) => {
  await openDemo(page, "hypotheses");
  await settled(page);
  // What may be needed later is fetched once the page stands: the import comes last.
  await page.waitForFunction(() =>
    performance.getEntriesByType("resource").some(({ name }) => name.includes("import-dialog")),
  );
  await page.waitForLoadState("networkidle");
  await context.setOffline(true);
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await expect(page.getByLabel("Theory as text")).toBeVisible();
  await page.getByRole("link", { name: /Data/ }).click();
  await expect(page.getByRole("grid", { name: "Data" })).toContainText("P001");
  await page.getByRole("link", { name: /Evidence/ }).click();
  await expect(page.locator("blockquote")).toContainText("indirect effect");
  await page.getByRole("link", { name: "To the shelf" }).click();
  await expect(page.getByRole("heading", { name: "Your shelf" })).toBeVisible();
  await page
    .getByLabel("File to open")
    .setInputFiles({ name: "garden.csv", mimeType: "text/csv", buffer: gardenCsv() });
  await page.getByRole("button", { name: "Start a study with these data" }).click();
  await expect(page.getByRole("grid", { name: "Data" })).toContainText("plot_hours");
});

test("a variable chosen wrongly is put right in every sentence at once", async ({ page }) => {
  await openDemo(page, "hypotheses");
  await settled(page);
  const adjusted = page.getByLabel("Adjustment", { exact: true });
  await expect(adjusted).toContainText("months");
  await page.getByRole("button", { name: "another variable everywhere …" }).click();
  const row = page.getByLabel("Another variable everywhere");
  await row.getByRole("button", { name: /Variable to replace/ }).click();
  await page.getByRole("combobox", { name: "Variable to replace" }).fill("months");
  await page.getByRole("option", { name: "months", exact: true }).click();
  await row.getByRole("button", { name: /Variable in its place/ }).click();
  await page.getByRole("combobox", { name: "Variable in its place" }).fill("support");
  await page.getByRole("option", { name: "support", exact: true }).click();
  await expect(page.getByLabel("Hypothesis H4")).toContainText("support");
  await expect(adjusted).toContainText("support");
  await expect(adjusted).not.toContainText("months");
  await settled(page);
  await expect(page.getByLabel("Hypothesis H4")).toContainText("direct");
});
