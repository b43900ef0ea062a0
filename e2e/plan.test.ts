import { expect, openDemo, test, theoryText, writeText } from "./fixtures";
import { written } from "./store";

test("a study without data: variables, a sentence, sizes on the arrows, power, and a plan laid down", async ({
  page,
}) => {
  await page.goto("/");
  await page.getByRole("button", { name: "Start an empty study" }).click();
  await page.getByRole("link", { name: /^Data/ }).click();
  await page.getByLabel("Names, apart by commas").fill("x, m, y");
  await page.getByLabel("What each of them is").selectOption("number");
  await page.getByRole("button", { name: "Declare" }).click();
  await expect(page.getByRole("listitem").filter({ hasText: "a number" })).toHaveCount(3);
  await page.getByRole("link", { name: /^Hypotheses/ }).click();
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(page, "H1: x raises y through m");
  // The picture is there before any data are, and takes the sizes.
  await page.getByLabel("Expected size of x on m").fill("0,3");
  await page.getByLabel("Expected size of m on y").fill("0.35");
  await page.getByRole("link", { name: /^Plan/ }).click();
  await expect(page.getByLabel("Expected size of x on m")).toHaveValue("0.3");
  await page.getByLabel("Expected size of x on y").fill("0.1");
  await page.getByLabel("people", { exact: true }).fill("90");
  await page.getByLabel("simulated samples").fill("60");
  await page.getByLabel("bootstrap samples in each").fill("200");
  await page.getByRole("button", { name: "Power with 90", exact: true }).click();
  // Joint significance of these paths has an exact power, to be found without any simulation.
  await expect(page.getByRole("cell", { name: "75.3 %" })).toBeVisible();
  await expect(
    page.getByText(/With 90 people, H1 \(x raises y through m\) would be/),
  ).toBeVisible();
  await expect(page.getByText("90 people, 60 samples")).toBeVisible();

  // Paths that explain more than everything are refused, with the reason.
  await page.getByLabel("Expected size of m on y").fill("0.8");
  await page.getByLabel("Expected size of x on y").fill("0.6");
  await expect(page.getByText("The study has changed since")).toBeVisible();
  await page.getByRole("button", { name: "Power with 90", exact: true }).click();
  await expect(page.getByRole("alert")).toContainText("would explain 128.8 % of “y”");

  await page.getByLabel("Expected size of m on y").fill("0.35");
  await page.getByLabel("Expected size of x on y").fill("0.1");
  await page.getByRole("button", { name: "Lay down the plan" }).click();
  await expect(page.getByText("nothing differs from it")).toBeVisible();
  await page.getByLabel("people", { exact: true }).fill("120");
  await expect(page.getByText("People: planned 90, now 120.")).toBeVisible();

  // Everything is there again after a reload, and can be undone.
  await page.reload();
  await expect(page.getByLabel("people", { exact: true })).toHaveValue("120");
});

test("a simulation can be stopped, goes on where it was, and lasts while another screen is open", async ({
  page,
}) => {
  await page.goto("/");
  await page.getByRole("link", { name: /^Language café, next year/ }).click();
  await page.getByRole("link", { name: /^Plan/ }).click();
  await page.getByLabel("simulated samples").fill("200");
  await page.getByRole("button", { name: "Draw power over people" }).click();
  await expect(page.getByText(/of 1,200 samples, about/)).toBeVisible();
  await page.getByRole("button", { name: "Stop" }).click();
  await expect(page.getByText(/Stopped after [\d,]+ samples; they are kept/)).toBeVisible();
  await page.getByRole("button", { name: "Go on" }).click();
  await page.getByRole("link", { name: /^Hypotheses/ }).click();
  await page.getByRole("link", { name: /^Plan/ }).click();
  await expect(page.getByText("200 people, 200 samples")).toBeVisible();
  await page.getByRole("button", { name: "Stop" }).click();
});

test("what a study with data found can be expected of the next, and Evidence says what is not as planned", async ({
  page,
}) => {
  await openDemo(page, "evidence");
  await page.getByRole("link", { name: /^Plan/ }).click();
  await page.getByRole("button", { name: "Expect what these data say" }).click();
  await expect(page.getByText(/Taken from these data: \d+ sizes/)).toBeVisible();
  const size = page.getByLabel("Expected size of confidence on belonging");
  await expect(size).toHaveValue(/^0\.\d+$/);
  await page.getByRole("button", { name: "Lay down the plan" }).click();
  await page.getByRole("link", { name: /^Evidence/ }).click();
  await expect(page.getByText(/As planned on \d{4}-\d\d-\d\d/)).toBeVisible();
  await page.getByRole("link", { name: /^Hypotheses/ }).click();
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await page.getByLabel("Theory as text").click();
  await page.keyboard.press("Control+End");
  await page.keyboard.insertText("\nH9: age affects belonging");
  await written(page, "H9: age affects belonging");
  await expect.poll(() => theoryText(page)).toContain("H9: age");
  await page.getByRole("link", { name: /^Evidence/ }).click();
  await expect(page.getByLabel("Deviations from the plan")).toContainText(
    "H9 (age affects belonging) was added.",
  );
});

test("before there are data, screens about data lead to what can be done", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("link", { name: /^Language café, next year/ }).click();
  for (const screen of ["Screening", "Evidence", "Probe", "Checks", "Compare", "Report"]) {
    await page.getByRole("link", { name: new RegExp(`^${screen}`) }).click();
    await expect(page.getByRole("heading", { name: screen })).toBeVisible();
    await expect(page.getByText("There are no data yet.")).toBeVisible();
  }
  await page.getByRole("link", { name: /^Measures/ }).click();
  await expect(page.getByText(/Only 0 rows/)).toHaveCount(0);
  await page.getByRole("link", { name: /^Report/ }).click();
  await page.getByRole("main").getByRole("link", { name: "plan" }).click();
  await expect(page.getByLabel("Expected size of hours on confidence")).toHaveValue("0.3");
});
