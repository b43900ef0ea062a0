import AxeBuilder from "@axe-core/playwright";
import { expect, openDemo, settled, test, writeText } from "./fixtures";

test("a yes/no response gets a model of its own, and a treatment its four means in sentences", async ({
  page,
}) => {
  await page.goto("/");
  await expect(page.getByRole("link", { name: /^Language café, who stays/ })).toBeVisible();
  await page.goto("/study/demo-treatment/hypotheses");
  await expect(page.getByLabel("Path diagram").getByText("yes or no, logistic")).toBeVisible();
  await page.goto("/study/demo-treatment/evidence");
  await expect(
    page.getByText(/If for everybody group were “weekly cafe”, with the hours that goes with it/),
  ).toBeVisible();
  await expect(page.getByText(/No cause of both mediator and outcome/).first()).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).setLegacyMode().analyze();
  expect(
    violations
      .filter((v) => v.impact !== "minor")
      .map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(" | ")}`),
  ).toEqual([]);
});

test("the lever draws the curve of a yes/no response, in probabilities or in log odds", async ({
  page,
}) => {
  await page.goto("/");
  await expect(page.getByRole("link", { name: /^Language café, who stays/ })).toBeVisible();
  await page.goto("/study/demo-treatment/hypotheses");
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(page, "H1: hours raises renewed\nH2: age alters hours to renewed");
  await settled(page);
  await page.goto("/study/demo-treatment/probe");
  await expect(
    page.getByRole("img", { name: /^probability of renewed against hours/ }),
  ).toBeVisible();
  await expect(page.getByText(/multiplies the odds of renewed by/)).toBeVisible();
  await expect(page.getByText(/In the probability of renewed:/)).toBeVisible();
  await page.getByRole("button", { name: "log odds", exact: true }).click();
  await expect(page.getByRole("img", { name: /^log odds of renewed against hours/ })).toBeVisible();
  await page.getByRole("slider").press("Home");
  await expect(page.getByRole("slider")).toHaveAttribute("aria-valuenow", "18");
});

test("effects that move with a moderator stand in one picture, and the scale of every number is said", async ({
  page,
}) => {
  await page.goto("/");
  await expect(page.getByRole("link", { name: /^Language café, who stays/ })).toBeVisible();
  await page.goto("/study/demo-treatment/hypotheses");
  await page.getByRole("button", { name: "Text", exact: true }).click();
  const theory = "H1: group raises renewed through hours\nH2: age alters group to hours";
  await writeText(page, `${theory}\nH3: months alters hours to renewed`);
  await settled(page);
  await expect(page.getByText(/On the arrows: hours to renewed in log odds/)).toBeVisible();
  await writeText(page, theory);
  await settled(page);
  await page.goto("/study/demo-treatment/evidence");
  await settled(page);
  await expect(
    page.getByRole("heading", { name: /^group through hours to renewed as age moves/ }).first(),
  ).toBeVisible();
  // What is new on this screen; the tables have been looked at on others.
  const { violations } = await new AxeBuilder({ page })
    .setLegacyMode()
    .exclude("tbody tr:nth-child(n+4)")
    .analyze();
  expect(violations.filter((v) => v.impact !== "minor").map((v) => v.id)).toEqual([]);
});

test("a response gets another model by slots", async ({ page }) => {
  await page.goto("/");
  await expect(page.getByRole("link", { name: /^Language café, who stays/ })).toBeVisible();
  await page.goto("/study/demo-treatment/hypotheses");
  await page.getByRole("button", { name: "response model" }).click();
  await page.getByRole("button", { name: "Response: choose" }).click();
  await page.getByRole("option", { name: "renewed", exact: true }).click();
  await page.getByLabel("Model of renewed", { exact: true }).last().selectOption("probit");
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await expect(page.getByLabel("Theory as text")).toContainText("model renewed as probit");
});

test("how much something left out would have to do is drawn, and a guess is taken in", async ({
  page,
}) => {
  await openDemo(page, "hypotheses");
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(
    page,
    "measure confidence averages conf1, conf2, reversed conf3r, conf4 on 1 to 5\nmeasure belonging averages bel1, bel2, bel3, bel4, bel5\nH1: hours raises belonging through confidence\nadjust confidence, belonging for age",
  );
  await settled(page);
  await page.goto("/study/demo/checks");
  const part = page.getByRole("region", { name: "If something was left out" });
  await expect(
    part.getByRole("img", { name: /against the correlation of the errors/ }),
  ).toBeVisible();
  await expect(part.getByText(/as strong as age would leave/)).toBeVisible();
  await part.getByLabel("It differs between treatments by").fill("0.5");
  await part.getByLabel("A unit of it moves the outcome by").fill("0.3");
  await part.getByRole("button", { name: "Add my guess" }).click();
  await expect(part.getByRole("row", { name: /my guess/ })).toContainText("0.500");
  const { violations } = await new AxeBuilder({ page }).setLegacyMode().analyze();
  expect(violations.filter((v) => v.impact !== "minor").map((v) => v.id)).toEqual([]);
});
