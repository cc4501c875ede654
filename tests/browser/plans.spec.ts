import { expect, type Locator, type Page } from "@playwright/test";
import { mailUrl, signIn, skip, takeSeat, test } from "./town";

/** Plans in the browser: made, moved, rehearsed, run, changed while running, steered and explained. */

const HOME = "/c/bramble-lane-vets/asking";

async function openPlan(page: Page, name = "After a visit"): Promise<string> {
  await page.goto(HOME);
  await page.getByRole("link", { name, exact: true }).click();
  await page.waitForURL(/plans\/[0-9a-f-]{36}/);
  return page.url();
}

/** Goes to a control as somebody without a mouse does: from one to the next. */
async function tabTo(page: Page, wanted: Locator): Promise<void> {
  await wanted.waitFor();
  for (let n = 0; n < 160; n++) {
    if (await wanted.evaluate((element) => element === document.activeElement)) return;
    await page.keyboard.press("Tab");
  }
  throw new Error("It cannot be reached by keyboard.");
}

const keep = async (page: Page) => {
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("button", { name: "Save", exact: true })).toHaveCount(0);
};

test("a plan is built from nothing with the keyboard alone, rehearsed, run, and seen done", async ({ page }) => {
  test.setTimeout(180_000);
  await takeSeat(page, "demo-manager");
  await page.goto(HOME);
  await tabTo(page, page.getByRole("button", { name: "Start from scratch" }));
  await page.keyboard.press("Enter");
  await page.waitForURL(/plans\//);
  const plan = page.url();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("New plan hasn’t started yet.");

  await tabTo(page, page.getByRole("button", { name: "The plan’s name: change" }));
  await page.keyboard.press("Enter");
  await tabTo(page, page.getByLabel("Name", { exact: true }));
  await page.keyboard.press("Control+a");
  await page.keyboard.type("At the desk");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("At the desk hasn’t started yet.");

  await tabTo(page, page.getByRole("button", { name: "When it starts: change" }));
  await page.keyboard.press("Enter");
  await tabTo(page, page.getByLabel("It starts when"));
  await page.keyboard.type("someone asks");
  await expect(page.getByLabel("It starts when")).toHaveValue("by hand");
  await tabTo(page, page.getByRole("button", { name: "Save", exact: true }));
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "When it starts: change" })).toHaveText("someone asks by hand");

  // Moved along the ruler by keys: nothing is kept until Enter, and closed hours show at once where it would really
  // leave.
  const mark = page.getByRole("link", { name: /First ask/ });
  await tabTo(page, mark);
  for (let n = 0; n < 4; n++) await page.keyboard.press("ArrowLeft");
  await expect(page.getByText(/set for .* goes out/)).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: /When “First ask” goes out/ })).toHaveText("1 hour");
  await tabTo(page, page.getByRole("button", { name: "Add a message" }));
  await page.keyboard.press("Enter");
  await expect(page.getByRole("link", { name: /Another ask/ })).toBeVisible();

  await tabTo(page, page.getByRole("link", { name: "Rehearse", exact: true }));
  await page.keyboard.press("Enter");
  await page.waitForURL(/rehearsal/);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/would be asked, with \d+ messages in all\./);
  await expect(page.getByText("Nothing was sent or saved.")).toBeVisible();
  await page.goBack();

  await tabTo(page, page.getByRole("button", { name: "Start plan" }));
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("At the desk is running.");

  await page.keyboard.press("a");
  const dialog = page.getByRole("dialog");
  await tabTo(page, dialog.getByRole("button", { name: "Add someone new" }));
  await page.keyboard.press("Enter");
  await tabTo(page, dialog.getByLabel("Name", { exact: true }));
  await page.keyboard.type("Wilhelmina Thorne");
  await tabTo(page, dialog.getByLabel("Email", { exact: true }));
  await page.keyboard.type("wilhelmina.thorne@post.example");
  const ask = dialog.getByRole("button", { name: "Ask", exact: true });
  await expect(ask).toBeEnabled();
  await tabTo(page, ask);
  await page.keyboard.press("Enter");
  await expect(page.getByText("Wilhelmina Thorne will be asked.")).toBeVisible();
  await skip(page, "Skip an hour");
  const line = page.getByRole("listitem").filter({ hasText: "Wilhelmina Thorne" });
  // What leaves in the hour may still be on its way when the clock has arrived.
  await expect(async () => {
    await page.goto(`${HOME}/log?state=sent`);
    await expect(line).toContainText("“First ask” of At the desk", { timeout: 5000 });
  }).toPass({ timeout: 90_000 });
  await expect(line).toContainText(/sent|delivered/);

  // Whoever is asked by hand in other tests is asked by the plan that the demo ships with.
  await page.goto(plan);
  page.once("dialog", (dialog) => dialog.accept());
  await page.getByRole("button", { name: "Archive" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("At the desk is archived.");
});

test("a message is dragged along the ruler, the change compared and put in force for asks under way", async ({
  page,
}) => {
  await takeSeat(page, "demo-manager");
  const address = await openPlan(page);
  const card = page.getByRole("link", { name: /Second ask/ });
  const before =
    (await page.getByRole("button", { name: /“Second ask” goes out|When “First ask” goes out/ }).textContent()) ?? "";
  await card.scrollIntoViewIfNeeded();
  const box = await card.boundingBox();
  if (!box) throw new Error("The card is not drawn.");
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 120, y, { steps: 6 });
  // While it hangs in the closed hours, the line says where it would leave.
  await expect(page.getByText(/Second ask.*set for .* goes out/)).toBeVisible();
  await page.mouse.move(x + 190, y, { steps: 6 });
  await page.mouse.up();
  const banner = page.getByRole("region", { name: "Changes not applied yet" });
  await expect(banner).toContainText("“Second ask” goes out");
  await expect(banner).toContainText("2 days at 10:00");
  expect(before).toBeTruthy();

  await banner.getByRole("link", { name: "Compare in a rehearsal" }).click();
  await page.waitForURL(/against=force/);
  await expect(page.getByRole("columnheader", { name: "the live version" })).toBeVisible();
  await expect(page.getByText(/“Second ask” goes out: 2 days at 10:00 →/)).toBeVisible();
  await page.goto(address);

  await page.getByRole("radio", { name: /asks under way too/ }).check();
  await page.getByRole("button", { name: "Apply changes" }).click();
  await expect(page.getByText(/Applied, including to \d+ asks? under way/)).toBeVisible();
  await expect(banner).toHaveCount(0);
  await expect(page.getByText(/version 2/)).toBeVisible();
  await page.goto(`${HOME}/log?state=planned`);
  await expect(page.getByText(/3 days after the previous message, at /).first()).toBeVisible();
});

test("a plan is changed in its sentences; what is wrong is said beside the field; thrown away, it is as it ran", async ({
  page,
}) => {
  await takeSeat(page, "demo-manager");
  await openPlan(page);
  await page.getByRole("button", { name: "How often to ask someone: change" }).click();
  await page.getByLabel("Days of rest").fill("-3");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("At least one day.")).toBeVisible();
  await page.getByLabel("Days of rest").fill("90");
  await keep(page);
  await expect(page.getByRole("button", { name: "How often to ask someone: change" })).toHaveText(
    "at most once every 90 days",
  );

  await page.getByRole("button", { name: /Doors/ }).click();
  await page.getByRole("radio", { name: /Private only/ }).check();
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("“Private only” needs the name of the person responsible for it.")).toBeVisible();
  await page.getByRole("radio", { name: /Open/ }).check();
  await keep(page);
  await expect(page.getByRole("button", { name: /Doors/ })).toContainText(
    "Open, with 3 of 5 or lower counted as unhappy",
  );

  await page.getByRole("button", { name: /The words of “First ask”: change/ }).click();
  await page.getByRole("textbox", { name: "Text", exact: true }).fill("No link here");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("The text needs {link}, or people can’t answer.")).toBeVisible();
  await page.getByRole("textbox", { name: "Text", exact: true }).fill("Hi {first name}, {link} STOP");
  await keep(page);
  // What is missing is found, and its place opens with a click.
  await page.getByRole("link", { name: /\{first name\} has no fallback/ }).click();
  await expect(page.getByRole("textbox", { name: "Text", exact: true })).toHaveValue("Hi {first name}, {link} STOP");
  await page.keyboard.press("Escape");

  await page.getByRole("button", { name: "Review sites: change" }).click();
  await page.getByRole("button", { name: "Move Pawprint Guide up" }).click();
  await keep(page);
  await expect(page.getByRole("button", { name: "Review sites: change" })).toContainText(
    "Pawprint Guide, Waypost; always Pawprint Guide first",
  );

  const banner = page.getByRole("region", { name: "Changes not applied yet" });
  await expect(banner.getByRole("listitem")).toHaveCount(4);
  await page.reload();
  await expect(banner).toContainText("at most once every 90 days");
  await banner.getByRole("button", { name: "Discard changes" }).click();
  await expect(banner).toHaveCount(0);
  await expect(page.getByRole("button", { name: "How often to ask someone: change" })).toHaveText(
    "at most once every 180 days",
  );
});

test("two tabs on one plan: the later one is told instead of overwriting", async ({ page, context }) => {
  await takeSeat(page, "demo-manager");
  const address = await openPlan(page, "A year with us");
  const other = await context.newPage();
  await other.goto(address);
  for (const [tab, days] of [
    [page, "5"],
    [other, "9"],
  ] as const) {
    await tab.getByRole("button", { name: /When it’s too late: change/ }).click();
    await tab.getByLabel("Days").fill(days);
    await tab.getByRole("button", { name: "Save", exact: true }).click();
  }
  await expect(other.getByText(/Someone else has just changed this plan/)).toBeVisible();
  await expect(page.getByRole("button", { name: /When it’s too late/ })).toHaveText("5 days");
});

test("a double click starts one plan, plans change places, a copy is made and archived", async ({ page }) => {
  await takeSeat(page, "demo-manager");
  await page.goto(HOME);
  const list = page.getByRole("list", { name: /Plans, in order/ });
  const names = async () =>
    (await list.getByRole("listitem").locator("a").allTextContents()).map((name) => name.trim());
  const before = await names();
  await page.getByRole("button", { name: `Move ${before[0]} down` }).click();
  await expect(page.getByText("Order saved.")).toBeVisible();
  await page.reload();
  expect(await names()).toEqual([before[1], before[0], ...before.slice(2)]);
  await page.getByRole("button", { name: `Move ${before[0]} up` }).click();
  await expect(page.getByText("Order saved.")).toBeVisible();
  await expect.poll(names).toEqual(before);
  await page.reload();
  expect(await names()).toEqual(before);

  await openPlan(page);
  await page.getByRole("button", { name: "Copy plan" }).dblclick();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("After a visit (copy) hasn’t started yet.");
  // It stands behind one that takes every visit, and says so.
  await expect(page.getByText(/comes first and covers every visit/)).toBeVisible();
  page.once("dialog", (dialog) => dialog.accept());
  await page.getByRole("button", { name: "Archive" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("After a visit (copy) is archived.");
  await page.goto(HOME);
  expect((await names()).filter((name) => name.startsWith("After a visit (copy)"))).toEqual([]);
  await expect(page.getByText(/^(?:\d+|one|two) archived plans?$/i)).toBeVisible();
});

test("pausing holds what is planned, and the log shows it held; resuming plans it again", async ({ page }) => {
  await takeSeat(page, "demo-manager");
  const address = await openPlan(page);
  await page.getByRole("button", { name: "Pause" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/is paused/);
  await page.goto(`${HOME}/log?state=held`);
  await expect(page.getByText("The plan is paused.").first()).toBeVisible();
  await page.goto(address);
  await page.getByRole("button", { name: "Resume" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/is running/);
  await page.goto(`${HOME}/log?state=held`);
  await expect(page.getByText("No messages match.")).toBeVisible();
});

test("asks are held, released, sent before their time and cancelled from the log, one or many", async ({ page }) => {
  await takeSeat(page, "demo-desk");
  await page.goto(`${HOME}/log?state=planned`);
  const pick = (n: number) => page.getByRole("checkbox", { name: /Select the message to/ }).nth(n);
  await pick(0).check();
  await pick(1).check();
  await page.getByRole("button", { name: "Hold" }).click();
  await expect(page.getByText("Two asks put on hold.")).toBeVisible();
  await page.goto(`${HOME}/log?state=held`);
  await expect(page.getByText("Put on hold by Jonah Pell.").first()).toBeVisible();
  await page.getByRole("checkbox", { name: /Select everything on this page/ }).check();
  await page.getByRole("button", { name: "Release" }).click();
  await expect(page.getByText("Two asks released.")).toBeVisible();
  await expect(page.getByText("No messages match.")).toBeVisible();

  await page.goto(`${HOME}/log?state=planned`);
  await pick(2).check();
  await page.getByRole("button", { name: "Send now" }).click();
  const warned = page.getByRole("button", { name: "Send now anyway" });
  const done = page.getByText(/will go out/i);
  await expect(warned.or(done)).toBeVisible();
  if (await warned.isVisible()) await warned.click();
  await expect(done).toBeVisible();

  await page.goto(`${HOME}/log?state=planned`);
  page.once("dialog", (dialog) => dialog.accept());
  await pick(3).check();
  await page.getByRole("button", { name: "Cancel" }).click();
  await expect(page.getByText(/ask cancelled\./i)).toBeVisible();
});

test("a reader can look at all of it and steer nothing; another client’s plan does not exist", async ({ page }) => {
  await signIn(page, "reader@bramblelane.example");
  await page.waitForURL(/today/);
  await page.goto(`${HOME}/log?state=planned`);
  await expect(page.getByRole("checkbox")).toHaveCount(0);
  const address = await openPlan(page);
  await expect(page.getByRole("button", { name: /change$|Pause|Duplicate/ })).toHaveCount(0);
  for (const [path, status] of [
    [address.replace("bramble-lane-vets", "blue-heron-driving"), 404],
    [`${HOME}/plans/00000000-0000-4000-8000-000000000000`, 404],
    [`${HOME}/plans/nonsense/rehearsal`, 404],
    [`${HOME}/why/x`, 404],
    [`${address}?step=99&wording=zz&as=carrier`, 200],
    [
      `${address}/rehearsal?on=list&list=00000000-0000-4000-8000-000000000000&version=v99&against=draft&from=2999-01-01&day=-4`,
      200,
    ],
  ] as const)
    expect([path, (await page.goto(path))?.status()]).toEqual([path, status]);
});

test("why somebody was left out is told in sentences, with what would have to change; stages open their people", async ({
  page,
}) => {
  await takeSeat(page, "demo-manager");
  await openPlan(page);
  await page.getByRole("link", { name: "Rehearse", exact: true }).click();
  await page.getByRole("link", { name: /\d+ resting/ }).click();
  await page.waitForURL(/left\+out/);
  await page.locator("main li a.name-link").first().click();
  await page.waitForURL(/people\/[0-9a-f-]{36}/);
  await page.goto(`${page.url()}/why`);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/If .* had a visit now/);
  await page.locator("a[href*='/asking/why/']").first().click();
  await page.waitForURL(/asking\/why/);
  // What speaks against asking comes first; what passed is folded beside it.
  const folded = page.getByText(/before it (was|were) no problem/);
  if ((await folded.count()) > 0) await folded.click();
  await expect(page.getByText("It wasn’t cancelled.").or(page.getByText(/The visit was cancelled/))).toBeVisible();

  await page.goto(`${HOME}/stages`);
  const [, count] =
    /(\d+)answered/.exec(
      (
        (await page
          .getByRole("list", { name: "Stages" })
          .getByRole("link", { name: /answered/ })
          .textContent()) ?? ""
      ).replace(/\s/g, ""),
    ) ?? [];
  await page
    .getByRole("list", { name: "Stages" })
    .getByRole("link", { name: /answered/ })
    .click();
  await page.waitForURL(/stage=answered/);
  const shown = await page.getByRole("region", { name: "People: answered" }).getByRole("listitem").count();
  expect(shown).toBe(Math.min(50, Number(count)));
});

test("the hours take a break at noon; what cannot be read is said beside its day, and nothing is kept of it", async ({
  page,
}) => {
  await takeSeat(page, "demo-operator", "tansy-chimney-stove");
  await page.goto("/c/tansy-chimney-stove/asking");
  await page.getByRole("link", { name: "After every visit", exact: true }).click();
  await page.waitForURL(/plans\//);
  const hours = page.getByRole("button", { name: "When texts can go out: change" });
  const before = await hours.textContent();
  await hours.click();
  await page.getByLabel("Wednesday", { exact: true }).fill("nine to five");
  await page.getByLabel("Thursday", { exact: true }).fill("14-12");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(
    page.getByText("Wednesday: “nine to five” isn’t a time range; write it like 9:00 to 19:00.").first(),
  ).toBeVisible();
  await expect(page.getByText("Thursday: 14:00 to 12:00 ends before it starts.")).toBeVisible();
  await expect(hours).toHaveText(before ?? "");
  await page.getByLabel("Wednesday", { exact: true }).fill("9-12:30, 14-18");
  await page.getByLabel("Thursday", { exact: true }).fill("");
  await keep(page);
  await expect(hours).toContainText("Wed 9:00 to 12:30 and 14:00 to 18:00, Fri");
  // Opened again, it still holds both stretches, and keeping it loses neither.
  await hours.click();
  await expect(page.getByLabel("Wednesday", { exact: true })).toHaveValue("9:00 to 12:30 and 14:00 to 18:00");
  await keep(page);
  await page.reload();
  await expect(hours).toContainText("Wed 9:00 to 12:30 and 14:00 to 18:00, Fri");
});

test("an allowance that is used up holds what is due, is told by email and on Today; raised, it leaves at once", async ({
  page,
}) => {
  test.setTimeout(120_000);
  await takeSeat(page, "demo-operator", "blue-heron-driving");
  const set = async (texts: string, emails: string) => {
    await page.goto("/c/blue-heron-driving/asking");
    await page.getByRole("button", { name: "Monthly allowance: change" }).click();
    await page.getByLabel("Text parts").fill(texts);
    await page.getByLabel("Emails", { exact: true }).fill(emails);
    await keep(page);
  };
  await set("1", "1");
  await page.keyboard.press("a");
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Add someone new" }).click();
  await dialog.getByLabel("Name", { exact: true }).fill("Cordelia Amberley");
  await dialog.getByLabel("Email", { exact: true }).fill("cordelia.amberley@post.example");
  await dialog.getByRole("button", { name: "Ask", exact: true }).click();
  await expect(page.getByText("Cordelia Amberley will be asked.")).toBeVisible();
  await skip(page, "Skip to tomorrow, 9:00");
  await page.goto("/c/blue-heron-driving/asking/log?state=planned");
  const line = page.getByRole("listitem").filter({ hasText: "Cordelia Amberley" });
  await expect(line).toContainText("allowance is used up");
  await page.goto("/c/blue-heron-driving/today");
  await expect(page.getByText("This month’s allowance is used up")).toBeVisible();
  await expect(page.getByText(/Iris Vane .*notified by email (today|yesterday) at/)).toBeVisible();

  // She is told of other things too.
  await page.goto(`${mailUrl()}/box/${encodeURIComponent("iris@larkspur.example")}`);
  await expect(
    page.getByText(/Blue Heron Driving School has used up this month’s (texts|emails)/).first(),
  ).toBeVisible();

  await set("", "");
  await page.goto("/c/blue-heron-driving/today");
  await expect(page.getByText("This month’s allowance is used up")).toHaveCount(0);
  await expect(async () => {
    await page.goto("/c/blue-heron-driving/asking/log?state=sent");
    await expect(line).toContainText(/sent|delivered/, { timeout: 1000 });
  }).toPass({ timeout: 600_000 });
});
