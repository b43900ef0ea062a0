import type { Page } from "playwright-core";
import { withApp } from "./served";

const PORT = 4176;
const HOVER_MS = 150;
const REPLICATES = 100_000;
const LETTERS = "does going more often help people to feel at home here";

const WATCH_FRAMES = `
  globalThis.frames = [];
  let last = performance.now();
  requestAnimationFrame(function tick() {
    const now = performance.now();
    frames.push(now - last);
    last = now;
    requestAnimationFrame(tick);
  });
`;

/**
 * What only a browser can tell: the weight of the first page, the time from a click on the shelf to
 * the verdicts of a study whose results are kept, and the longest frame while somebody types during
 * a long bootstrap.
 */
export const measureBrowser = (): Promise<void> =>
  withApp(PORT, async (page) => {
    await firstPage(page);
    await openKept(page);
    await typeDuring(page);
  });

const say = (what: string, value: string): void => console.log(`${what.padEnd(64)} ${value}`);

async function firstPage(page: Page): Promise<void> {
  const session = await page.context().newCDPSession(page);
  await session.send("Network.enable");
  let bytes = 0;
  session.on("Network.loadingFinished", (event) => (bytes += event.encodedDataLength));
  await page.goto("/");
  await page.waitForSelector("main > ul > li");
  await page.waitForLoadState("networkidle");
  say("first page, compressed", `${Math.round(bytes / 1024)} kB`);
}

/** Milliseconds from a click on the study until its numbers are painted. */
async function openKept(page: Page): Promise<void> {
  await page.goto("/study/demo/evidence");
  await page.getByRole("region", { name: "Ledger of hypotheses" }).waitFor();
  await page.waitForFunction(() => !document.querySelector("[role=progressbar]"));
  await page.waitForTimeout(1500);
  const times: number[] = [];
  for (let i = 0; i < 5; i++) {
    await page.getByRole("link", { name: "To the shelf" }).click();
    await page.waitForSelector("main > ul > li");
    await page.waitForTimeout(500);
    const link = page.getByRole("link", { name: /^Language café Do/ });
    // A hand comes to rest on what it chooses.
    await link.hover();
    await page.waitForTimeout(HOVER_MS);
    times.push(
      await link.evaluate(
        async (element) =>
          new Promise<number>((resolve) => {
            const started = performance.now();
            const seen = new MutationObserver(() => {
              if (!document.querySelector("[aria-label=Diagram] svg text")) return;
              seen.disconnect();
              // A task after the frame: laid out and painted.
              requestAnimationFrame(() => {
                const { port1, port2 } = new MessageChannel();
                port1.onmessage = () => resolve(performance.now() - started);
                port2.postMessage(null);
              });
            });
            seen.observe(document.body, { childList: true, subtree: true });
            (element as HTMLElement).click();
          }),
      ),
    );
  }
  say(
    "opening a study with kept results, click to numbers, 5 times",
    `${times.map((t) => Math.round(t)).join(", ")} ms`,
  );
}

async function typeDuring(page: Page): Promise<void> {
  for (const screen of ["data", "hypotheses", "evidence"]) {
    await page.goto(`/study/demo/${screen}`);
    await page.getByRole("button", { name: "Analysis settings" }).click();
    const field = page.getByLabel("Bootstrap samples", { exact: true });
    await field.fill(String(REPLICATES));
    await field.press("Tab");
    const seed = page.getByLabel("Seed", { exact: true });
    await seed.fill(String(1000 + screen.length));
    await seed.press("Tab");
    await page.keyboard.press("Escape");
    await page.getByRole("progressbar", { name: "Bootstrap samples" }).waitFor();
    await page.getByLabel("Research question").fill("");
    // As text: the compiler's helpers do not exist in the page.
    await page.evaluate(WATCH_FRAMES);
    for (const letter of LETTERS) {
      await page.keyboard.press(letter === " " ? "Space" : letter);
      await page.waitForTimeout(70);
    }
    const frames = await page.evaluate(
      () => (globalThis as unknown as { frames: number[] }).frames,
    );
    const busy = await page.getByRole("progressbar", { name: "Bootstrap samples" }).count();
    const sorted = frames.sort((a, b) => b - a);
    say(
      `longest frames while typing during ${REPLICATES.toLocaleString("en")} replicates, ${screen}`,
      `${sorted
        .slice(0, 3)
        .map((t) => Math.round(t))
        .join(", ")} ms of ${frames.length} frames${busy === 0 ? " (run over)" : ""}`,
    );
  }
}
