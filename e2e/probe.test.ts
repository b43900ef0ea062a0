import { readFileSync } from "node:fs";
import type { Locator, Page } from "@playwright/test";
import { aboutDemo, expect, openDemo, openStudy, settled, test, writeText } from "./fixtures";

async function openLever(page: Page): Promise<void> {
  await openStudy(page, "demo-lever", "probe");
  await expect(page.getByRole("slider", { name: "Value of support" })).toBeVisible();
}

const slope = async (page: Page): Promise<number> => {
  const text = await page.locator("p.value ~ p.quiet").last().textContent();
  return Number(/slope ([−\d.]+)/.exec(text ?? "")![1]!.replace("−", "-"));
};

/** The content of a file that a button saves. */
async function savedText(page: Page, within: Locator, button: string): Promise<string> {
  const downloading = page.waitForEvent("download");
  await within.getByRole("button", { name: button }).click();
  return readFileSync(await (await downloading).path(), "utf8");
}

test("the lever by keyboard and mouse: the slope at the handle, and where it differs from zero for how many", async ({
  page,
}) => {
  await openLever(page);
  const handle = page.getByRole("slider", { name: "Value of support" });
  await expect(page.locator("p.value")).toHaveText("4.00");
  expect(await slope(page)).toBeCloseTo(0.208, 3);

  await handle.press("Home");
  await expect(page.locator("p.value")).toHaveText("1.00");
  const low = await slope(page);
  expect(low).toBeLessThan(0);
  await handle.press("End");
  await expect(page.locator("p.value")).toHaveText("5.00");
  const high = await slope(page);
  await handle.press("PageDown");
  expect(await slope(page)).toBeLessThan(high);
  await expect(handle).toHaveAttribute("aria-valuetext", /support 4\.60: slope 0\.\d+, p < \.001/);

  // A slope is linear in its moderator: in the middle it is the mean of both ends.
  const box = (await handle.boundingBox())!;
  await page.mouse.move(box.x + 62 + 100, box.y + 100);
  await page.mouse.down();
  await page.mouse.move(box.x + (62 + 602) / 2 + 56, box.y + 100, { steps: 8 });
  await page.mouse.up();
  const at = Number(await page.locator("p.value").textContent());
  expect(await slope(page)).toBeCloseTo(low + ((high - low) * (at - 1)) / 4, 2);

  await expect(page.locator("blockquote")).toContainText(
    /positive where support is at least 2\.5\d \(76 % of the \d+ people\)/,
  );
  await page.getByRole("button", { name: "simultaneous" }).click();
  await expect(page.locator("blockquote")).not.toContainText("2.52");
});

test("comparison values, units and pinned lines; the same for the indirect effect, with its band", async ({
  page,
}) => {
  await openLever(page);
  await expect(page.getByText(/The slope is zero at support = [\d.−]+.*Fieller/)).toBeVisible();
  await page.getByRole("button", { name: "quartiles" }).click();
  await expect(page.getByRole("table", { name: /^Simple slopes/ })).toContainText(
    /25 %, 2\.\d\d.*middle, \d.*75 %, \d/,
  );
  await page.getByRole("button", { name: "my own" }).click();
  await page.getByLabel("Values in raw units").fill("2; 4,5; 80 %");
  await page.getByLabel("Values in raw units").press("Enter");
  await expect(page.getByRole("table", { name: /^Simple slopes/ }).locator("tbody tr")).toHaveCount(
    3,
  );
  await expect(page.getByRole("table", { name: /^Simple slopes/ })).toContainText(
    /4\.50.*80 %, \d/,
  );
  await page.getByRole("button", { name: "standardised" }).click();
  await settled(page);
  await expect(page.getByRole("status").filter({ has: page.locator("p.value") })).toContainText(
    /one SD more of hours goes with 0\.\d+ SDs more confidence/,
  );
  await expect(
    page
      .getByRole("table", { name: /^Simple slopes/ })
      .locator("tbody tr")
      .first(),
  ).toContainText(/\d\.\d+, \d\.\d+|−/);
  const downloading = page.waitForEvent("download");
  await page.getByRole("button", { name: "PNG" }).click();
  expect((await downloading).suggestedFilename()).toBe("hours-on-confidence-by-support.png");

  await page
    .getByLabel("effect")
    .selectOption({ label: "hours on belonging through confidence, by support" });
  await settled(page);
  const csv = await savedText(
    page,
    page.getByRole("group", { name: /^Take along: indirect effect/ }),
    "Numbers as CSV",
  );
  expect(csv.trim().split("\n")).toHaveLength(53);
  await expect(page.getByText(/The band excludes zero for \d+ % of the \d+ people/)).toBeVisible();
});

test("a moderation is written by slots, asks for its step, and gets its verdict", async ({
  page,
}) => {
  await openDemo(page, "hypotheses");
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(page, aboutDemo("H1: support strengthens hours to belonging through confidence"));
  await expect(page.getByRole("alert")).toContainText("which step does support act on?");
  await page.getByRole("button", { name: "Sentences" }).click();
  const sentence = page.getByLabel("Hypothesis H1");
  await sentence.getByLabel("hours to confidence").check();
  await settled(page);
  await expect(sentence).toContainText("supported");
  await expect(sentence).toContainText(/index 0\.\d+/);
  await sentence.getByLabel("Direction").selectOption("weakens");
  await settled(page);
  await expect(sentence).toContainText("opposite");
  await page.getByRole("link", { name: /Evidence/ }).click();
  await expect(page.locator("blockquote")).toContainText(
    "index of moderated mediation by support, was positive",
  );
  await expect(page.getByText("moderated by support")).toBeVisible();
  await page.getByRole("link", { name: /Hypotheses/ }).click();
  await page.getByRole("button", { name: "moderator", exact: true }).click();
  // Nothing is assumed: the sentence stands once all of its places are filled.
  const fresh = page.getByLabel("New moderation");
  for (const [slot, name] of [
    ["Moderator", "age"],
    ["Of what", "hours"],
    ["What is affected", "belonging"],
  ] as const) {
    await expect(page.getByLabel("Hypothesis H2")).toHaveCount(0);
    await fresh.getByRole("button", { name: `${slot}: choose` }).click();
    await page.getByRole("combobox", { name: slot }).fill(name);
    await page.keyboard.press("Enter");
  }
  await expect(page.getByLabel("Hypothesis H2")).toContainText("alters");
});

test("groups as a moderator, and two moderators together", async ({ page }) => {
  await openDemo(page, "hypotheses");
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(page, aboutDemo("H1: group alters hours to confidence"));
  await page.getByRole("link", { name: /Probe/ }).click();
  await page
    .getByRole("group", { name: "Level of group" })
    .getByRole("button", { name: "waiting list" })
    .click();
  await expect(page.locator("p.value")).toHaveText("waiting list");
  await expect(page.getByRole("table", { name: /^Simple slopes/ }).locator("tbody tr")).toHaveCount(
    3,
  );

  await page.getByRole("link", { name: /Hypotheses/ }).click();
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(page, aboutDemo("H1: support with age alters hours to confidence"));
  await page.getByRole("link", { name: /Probe/ }).click();
  await expect(page.getByLabel("while age is held at")).toBeVisible();
  const before = await slope(page);
  await page.getByLabel("while age is held at").selectOption({ index: 0 });
  expect(await slope(page)).not.toBe(before);
});

test("panels, the surface with its regions, and the map of two moderators", async ({ page }) => {
  await openLever(page);
  await page.getByRole("button", { name: "panels" }).click();
  await expect(page.locator("figure")).toHaveCount(3);
  await page.getByRole("button", { name: "Show the numbers" }).click();
  await expect(page.getByRole("row", { name: /^support 4\.00/ })).toContainText("0.208");
  await page.getByRole("button", { name: "two of my own" }).click();
  await expect(page.locator("figure")).toHaveCount(2);
  await page.getByRole("slider", { name: "support, left" }).press("Home");
  await expect(page.locator("figure").first()).toContainText("support 1.00");
  await expect(page.locator("figure").last()).toContainText("support 4.00");
  await page.getByRole("button", { name: "surface" }).click();
  await expect(
    page.getByRole("img", { name: /Predicted confidence over hours and support/ }),
  ).toBeVisible();
  const surface = page.getByRole("slider", { name: /as a surface/ });
  const before = await surface.getAttribute("aria-valuetext");
  await surface.press("ArrowRight");
  await expect(surface).not.toHaveAttribute("aria-valuetext", before!);
  await page.getByLabel("the cases", { exact: true }).check();
  // The file holds what the screen shows, as lines and not as dots, and says what it is.
  const surfaceFile = await savedText(
    page,
    page.getByRole("group", { name: "Take along: confidence over hours and support, surface" }),
    "SVG",
  );
  expect(surfaceFile.match(/<circle/g)!.length).toBe(408);
  expect(surfaceFile.match(/<path/g)!.length).toBeGreaterThan(484);
  expect(surfaceFile).toContain("The line at 2.5");
  expect(surfaceFile).toContain('fill="#ffffff"');
  await page.getByRole("link", { name: /Hypotheses/ }).click();
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await writeText(page, aboutDemo("H1: support with age alters hours to confidence"));
  await page.getByRole("link", { name: /Probe/ }).click();
  await page.getByRole("button", { name: "map of both moderators" }).click();
  await expect(page.getByText(/is told apart from zero for \d+/)).toBeVisible();
});

test("checks say what they mean here, and the robustness table marks a verdict that depends on the way", async ({
  page,
}) => {
  await openDemo(page, "evidence");
  await page.getByRole("link", { name: /Checks/ }).click();
  await expect(page.getByText(/most influential rows/)).toBeVisible();
  await expect(
    page.getByRole("img", { name: "Residuals of confidence against fitted values" }),
  ).toBeVisible();
  await expect(
    page.getByText(/No sign of curvature|some relation is curved/).first(),
  ).toBeVisible();
  await page.getByRole("button", { name: "Does a verdict hang on them?" }).click();
  await expect(page.getByText(/No verdict changes without|would be/)).toBeVisible();
  await page.getByRole("link", { name: /Compare/ }).click();
  await page.getByRole("button", { name: "Try the other specifications" }).click();
  const table = page.getByRole("table");
  await expect(table.getByRole("row", { name: /HC4 errors/ })).toContainText("supported");
  await expect(table.getByRole("row", { name: /without covariates/ })).toBeVisible();
});

test("a kept run stands beside the study as it is now, with what differs", async ({ page }) => {
  await openDemo(page, "evidence");
  await settled(page);
  await page.getByRole("link", { name: /Compare/ }).click();
  await page.getByLabel("Name of the run").fill("with covariates");
  await page.getByRole("button", { name: "Keep this run" }).click();
  await expect(page.getByRole("listitem").filter({ hasText: "with covariates" })).toBeVisible();
  await page.getByRole("button", { name: "Analysis settings" }).click();
  await page.getByRole("dialog").getByLabel("Standard errors").selectOption("HC4");
  await page.keyboard.press("Escape");
  await settled(page);
  await expect(page.getByText("Done differently: errors: classical and HC4.")).toBeVisible();
  await page.reload();
  await expect(page.getByRole("listitem").filter({ hasText: "with covariates" })).toBeVisible();
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Evidence of the run with covariates as JSON" }).click(),
  ]);
  const saved = JSON.parse(readFileSync(await file.path(), "utf8"));
  expect(saved).toMatchObject({ format: "hebel-evidence", settings: { errors: "classical" } });
  await page.getByRole("button", { name: "Remove the run with covariates" }).click();
  await expect(page.getByRole("listitem").filter({ hasText: "with covariates" })).toHaveCount(0);
});
