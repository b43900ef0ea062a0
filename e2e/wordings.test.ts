import { expect, test } from "./fixtures";

/** Twelve answers to whole wordings on three things, with a code for “no answer”. */
function survey(): Buffer {
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
      return uniform() < 0.02 ? -99 : Math.min(5, Math.max(1, Math.round(3 + 1.1 * y)));
    });
    const hours = (4 + first + normal()).toFixed(1).replace(".", ",");
    lines.push([row, 20 + Math.floor(40 * uniform()), ...answers, hours].join(";"));
  }
  return Buffer.from(lines.join("\r\n"));
}

test("a survey with wordings as headers: short names, factors, measures on one half of the people", async ({
  page,
}) => {
  await page.goto("/");
  await page
    .locator("input[type=file]")
    .first()
    .setInputFiles({ name: "survey.csv", mimeType: "text/csv", buffer: survey() });
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
