import { expect, openFile, settled, test, writeText } from "./fixtures";

/** Twelve answers to whole wordings on three things, with a code for “no answer”. */
function survey(unanswered = 0.02): Buffer {
  const wordings = [
    "I feel at home in this café",
    "I would miss this café if it closed",
    "In this café I can be myself",
    "People here know my name",
    "I trust myself to speak to strangers",
    "I am sure that I can learn the language",
    "Mistakes do not stop me from speaking",
    "I dare to ask when I do not understand",
  ];
  let state = 11;
  const uniform = (): number => (state = (state * 48271) % 2147483647) / 2147483647;
  const normal = (): number =>
    Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
  const lines = [["Nr.", "Age", ...wordings.map((w) => `"Agreement: ${w}"`), "Hours"].join(";")];
  for (let row = 1; row <= 240; row++) {
    const first = normal();
    const factors = [first, 0.4 * first + 0.9 * normal()];
    const answers = wordings.map((_, j) => {
      const y = 0.75 * factors[j < 4 ? 0 : 1]! + 0.66 * normal();
      return uniform() < unanswered ? -99 : Math.min(5, Math.max(1, Math.round(3 + 1.1 * y)));
    });
    const hours = (4 + first + normal()).toFixed(1).replace(".", ",");
    lines.push([row, 20 + Math.floor(40 * uniform()), ...answers, hours].join(";"));
  }
  return Buffer.from(lines.join("\r\n"));
}

test("a survey with wordings as headers: short names, factors, measures on one half of the people", async ({
  page,
}) => {
  await openFile(page, "survey.csv", survey());
  const name = page.getByLabel("Short name of Agreement: I feel at home in this café");
  await expect(name).toHaveValue("agreement_1");
  // A name that is in use is not taken; one that is free is.
  await name.fill("Age");
  await name.blur();
  await expect(name).toHaveValue("agreement_1");
  await name.fill("home");
  await name.blur();
  await page.getByRole("button", { name: "Start a study with these data" }).click();
  await page
    .getByRole("link", { name: /^Measures/ })
    .first()
    .click();
  await page.getByRole("button", { name: "Which items belong together?" }).click();
  await expect(page.getByText(/Parallel analysis counts 2 factors/)).toBeVisible();
  await page.getByLabel("People", { exact: true }).selectOption({ label: "the other half" });
  await expect(page.getByText(/2 factors of 8 items, 1[01]\d people/)).toBeVisible();
  await expect(page.getByRole("row", { name: /home.*I feel at home/ })).toBeVisible();
  await page.getByLabel(/^Factor 1:/).fill("belonging");
  await page.getByLabel(/^Factor 2:/).fill("confidence");
  await page.getByRole("button", { name: "Make these 2 measures" }).click();
  for (const measure of ["belonging", "confidence"])
    await expect(page.getByLabel(`Measure ${measure}`, { exact: true })).toBeVisible();
  // Those who were explored are left out of what comes after, and that is said.
  await expect(page.getByRole("link", { name: /120 of 240 people/ })).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("link", { name: /240 of 240 people/ })).toBeVisible();
});

test("settings that refuse a study are mended by a button, fewer samples are drawn while trying, and lost people are kept", async ({
  page,
}) => {
  await openFile(page, "survey.csv", survey(0.05));
  await page.getByRole("button", { name: "Start a study with these data" }).click();
  await page
    .getByRole("link", { name: /^Hypotheses/ })
    .first()
    .click();
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(
    page,
    "H1: agreement_1 raises Hours through agreement_2\nadjust Hours for agreement_3, agreement_4, agreement_5, agreement_6, agreement_7, agreement_8",
  );
  await settled(page);
  await page.getByRole("button", { name: "Analysis settings" }).click();
  await page.getByLabel("At most 1,000 samples while I try").check();
  await page.getByLabel("Resample whole clusters of").selectOption("Age");
  await page.getByLabel("Interval", { exact: true }).selectOption("bootstrap_t");
  await page.getByRole("button", { name: "Close" }).click();
  // The refusal names what is wrong, and each way out of it is a button.
  const refusal = page.getByRole("alert").filter({ hasText: "do not exist for clusters here" });
  await expect(refusal.getByRole("button")).toHaveText([
    "Take the cluster column Age out",
    "Use BCa intervals",
  ]);
  await refusal.getByRole("button", { name: "Take the cluster column Age out" }).click();
  await expect(refusal).toHaveCount(0);
  await expect(page.getByRole("banner")).toContainText("1,000 while trying");
  await page
    .getByRole("link", { name: /^Report/ })
    .first()
    .click();
  await expect(page.getByRole("banner")).not.toContainText("while trying");
  await settled(page);
  await expect(
    page
      .getByRole("article")
      .getByText(/5,000 bootstrap samples/)
      .first(),
  ).toBeVisible();
  // More than a fifth is left out, and there is a way to keep them.
  await page
    .getByRole("link", { name: /^Evidence/ })
    .first()
    .click();
  await page
    .getByRole("button", { name: "Keep everybody, by full information, with BCa intervals" })
    .click();
  await expect(page.getByRole("link", { name: "240 of 240 people" })).toBeVisible();
});
