import AxeBuilder from "@axe-core/playwright";
import { expect, test } from "./fixtures";

test("a yes/no response gets a model of its own, and a treatment its four means in sentences", async ({
  page,
}) => {
  test.setTimeout(120_000);
  await page.goto("/");
  await expect(page.getByRole("link", { name: /^Language café, who stays/ })).toBeVisible();
  await page.goto("/study/demo-treatment/hypotheses");
  await expect(page.getByLabel("Path diagram").getByText("yes or no, logistic")).toBeVisible();
  await page.goto("/study/demo-treatment/evidence");
  await expect(
    page.getByText(/If for everybody group were “weekly cafe”, with the hours that goes with it/),
  ).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText(/No cause of both mediator and outcome/).first()).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(
    violations
      .filter((v) => v.impact !== "minor")
      .map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(" | ")}`),
  ).toEqual([]);
});
