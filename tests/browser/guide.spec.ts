import { readFileSync } from "node:fs";
import { join } from "node:path";
import { expect, type Page } from "@playwright/test";
import { articleOf, articles } from "../../src/features/guide/articles";
import { expectAccessible, takeSeat, test } from "./town";

/** The guide: opened beside the page it is about, true to that page, and printed. */

const VETS = "/c/bramble-lane-vets";

/** Opens the page whose controls an article names. */
const PAGES: Record<string, (page: Page) => Promise<void>> = {
  plan: (page) => openPlan(page),
  doors: async (page) => {
    await openPlan(page);
    await page.getByRole("button", { name: "Doors: change" }).click();
  },
  step: async (page) => {
    await openPlan(page);
    await page.getByRole("link", { name: /^First ask/ }).click();
    await page.waitForURL(/step=0/);
  },
  "follow-ups": (page) => openPlan(page),
  log: async (page) => void (await page.goto(`${VETS}/asking/log`)),
  asking: async (page) => void (await page.goto(`${VETS}/asking`)),
  import: async (page) => void (await page.goto(`${VETS}/people/import`)),
  feeds: async (page) => void (await page.goto(`${VETS}/set-up/feeds`)),
  desk: async (page) => void (await page.goto(`${VETS}/desk`)),
  answering: async (page) => void (await page.goto(`${VETS}/set-up/answering`)),
  rules: async (page) => void (await page.goto(`${VETS}/heard/rules`)),
  themes: async (page) => void (await page.goto(`${VETS}/heard/themes`)),
  "agency-people": async (page) => void (await page.goto("/agency/larkspur-vane/people")),
  phones: async (page) => void (await page.goto(`${VETS}/set-up/phones`)),
  links: async (page) => void (await page.goto(`${VETS}/asking/links`)),
};

async function openPlan(page: Page): Promise<void> {
  await page.goto(`${VETS}/asking`);
  await page.getByRole("link", { name: "After a visit", exact: true }).click();
  await page.waitForURL(/asking\/plans\//);
}

test("every control that an article names is on the page it names, and every link leads somewhere", async ({
  page,
}) => {
  await takeSeat(page, "demo-operator");
  const missing: string[] = [];
  for (const article of articles()) {
    const open = PAGES[article.page];
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

test("articles are short, say where they belong, and each page offers just one", () => {
  const all = articles();
  expect(all).toHaveLength(15);
  for (const { slug, words } of all) expect([slug, words.split(/\s+/).length]).toEqual([slug, expect.any(Number)]);
  expect(all.filter(({ words }) => words.split(/\s+/).length > 250).map(({ slug }) => slug)).toEqual([]);
  const places = all.flatMap(({ at }) => at);
  expect(places.filter((place, index) => places.indexOf(place) !== index)).toEqual([]);
  expect(() => articleOf("x", "No head at all")).toThrow(/does not say its title/);
  expect(readFileSync(join(process.cwd(), "docs/guide/rest.md"), "utf8")).toContain("title:");
});
