import { expect, gardenCsv, settled, test } from "./fixtures";

/** Browsers that keep nothing: storage is forbidden, broken, or says nothing at all. */

test.use({ fresh: true });

test("without any storage everything works until the tab is closed, and that is said", async ({
  page,
}) => {
  await page.addInitScript(() =>
    Object.defineProperty(globalThis, "indexedDB", { value: undefined, configurable: true }),
  );
  await page.goto("/");
  await expect(page.getByText(/This browser keeps nothing here/)).toBeVisible();
  await page.getByRole("link", { name: /^Language café Do/ }).click();
  await page
    .getByRole("navigation")
    .getByRole("link", { name: /Evidence/ })
    .click();
  await settled(page);
  await expect(page.getByText(/This browser keeps nothing here/)).toBeVisible();
  await expect(page.getByLabel("Hypothesis table")).toBeVisible();
});

/** What is done to the storage, in the page. */
const silence = (): void => {
  IDBFactory.prototype.open = () => new EventTarget() as IDBOpenDBRequest;
};
const throwing = (): void => {
  Object.defineProperty(globalThis, "indexedDB", {
    configurable: true,
    get: () => {
      throw new DOMException("The user denied permission", "SecurityError");
    },
  });
};

for (const [how, break_, words] of [
  ["never answers", silence, /storage of this browser does not answer/],
  ["throws when it is asked for", throwing, /This browser keeps nothing here/],
] as const)
  test(`a storage that ${how}: that is said, and a study is made, changed and exported`, async ({
    page,
  }) => {
    await page.addInitScript(break_);
    await page.goto("/");
    await expect(page.getByText(words)).toBeVisible();
    await page.getByLabel("File to open").setInputFiles({
      name: "garden.csv",
      mimeType: "text/csv",
      buffer: gardenCsv(),
    });
    await page.getByRole("button", { name: "Start a study with these data" }).click();
    await expect(page).toHaveURL(/\/study\/[^/]+\/data$/);
    await page.getByLabel("Title of the study").fill("Gardens");
    await page.keyboard.press("Enter");
    await expect(page.getByText(words)).toBeVisible();
    const waiting = page.waitForEvent("download");
    await page.getByRole("button", { name: "Export the study" }).first().click();
    expect((await waiting).suggestedFilename()).toBe("gardens.hebel.json");
    // The shelf hears of it like one that is kept.
    await page.getByRole("link", { name: "To the shelf" }).click();
    await expect(page.getByRole("link", { name: /^Gardens/ })).toBeVisible();
  });
