// Current pictures of every main view, from the demo study: `npm run screenshots`.
import { spawn } from "node:child_process";
import { mkdirSync } from "node:fs";
import { CHROMIUM_FLAGS } from "./chromium-flags.mjs";
import { ensureBuild, ensureChromium, ensurePackages } from "./ensure.mjs";

const PORT = 4174;
const folder = "docs/screenshots";

ensurePackages();
const executablePath = ensureChromium();
ensureBuild();
mkdirSync(folder, { recursive: true });
const server = spawn("node", ["server.mjs"], {
  env: { ...process.env, PORT: String(PORT), NODE_ENV: "production" },
  stdio: "ignore",
});
const { chromium } = await import("playwright-core");
const browser = await chromium.launch({ executablePath, args: CHROMIUM_FLAGS });

async function open(look) {
  const page = await browser.newPage({
    viewport: { width: 1280, height: 800 },
    colorScheme: look,
    baseURL: `http://localhost:${PORT}`,
  });
  for (let tries = 0; ; tries++) {
    try {
      await page.goto("/");
      break;
    } catch (error) {
      if (tries > 40) throw error;
      await new Promise((resolve) => setTimeout(resolve, 250));
    }
  }
  await page.waitForSelector("main > ul > li");
  return page;
}
const shot = (page, name) => page.screenshot({ path: `${folder}/${name}.png` });
async function visit(page, screen, study = "demo") {
  await page.goto(`/study/${study}/${screen}`);
  // A run begins some time after the screen stands: it is over when none has been seen for a while.
  await page.evaluate(async () => {
    const running = () => document.querySelector("[role=progressbar]");
    for (let quiet = 0; quiet < 12; quiet++) {
      if (!document.querySelector("header") || running()) quiet = -1;
      await new Promise((resolve) => setTimeout(resolve, 250));
    }
  });
}

const page = await open("light");
await visit(page, "data");
await page.getByRole("button", { name: /^group/ }).click();
await shot(page, "data");
await visit(page, "screening");
await page.waitForSelector("#together");
await shot(page, "screening");
await page.locator("#together").evaluate((element) => element.scrollIntoView());
await visit(page, "measures");
await page.getByText("0.815").first().waitFor();
await shot(page, "measures");
await visit(page, "hypotheses");
await shot(page, "hypotheses");
await visit(page, "evidence");
await shot(page, "evidence");
await page.locator("#every-effect").evaluate((element) => element.scrollIntoView());
await shot(page, "effects");
await visit(page, "checks");
await page
  .getByRole("img", { name: /^Residuals of/ })
  .first()
  .waitFor();
await page.waitForTimeout(2500);
await shot(page, "checks");
await visit(page, "report");
await page
  .getByRole("article", { name: "Report" })
  .getByText("Table 4")
  .first()
  .evaluate((element) => element.scrollIntoView());
await shot(page, "report");
await visit(page, "probe", "demo-lever");
await shot(page, "probe");
await page.getByRole("button", { name: "surface" }).click();
await page.waitForTimeout(600);
await shot(page, "surface");
await visit(page, "compare", "demo-lever");
await page.getByRole("button", { name: "Try the other specifications" }).click();
await page.getByRole("table").waitFor({ timeout: 30_000 });
await page.getByRole("button", { name: "Try again" }).waitFor({ timeout: 30_000 });
await page.waitForFunction(() => !document.querySelector("[role=progressbar]"), null, {
  timeout: 30_000,
});
await shot(page, "compare");
await page.goto("/");
await page.getByRole("img", { name: "supported" }).first().waitFor();
await shot(page, "shelf");
await visit(page, "hypotheses", "demo-factors");
await page.getByRole("checkbox", { name: "items" }).check();
await shot(page, "latent");
await visit(page, "checks", "demo-factors");
await shot(page, "measurement");
await visit(page, "checks", "demo-composites");
await shot(page, "composites");
await visit(page, "evidence", "demo-treatment");
await page.waitForFunction(() => !document.querySelector("[role=progressbar]"), null, {
  timeout: 90_000,
});
await page
  .getByRole("heading", { name: /^group through hours to renewed/ })
  .first()
  .evaluate((element) => element.scrollIntoView());
await page.waitForTimeout(800);
await shot(page, "treatment");
await visit(page, "plan", "demo-planned");
await shot(page, "plan");
await page.getByRole("button", { name: "Draw power over people" }).click();
await page.waitForTimeout(2000);
await page.waitForFunction(() => !document.querySelector("[role=progressbar]"), null, {
  timeout: 180_000,
});
await page
  .getByRole("heading", { name: "200 people, 500 samples" })
  .evaluate((element) => element.scrollIntoView());
await page.waitForTimeout(600);
await shot(page, "power");
const dark = await open("dark");
await visit(dark, "probe", "demo-lever");
await shot(dark, "probe-dark");
await browser.close();
server.kill();
