import type { Page } from "playwright-core";
import { withApp } from "./served";

const PORT = 4175;
const ROWS = 100_000;
const COLUMNS = 50;
const EDITS = 200;
const RUNS = 20;

/** Heap of the page and of its workers after everything unused is swept out, in megabytes. */
export const measureMemory = (): Promise<void> =>
  withApp(PORT, async (page) => {
    await large(page);
    await long(page);
  });

const say = (what: string, megabytes: number): void =>
  console.log(`${what.padEnd(64)} ${Math.round(megabytes)} MB`);

/** Used bytes of the page's heap, with the buffers that lie outside it. */
async function heapOf(page: Page): Promise<number> {
  const session = await page.context().newCDPSession(page);
  await session.send("HeapProfiler.enable");
  await session.send("HeapProfiler.collectGarbage");
  const used = (await session.send("Runtime.getHeapUsage")) as {
    usedSize: number;
    backingStorageSize?: number;
  };
  await session.detach();
  return (used.usedSize + (used.backingStorageSize ?? 0)) / 2 ** 20;
}

function largeCsv(): Buffer {
  const lines = [Array.from({ length: COLUMNS }, (_, j) => `v${j}`).join(",")];
  for (let i = 0; i < ROWS; i++)
    lines.push(
      Array.from({ length: COLUMNS }, (_, j) => ((i * (31 + j) + j * 17) % 997) / 10).join(","),
    );
  return Buffer.from(lines.join("\n"));
}

async function large(page: Page): Promise<void> {
  await page.goto("/");
  await page.waitForSelector("main > ul > li");
  say("shelf", await heapOf(page));
  await page.setInputFiles("input[type=file]", {
    name: "large.csv",
    mimeType: "text/csv",
    buffer: largeCsv(),
  });
  await page
    .getByRole("button", { name: "Start a study with these data" })
    .click({ timeout: 60_000 });
  await page.getByRole("heading", { name: "Data" }).waitFor({ timeout: 60_000 });
  say(`data of ${ROWS} x ${COLUMNS} open`, await heapOf(page));
  await page
    .getByRole("navigation")
    .getByRole("link", { name: /Hypotheses/ })
    .click();
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await page.getByLabel("Theory as text").click();
  await page.keyboard.insertText("H1: v1 raises v3 through v2");
  await page
    .getByRole("navigation")
    .getByRole("link", { name: /Evidence/ })
    .click();
  await page.getByLabel("Hypothesis table").waitFor({ timeout: 120_000 });
  say("its evidence while it is resampled", await heapOf(page));
  await page.getByRole("link", { name: "To the shelf" }).click();
  await page.waitForSelector("main > ul > li");
  await page.goto("/study/demo/hypotheses");
  await page.getByLabel("Diagram").waitFor();
  say("after leaving it for another study", await heapOf(page));
}

async function long(page: Page): Promise<void> {
  await page.goto("/study/demo/evidence");
  await page.waitForFunction(() => !document.querySelector("[role=progressbar]"));
  await page.waitForTimeout(1500);
  say("evidence of the demo study", await heapOf(page));
  const question = page.getByLabel("Research question");
  for (let i = 0; i < EDITS; i++) await question.fill(`question ${i}`);
  await page.waitForTimeout(1500);
  say(`after ${EDITS} edits`, await heapOf(page));
  for (let i = 0; i < RUNS; i++) {
    await page.getByRole("button", { name: "Analysis settings" }).click();
    const seed = page.getByLabel("Seed", { exact: true });
    await seed.fill(String(5000 + i));
    await seed.press("Tab");
    await page.keyboard.press("Escape");
    await page.waitForTimeout(400);
    await page.waitForFunction(() => !document.querySelector("[role=progressbar]"), null, {
      timeout: 60_000,
    });
  }
  say(`after ${RUNS} runs of the bootstrap`, await heapOf(page));
}
