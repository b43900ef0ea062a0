import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import AxeBuilder from "@axe-core/playwright";
import { strFromU8, unzipSync } from "fflate";
import type { Download, Page } from "@playwright/test";
import { expect, openStudy, settled, test } from "./fixtures";

async function openReport(page: Page, study: string): Promise<void> {
  await openStudy(page, study, "report");
  const report = page.getByRole("article", { name: "Report" });
  await expect(report).toBeVisible();
  // Whole from the beginning: what stands on top does not come later.
  expect(await report.getByRole("heading", { name: /^Descriptive statistics/ }).count()).toBe(1);
  await settled(page);
}

const downloaded = async (page: Page, start: () => Promise<void>): Promise<Download> => {
  const waiting = page.waitForEvent("download");
  await start();
  return waiting;
};

test("the results section is chosen, styled, kept, and taken along as a document", async ({
  page,
}) => {
  await openReport(page, "demo");
  const report = page.getByRole("article", { name: "Report" });
  await expect(
    report.getByText("H1 (hours raises belonging through confidence) was"),
  ).toBeVisible();
  await expect(report.getByText("0.282", { exact: true })).toBeVisible();

  // Nothing moderates here, so nothing can be drawn as a surface.
  await expect(page.getByRole("checkbox", { name: /as a surface/ })).toHaveCount(0);

  // Another style, at once on the page.
  await page.getByLabel("Decimal sign").selectOption(",");
  await expect(report.getByText("0,282", { exact: true })).toBeVisible();
  await page.getByLabel("Reporting style").selectOption("medical");
  await expect(report.getByText("0,191 to 0,380")).toBeVisible();

  // A part goes, another moves up; both are there again after a reload.
  await page.getByRole("checkbox", { name: "Equations" }).uncheck();
  await expect(report.getByRole("heading", { name: "Equations" })).toHaveCount(0);
  await page.getByRole("button", { name: "Move Measures up" }).click();
  const first = report.getByRole("heading", { level: 3 }).first();
  await expect(first).toHaveText("Measures");
  await page.reload();
  await expect(first).toHaveText("Measures");
  await expect(report.getByText("0,282", { exact: true })).toBeVisible();

  // The plan is laid down, and what differs from it is said on the page.
  await page.getByRole("button", { name: "Lay down the plan" }).click();
  await expect(page.getByText("nothing differs from it.")).toBeVisible();
  await expect(report.getByText(/and followed without change/)).toBeVisible();
  const plan = await downloaded(page, () =>
    page.getByRole("button", { name: "Plan as Word document" }).click(),
  );
  expect(plan.suggestedFilename()).toBe("language-café-plan.docx");

  const file = await downloaded(page, () =>
    page.getByRole("button", { name: "Word document", exact: true }).click(),
  );
  expect(file.suggestedFilename()).toBe("language-café-report.docx");
  const parts = unzipSync(readFileSync(await file.path()));
  const xml = strFromU8(parts["word/document.xml"]!);
  expect(xml).toContain("0,282");
  expect(xml).not.toContain(">Equations<");
  const pictures = Object.keys(parts).filter((p) => /media\/.*\.(svg|png)$/.test(p));
  expect(pictures.filter((p) => p.endsWith(".svg")).length).toBeGreaterThan(0);
  const png = parts[pictures.find((p) => p.endsWith(".png"))!]!;
  // 120 mm at 300 dpi, and it says so.
  expect(new DataView(png.buffer, png.byteOffset).getUint32(16)).toBe(1417);
  expect(strFromU8(png.subarray(37, 41))).toBe("pHYs");

  for (const [name, ending] of [
    ["Web page", "html"],
    ["Tables as workbook", "xlsx"],
    ["Markdown", "md"],
    ["LaTeX tables", "tex"],
    ["References, BibTeX", "bib"],
  ] as const) {
    await page.getByRole("button", { name: "Other files" }).click();
    const other = await downloaded(page, () => page.getByRole("menuitem", { name }).click());
    expect(other.suggestedFilename().endsWith(`.${ending}`)).toBe(true);
    expect(readFileSync(await other.path()).length).toBeGreaterThan(500);
  }
});

test("the study is handed over, and the command line finds every number again", async ({
  page,
}) => {
  await openReport(page, "demo-lever");
  await page.getByRole("button", { name: "Other files" }).click();
  const item = page.getByRole("menuitem", { name: /Everything in one archive/ });
  await expect(item).toBeEnabled();
  const pack = await downloaded(page, () => item.click());
  const path = join(mkdtempSync(join(tmpdir(), "hebel-pack-")), "pack.zip");
  await pack.saveAs(path);
  const names = Object.keys(unzipSync(readFileSync(path)));
  for (const name of [
    "study.hebel.json",
    "data.csv",
    "codebook.csv",
    "report.docx",
    "figures/figure-1.svg",
  ])
    expect(names).toContain(name);
  const { status, stdout } = spawnSync(
    process.execPath,
    ["scripts/analyse.mjs", path, "--verify", "--workers", "2"],
    { cwd: join(import.meta.dirname, ".."), encoding: "utf8" },
  );
  expect(stdout).toMatch(/All \d+ numbers are the same, to the last digit\./);
  expect(status).toBe(0);

  // Somebody else opens it as it is.
  await page.goto("/");
  await page.getByLabel("File to open").setInputFiles(path);
  await expect(page).toHaveURL(/\/study\/(?!demo)/);
  await expect(page.getByLabel("Title of the study")).toHaveValue("Language café, for whom");
});

test("a figure leaves at its size, a table by one click, and the page is read by everybody", async ({
  page,
  context,
}) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await openReport(page, "demo-lever");
  await page.getByLabel("Width").selectOption("85");
  // Narrower figures move the page: a button is pressed once they are drawn.
  const report = page.getByRole("article", { name: "Report" });
  await expect(report.locator("figure svg:not([width='85mm'])")).toHaveCount(0);
  const figure = page.locator("figure").filter({ hasText: "Figure 2" });
  const svg = await downloaded(page, () => figure.getByRole("button", { name: "SVG" }).click());
  const text = readFileSync(await svg.path(), "utf8");
  expect(text).toContain('width="85mm"');
  expect(text).toContain("@font-face");
  const png = await downloaded(page, () => figure.getByRole("button", { name: "600 dpi" }).click());
  const bytes = readFileSync(await png.path());
  expect(bytes.readUInt32BE(16)).toBe(Math.round((85 / 25.4) * 600));

  const surface = page.getByRole("img", { name: "confidence over hours and support" });
  await expect(surface).toHaveCount(0);
  await page.getByRole("checkbox", { name: "Moderation also as a surface" }).check();
  await expect(surface.first()).toBeVisible();

  await page.getByRole("button", { name: "Copy Table 1", exact: true }).click();
  await expect(page.getByRole("button", { name: "Copy Table 1", exact: true })).toHaveText(
    "Copied",
  );
  const html = await page.evaluate(async () => {
    const [item] = await navigator.clipboard.read();
    return (await item!.getType("text/html")).text();
  });
  expect(html).toContain("<table");
  expect(html).toContain("belonging");

  const { violations } = await new AxeBuilder({ page }).setLegacyMode().analyze();
  expect(
    violations
      .filter((v) => v.impact !== "minor")
      .map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(" | ")}`),
  ).toEqual([]);

  // On paper stands the page alone.
  await page.emulateMedia({ media: "print" });
  await expect(page.getByRole("heading", { name: "Contents" })).toBeHidden();
  await expect(page.getByRole("navigation", { name: "Stages of the work" })).toBeHidden();
  await expect(page.getByRole("article", { name: "Report" })).toBeVisible();
});

test("where a number comes from is shown beside it", async ({ page }) => {
  await page.goto("/");
  await expect(page.getByRole("link", { name: /^Language café Do/ })).toBeVisible();
  await page.goto("/study/demo/evidence");
  await settled(page);
  const every = page.getByRole("region", { name: "Every effect" });
  await every.getByRole("button", { name: /^specific indirect, through confidence: / }).click();
  const working = page.getByLabel("Working of hours on belonging through confidence");
  await expect(working).toContainText("b(hours → confidence) × b(confidence → belonging)");
  await expect(working).toContainText("0.123 × 0.233 = 0.029");
  await expect(working).toContainText("412 of 420 people");
  await page.getByRole("button", { name: "Show the working of confidence" }).click();
  await expect(page.getByLabel("Working of Equation of confidence")).toContainText("VIF 1 / (1 −");
  await page.goto("/study/demo-lever/probe");
  await page.getByRole("button", { name: "Show the working of the region" }).click();
  await expect(page.getByLabel("Working of Region of hours along support")).toContainText(
    "at support = 2.522 the slope is 0.063 = 1.966 × 0.032",
  );
});
