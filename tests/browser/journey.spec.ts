import { expect } from "@playwright/test";
import { customer, linkOnPhone, openLastMail, phoneUrl, signIn, skip, takeSeat, test, waypostUrl } from "./town";

/** What people do from the first ask to what came of it, happy and unhappy. */

test.describe.configure({ mode: "serial" });

test("the front desk asks somebody new, twice clicked and once asked; a happy customer ends on the review site", async ({
  page,
  browser,
}) => {
  await takeSeat(page, "demo-desk");
  await page.keyboard.press("a");
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Add someone new" }).click();
  await dialog.getByLabel("Name", { exact: true }).fill("FERRIS OAKHURST");
  await dialog.getByLabel("Mobile").fill("not a number");
  await expect(dialog.getByText("That isn’t a phone number")).toBeVisible();
  await dialog.getByLabel("Mobile").fill("07700 900981");
  await dialog.getByLabel("Email", { exact: true }).fill("ferris.oakhurst@post.example");
  await dialog.getByLabel("Who or what it’s about").fill("Bramley");
  await expect(dialog.getByText("Goes out now")).toBeVisible();
  await expect(dialog.getByText(/Hi Ferris, how was Bramley's/)).toBeVisible();
  await dialog.getByRole("button", { name: "Ask", exact: true }).dblclick();
  await expect(page.getByText("Ferris Oakhurst will be asked.")).toBeVisible();
  await expect(dialog).toBeHidden();

  const visitor = await customer(browser);
  await expect(async () => expect(await linkOnPhone(visitor, "+447700900981")).toContain("/a/")).toPass({
    timeout: 600_000,
  });
  const link = await linkOnPhone(visitor, "+447700900981");
  await expect(visitor.locator(".bubble")).toHaveCount(1);
  await visitor.goto(link);
  await expect(visitor.getByRole("heading", { name: /How was Bramley’s/ })).toBeVisible();
  await visitor.getByRole("button", { name: /5 of 5/ }).click();
  await expect(visitor.getByRole("heading", { name: "We’re glad to hear it." })).toBeVisible();
  const [site] = await Promise.all([
    visitor.waitForEvent("popup"),
    visitor.getByRole("button", { name: /Write on Waypost/ }).click(),
  ]);
  await expect(site.getByRole("heading", { name: /on Waypost/ })).toBeVisible();
  await site.getByLabel("Your name").fill("Ferris O.");
  await site.getByLabel("Stars").selectOption("5");
  await site.getByLabel("Your words").fill("Bramley came home wagging, and nobody hurried us.");
  await site.getByRole("button", { name: "Publish" }).click();
  await visitor.goto(link);
  await expect(visitor.getByRole("heading", { name: /Thank you, that really helps/ })).toBeVisible();
});

test("a second ask meets the open one, in any tab", async ({ page }) => {
  await takeSeat(page, "demo-desk");
  await page.goto("/c/bramble-lane-vets/people?q=oakhurst");
  await page.getByRole("link", { name: "Oakhurst, Ferris" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/Ferris Oakhurst answered: 5 of 5/);
  await page.getByRole("button", { name: "Ask Ferris" }).click();
  // The review of the test before may have been collected by now, or not yet: they rest from the later of the two.
  await expect(page.getByRole("dialog").getByText(/Resting: (?:asked|reviewed) less than a day ago/)).toBeVisible();
});

test("the review is collected, a draft of a reply stands with it, and what is posted stands on Waypost", async ({
  page,
}) => {
  await takeSeat(page, "demo-manager");
  await skip(page, "Skip an hour");
  await page.goto("/c/bramble-lane-vets/heard?show=reviews");
  const review = page.getByRole("article").filter({ hasText: "Bramley came home wagging" });
  await review.getByRole("link", { name: "Reply" }).click();
  const form = page.getByRole("article").filter({ hasText: "Bramley came home wagging" });
  // A draft from the review's own words, and another one.
  const words = form.getByRole("textbox");
  await expect(words).toHaveValue(/^Hello Ferris, .*thank/i);
  const draft = await words.inputValue();
  await form.getByRole("button", { name: "Another draft" }).click();
  await expect(words).not.toHaveValue(draft);
  await expect(form.getByText(/Draft based on the review · \d+ of 4,000/)).toBeVisible();
  // What somebody types themselves is looked over.
  await words.fill("Thank you, Ferris. The next visit is free of charge.");
  await expect(form.getByText(/“.*free.*” promises money or a gift\./)).toBeVisible();
  await words.fill("");
  await form.getByRole("button", { name: /Post reply/ }).click();
  await expect(form.getByText("Write the reply first.")).toBeVisible();
  await form.getByRole("textbox").fill("Thank you, Ferris. Give Bramley our best.");
  await form.getByRole("button", { name: /Post reply/ }).click();
  await expect(page.getByText("Your reply is live.")).toBeVisible();
  await page.goto(`${waypostUrl()}/places/bramble-lane-merrow-bay`);
  const places = ["bramble-lane-merrow-bay", "bramble-lane-fenwick", "bramble-lane-old-mill"];
  let found = false;
  for (const place of places) {
    await page.goto(`${waypostUrl()}/places/${place}`);
    found ||= (await page.getByText("Thank you, Ferris. Give Bramley our best.").count()) > 0;
  }
  expect(found).toBe(true);
});

test("a recorded visit makes the plan ask; an unhappy customer is heard, answered and put right", async ({
  page,
  browser,
}) => {
  await takeSeat(page, "demo-manager");
  await page.goto("/c/bramble-lane-vets/people");
  await page.getByRole("button", { name: "Add a person" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Name", { exact: true }).fill("Rosalind Quarrie");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(
    page.getByText(/Enter a mobile number or an email address|Add a mobile number or an email address/),
  ).toBeVisible();
  await dialog.getByLabel("Email", { exact: true }).fill("rosalind.quarrie@post.example");
  await dialog.getByRole("button", { name: "Save" }).click();
  await page.waitForURL(/people\/[0-9a-f-]{36}/);
  await page.getByRole("button", { name: "Record a visit" }).click();
  await dialog.getByLabel("Service").selectOption({ label: "Vaccination" });
  await dialog.getByLabel("Who or what it was about").fill("Juno");
  await dialog.getByLabel("At", { exact: true }).fill("half past");
  await dialog.getByRole("button", { name: "Record", exact: true }).click();
  await expect(page.getByText("Enter a date, and a time like 14:05.")).toBeVisible();
  await dialog.getByLabel("At", { exact: true }).fill("15:00");
  await dialog.getByRole("button", { name: "Record", exact: true }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/Rosalind Quarrie will be asked today at 17:00/);
  await skip(page, "Skip an hour", 3);

  const visitor = await customer(browser, true);
  await openLastMail(visitor, "rosalind.quarrie@post.example");
  const link = await visitor.locator("article a[href*='/a/']").first().getAttribute("href");
  await visitor.goto(link ?? "");
  await visitor.getByRole("button", { name: /2 of 5/ }).click();
  await expect(visitor.getByRole("heading", { name: "We’re sorry it wasn’t better." })).toBeVisible();
  await expect(visitor.getByRole("button", { name: /Write on Waypost/ })).toBeVisible();
  await visitor.getByRole("button", { name: /Send to Bramble Lane Vets/ }).click();
  await expect(visitor.getByText("Write a few words first")).toBeVisible();
  await visitor.getByLabel("What could we put right?").fill("Juno was shaking and nobody told us why we waited.");
  await visitor.getByRole("button", { name: /Send to Bramble Lane Vets/ }).click();
  await expect(visitor.getByRole("heading", { name: /Thank you for telling us/ })).toBeVisible();

  await page.goto("/c/bramble-lane-vets/today");
  const item = page.getByRole("listitem").filter({ hasText: "Juno was shaking" });
  await item.getByRole("link", { name: "Read and reply" }).click();
  await page.getByRole("button", { name: "I’ll handle it" }).click();
  await expect(page.getByText("Maud Ellery picked this up")).toBeVisible();
  await page.getByLabel(/Write to Rosalind/).fill("I am sorry, Rosalind. May I ring you tomorrow?");
  await page.getByRole("button", { name: "Send" }).click();
  await expect(page.getByText(/by email, (sent|delivered)/)).toBeVisible({ timeout: 600_000 });
  await openLastMail(visitor, "rosalind.quarrie@post.example");
  await expect(visitor.locator("article")).toContainText("May I ring you tomorrow?");
  await visitor.getByLabel("Write back").fill("Yes please, after ten.");
  await visitor.getByRole("button", { name: "Send reply" }).click();
  await expect(page.getByText("Yes please, after ten.")).toBeVisible({ timeout: 600_000 });
  await page.getByRole("button", { name: "Close concern" }).click();
  await expect(page.getByText("Choose an outcome.")).toBeVisible();
  await page.getByLabel("Outcome").selectOption("put right");
  await page.getByRole("button", { name: "Close concern" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Rosalind Quarrie: put right.");
  await page.reload();
  await expect(page.getByText(/Closed by Maud Ellery/)).toBeVisible();
});

test("what waits is walked, set aside and drafted with single keys, which can be switched off", async ({ page }) => {
  await takeSeat(page, "demo-manager");
  await page.goto("/c/bramble-lane-vets/heard");
  const cards = page.locator("article[data-entry]");
  await page.keyboard.press("j");
  await expect(cards.first()).toBeFocused();
  await page.keyboard.press("j");
  await expect(cards.nth(1)).toBeFocused();
  await page.keyboard.press("k");
  await expect(cards.first()).toBeFocused();
  const review = cards.filter({ has: page.getByRole("button", { name: "Set aside" }) }).first();
  const author = (await review.locator("b").first().textContent()) ?? "";
  await review.focus();
  await page.keyboard.press("r");
  const words = review.getByRole("textbox");
  await expect(words).toBeFocused();
  const draft = await words.inputValue();
  expect(draft.length).toBeGreaterThan(20);
  // In the field letters are words.
  await page.keyboard.press("e");
  await expect(words).not.toHaveValue(draft);
  await review.focus();
  await page.keyboard.press("d");
  await expect(review.getByText(/Draft based on the review/)).toBeVisible();
  await review.focus();
  await page.keyboard.press("e");
  await expect(page.getByText("Set aside.")).toBeVisible();
  await page.getByRole("link", { name: /^Set aside/ }).click();
  await page.waitForURL(/show=aside/);
  const aside = cards.filter({ hasText: author }).first();
  await aside.getByRole("button", { name: "Move back to waiting" }).click();
  await expect(page.getByText("Back in the waiting list.")).toBeVisible();

  await page.keyboard.press("?");
  await page.getByRole("checkbox", { name: "Use single-key shortcuts in this browser" }).uncheck();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await page.keyboard.press("t");
  await page.waitForTimeout(500);
  await expect(page).toHaveURL(/heard/);
  await page.goto("/account");
  await page.getByRole("checkbox", { name: "Use single-key shortcuts in this browser" }).check();
});

test("STOP by text ends it, and the story shows why", async ({ page, browser }) => {
  await takeSeat(page, "demo-desk");
  await page.keyboard.press("a");
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Add someone new" }).click();
  await dialog.getByLabel("Name", { exact: true }).fill("Jun Stopford");
  await dialog.getByLabel("Mobile").fill("07700900982");
  await dialog.getByRole("button", { name: "Ask", exact: true }).click();
  await expect(page.getByText("Jun Stopford will be asked.")).toBeVisible();
  await skip(page, "Skip to tomorrow, 9:00");
  const visitor = await customer(browser);
  await expect(async () => expect(await linkOnPhone(visitor, "+447700900982")).toContain("/a/")).toPass({
    timeout: 600_000,
  });
  await visitor.goto(`${phoneUrl()}/phone/${encodeURIComponent("+447700900982")}`);
  await visitor.getByRole("textbox").fill("STOP");
  await visitor.getByRole("button", { name: "Send" }).click();
  await page.goto("/c/bramble-lane-vets/people?q=stopford");
  await page.getByRole("link", { name: "Stopford, Jun" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Jun Stopford has opted out.");
  await expect(page.getByText("They opted out.").first()).toBeVisible();
  await page.getByRole("button", { name: "Ask Jun" }).click();
  await expect(page.getByRole("dialog").getByText(/can’t be asked\. Opted out/)).toBeVisible();
});

test("another client's addresses are not found, whichever way one comes", async ({ page, browser }) => {
  await takeSeat(page, "demo-manager");
  await page.goto("/c/bramble-lane-vets/people");
  const theirs = await page.getByRole("table").getByRole("link").first().getAttribute("href");
  const stranger = await (await browser.newContext()).newPage();
  await signIn(stranger, "corin@copperline.example");
  await stranger.waitForURL(/copperline-piano-care\/today/);
  for (const path of [
    "/c/bramble-lane-vets/today",
    "/c/bramble-lane-vets/asking/log",
    theirs ?? "",
    (theirs ?? "").replace("bramble-lane-vets", "copperline-piano-care"),
    "/c/nobody/today",
    "/c/copperline-piano-care/people/not-an-id",
  ]) {
    const response = await stranger.goto(path);
    expect([path, response?.status()]).toEqual([path, 404]);
  }
});
