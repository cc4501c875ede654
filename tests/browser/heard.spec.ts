import { expect, type Locator } from "@playwright/test";
import { expectAccessible, takeSeat, test, waypostUrl } from "./town";

/** Sites, rules and replies: from a site that nobody read to answers that stand there. */

test.describe.configure({ mode: "serial" });

const VETS = "/c/bramble-lane-vets";
const town = () => process.env.ESTIMA_E2E_TOWN ?? "";

test("a manager connects Commons from nothing, leaves on the way and goes on where it stood", async ({ page }) => {
  await takeSeat(page, "demo-manager");
  await page.goto(`${VETS}/set-up/pages`);
  await page.getByRole("link", { name: "Connect Commons" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Which of these on Commons is Bramble Lane Vets?");
  await page.getByLabel("Name of the business").fill("Nobody at all");
  await page.getByRole("button", { name: "Search", exact: true }).click();
  await expect(page.getByText("We found nothing by that name on Commons.")).toBeVisible();
  await page.getByLabel("Name of the business").fill("bramble lane");
  await page.getByRole("button", { name: "Search", exact: true }).click();
  const fenwick = page.getByRole("group", { name: /^Fenwick/ });
  await expect(fenwick.getByLabel(/Bramble Lane Vets, Fenwick/)).toBeChecked();
  // Two branches can’t have the same page.
  await page
    .getByRole("group", { name: /^Old Mill/ })
    .getByLabel(/Bramble Lane Vets, Fenwick/)
    .check();
  await page.getByRole("button", { name: "Yes, these are ours" }).click();
  await expect(page.getByText("Two branches can’t have the same page")).toBeVisible();
  await page
    .getByRole("group", { name: /^Old Mill/ })
    .getByLabel("Not on Commons")
    .check();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Yes, these are ours" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Sign in to Commons to collect its reviews.");
  // Left, and taken up again.
  await page.goto(`${VETS}/set-up/pages`);
  await page.getByRole("link", { name: "Finish connecting Commons" }).click();
  await page.getByRole("button", { name: "Sign in to Commons" }).click();
  await expect(page.getByRole("heading", { name: "Sign in to Commons", exact: true })).toBeVisible();
  await page.getByRole("button", { name: "Do not allow" }).click();
  await expect(page.getByText(/You didn’t give permission on the site/)).toBeVisible();
  await page.getByRole("button", { name: "Sign in to Commons" }).click();
  await page.getByLabel("You look after").selectOption("Bramble Lane Vets");
  await page.getByRole("button", { name: "Allow", exact: true }).click();
  await expect(page.getByText("Signed in as Bramble Lane Vets")).toBeVisible();
  await page.getByRole("button", { name: "Start collecting reviews" }).click();
  const branch = page.getByRole("region", { name: "Fenwick" });
  await expect(branch.getByText(/Last checked .*130 reviews\. Signed in as Bramble Lane Vets\./)).toBeVisible();
  await page.goto(`${VETS}/heard?show=reviews&site=Commons`);
  await expect(
    page
      .getByRole("article")
      .first()
      .getByText(/recommended/),
  ).toBeVisible();
});

test("Tenfold needs no sign-in, counts in points, and has no replies", async ({ page }) => {
  await takeSeat(page, "demo-manager");
  await page.goto(`${VETS}/set-up/pages/connect?site=tenfold`);
  await page.getByRole("button", { name: "Yes, these are ours" }).click();
  await page.getByRole("button", { name: "Start collecting reviews" }).click();
  // Old Mill is not on Commons: what is read there is Tenfold.
  await expect(page.getByRole("region", { name: "Old Mill" }).getByText(/Last checked .*130 reviews\./)).toBeVisible();
  await page.goto(`${VETS}/heard?show=reviews&site=Tenfold`);
  const first = page.getByRole("article").first();
  await expect(first.getByText(/of 10/)).toBeVisible();
  await expect(first.getByRole("link", { name: "Reply" })).toHaveCount(0);
});

test("a sign-in that ends is told of, and nothing is lost when somebody signs in again", async ({ page, request }) => {
  await takeSeat(page, "demo-manager");
  await request.post(`${town()}/commons/faults`, {
    data: { kind: "withdrawn", match: "bramble-lane-fenwick", count: 1 },
  });
  await page.goto(`${VETS}/set-up/pages`);
  await expect(async () => {
    await page.reload();
    await expect(page.getByRole("heading", { level: 1 })).toHaveText("Your sign-in to Commons has expired.", {
      timeout: 2000,
    });
  }).toPass({ timeout: 300_000 });
  await page.goto(`${VETS}/today`);
  await expect(page.getByText(/Commons/).first()).toBeVisible();
  await page.goto(`${VETS}/set-up/pages`);
  await page.getByRole("button", { name: "Sign in again" }).first().click();
  await page.getByLabel("You look after").selectOption("Bramble Lane Vets");
  await page.getByRole("button", { name: "Allow", exact: true }).click();
  await expect(
    page
      .getByRole("region", { name: "Fenwick" })
      .getByText(/Last checked/)
      .first(),
  ).toBeVisible();
});

test("ten who wait are answered with the keyboard alone", async ({ page }) => {
  await takeSeat(page, "demo-manager");
  await page.goto(`${VETS}/heard?site=Commons`);
  await expect(page.getByRole("article").nth(10)).toBeVisible();
  const waits = async () =>
    Number(((await page.getByRole("link", { name: /^Waiting/ }).textContent()) ?? "").replace(/\D/g, ""));
  const before = await waits();
  for (let n = 1; n <= 10; n++) {
    // To the first that waits, into its reply, and on its way.
    const entry = page.locator("article[id^=review-]").first();
    const id = await entry.getAttribute("id");
    for (let step = 0; step < 40; step++) {
      await page.keyboard.press("j");
      if ((await page.evaluate("document.activeElement?.id")) === id) break;
    }
    await page.keyboard.press("r");
    await expect(page.locator(`#${id} textarea`)).toBeFocused();
    await page.keyboard.press("Control+Enter");
    await expect(page.locator(`#${id} textarea`)).toHaveCount(0);
    await expect(async () => expect(await waits()).toBe(before - n)).toPass();
  }
});

/** Writes a reply, once the page has come alive: what is typed before that is not counted. */
async function typeReply(card: Locator, words: string): Promise<void> {
  await expect(async () => {
    await card.getByRole("textbox").fill(words);
    await expect(card.getByText(`${words.length} of `)).toBeVisible({ timeout: 2000 });
  }).toPass();
}

test("two write to one review: the second keeps their words, and is told what the first one posted", async ({
  page,
  browser,
}) => {
  await takeSeat(page, "demo-manager");
  await page.goto(`${VETS}/heard?site=Waypost`);
  const first = page.locator("article[id^=review-]").first();
  const id = (await first.getAttribute("id")) ?? "";
  const colleague = await (await browser.newContext()).newPage();
  await takeSeat(colleague, "demo-operator");
  // One has it open by its address, where it stays; in the list of those that wait it goes once it is answered.
  await colleague.goto(`${VETS}/heard?show=reviews&open=${id.replace("review-", "")}#${id}`);
  const theirs = colleague.locator(`#${id} textarea`);
  await typeReply(colleague.locator(`#${id}`), "Half a sentence of mine, and");
  const list = await (await browser.newContext()).newPage();
  await takeSeat(list, "demo-operator");
  await list.goto(`${VETS}/heard?site=Waypost`);
  await typeReply(list.locator(`#${id}`), "Words in a list, not sent");

  const mine = page.locator(`#${id} textarea`);
  await typeReply(page.locator(`#${id}`), "Thank you for coming, and for telling us.");
  await page
    .locator(`#${id}`)
    .getByRole("button", { name: /^Post reply/ })
    .click();
  await expect(mine).toHaveCount(0);

  await expect(colleague.locator(`#${id}`).getByText(/Someone replied while you were writing/)).toBeVisible({
    timeout: 60_000,
  });
  await expect(theirs).toHaveValue("Half a sentence of mine, and");
  await expect(list.getByRole("region", { name: "Your words" })).toContainText("Words in a list, not sent", {
    timeout: 60_000,
  });
  await list.getByRole("button", { name: "Discard" }).click();
  await expect(list.getByRole("region", { name: "Your words" })).toHaveCount(0);
});

test("a rule is made from its rehearsal, plans what comes in, and can be stopped until it leaves", async ({
  page,
  request,
}) => {
  await takeSeat(page, "demo-manager");
  await page.goto(`${VETS}/heard`);
  await page.getByRole("link", { name: "Rules and saved replies" }).click();
  const rehearsal = page.getByRole("region", { name: "Rehearsal" });
  await expect(rehearsal.getByText(/suggested/).first()).toBeVisible();
  await expect(rehearsal.getByText("rule 2 suggests it").first()).toBeVisible();
  await expectAccessible(page);
  const second = page.getByRole("listitem").filter({ hasText: "with a comment" }).first();
  await second.getByRole("button", { name: "What it does: change" }).click();
  await page.getByLabel("Write and post a reply").check();
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Two rules post replies automatically.");
  await expect(rehearsal.getByText("rule 2 posts it").first()).toBeVisible();
  await second.getByRole("button", { name: "When it is posted: change" }).click();
  await page.getByLabel("Hours after we collect it").fill("many");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("Enter a number of hours.")).toBeVisible();
  await page.getByRole("button", { name: "Cancel" }).click();
  await request.post(`${waypostUrl()}/places/bramble-lane-fenwick`, {
    form: { author: "Rule Tested", stars: "5", words: "Lovely staff, and seen on time." },
  });
  await page.goto(`${VETS}/heard?show=planned`);
  const planned = page.getByRole("article").filter({ hasText: "Rule Tested" });
  await expect(async () => {
    await page.reload();
    await expect(planned).toBeVisible({ timeout: 2000 });
  }).toPass({ timeout: 300_000 });
  await expect(planned.getByText(/Will be posted automatically .*, unless someone replies first\./)).toBeVisible();
  await planned.getByRole("button", { name: "Don’t post it" }).click();
  await expect(page.getByText("It won’t be posted. The review is waiting for a reply again.")).toBeVisible();
  // What it does from here on is nobody else's business.
  await page.goto(`${VETS}/heard/rules`);
  for (const words of ["without a comment", "with a comment"])
    await page
      .getByRole("listitem")
      .filter({ hasText: words })
      .first()
      .getByRole("button", { name: "Turn it off" })
      .click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("All rules are off.");
});

test("the desk drafts with a saved reply, a manager approves", async ({ page, browser, request }) => {
  await takeSeat(page, "demo-desk");
  await request.post(`${waypostUrl()}/places/bramble-lane-fenwick`, {
    form: { author: "Approval Tested", stars: "4", words: "All fine." },
  });
  const mine = page.getByRole("article").filter({ hasText: "Approval Tested" });
  await page.goto(`${VETS}/heard?show=reviews`);
  await expect(async () => {
    await page.reload();
    await expect(mine).toBeVisible({ timeout: 2000 });
  }).toPass({ timeout: 300_000 });
  await mine.getByRole("link", { name: "Reply" }).click();
  await mine.getByRole("button", { name: "Saved replies" }).click();
  await page.getByLabel("Search saved replies").fill("no words");
  await page
    .getByRole("button", { name: /Happy, no words/ })
    .first()
    .click();
  await expect(mine.getByRole("textbox")).toHaveValue(/Approval/);
  await mine.getByRole("textbox").fill("Thank you, and see you soon.");
  await mine.getByRole("button", { name: /Send for approval/ }).click();
  await expect(mine.getByText("Waiting for approval.")).toBeVisible();
  const manager = await (await browser.newContext()).newPage();
  await takeSeat(manager, "demo-manager");
  await manager.goto(`${VETS}/heard`);
  const theirs = manager.getByRole("article").filter({ hasText: "Approval Tested" });
  await expect(theirs.getByText(/drafted it/)).toBeVisible();
  await expect(theirs.getByRole("textbox")).toHaveValue("Thank you, and see you soon.");
  await theirs.getByRole("button", { name: /Approve and post/ }).click();
  await expect(manager.getByText("Your reply is live.")).toBeVisible();
  await expect(theirs).toHaveCount(0);
  await manager.goto(`${waypostUrl()}/places/bramble-lane-fenwick`);
  await expect(manager.getByText("Thank you, and see you soon.")).toBeVisible();
  await manager.context().close();
});

test("what people name opens their very words, and a theme of one's own is read for", async ({ page }) => {
  await takeSeat(page, "demo-manager");
  await page.goto(`${VETS}/heard/themes`);
  await page
    .getByRole("row", { name: /^Waiting/ })
    .getByRole("link")
    .click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/^Waiting comes up in \d+, \d+ of them unhappy\.$/);
  await expect(page.locator("mark").first()).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("link", { name: "What people mention" }).click();
  await page.getByRole("button", { name: "Add a theme" }).click();
  await page.getByLabel("Theme", { exact: true }).fill("The dog");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("Enter at least one word people use for it.")).toBeVisible();
  await page.getByLabel("Words people use for it").fill("dog, puppy");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("row", { name: /^The dog/ })).toBeVisible();
});

test("what one is told is chosen in a sentence, for oneself alone", async ({ page }) => {
  await takeSeat(page, "demo-desk");
  await page.goto(`${VETS}/heard/told`);
  await expect(page.getByText(/Notify me about concerns and messages from customers/)).toBeVisible();
  await page.getByRole("button", { name: "When you’re notified: change" }).click();
  await page.getByLabel("One summary a day").check();
  await page.getByLabel("Send the summary at").fill("25:00");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("Enter a time, such as 8:00.")).toBeVisible();
  await page.getByLabel("Send the summary at").fill("17:30");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("in a daily summary at 17:30")).toBeVisible();
  await page.reload();
  await expect(page.getByText("in a daily summary at 17:30")).toBeVisible();
  await expectAccessible(page);
});

test("reviews of a page that nothing reads come from a file, are looked at, kept, answered by hand, and taken back", async ({
  page,
}) => {
  await takeSeat(page, "demo-manager");
  await page.goto(`${VETS}/heard/bring-in`);
  await page.getByLabel("A file").setInputFiles({
    name: "guide.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(
      "Who,Stars,Comment,Date\nImported One,5,All was well.,23/11/2026\nImported Two,none,?,23/11/2026\n",
    ),
  });
  await page.getByRole("button", { name: "Check it" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/^One review from Pawprint Guide, /);
  await expect(page.getByText("Row 2: we can’t read the rating")).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Import this review" }).click();
  await expect(page.getByText("guide.csv")).toBeVisible();
  await page.goto(`${VETS}/heard?show=reviews&q=imported`);
  const mine = page.getByRole("article").filter({ hasText: "Imported One" });
  await mine.getByRole("link", { name: "Reply" }).click();
  await mine.getByRole("textbox").fill("Thank you, from all of us.");
  await mine.getByRole("button", { name: /I’ve posted it/ }).click();
  await expect(mine.getByText(/^Replied by/)).toBeVisible();
  await page.goto(`${VETS}/heard/bring-in`);
  page.once("dialog", (dialog) => dialog.accept());
  await page.getByRole("button", { name: "Undo import" }).click();
  await expect(page.getByText("Undone: one review removed.")).toBeVisible();
});

test("all reviews are found by words, narrowed down in a sentence, and kept as a view", async ({ page }) => {
  await takeSeat(page, "demo-manager");
  await page.goto(`${VETS}/heard?show=reviews`);
  await page.getByLabel("Search words or names").fill("dog");
  await page.getByRole("button", { name: "Find" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/with “dog”, latest first\.$/);
  await page.getByRole("button", { name: /^Rating: / }).click();
  await page.getByRole("menuitem", { name: /^happy reviews/ }).click();
  await page.waitForURL(/rating=happy/);
  await page.getByRole("button", { name: "Save as a view: change" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Happy dogs");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await page.goto(`${VETS}/heard?show=reviews`);
  await page.getByRole("link", { name: "Happy dogs" }).click();
  await page.waitForURL(/q=dog/);
  await expectAccessible(page);
  page.once("dialog", (dialog) => dialog.accept());
  await page.getByRole("button", { name: "Delete this view" }).click();
  await expect(page.getByText("Deleted.")).toBeVisible();
  // Between two days, and by language, with how many each leaves.
  await page.goto(`${VETS}/heard?show=reviews`);
  await page.getByRole("button", { name: /^Since when: / }).click();
  await page.getByRole("menuitem", { name: "dates I choose" }).click();
  await page.getByRole("button", { name: "From: the start" }).click();
  await page.getByRole("button", { name: /20th/ }).click();
  await page.waitForURL(/from=2026-11-20/);
  await expect(page.getByRole("button", { name: "From: Fri 20 Nov" })).toBeVisible();
  await page.getByRole("button", { name: /^Language: / }).click();
  await page.getByRole("menuitem", { name: /English \d+/ }).click();
  await page.waitForURL(/language=en/);
  await expect(page.getByRole("article").first()).toBeVisible();
});
