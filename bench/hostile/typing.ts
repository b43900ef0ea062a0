import { spawn, type ChildProcess } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, type BrowserContext, type Page } from "playwright-core";
import { CHROMIUM_FLAGS } from "../../scripts/chromium-flags.mjs";
import { ensureBuild, ensureChromium } from "../../scripts/ensure.mjs";

const PORT = 4176;
/** A key every so many milliseconds: a fast hand. */
const KEY_MS = 60;

/** What was typed, and when each letter had arrived. */
interface Typed {
  text: string;
  at: number;
}

/**
 * Kills the browser while somebody types a theory, and reloads the page while somebody types, with
 * and without other programs that take every processor; prints how much was lost each time.
 */
export async function measureTyping(kills = 8, reloads = 30): Promise<void> {
  ensureBuild();
  const server = spawn("node", ["server.mjs"], {
    env: { ...process.env, PORT: String(PORT), NODE_ENV: "production" },
    stdio: "ignore",
  });
  try {
    while (!(await fetch(`http://localhost:${PORT}/health`).catch(() => null))) await pause(200);
    for (const busy of [false, true]) {
      const others = busy ? occupied(3) : [];
      const where = busy ? "three busy programs beside" : "nothing beside";
      const lost: number[] = [];
      for (let i = 0; i < kills; i++) lost.push(await lostByKilling(2500 + 431 * i));
      console.log(
        `${kills} kills, ${where}: the oldest lost letter was ${Math.max(...lost)} ms old`,
      );
      console.log(
        `reloads, ${where}: ${await lostByReloading(reloads)} of ${reloads} lost something`,
      );
      for (const other of others) other.kill();
    }
  } finally {
    server.kill();
  }
}

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

const occupied = (count: number): ChildProcess[] =>
  Array.from({ length: count }, () => spawn(process.execPath, ["-e", "for (;;);"]));

const launch = (profile: string): Promise<BrowserContext> =>
  chromium.launchPersistentContext(profile, {
    executablePath: ensureChromium(),
    args: CHROMIUM_FLAGS,
    baseURL: `http://localhost:${PORT}`,
    serviceWorkers: "block",
  });

async function openText(page: Page): Promise<void> {
  await page.goto("/");
  await page.waitForSelector("main > ul > li", { timeout: 60_000 });
  await page.goto("/study/demo/hypotheses");
  await openEditor(page);
}

async function openEditor(page: Page): Promise<void> {
  const text = page.getByRole("button", { name: "Text", exact: true });
  await text.click({ timeout: 60_000 });
  await page.getByLabel("Theory as text").click();
  await page.keyboard.press("Control+End");
}

/** Types letters for so long; each is noted when the page has taken it. */
async function type(page: Page, ms: number, before = ""): Promise<Typed[]> {
  const typed: Typed[] = [];
  let text = before;
  for (const started = Date.now(); Date.now() - started < ms;) {
    const letter = "abcdefghij"[text.length % 10]!;
    await page.keyboard.press(letter);
    text += letter;
    typed.push({ text, at: Date.now() });
    await pause(KEY_MS);
  }
  return typed;
}

/** The last line of the theory as the page shows it. */
async function lastLine(page: Page): Promise<string> {
  const line = page.getByLabel("Theory as text").locator(".cm-line").last();
  return (await line.textContent()) ?? "";
}

/** How old the oldest letter is that a killed browser does not have afterwards, in milliseconds. */
async function lostByKilling(after: number): Promise<number> {
  const profile = mkdtempSync(join(tmpdir(), "hebel-"));
  try {
    const first = await launch(profile);
    const page = first.pages()[0]!;
    await openText(page);
    await page.keyboard.press("Enter");
    const typed = await type(page, after);
    const killed = Date.now();
    spawn("pkill", ["-9", "-f", profile]);
    await first.close().catch(() => undefined);
    await pause(500);
    const second = await launch(profile);
    const again = second.pages()[0]!;
    await again.goto("/study/demo/hypotheses");
    await openEditor(again);
    const kept = await lastLine(again);
    await second.close();
    const missing = typed.find(({ text }) => !kept.startsWith(text));
    return missing ? killed - missing.at : 0;
  } finally {
    rmSync(profile, { recursive: true, force: true });
  }
}

/** How often a page that is loaded anew while somebody types lacks a letter. */
async function lostByReloading(times: number): Promise<number> {
  const profile = mkdtempSync(join(tmpdir(), "hebel-"));
  let lost = 0;
  try {
    const context = await launch(profile);
    const page = context.pages()[0]!;
    await openText(page);
    for (let i = 0; i < times; i++) {
      await page.keyboard.press("Enter");
      const typed = await type(page, 300 + ((i * 137) % 900));
      await page.reload();
      await openEditor(page);
      if ((await lastLine(page)) !== typed.at(-1)!.text) lost++;
    }
    await context.close();
  } finally {
    rmSync(profile, { recursive: true, force: true });
  }
  return lost;
}
