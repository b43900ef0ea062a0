import { readFileSync } from "node:fs";
import { join } from "node:path";
import exceljs from "exceljs";
import { settled, expect, openFile, test } from "./fixtures";

/**
 * An orchard's trees: names with units, a site of three levels, years written as dates, yields in
 * millions of grams.
 */
function orchardCsv(): Buffer {
  let state = 7;
  const uniform = (): number => {
    state = (state * 16807) % 2147483647;
    return state / 2147483647;
  };
  const normal = (): number =>
    Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
  const lines = ['Site,Planted,Pruning (h),"Light, at noon (lx)",Yield (g)'];
  for (let i = 0; i < 150; i++) {
    const site = i % 3;
    const pruning = 4 + normal();
    const light = 30 + 5 * pruning + 4 * site + 6 * normal();
    const yields = 1e6 * (20 + 1.5 * light + 3 * pruning + 12 * normal());
    const cells = [light.toFixed(1), yields.toFixed(0)];
    if (i % 29 === 0) cells[0] = "NA";
    lines.push(
      [
        ["North slope", "River", "South slope"][site],
        `20${10 + (i % 7)}-01-01`,
        pruning.toFixed(2),
        ...cells,
      ].join(","),
    );
  }
  return Buffer.from(lines.join("\n"));
}

test("a file nobody here has seen before: from the import to the sentence by keyboard alone, and on to the report", async ({
  page,
}) => {
  await openFile(page, "orchard.csv", orchardCsv());
  await page.getByRole("button", { name: "Start a study with these data" }).press("Enter");
  await expect(page.getByRole("heading", { name: "Data" })).toBeVisible();
  const stages = page.getByRole("navigation", { name: "Stages of the work" });
  await stages.getByRole("link", { name: /Hypotheses/ }).press("Enter");

  const focused = page.locator(":focus");
  const slot = page.getByRole("button", { name: "Who or what: choose" });
  await slot.focus();
  // A letter opens the list and is the first of the name; a choice leads to what the sentence still
  // needs.
  await page.keyboard.type("prun", { delay: 40 });
  await expect(page.getByRole("combobox", { name: "Who or what" })).toHaveValue("prun");
  await page.keyboard.press("Enter");
  await expect(focused).toHaveAccessibleName("What is affected: choose");
  await page.keyboard.type("yield", { delay: 40 });
  await page.keyboard.press("Enter");
  await expect(focused).toHaveAccessibleName("Mediator: choose");
  await page.keyboard.type("light", { delay: 40 });
  await page.keyboard.press("Enter");
  await expect(focused).toHaveAccessibleName("Mediator: Light, at noon (lx)");
  await settled(page);
  await expect(page.getByLabel("Hypothesis H1")).toContainText("supported");

  // The outcome may come before the cause: nothing that is chosen is lost.
  const fresh = page.getByLabel("New hypothesis");
  await fresh.getByRole("button", { name: "What is affected: choose" }).press("Enter");
  await page.keyboard.type("light", { delay: 40 });
  await page.keyboard.press("Enter");
  await expect(focused).toHaveAccessibleName("Who or what: choose");
  await page.keyboard.type("site", { delay: 40 });
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Hypothesis H2")).toContainText("Light, at noon (lx)");

  await page.getByRole("button", { name: "covariates" }).press("Enter");
  await page.getByRole("button", { name: "Covariate: choose" }).press("Enter");
  await page.keyboard.type("plan", { delay: 40 });
  await page.keyboard.press("Enter");
  await settled(page);
  // A variable of seven levels is one variable, however many columns stand for it.
  await expect(page.getByText(/^Adjusted for Planted: /)).toBeVisible();

  await stages.getByRole("link", { name: /Evidence/ }).press("Enter");
  const ledger = page.getByRole("region", { name: "Ledger of hypotheses" });
  await expect(ledger).toContainText("Pruning (h) raises Yield (g) through Light, at noon (lx)");
  await stages.getByRole("link", { name: /Checks/ }).press("Enter");
  await expect(
    page.getByText(/^explained by Pruning \(h\), Site and Planted; \d+ rows/),
  ).toBeVisible();
  await stages.getByRole("link", { name: /Report/ }).press("Enter");
  await expect(
    page.getByText(
      /H1 \(Pruning \(h\) raises Yield \(g\) through Light, at noon \(lx\)\) was supported/,
    ),
  ).toBeVisible();
});

/** The answers of the language café in a workbook whose first sheet is empty. */
async function answersXlsx(): Promise<Buffer> {
  const rows = readFileSync(join(import.meta.dirname, "../demo/language-cafe.csv"), "utf8")
    .trim()
    .split(/\r?\n/)
    .map((line) => line.split(",").map((cell) => (cell === "" || isNaN(+cell) ? cell : +cell)));
  const book = new exceljs.Workbook();
  book.addWorksheet("Cover");
  book.addWorksheet("Answers").addRows(rows);
  return Buffer.from(await book.xlsx.writeBuffer());
}

test("a workbook of items becomes a parallel mediation in a Word document by twenty clicks, that of the file among them", async ({
  page,
}) => {
  await openFile(page, "answers.xlsx", await answersXlsx());
  const press = async (role: "button" | "link" | "option", name: string | RegExp) => {
    await page.getByRole(role, { name }).first().click();
  };
  const choose = async (slot: string, name: RegExp) => {
    await press("button", slot);
    await press("option", name);
  };
  await press("button", "Start a study with these data");
  await press("link", /^Measures/);
  for (const left of [2, 1, 0]) {
    await press("button", "Make a measure");
    await expect(page.getByRole("button", { name: "Make a measure" })).toHaveCount(left);
  }
  await press("link", /^Hypotheses/);
  await choose("Who or what: choose", /^hours/);
  await choose("What is affected: choose", /^bel/);
  await choose("Mediator: choose", /^conf/);
  await choose("Another mediator beside it: choose", /^friends/);
  await press("button", "covariates");
  await choose("Covariate: choose", /^age/);
  await press("link", /^Report/);
  const saved = page.waitForEvent("download");
  await press("button", /Word/);
  expect((await saved).suggestedFilename()).toBe("answers-report.docx");
});
