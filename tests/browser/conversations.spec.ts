import { expect, type Page } from "@playwright/test";
import { expectAccessible, mailUrl, phoneUrl, takeSeat, test } from "./town";

/** What customers write back: read and answered on a phone, told of by mail, and given to whoever it is. */

test.describe.configure({ mode: "serial" });

const VETS = "/c/bramble-lane-vets";
const NUMBER = "+447700900990";
const PHONE = "+12025550147";

/** Somebody in town writes a text from their phone. */
async function text(page: Page, from: string, words: string, picture = ""): Promise<void> {
  await page.goto(phoneUrl());
  const form = page.locator("form", { hasText: "From" });
  await form.getByLabel("From").fill(from);
  await form.getByLabel("to", { exact: true }).fill(NUMBER);
  await form.getByLabel("Words").fill(words);
  if (picture) await form.getByLabel("A picture").selectOption({ label: picture });
  await form.getByRole("button", { name: "Send" }).click();
  await expect(page.getByRole("heading", { name: `Phone ${from}` })).toBeVisible();
}

/** Loads the page anew until something stands there. */
async function until(page: Page, look: () => Promise<void>): Promise<void> {
  await expect(async () => {
    await page.reload();
    await look();
  }).toPass({ timeout: 240_000 });
}

test("a text with a picture is answered on a phone, with saved words, and arrives", async ({ page, browser }) => {
  const town = await (await browser.newContext()).newPage();
  await text(town, PHONE, "Can my rabbit eat parsley?", "A bandaged paw");
  await page.setViewportSize({ width: 390, height: 844 });
  await takeSeat(page, "demo-desk");
  await page.goto(`${VETS}/heard?show=conversations`);
  const mine = page.getByRole("article").filter({ hasText: "Can my rabbit eat parsley?" });
  await until(page, () => expect(mine).toBeVisible({ timeout: 2000 }));
  await expect(mine.getByText("unread")).toBeVisible();
  await mine.getByRole("link", { name: "Read and answer" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/wrote .* and is waiting for an answer\.$/);
  const picture = page.getByAltText(/^Sent by/);
  await until(page, () => expect(picture).toBeVisible({ timeout: 2000 }));
  expect(await picture.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBeGreaterThan(100);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await expectAccessible(page);
  await page.getByRole("button", { name: "Saved replies" }).click();
  await page.getByLabel("Search saved replies").fill("ring");
  await page.getByRole("button", { name: /We will ring you/ }).click();
  const field = page.getByRole("textbox", { name: /^Write to/ });
  await expect(field).toHaveValue(/Somebody from Bramble Lane Vets rings you today/);
  await field.fill("A little parsley is fine. Not every day.");
  await page.getByRole("button", { name: "Send" }).click();
  await expect(page.getByText("Your answer is on its way.")).toBeVisible();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/Nothing left to answer\.$/);
  await until(town, () => expect(town.getByText("A little parsley is fine.")).toBeVisible({ timeout: 2000 }));
  await town.context().close();
});

test("nobody's number is said to be somebody's, set aside until a day, and given to one of the team", async ({
  page,
}) => {
  await takeSeat(page, "demo-manager");
  await page.goto(`${VETS}/heard?show=conversations&state=all`);
  await page.getByRole("article").filter({ hasText: "parsley" }).getByRole("link", { name: /^Read/ }).click();
  await page.getByRole("button", { name: "Who this is: change" }).click();
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("Enter their name.")).toBeVisible();
  await page.getByLabel("First name").fill("Perpetua");
  await page.getByLabel("Last name").fill("Lop");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("heading", { name: /^Perpetua Lop wrote/ })).toBeVisible();
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await page.getByRole("button", { name: "Who’s handling it: change" }).click();
  await page.getByLabel("Jonah Pell").check();
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("button", { name: "Who’s handling it: change" })).toHaveText("Jonah Pell");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await page.getByRole("button", { name: "Set aside until: change" }).click();
  await page.getByLabel("A day").check();
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("Choose the day.").first()).toBeVisible();
  await page.getByLabel("Monday", { exact: true }).check();
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/^Perpetua Lop is set aside until /);
  await expectAccessible(page);
  await page.goto(`${VETS}/heard?show=conversations&state=aside`);
  await expect(page.getByRole("article").filter({ hasText: "Perpetua Lop" })).toBeVisible();
});

test("who writes again comes back, is told of by mail, and the mail leads there", async ({ page, browser }) => {
  const town = await (await browser.newContext()).newPage();
  await text(town, PHONE, "And how about clover?");
  await town.goto(`${mailUrl()}/box/maud@bramblelane.example`);
  const mail = town.getByRole("article").filter({ hasText: "Perpetua Lop sent a message by text" });
  await until(town, () => expect(mail.first()).toBeVisible({ timeout: 2000 }));
  await mail.first().getByRole("link", { name: "Open" }).click();
  const link = town.getByRole("link", { name: /\/heard\/conversations\// }).first();
  const address = await link.getAttribute("href");
  await takeSeat(page, "demo-manager");
  await page.goto(new URL(address ?? "").pathname);
  await expect(page.getByText("And how about clover?")).toBeVisible();
  await page.getByRole("button", { name: "No answer needed" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/Nothing left to answer\.$/);
  await town.context().close();
});

test("stop ends what can be written, and the page says so", async ({ page, browser }) => {
  const town = await (await browser.newContext()).newPage();
  await text(town, PHONE, "STOP");
  await until(town, () => expect(town.getByText(/get any more texts from us/)).toBeVisible({ timeout: 2000 }));
  await takeSeat(page, "demo-desk");
  await page.goto(`${VETS}/heard?show=conversations&state=all`);
  await page.getByRole("article").filter({ hasText: "Perpetua Lop" }).getByRole("link", { name: /^Read/ }).click();
  await expect(page.getByText("They opted out of texts.")).toBeVisible();
  await expect(page.getByText(/We have no working address for Perpetua/)).toBeVisible();
  await town.context().close();
});

test("hours, whom concerns go to, and who stands in are sentences", async ({ page }) => {
  await takeSeat(page, "demo-manager");
  await page.goto(`${VETS}/set-up/answering`);
  await expectAccessible(page);
  await page.getByRole("button", { name: "How quickly: change" }).click();
  await page.getByLabel("Sooner, for a rating of 1").fill("9");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("The time for 1 of 5 can’t be longer than for everyone else.")).toBeVisible();
  await page.getByLabel("Sooner, for a rating of 1").fill("2");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("for 1 of 5 within two office hours")).toBeVisible();
  await expect(page.getByRole("dialog")).toHaveCount(0);
  const fenwick = page.getByRole("listitem").filter({ hasText: "Fenwick answers" });
  await fenwick.getByRole("button").click();
  await page.getByLabel("Saturday").fill("nonsense");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText(/isn’t a time range/)).toBeVisible();
  await page.getByLabel("Saturday").fill("10:00 to 13:00");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(fenwick).toContainText("Sat 10:00 to 13:00");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await page.getByRole("button", { name: "When Jonah Pell is away: change" }).click();
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("Choose the last day.")).toBeVisible();
  await page.getByRole("button", { name: "Cancel" }).click();
});
