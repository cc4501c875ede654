import { expect } from "@playwright/test";
import { choose, expectAccessible, openLastMail, signIn, takeSeat, test } from "./town";

/** An agency's own pages: which client needs somebody, people and rights, a client started. */

const AGENCY = "/agency/larkspur-vane";

test("an agency's person starts at all clients, who needs somebody first, and walks them by keys", async ({ page }) => {
  await signIn(page, "iris@larkspur.example");
  await page.waitForURL(AGENCY);
  // The worker works it out within a moment of its start.
  await expect(async () => {
    await page.reload();
    await expect(page.getByRole("heading", { level: 1 })).toHaveText(/clients? needs? you\.$/, { timeout: 1000 });
  }).toPass();
  await expectAccessible(page);
  const read = page.getByRole("link", { name: /^Read (?:them|it).*Bramble Lane Vets/ });
  await expect(read).toBeVisible();
  await page.keyboard.press("j");
  await expect(page.locator("a[data-client]:focus")).toHaveCount(1);
  await page.keyboard.press("/");
  await expect(page.getByLabel("Search clients")).toBeFocused();
  await page.keyboard.type("piano");
  await page.keyboard.press("Enter");
  await page.waitForURL(/q=piano/);
  await expect(page.locator("a[data-client]")).toHaveText(["Copperline Piano Care"]);
  await page.goto(AGENCY);
  await read.click();
  await page.waitForURL(/bramble-lane-vets\/heard/);
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(AGENCY);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test("a client that is chosen far down the list opens at its top", async ({ page }) => {
  await signIn(page, "iris@larkspur.example");
  await page.waitForURL(AGENCY);
  const client = page.locator("a[data-client]", { hasText: /^Copperline/ });
  const today = page.getByRole("region", { name: "Timeline" });
  await page.setViewportSize({ width: 1280, height: 500 });
  await client.click();
  await expect(today).toBeVisible();
  // So high a window that the client's page can be scrolled by less than the masthead covers.
  const height = await page.evaluate(() => document.documentElement.scrollHeight - 40);
  await page.setViewportSize({ width: 1280, height });
  await page.goto(AGENCY);
  await page.evaluate(() => scrollTo(0, document.documentElement.scrollHeight));
  // Not by the pointer, which would first bring it into view.
  await client.evaluate((element) => (element as HTMLElement).click());
  await expect(today).toBeVisible();
  await expect.poll(() => page.evaluate(() => scrollY)).toBe(0);
});

test("the agency's words are put in force just where they stay ticked", async ({ page }) => {
  await signIn(page, "iris@larkspur.example");
  await page.waitForURL(AGENCY);
  await page.goto(`${AGENCY}/words`);
  await expectAccessible(page);
  await page.getByRole("link", { name: "“Thanks after visiting a review site”, English" }).click();
  await page.waitForURL(/of=page/);
  const thanks = page.getByRole("textbox", { name: "Thanks after visiting a review site" });
  await expect(thanks).toHaveText("Thank you. It helps whoever chooses next.");
  await page.getByRole("button", { name: "Tick none" }).click();
  await expect(page.getByRole("button", { name: "Apply to no plans" })).toBeDisabled();
  await page.getByText(/clients?: see each plan$/).click();
  const client = page.getByRole("listitem").filter({ hasText: "Tansy Chimney & Stove" });
  const plans = client.getByRole("checkbox");
  const before = await plans.count();
  await client.getByRole("checkbox", { name: /Standing links/ }).check();
  await page.getByRole("button", { name: "Apply to one plan" }).click();
  await expect(page.getByText("Applied to one plan.")).toBeVisible();
  await page.reload();
  await page.getByText(/clients?: see each plan$/).click();
  await expect(plans).toHaveCount(before - 1);
  await expect(client.getByText("Standing links")).toHaveCount(0);
});

test("somebody is invited by mail, takes a role that shows one place, and loses it while signed in", async ({
  page,
  browser,
}) => {
  await takeSeat(page, "demo-operator");
  await page.goto(`${AGENCY}/people`);
  await expectAccessible(page);
  await page.getByRole("button", { name: "Add a role" }).click();
  await page.getByLabel("Name of the role").fill("Only what was heard");
  await page.getByLabel("answer concerns").check();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("see reviews and concerns, answer concerns")).toBeVisible();

  await page.getByLabel("Name", { exact: true }).fill("Juno Ferry");
  await page.getByLabel("Email", { exact: true }).fill("juno@bramblelane.example");
  await choose(page, "For", "Bramble Lane Vets");
  await page.getByLabel("As", { exact: true }).selectOption({ label: "Only what was heard" });
  await page.getByRole("button", { name: "Send invitation" }).click();
  await expect(page.getByText("Sent to juno@bramblelane.example.")).toBeVisible();

  const juno = await (await browser.newContext()).newPage();
  await openLastMail(juno, "juno@bramblelane.example");
  const link =
    (await juno
      .getByRole("link", { name: /\/join\// })
      .first()
      .getAttribute("href")) ?? "";
  await juno.goto(link);
  await expect(juno.getByRole("heading", { level: 1 })).toHaveText("Larkspur & Vane invites you, Juno.");
  await expectAccessible(juno);
  await juno.getByLabel("Choose a password").fill("short");
  await juno.getByRole("button", { name: "Join" }).click();
  await expect(juno.getByText("Use at least ten characters.")).toBeVisible();
  await juno.getByLabel("Choose a password").fill("a password of Juno");
  await juno.getByRole("button", { name: "Join" }).click();
  // What the role does not allow is neither shown nor there.
  await juno.waitForURL(/bramble-lane-vets\/heard/);
  await expect(juno.getByRole("navigation", { name: "Places", exact: true }).getByRole("link")).toHaveText([/Heard/]);
  for (const place of ["today", "people", "asking", "set-up"]) {
    const answer = await juno.goto(`/c/bramble-lane-vets/${place}`);
    expect([place, answer?.status()]).toEqual([place, 404]);
  }
  expect((await juno.goto(AGENCY))?.status()).toBe(404);
  // Used, the link is nobody's any more.
  const stranger = await (await browser.newContext()).newPage();
  await stranger.goto(link);
  await expect(stranger.getByRole("heading", { level: 1 })).toHaveText("This invitation no longer works.");

  await page.reload();
  page.once("dialog", (dialog) => dialog.accept());
  await page.getByRole("button", { name: "Remove Juno Ferry" }).click();
  await expect(page.getByText("juno@bramblelane.example")).toHaveCount(0);
  expect((await juno.goto("/c/bramble-lane-vets/heard"))?.status()).toBe(404);
  await juno.goto("/");
  await expect(juno.getByRole("heading", { level: 1 })).toHaveText("You don’t have access to any client yet.");
});

// Whose password it is signs in nowhere else in these tests.
test("a forgotten password is chosen anew by the link in the mail, once", async ({ page, browser }) => {
  const tobias = await (await browser.newContext()).newPage();
  await signIn(tobias, "tobias@larkspur.example");
  await tobias.waitForURL(/agency/);
  await page.goto("/sign-in");
  await page.getByRole("link", { name: "Forgot your password?" }).click();
  await page.waitForURL(/forgot/);
  await page.getByLabel("Email").fill("tobias@larkspur.example");
  await page.getByRole("button", { name: "Send me a link" }).click();
  await expect(page.getByRole("status")).toHaveText(/we’ve sent it a link/);
  // The page does not wait for the mail, so that its time tells nobody whether there is one.
  const mailed = page.getByRole("link", { name: /\/password\// }).first();
  await expect(async () => {
    await openLastMail(page, "tobias@larkspur.example", 1000);
    await expect(mailed).toBeVisible({ timeout: 1000 });
  }).toPass();
  const link = (await mailed.getAttribute("href")) ?? "";
  await page.goto(link);
  await page.getByLabel("New password").fill("a password of Tobias");
  await page.getByRole("button", { name: "Save new password" }).click();
  await expect(page.getByText("Your new password is saved. You can sign in with it now.")).toBeVisible();
  await tobias.goto("/agency/larkspur-vane");
  await expect(tobias).toHaveURL(/sign-in/);
  await page.goto(link);
  await page.getByLabel("New password").fill("another password");
  await page.getByRole("button", { name: "Save new password" }).click();
  await expect(page.getByText(/has been used or has expired/)).toBeVisible();
  await signIn(page, "tobias@larkspur.example", "a password of Tobias");
  await page.waitForURL(/agency\/larkspur-vane/);
});

test("a client is started on one page, left and taken up again; its plan waits for a word", async ({ page }) => {
  await takeSeat(page, "demo-operator");
  await page.goto(AGENCY);
  await page.getByRole("button", { name: "Start a client" }).click();
  await page.waitForURL(/start\//);
  await choose(page, "Trade", "Tailors");
  await page.getByLabel("Name", { exact: true }).fill("Needle & Quay");
  await expect(page.getByLabel("Service 1")).toHaveValue("Fitting");
  await expect(page.getByText("Saved.")).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Create client" }).click();
  await expect(page.getByText("That isn’t an email address.")).toBeVisible();
  await expect(page.getByLabel("Sender email")).toHaveAttribute("aria-invalid", "true");

  await page.goto(AGENCY);
  await page.getByRole("link", { name: "Continue with Needle & Quay" }).click();
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Needle & Quay");
  await page.getByLabel("Sender email").fill("hello@needle.example");
  await page.getByLabel("Text sender number").fill("12");
  await page.getByLabel("Postal address").fill("2 Quay Street, Merrow Bay");
  await page.getByRole("button", { name: "Create client" }).click();
  await expect(page.getByText("That isn’t a phone number in that country.").first()).toBeVisible();
  await page.getByLabel("Text sender number").fill("07700 900871");
  await page.getByRole("button", { name: "Create client" }).click();
  await page.waitForURL(/needle-quay\/asking\/plans/);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("After an appointment hasn’t started yet.");
  await page.goto(AGENCY);
  await expect(page.getByRole("link", { name: "Needle & Quay", exact: true })).toBeVisible();
  await expect(page.getByRole("link", { name: "Continue with Needle & Quay" })).toHaveCount(0);

  // A file with faults is refused line by line; nothing of it is made.
  await page.getByLabel("From a file (JSON)").setInputFiles({
    name: "client.json",
    mimeType: "application/json",
    buffer: Buffer.from('{\n  "name": "Half",\n  "country": "Britain"\n}'),
  });
  await expect(page.getByText("Line 3, country: Two capital letters")).toBeVisible();
});

test("everything is paused from a phone, said on Today and to whoever asks, and goes on", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await takeSeat(page, "demo-operator", "copperline-piano-care");
  await page.getByRole("button", { name: "Pause everything" }).click();
  const dialog = page.getByRole("dialog");
  await expectAccessible(page);
  await dialog.getByRole("button", { name: "Pause everything" }).click();
  await expect(dialog.getByText("Give a reason for your team.")).toBeVisible();
  await dialog.getByLabel("Reason").fill("The workshop is flooded");
  await dialog.getByRole("button", { name: "Pause everything" }).click();
  const paused = page.getByRole("region", { name: "Paused" });
  await expect(paused).toContainText(
    "Everything is paused until someone resumes it. Iris Vane: The workshop is flooded",
  );
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.reload();
  await expect(paused).toBeVisible();
  await paused.getByRole("button", { name: "Resume" }).click();
  await expect(paused).toHaveCount(0);
  await expect(page.getByRole("button", { name: "Pause everything" })).toBeVisible();
});
