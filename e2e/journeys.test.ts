import { readFileSync } from "node:fs";
import type { Page } from "@playwright/test";
import { aboutDemo, expect, openDemo, settled, test, writeText } from "./fixtures";
import { written } from "./store";

async function writeTheory(page: Page, lines: string[]): Promise<void> {
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(page, lines.join("\n"));
  await page.getByRole("button", { name: "Sentences" }).click();
}

test("a condition with three groups: a joint test, pairwise differences, a comparison by slot, another reference, which binary level is 1", async ({
  page,
}) => {
  await openDemo(page, "hypotheses");
  await writeTheory(page, [
    aboutDemo("H1: group affects belonging through confidence", "H2: renewed affects friends"),
  ]);
  await settled(page);
  await page.getByRole("button", { name: /renewed to friends/ }).press("Enter");
  await expect(
    page.getByRole("table", { name: "friends by renewed" }).getByRole("row", { name: /^yes/ }),
  ).toContainText(/\d+ *[\d.]+/);
  await page.getByRole("link", { name: /Evidence/ }).click();
  await expect(
    page.getByText(
      "indicator coding: weekly cafe against waiting list; cafe with partner against waiting list",
    ),
  ).toBeVisible();
  const joint = page.getByText(/Joint bootstrap test of the 2 effects, T = [\d.]+, p/).first();
  await expect(joint).toBeVisible();
  await settled(page);
  const said = await joint.textContent();
  await expect(
    page.getByRole("table", { name: "Pairwise differences, H1" }).getByRole("row"),
  ).toHaveCount(4);

  await page.getByRole("link", { name: /Data/ }).click();
  await page
    .getByRole("grid", { name: "Data" })
    .getByRole("button", { name: /^group/ })
    .click();
  await page.getByLabel("Reference level").selectOption("weekly cafe");
  await page.getByRole("link", { name: /Evidence/ }).click();
  await expect(
    page.getByText(
      "indicator coding: waiting list against weekly cafe; cafe with partner against weekly cafe",
    ),
  ).toBeVisible();
  await settled(page);
  // Another reference is another way of writing the same test.
  await expect(joint).toHaveText(said!);

  await page.getByRole("link", { name: /Hypotheses/ }).click();
  const sentence = page.getByLabel("Hypothesis H1");
  await sentence.getByLabel("Direction").selectOption("raises");
  await expect(sentence).toContainText("needs a comparison");
  await sentence.getByRole("button", { name: /^Levels compared/ }).click();
  await page.getByRole("combobox").fill("partner against waiting");
  await page.getByRole("option", { name: "cafe with partner against waiting list" }).click();
  await settled(page);
  await expect(sentence).toContainText(/difference \d/);

  await page.getByRole("link", { name: /Data/ }).click();
  await page
    .getByRole("grid", { name: "Data" })
    .getByRole("button", { name: /^group/ })
    .focus();
  await page
    .getByRole("grid", { name: "Data" })
    .evaluate((element) => element.scrollTo({ left: 99_999 }));
  await page.getByRole("button", { name: /^renewed/ }).click();
  await expect(page.getByText("yes = 1, no = 0")).toBeVisible();
  await page.getByRole("button", { name: "Let “no” be 1" }).click();
  await expect(page.getByText("no = 1, yes = 0")).toBeVisible();
});

test("covariates and errors side by side; another kind of error or interval costs nothing", async ({
  page,
}) => {
  await openDemo(page, "evidence");
  await settled(page);
  await page.getByRole("button", { name: "standard errors side by side" }).click();
  const table = page.getByRole("table", { name: "Standard errors, equation of confidence" });
  await expect(table.getByRole("row", { name: /^hours/ })).toContainText(
    /0\.123.*0\.0\d\d \(< \.001\).*0\.0\d\d \(< \.001\)/,
  );
  await page.getByRole("button", { name: "Analysis settings" }).click();
  await page.getByRole("dialog").getByLabel("Standard errors").selectOption("HC4");
  await page.getByRole("dialog").getByLabel("Interval", { exact: true }).selectOption("delta");
  await page.getByRole("button", { name: "Close", exact: true }).click();
  await expect(page.locator("blockquote")).toContainText("delta-method CI");
  await expect(page.locator("blockquote")).toContainText("HC4 errors");
  await page.getByRole("button", { name: "coefficients", exact: true }).click();
  await expect(page.getByRole("columnheader", { name: "SE (HC4)" }).first()).toBeVisible();
});

test("all effects in one table, own quantities and contrasts with intervals, as CSV too", async ({
  page,
}) => {
  await openDemo(page, "hypotheses");
  await writeTheory(page, [
    aboutDemo("H1: hours raises belonging through confidence"),
    "H2: hours raises belonging through confidence then friends",
    "contrast H1 with H2",
    "define part as H2 / (H1 + H2)",
  ]);
  await settled(page);
  await page.getByRole("link", { name: /Evidence/ }).click();
  const every = page.getByRole("region", { name: "Every effect" });
  await every.getByRole("button", { name: "shares and user-defined quantities" }).click();
  const part = every.getByRole("row", { name: /^part/ });
  await expect(part).toContainText(/0\.\d{3}/);
  await expect(every.getByRole("row", { name: /^H1 minus H2/ })).toBeVisible();
  await part.getByRole("button", { name: "part" }).click();
  await expect(page.getByRole("complementary", { name: "Bootstrap distribution" })).toContainText(
    "part",
  );
  await every.getByRole("button", { name: "both in SDs" }).click();
  await expect(every.getByRole("row", { name: /^total indirect/ }).first()).toBeVisible();
  const downloading = page.waitForEvent("download");
  await page.getByRole("button", { name: "Effects as CSV" }).click();
  expect((await downloading).suggestedFilename()).toBe("language-café-effects.csv");
});

test("an empty study says what to do, a theory about a bad column says where", async ({ page }) => {
  await page.goto("/");
  const csv = [
    "x,m,y,flat",
    ...Array.from(
      { length: 40 },
      (_, i) => `${(i * 7) % 23},${i === 11 ? "tow" : (i * 5) % 17},${(i * 3) % 29},1`,
    ),
  ].join("\n");
  await page
    .getByLabel("File to open")
    .setInputFiles({ name: "small.csv", mimeType: "text/csv", buffer: Buffer.from(csv) });
  await page.getByRole("button", { name: "Start a study with these data" }).click();
  await expect(
    page.getByRole("button", { name: /m: “tow” in row 12 is not a number/ }),
  ).toBeVisible();
  await page.getByRole("link", { name: /Evidence/ }).click();
  await expect(page.getByText("There is nothing to weigh yet.")).toBeVisible();
  await page.getByRole("link", { name: "Write a hypothesis" }).click();
  await writeTheory(page, ["x raises y through m"]);
  await expect(page.getByRole("alert")).toContainText(
    "“tow” in column “m”, row 12, is not a number",
  );
  await page.getByRole("link", { name: /Data/ }).click();
  await page.getByRole("button", { name: /^m/ }).first().click();
  await page.getByLabel("Codes for missing values").fill("tow");
  await page.getByRole("link", { name: /Hypotheses/ }).click();
  await expect(page.getByRole("button", { name: /x to m/ })).toBeVisible();
  await writeTheory(page, ["x raises y", "adjust y for flat"]);
  await expect(page.getByRole("alert")).toContainText("“flat” has the same value (1)");
});

test("a newer file takes the place of the data, and what was said of its columns stays", async ({
  page,
}) => {
  await page.goto("/");
  const csv = (rows: number): Buffer =>
    Buffer.from(
      [
        "x,y",
        ...Array.from(
          { length: rows },
          (_, i) => `${(i * 7) % 23},${((i * 7) % 23) + ((i * 3) % 11)}`,
        ),
      ].join("\n"),
    );
  await page
    .getByLabel("File to open")
    .setInputFiles({ name: "first.csv", mimeType: "text/csv", buffer: csv(30) });
  await page.getByRole("button", { name: "Start a study with these data" }).click();
  await page.getByRole("button", { name: /^x/ }).click();
  await page.getByLabel("Label").fill("the cause");
  await written(page, "the cause");
  await page
    .getByLabel("File with newer data")
    .setInputFiles({ name: "newer.csv", mimeType: "text/csv", buffer: csv(55) });
  await page.getByRole("button", { name: "Use these data" }).click();
  await expect(page.getByText("55 rows, 2 columns")).toBeVisible();
  await page.getByRole("link", { name: /Hypotheses/ }).click();
  await writeTheory(page, ["x raises y"]);
  await settled(page);
  await expect(page.getByLabel("Hypothesis H1")).toContainText("supported");
  await expect(page.getByRole("link", { name: "55 of 55 people" })).toBeVisible();
});

test("every interval in one picture, and the theory in z-scores with intervals of its own", async ({
  page,
}) => {
  await page.goto("/");
  await page.getByRole("link", { name: /^Language café, for whom/ }).click();
  await page.getByRole("link", { name: /Evidence/ }).click();
  await settled(page);
  await page.getByRole("button", { name: "forest" }).click();
  await expect(
    page.getByRole("img", { name: /^Effects on confidence: \d+ intervals/ }),
  ).toBeVisible();
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page
      .getByRole("group", { name: /^Take along: .* intervals$/ })
      .getByRole("button", { name: "SVG" })
      .click(),
  ]);
  const svg = readFileSync((await file.path())!, "utf8");
  expect(svg).toContain("Effects on confidence");
  expect(svg).toMatch(/<text[^>]*>p (= |&lt; )\.\d{3}/);
  expect(svg.match(/<path/g)!.length).toBeGreaterThan(20);
  await page.getByRole("button", { name: "standardised variables" }).click();
  const row = page
    .getByRole("table", { name: "Equation of confidence, standardised variables" })
    .getByRole("row", { name: /^hours × support/ });
  const score = await row.getByRole("cell").first().textContent();
  await page.getByRole("button", { name: "Analysis settings" }).click();
  await page.getByLabel("Variables in interaction terms").selectOption("standardised");
  await page.keyboard.press("Escape");
  await settled(page);
  await page.getByRole("button", { name: "coefficients", exact: true }).click();
  const now = page
    .getByRole("table", { name: "Equation of confidence", exact: true })
    .getByRole("row", { name: /^hours × support/ });
  await expect(now.getByRole("cell").first()).toHaveText(score!);
  await expect(page.getByRole("columnheader", { name: "b (z-scores)" }).first()).toBeVisible();
});

test("a latent mediation: items measured and paths estimated together, from the sentence to the fit", async ({
  page,
}) => {
  await openDemo(page, "hypotheses");
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(
    page,
    [
      "measure confidence reflects conf1, conf2, reversed conf3r, conf4 on 1 to 5",
      "measure belonging reflects bel1, bel2, bel3, bel4, bel5",
      "H1: hours raises belonging through confidence",
      "adjust confidence, belonging for age, months",
    ].join("\n"),
  );
  await settled(page);
  await expect(page.getByRole("group", { name: "Path diagram", exact: true })).toContainText(
    "latent, 4 items",
  );
  await page.getByRole("button", { name: /hours to confidence/ }).click();
  await expect(page.getByRole("table", { name: "Paths into confidence" })).toContainText("hours");
  await page
    .getByRole("navigation")
    .getByRole("link", { name: /Evidence/ })
    .click();
  await expect(page.getByText(/maximum likelihood; confidence from 4 items/)).toBeVisible();
  await expect(page.getByLabel("Hypothesis table")).toContainText("supported");
  await page.getByRole("button", { name: "All indices of fit" }).click();
  const fit = page.getByRole("table", { name: "Fit of the model" });
  await expect(fit.getByRole("row", { name: /^CFI/ })).toBeVisible();
  await page.getByRole("button", { name: /Loadings, variances/ }).click();
  await expect(
    page.getByRole("table", { name: "Loadings" }).getByRole("row", { name: /^conf4 confidence/ }),
  ).toContainText("< .001");
  await page
    .getByRole("navigation")
    .getByRole("link", { name: /Checks/ })
    .click();
  await expect(page.getByText(/estimated as a whole by maximum likelihood/)).toBeVisible();
});
