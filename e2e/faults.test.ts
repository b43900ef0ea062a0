import { spawn } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, type BrowserContext, type Page } from "@playwright/test";
import type { StudyDefinition } from "../core";
import { CHROMIUM_FLAGS } from "../scripts/chromium-flags.mjs";
import { cards, DEMO_STUDIES, expect, openDemo, settled, test, theoryText } from "./fixtures";
import { rowsOf } from "./store";

/** What a browser, a disk or a second tab may do in the middle of work. */

const EXECUTABLE = process.env.CHROMIUM ?? "/usr/bin/chromium";

async function openText(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Text", exact: true }).click();
  await expect(page.getByLabel("Theory as text")).toBeVisible();
}

/** The research question of the demo study as the browser's store has it. */
const storedQuestion = (page: Page): Promise<string> =>
  rowsOf<{ id: string; definition: StudyDefinition }>(page, "studies").then(
    (rows) => rows.find((row) => row.id === "demo")!.definition.question,
  );

/** Puts a line at the end of the theory. */
async function append(page: Page, line: string): Promise<void> {
  await page.getByLabel("Theory as text").click();
  await page.keyboard.press("Control+End");
  await page.keyboard.insertText(`\n${line}`);
}

test("a browser that is killed outright loses at most the last second of typing", async ({
  baseURL,
}) => {
  const profile = mkdtempSync(join(tmpdir(), "hebel-"));
  const launch = (): Promise<BrowserContext> =>
    chromium.launchPersistentContext(profile, {
      executablePath: EXECUTABLE,
      args: [...CHROMIUM_FLAGS, `--remote-debugging-port=0`],
      viewport: { width: 1280, height: 800 },
      serviceWorkers: "block",
      ...(baseURL ? { baseURL } : {}),
    });
  try {
    const first = await launch();
    const page = first.pages()[0] ?? (await first.newPage());
    await page.goto("/");
    await cards(page).first().waitFor();
    await page.goto("/study/demo/hypotheses");
    await openText(page);
    await page.getByLabel("Theory as text").click();
    await page.keyboard.press("Control+End");
    await page.keyboard.press("Enter");
    // Every key has its moment; what was typed more than a second ago has to be there afterwards.
    const typed: { text: string; at: number }[] = [];
    let text = "";
    const started = Date.now();
    for (let i = 0; Date.now() - started < 6000; i++) {
      const letter = "abcdefghij"[i % 10]!;
      await page.keyboard.press(letter);
      text += letter;
      typed.push({ text, at: Date.now() });
      await page.waitForTimeout(80);
    }
    const killed = Date.now();
    spawn("pkill", ["-9", "-f", profile]);
    await first.close().catch(() => undefined);
    const due = typed.filter((t) => t.at < killed - 1000).at(-1)!.text;
    const second = await launch();
    const again = second.pages()[0] ?? (await second.newPage());
    await again.goto("/study/demo/hypotheses");
    await openText(again);
    const kept = (await theoryText(again)).split("\n").at(-1)!;
    expect(kept.startsWith(due)).toBe(true);
    await second.close();
  } finally {
    rmSync(profile, { recursive: true, force: true });
  }
});

test("two tabs that write different sentences of one study keep both", async ({
  page,
  context,
}) => {
  await openDemo(page, "hypotheses");
  await openText(page);
  const other = await context.newPage();
  await other.goto(page.url());
  await openText(other);
  await Promise.all([
    append(page, "H7: age raises friends"),
    append(other, "H8: age lowers friends"),
  ]);
  for (const tab of [page, other])
    await expect
      .poll(() => theoryText(tab))
      .toMatch(/H7: age raises friends[\s\S]*H8: age lowers|H8: age lowers friends[\s\S]*H7: age/);
});

test("the tab that loses the same sentence is told, and gets its version back by a click", async ({
  page,
  context,
}) => {
  await openDemo(page, "hypotheses");
  await openText(page);
  const other = await context.newPage();
  await other.goto(page.url());
  await openText(other);
  await append(page, "H9: age");
  await expect.poll(() => theoryText(other)).toMatch(/H9: age$/);
  const told = (tab: Page): Promise<number> =>
    tab.getByText(/Another tab changed the same part/).count();
  // One goes on typing in the line until it is told, and meanwhile the other finishes it.
  const whole = `H9: age${" lowers friends".repeat(2)} and nothing else at all`;
  const typing = (async () => {
    for (const letter of whole.slice("H9: age".length)) {
      if ((await told(page)) > 0) break;
      await page.keyboard.type(letter, { delay: 80 });
    }
  })();
  await other.waitForTimeout(900);
  await other.getByLabel("Theory as text").click();
  await other.keyboard.press("Control+End");
  await other.keyboard.insertText(" raises friends");
  await typing;
  await expect.poll(async () => (await told(page)) + (await told(other))).toBeGreaterThan(0);
  const lastLine = async (tab: Page): Promise<string> =>
    (await theoryText(tab)).split("\n").at(-1)!;
  const lost = (await told(page)) > 0;
  const loser = lost ? page : other;
  // A letter or two may have gone into the other's version before it was seen.
  const theirs = lost ? / raises friends.{0,9}$/ : /nothing else at all$/;
  for (const tab of [page, other]) await expect.poll(() => lastLine(tab)).toMatch(theirs);
  await loser.getByRole("button", { name: "Use mine" }).click();
  for (const tab of [page, other])
    await expect
      .poll(async () => {
        const line = await lastLine(tab);
        return lost ? whole.startsWith(line) : / raises friends$/.test(line);
      })
      .toBe(true);
});

test("a full store is said while typing, nothing is lost, and goes on when there is room", async ({
  page,
}) => {
  await openDemo(page, "hypotheses");
  await settled(page);
  await page.evaluate(() => {
    const real = IDBObjectStore.prototype.put;
    Object.assign(globalThis, {
      full: true,
      real,
    });
    IDBObjectStore.prototype.put = function (...args: Parameters<typeof real>) {
      if ((globalThis as unknown as { full: boolean }).full)
        throw new DOMException("The quota has been exceeded.", "QuotaExceededError");
      return real.apply(this, args);
    };
  });
  const question = page.getByLabel("Research question");
  await question.fill("Typed into a full store");
  await expect(page.getByText(/storage is full/)).toBeVisible();
  await expect(question).toHaveValue("Typed into a full store");
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("alert").getByRole("button", { name: "Export the study" }).click(),
  ]);
  expect(file.suggestedFilename()).toMatch(/\.hebel\.json$/);
  await page.evaluate(() => Object.assign(globalThis, { full: false }));
  await page.getByRole("button", { name: "Try again" }).click();
  await expect(page.getByText(/storage is full/)).toHaveCount(0);
  await expect.poll(() => storedQuestion(page)).toBe("Typed into a full store");
  await page.reload();
  await expect(page.getByLabel("Research question")).toHaveValue("Typed into a full store");
});

test.describe("a database that somebody else changes", () => {
  // Its own, so that no other test meets it.
  test.use({ fresh: true });

  test("a newer version that takes the studies over leaves this tab its work, and nothing is written", async ({
    page,
  }) => {
    await page.goto("/");
    await cards(page).first().waitFor();
    await openDemo(page, "hypotheses");
    await settled(page);
    // What another tab with the next version of the program does.
    await page.evaluate(
      () =>
        new Promise<void>((resolve, reject) => {
          const asked = indexedDB.open("hebel", 900);
          asked.onsuccess = () => {
            asked.result.close();
            resolve();
          };
          asked.onerror = () => reject(asked.error!);
        }),
    );
    const notice = page.getByText(/A newer version of Hebel, in another tab/);
    await expect(notice).toBeVisible();
    await page.getByLabel("Research question").fill("typed after that");
    await page.getByRole("link", { name: /Evidence/ }).click();
    await expect(page.getByText("supported").first()).toBeVisible();
    await expect(notice).toBeVisible();
    const [file] = await Promise.all([
      page.waitForEvent("download"),
      page.getByRole("alert").getByRole("button", { name: "Export the study" }).first().click(),
    ]);
    expect(readFileSync(await file.path(), "utf8")).toContain("typed after that");
    // The store as the other left it.
    const kept = await page.evaluate(
      () =>
        new Promise<string>((resolve, reject) => {
          const asked = indexedDB.open("hebel");
          asked.onsuccess = () => {
            const got = asked.result.transaction("studies").objectStore("studies").getAll();
            got.onsuccess = () => resolve(JSON.stringify(got.result));
          };
          asked.onerror = () => reject(asked.error!);
        }),
    );
    expect(kept).not.toContain("typed after that");
  });
});

test("a full store is said while importing, and the import goes through when there is room", async ({
  page,
}) => {
  await page.goto("/");
  await cards(page).first().waitFor();
  await page.evaluate(() => {
    const real = IDBObjectStore.prototype.put;
    Object.assign(globalThis, { full: true });
    IDBObjectStore.prototype.put = function (...args: Parameters<typeof real>) {
      if ((globalThis as unknown as { full: boolean }).full)
        throw new DOMException("The quota has been exceeded.", "QuotaExceededError");
      return real.apply(this, args);
    };
  });
  const choose = async (): Promise<void> => {
    await page.getByLabel("File to open").setInputFiles({
      name: "small.csv",
      mimeType: "text/csv",
      buffer: Buffer.from("x,y\n1,2\n3,4\n5,7\n"),
    });
    await page.getByRole("button", { name: "Start a study with these data" }).click();
  };
  await choose();
  await expect(page.getByRole("dialog").getByText(/storage is full/)).toBeVisible();
  await page.getByRole("dialog").getByRole("button", { name: "Close" }).last().click();
  await page.evaluate(() => Object.assign(globalThis, { full: false }));
  await choose();
  await expect(page).toHaveURL(/\/study\/[^/]+\/data$/);
});

test("studies of a later version are left alone, and the reader is told", async ({ page }) => {
  await page.goto("/");
  await cards(page).first().waitFor();
  await page.goto("/favicon.svg");
  await page.evaluate(
    () =>
      new Promise<void>((resolve, reject) => {
        const request = indexedDB.open("hebel", 990);
        request.onsuccess = () => {
          request.result.close();
          resolve();
        };
        request.onerror = () => reject(new Error("not opened"));
      }),
  );
  await page.goto("/");
  await expect(
    page.getByText(/written by a newer version of Hebel; they are untouched/),
  ).toBeVisible();
  const version = await page.evaluate(
    async () => (await indexedDB.databases()).find((d) => d.name === "hebel")?.version,
  );
  expect(version).toBe(990);
});

test("a damaged study does not take the shelf along", async ({ page }) => {
  await page.goto("/");
  await cards(page).first().waitFor();
  await page.evaluate(
    () =>
      new Promise<void>((resolve) => {
        const open = indexedDB.open("hebel");
        open.onsuccess = () => {
          const store = open.result.transaction("studies", "readwrite").objectStore("studies");
          const got = store.get("demo");
          got.onsuccess = () => {
            store.put({ ...(got.result as object), definition: { title: "Broken one" } });
            store.transaction.oncomplete = () => {
              open.result.close();
              resolve();
            };
          };
        };
      }),
  );
  await page.reload();
  await expect(page.getByText(/“Broken one” is damaged/)).toBeVisible();
  await expect(cards(page)).toHaveCount(DEMO_STUDIES - 1);
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Export what is left" }).click(),
  ]);
  expect(file.suggestedFilename()).toMatch(/remains\.json$/);
  await page.getByRole("alert").getByRole("button", { name: "Remove" }).click();
  await expect(page.getByText(/is damaged/)).toHaveCount(0);
});

test.describe("without a network", () => {
  test.use({ serviceWorkers: "allow", fresh: true });

  test("a visited app reloads and starts from the second visit on", async ({ page, context }) => {
    await page.goto("/");
    await cards(page).first().waitFor();
    await page.evaluate(async () => {
      await navigator.serviceWorker.ready;
      while (!navigator.serviceWorker.controller) await new Promise((r) => setTimeout(r, 100));
    });
    await context.setOffline(true);
    await page.reload();
    await expect(cards(page).first()).toBeVisible();
    // A screen that has never been opened, in a tab of its own.
    const fresh = await context.newPage();
    await fresh.goto("/study/demo/probe");
    await expect(fresh.getByRole("navigation", { name: "Stages of the work" })).toBeVisible();
    await fresh
      .getByRole("navigation")
      .getByRole("link", { name: /Evidence/ })
      .click();
    await settled(fresh);
    await expect(fresh.getByLabel("Hypothesis table")).toContainText("supported");
    await fresh.getByRole("button", { name: "forest" }).click();
    await expect(fresh.getByRole("img", { name: /intervals$/ }).first()).toBeVisible();
  });
});
