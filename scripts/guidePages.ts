import type { Page } from "@playwright/test";

const VETS = "/c/bramble-lane-vets";

/** Opens the demo's page whose controls an article of the guide names, by the article's `page`. */
export const GUIDE_PAGES: Record<string, (page: Page) => Promise<void>> = {
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
