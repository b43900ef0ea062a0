import { join } from "node:path";
import { theoryText, aboutDemo, expect, openDemo, settled, test, writeText } from "./fixtures";

const demoFile = (name: string): string => join(import.meta.dirname, "../demo", name);

test("from a workbook to a reliable measure: sheet, family of items, an item keyed the other way", async ({
  page,
}) => {
  await page.goto("/");
  await page.getByLabel("File to open").setInputFiles(demoFile("language-cafe.xlsx"));
  const dialog = page.getByRole("dialog", { name: "language-cafe.xlsx" });
  await dialog.getByLabel("Sheet").selectOption("codebook");
  await expect(dialog.getByText("21 rows, 5 columns")).toBeVisible();
  await dialog.getByLabel("Sheet").selectOption("answers");
  await expect(dialog.getByText("420 rows, 21 columns")).toBeVisible();
  await dialog.getByRole("button", { name: "Start a study with these data" }).click();
  await expect(page).toHaveURL(/data/);

  await page.getByRole("link", { name: /^Measures \(/ }).click();
  const family = page.getByRole("listitem").filter({ hasText: "conf1, conf2, conf3r, conf4" });
  await family.getByRole("button", { name: "Make a measure" }).click();
  const measure = page.getByLabel("Measure conf", { exact: true });
  await expect(measure.getByText(/conf3r runs against the other items/)).toBeVisible();
  await measure.getByRole("button", { name: "Reverse conf3r" }).click();
  await expect(measure.getByText(/runs against/)).toHaveCount(0);
  await expect(measure.locator("dl")).toContainText("0.815");
  await measure.getByLabel("Name of the measure").fill("confidence");
  await measure.getByLabel("Name of the measure").press("Enter");
  await expect(page.getByLabel("Measure confidence", { exact: true })).toBeVisible();

  await page.getByRole("link", { name: /Hypotheses/ }).click();
  await page.getByRole("button", { name: "Text", exact: true }).click();
  const text = page.getByLabel("Theory as text");
  await expect
    .poll(() => theoryText(page))
    .toBe("measure confidence averages conf1, conf2, reversed conf3r, conf4 on 1 to 5");
  await text.press("Control+End");
  await text.pressSequentially("\nH1: hours raises confidence");
  await page.getByRole("button", { name: "Sentences" }).click();
  await settled(page);
  await expect(page.getByLabel("Hypothesis H1")).toContainText("supported");

  // The editor remembers what was typed, also after it was left.
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await text.press("Control+z");
  await expect.poll(() => theoryText(page)).not.toContain("H1");
  // Lines that are pasted into it go into it, and nowhere else.
  await text.press("Control+End");
  await page
    .locator(".cm-line")
    .last()
    .evaluate((line) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData(
        "text/plain",
        "\nH1: hours raises confidence\nH2: hours raises friends",
      );
      line.dispatchEvent(
        new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true }),
      );
    });
  await expect.poll(() => theoryText(page)).toContain("H2: hours raises friends");
  await expect(page.getByRole("dialog")).toHaveCount(0);
});

test("screening: a finding becomes a named filter, the sample follows, and undo brings the rows back", async ({
  page,
}) => {
  await openDemo(page, "screening");
  await expect(page.getByText(/friends is far from the rest in rows 94 and 323/)).toBeVisible();
  await page.getByRole("button", { name: "Leave rows 94 and 323 out" }).click();
  await expect(page.getByText("418 of 420 people")).toBeVisible();
  await expect(page.getByRole("banner")).toContainText("410 of 420");
  await page.getByRole("checkbox", { name: /outliers of friends/ }).uncheck();
  await expect(page.getByRole("banner")).toContainText("412 of 420");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("banner")).toContainText("410 of 420");
  await page.getByRole("button", { name: "confidence with belonging" }).click();
  await expect(page.getByRole("status").filter({ hasText: "95 % CI" })).toContainText(
    /confidence with belonging: r 0\.\d{3}, 95 % CI/,
  );
});

test("the grid by keyboard: find, correct a cell, read the log, sort, show only some rows", async ({
  page,
}) => {
  await openDemo(page, "data");
  await page.getByLabel("Find in the cells").fill("P094");
  await page.getByLabel("Find in the cells").press("Enter");
  const grid = page.getByRole("grid", { name: "Data" });
  await expect
    .poll(async () => {
      const active = await grid.getAttribute("aria-activedescendant");
      return page.locator(`[id="${active}"]`).textContent();
    })
    .toBe("P094");
  await grid.focus();
  for (let i = 0; i < 3; i++) await grid.press("ArrowRight");
  await grid.press("4");
  await page.getByLabel("New value of age").fill("44");
  await page.getByLabel("New value of age").press("Enter");
  await expect(page.getByTitle("Corrected; it was “26”")).toHaveText("44");
  await page.getByRole("button", { name: "Log (1)" }).click();
  await expect(page.getByText("age in row 94 corrected from “26” to “44”")).toBeVisible();
  await page.getByLabel(/Why: age in row 94/).fill("typing error");
  await page.getByRole("button", { name: "Close", exact: true }).click();
  await page.getByRole("button", { name: "Sort by age" }).click();
  await expect(grid.getByRole("row").nth(1)).toContainText("18");
  await page.getByLabel("Show only rows where").fill("hours > 6 and group = 'weekly cafe'");
  await expect(page.getByText(/^\d+ rows?$/)).toBeVisible();
  await page.getByRole("button", { name: "Leave these out of analyses" }).click();
  await expect(page.getByRole("group", { name: "Left out of analyses" })).toContainText(
    "hours > 6",
  );
  await page.getByLabel("Show only rows where").fill("hours >");
  await expect(page.getByText(/Something is missing at the end/)).toBeVisible();
});

test("a variable made of another follows it, and a newer file lists what no longer fits before anything changes", async ({
  page,
}) => {
  await openDemo(page, "data");
  await page.getByRole("button", { name: /^months/ }).click();
  await page.getByRole("button", { name: "Logarithm" }).click();
  const dialog = page.getByRole("dialog", { name: "A new variable" });
  await dialog.getByLabel("Name").fill("log_months");
  await dialog.getByRole("button", { name: "Make it" }).click();
  await expect(page.getByLabel("Column log_months")).toContainText("natural logarithm of months");

  await page.getByRole("button", { name: "Files" }).click();
  await page.getByLabel("File with newer data").setInputFiles({
    name: "newer.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("id,hours,age\nP001,2,30\nP002,3,31\nP003,4,32\n"),
  });
  await page.getByRole("button", { name: "Use these data" }).click();
  const list = page.getByRole("alert");
  await expect(list).toContainText("Nothing has been changed yet");
  await expect(list).toContainText(
    /no column “months”, which is used by the derived variable “log_months”/,
  );
  await page.getByRole("button", { name: "Cancel" }).click();
  await expect(page.getByRole("banner")).toContainText("of 420");
});

test("cells pasted from a spreadsheet open the import", async ({ page }) => {
  await page.goto("/");
  await expect(page.getByRole("heading", { name: "Language café", exact: true })).toBeVisible();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData("text/plain", "x\ty\n1\t2,5\n2\t3,5\n3\t1,5\n");
    dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true }));
  });
  const dialog = page.getByRole("dialog", { name: "Pasted cells.tsv" });
  await expect(dialog.getByText("3 rows, 2 columns")).toBeVisible();
  await dialog.getByRole("button", { name: "Start a study with these data" }).click();
  await expect(page.getByRole("button", { name: /^y/ })).toBeVisible();
});

test("a correlation matrix is estimated as far as it can be", async ({ page }) => {
  await page.goto("/");
  await page.getByLabel("File to open").setInputFiles({
    name: "matrix.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("name,x,m,y\nx,1,,\nm,.5,1,\ny,.3,.6,1\nn,100,,\n"),
  });
  await expect(page.getByLabel(/covariance or correlation matrix/)).toBeChecked();
  await page.getByRole("button", { name: "Start a study with these data" }).click();
  await expect(page.getByText(/only by the means and covariances of 100/)).toBeVisible();
  await page.getByRole("link", { name: /Hypotheses/ }).click();
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(page, "H1: x raises y through m");
  await page.getByRole("button", { name: "Sentences" }).click();
  await expect(page.getByLabel("Hypothesis H1")).toContainText("supported");
  await expect(page.getByRole("button", { name: "Analysis settings" })).toContainText(
    "nothing resampled",
  );
  await page.getByRole("link", { name: /Evidence/ }).click();
  await expect(page.getByRole("region", { name: "Ledger of hypotheses" })).toBeVisible();
  await expect(page.getByText(/have not arrived yet/)).toHaveCount(0);
});

test("items of which only correlations are known become factors by click, and factors sentences", async ({
  page,
}) => {
  // Two factors, loadings .8, .7, .6 each, correlated .5.
  const loadings = [0.8, 0.7, 0.6];
  const names = ["calm1", "calm2", "calm3", "sleep1", "sleep2", "sleep3"];
  const matrix = names.map((_, i) =>
    names.map((__, j) => {
      if (j > i) return "";
      const between = Math.floor(i / 3) === Math.floor(j / 3) ? 1 : 0.5;
      return i === j ? "1" : String(between * loadings[i % 3]! * loadings[j % 3]!);
    }),
  );
  await page.goto("/");
  await page.getByLabel("File to open").setInputFiles({
    name: "matrix.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(
      [
        `name,${names.join(",")}`,
        ...matrix.map((row, i) => `${names[i]},${row.join(",")}`),
        "n,250,,,,,",
      ].join("\n"),
    ),
  });
  await page.getByRole("button", { name: "Start a study with these data" }).click();
  await page
    .getByRole("link", { name: /^Measures/ })
    .first()
    .click();
  for (const stem of ["calm", "sleep"]) {
    await page.getByRole("button", { name: "Make a measure" }).first().click();
    const card = page.getByRole("region", { name: `Measure ${stem}`, exact: true });
    await expect(card.getByRole("combobox", { name: `How ${stem} is made` })).toHaveValue(
      "reflects",
    );
    await expect(card.getByRole("row", { name: new RegExp(`^${stem}3`) })).toContainText(
      /as it is–1\.00.*0\.60/,
    );
  }
  await page.getByRole("link", { name: /^Hypotheses/ }).click();
  await page.getByRole("button", { name: "Who or what: choose" }).click();
  await page.getByRole("option", { name: "calm", exact: true }).click();
  await page.getByRole("button", { name: "What is affected: choose" }).click();
  await page.getByRole("option", { name: "sleep", exact: true }).click();
  const line = page.getByLabel("Hypothesis H1");
  await expect(line).toContainText("supported");
  await expect(page.getByRole("button", { name: /^calm to sleep/ })).toBeVisible();
});

test("what the theory measures is screened, and the codebook comes back", async ({ page }) => {
  await openDemo(page, "hypotheses");
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(page, aboutDemo("H1: support raises belonging"));
  await page.getByRole("link", { name: /Screening/ }).click();
  await expect(page.getByText("The variables of the theory: support, belonging")).toBeVisible();
  await page.getByRole("link", { name: /Data/ }).click();
  await page.getByRole("button", { name: "Files" }).click();
  await page.getByLabel("Codebook file").setInputFiles({
    name: "codebook.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("variable,label,unit\nhours,hours at the table,a month\n"),
  });
  await expect(page.getByText("1 variable changed by codebook.csv.")).toBeVisible();
  await page.getByRole("button", { name: /^hours/ }).click();
  await expect(page.getByLabel("Unit", { exact: true })).toHaveValue("a month");
});

test("a column called otherwise is called so in every sentence, and undo takes that back", async ({
  page,
}) => {
  await openDemo(page, "data");
  const grid = page.getByRole("grid", { name: "Data" });
  await grid
    .getByRole("button", { name: /^hours/ })
    .first()
    .click();
  const panel = page.getByLabel("Column hours");
  await panel.getByLabel("Name in sentences").fill("belonging");
  await page.keyboard.press("Enter");
  await expect(panel.getByRole("alert")).toContainText("another column or measure");
  await panel.getByLabel("Name in sentences").fill("weekly hours");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Column weekly hours")).toContainText("“hours” in the data.");
  await page.getByRole("button", { name: /^Log( |$)/ }).click();
  await expect(page.getByRole("dialog")).toContainText("hours is called weekly hours");
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "Hypotheses" }).click();
  await settled(page);
  await expect(page.getByLabel("Hypothesis H1", { exact: true })).toContainText("weekly hours");
  await expect(page.getByLabel("Hypothesis H1", { exact: true })).toContainText("supported");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(
    page
      .getByLabel("Hypothesis H1", { exact: true })
      .getByRole("button", { name: "Who or what: hours" }),
  ).toBeVisible();
});
