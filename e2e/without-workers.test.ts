import { expect, gardenCsv, settled, test } from "./fixtures";

/** Browsers whose workers do not start: everything is done in the page, and that is said. */

test.use({ fresh: true });

const WAYS = ["forbidden", "broken", "silent"] as const;

/** What is done to workers, in the page. */
function breakWorkers(how: (typeof WAYS)[number]): void {
  class Unable {
    onerror: ((event: Event) => void) | null = null;
    readonly postMessage = (): undefined => undefined;
    readonly terminate = (): undefined => undefined;
    constructor() {
      if (how === "forbidden") throw new DOMException("No workers here", "SecurityError");
      if (how === "broken") setTimeout(() => this.onerror?.(new Event("error")), 20);
    }
  }
  Object.defineProperty(globalThis, "Worker", { value: Unable });
}

for (const how of WAYS)
  test(`workers are ${how}: that is said, and a study goes from its file to the report`, async ({
    page,
  }) => {
    const words = page.getByText(/This browser starts no threads for Hebel/);
    await page.addInitScript(breakWorkers, how);
    await page.goto("/");
    await expect(words).toBeVisible();
    await page.getByLabel("File to open").setInputFiles({
      name: "garden.csv",
      mimeType: "text/csv",
      buffer: gardenCsv(),
    });
    await page.getByRole("button", { name: "Start a study with these data" }).click();
    await expect(page).toHaveURL(/\/study\/[^/]+\/data$/);
    await expect(words).toBeVisible();

    // A demo study: bootstrap, comparison and report in the page.
    await page.goto("/");
    await page.getByRole("link", { name: /^Language café Do/ }).click();
    const stages = page.getByRole("navigation", { name: "Stages of the work" });
    await stages.getByRole("link", { name: /Evidence/ }).click();
    await settled(page);
    await expect(page.getByText(/5,000 bootstrap samples/).first()).toBeVisible();
    // BCa intervals are there only once all samples are drawn.
    await expect(page.getByRole("button", { name: "Stop" })).toBeHidden();
    await expect(page.getByText(/\d of 5,000/)).toBeHidden();
    await expect(words).toBeVisible();
    if (how !== "forbidden") return;
    await stages.getByRole("link", { name: /Compare/ }).click();
    await page.getByRole("button", { name: /^Try / }).click();
    await expect(page.getByRole("button", { name: "Stop" })).toBeVisible();
    await page.getByRole("button", { name: "Stop" }).click();
    await expect(page.getByRole("button", { name: "Stop" })).toBeHidden();
    await stages.getByRole("link", { name: /Report/ }).click();
    await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
  });
