import { expect, type Page } from "@playwright/test";
import { GUIDE_PAGES } from "../../scripts/guidePages";
import { articles } from "../../src/features/guide/articles";
import { expectAccessible, takeSeat, test } from "./town";

/** The guide: opened beside the page it is about, true to that page, and printed. */

const VETS = "/c/bramble-lane-vets";

test("every control that an article names is on the page it names, and every link leads somewhere", async ({
  page,
}) => {
  await takeSeat(page, "demo-operator");
  const missing: string[] = [];
  for (const article of articles()) {
    const open = GUIDE_PAGES[article.page];
    if (!open) throw new Error(`${article.slug}: there is no page “${article.page}”.`);
    await open(page);
    await expect(page.locator("[data-hydrates]").first()).toBeVisible();
    for (const [, name] of article.words.matchAll(/\*\*(.+?)\*\*/g))
      if (!(await isShown(page, name))) missing.push(`${article.slug}: ${name}`);
    for (const [, address] of article.words.matchAll(/\]\((.+?)\)/g))
      if (!(await page.request.get(address)).ok()) missing.push(`${article.slug}: ${address}`);
  }
  expect(missing).toEqual([]);
});

/** Whether something of this name is there to be read or used. */
async function isShown(page: Page, name: string): Promise<boolean> {
  const found = page
    .getByText(name, { exact: false })
    .or(page.getByLabel(name, { exact: false }))
    .or(page.getByRole("region", { name }));
  await found
    .first()
    .waitFor({ state: "attached", timeout: 5000 })
    .catch(() => null);
  return (await found.count()) > 0;
}

test("an article opens beside the page it is about and by its name, with the keyboard, and alone to print", async ({
  page,
}) => {
  await takeSeat(page, "demo-manager");
  await page.goto(`${VETS}/heard/themes`);
  await page.getByRole("button", { name: "How this works" }).click();
  const sheet = page.getByRole("dialog", { name: "What people mention" });
  await expect(sheet.getByText("Ratings say how people felt.")).toBeVisible();
  await expectAccessible(page);
  const alone = (await sheet.getByRole("link", { name: "Open as a page, to print" }).getAttribute("href")) ?? "";
  await page.keyboard.press("Escape");
  await expect(sheet).toHaveCount(0);
  await page.keyboard.press("Control+k");
  await page.getByPlaceholder("A page, a name, a phone number…").fill("shared phones");
  await page.getByRole("option", { name: /Shared phones.*How this works/ }).click();
  await expect(page.getByRole("dialog", { name: "Shared phones" }).getByText("15 minutes")).toBeVisible();
  await page.goto(alone);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("What people mention");
  await expectAccessible(page);
  expect((await page.goto("/guide/nothing"))?.status()).toBe(404);
  await page.context().clearCookies();
  expect((await page.request.get("/guide/rest/words", { maxRedirects: 0 })).status()).not.toBe(200);
});
