import { createHmac } from "node:crypto";
import type { Page } from "@playwright/test";
import { expect } from "@playwright/test";
import { choose, customer, expectAccessible, openLastMail, signIn, takeSeat, test } from "./town";

/** People bound to a branch, a second step, looking as somebody, shared phones, and clients that come and go. */

const AGENCY = "/agency/larkspur-vane";
const PASSWORD = "a password of Ivo";

/** The code that an app shows now for a key (RFC 6238: SHA-1, six digits, half a minute). */
function codeOf(key: string): string {
  const bits = [...key.toUpperCase()]
    .map((letter) => "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567".indexOf(letter).toString(2).padStart(5, "0"))
    .join("");
  const secret = Buffer.from((bits.match(/.{8}/g) ?? []).map((byte) => Number.parseInt(byte, 2)));
  const counter = Buffer.alloc(8);
  counter.writeBigUInt64BE(BigInt(Math.floor(Date.now() / 30_000)));
  const mac = createHmac("sha1", secret).update(counter).digest();
  return String((mac.readUInt32BE(mac[19] & 15) & 0x7fffffff) % 1_000_000).padStart(6, "0");
}

const places = (page: Page) => page.getByRole("navigation", { name: "Places", exact: true }).getByRole("link");

test("somebody bound to a branch accepts, signs in with two steps, sees that branch alone, and is taken off", async ({
  page,
  browser,
}) => {
  await takeSeat(page, "demo-operator");
  await page.goto(`${AGENCY}/people`);
  await page.getByLabel("Name", { exact: true }).fill("Ivo Brandt");
  await page.getByLabel("Email", { exact: true }).fill("ivo@bramblelane.example");
  await choose(page, "For", "Fenwick, Bramble Lane Vets (one branch)");
  await page.getByLabel("As", { exact: true }).selectOption({ label: "desk" });
  await page.getByRole("button", { name: "Send invitation" }).click();
  await expect(page.getByText("Sent to ivo@bramblelane.example.")).toBeVisible();

  const ivo = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await openLastMail(ivo, "ivo@bramblelane.example");
  await ivo.goto(
    (await ivo
      .getByRole("link", { name: /\/join\// })
      .first()
      .getAttribute("href")) ?? "",
  );
  await ivo.getByLabel("Choose a password").fill(PASSWORD);
  await ivo.getByRole("button", { name: "Join" }).click();
  await ivo.waitForURL(/bramble-lane-vets\/today/);
  // The agency's name stands above, and of the client's branches theirs alone.
  await expect(ivo.getByRole("link", { name: "Larkspur & Vane" })).toBeVisible();
  await expect(ivo.getByText("Old Mill")).toHaveCount(0);
  await expect(places(ivo)).toHaveText([/Today/, /People/, /Asking/, /Heard/]);
  await expectAccessible(ivo);
  const count = async (who: Page) => {
    await who.goto("/c/bramble-lane-vets/people");
    return Number(
      /[\d,]+/.exec((await who.getByRole("heading", { level: 1 }).textContent()) ?? "")?.[0].replace(",", ""),
    );
  };
  expect(await count(ivo)).toBeLessThan((await count(page)) * 0.8);
  for (const path of ["set-up", "people/import", "people/duplicates"]) {
    const answer = await ivo.goto(`/c/bramble-lane-vets/${path}`);
    expect([path, answer?.status()]).toEqual([path, 404]);
  }

  await ivo.goto("/account/two-steps");
  await expectAccessible(ivo);
  await ivo.getByLabel("Current password").fill("not this");
  await ivo.getByRole("button", { name: "Continue" }).click();
  await expect(ivo.getByText("That isn’t your password.")).toBeVisible();
  await ivo.getByLabel("Current password").fill(PASSWORD);
  await ivo.getByRole("button", { name: "Continue" }).click();
  const key = (await ivo.locator("ol code").first().textContent()) ?? "";
  const [recovery] = await ivo.getByRole("list", { name: "Recovery codes" }).getByRole("listitem").allTextContents();
  await expectAccessible(ivo);
  await ivo.getByLabel("Code", { exact: true }).fill(codeOf(key));
  await ivo.getByRole("button", { name: "Turn on two-step sign-in" }).click();
  await expect(ivo.getByRole("heading", { level: 1 })).toHaveText("You sign in with two steps.");

  const again = await (await browser.newContext()).newPage();
  await signIn(again, "ivo@bramblelane.example", PASSWORD);
  await again.waitForURL(/sign-in\/code/);
  await expectAccessible(again);
  expect((await again.goto("/c/bramble-lane-vets/today"))?.url()).toMatch(/sign-in$/);
  await again.goto("/sign-in/code");
  await again.getByLabel("Code", { exact: true }).fill("12345678");
  await again.getByRole("button", { name: "Sign in" }).click();
  await expect(again.getByText("That code is wrong or has expired").first()).toBeVisible();
  await again.getByLabel("Code", { exact: true }).fill(recovery);
  await again.getByRole("button", { name: "Sign in" }).click();
  await again.waitForURL(/bramble-lane-vets\/today/);

  // Both devices are listed; one is signed out from the other.
  await ivo.goto("/account");
  await expectAccessible(ivo);
  const devices = ivo.getByRole("region", { name: "Where you’re signed in" }).getByRole("listitem");
  await expect(devices).toHaveCount(2);
  await devices.filter({ hasNotText: "this one" }).getByRole("button").click();
  await expect(devices).toHaveCount(1);
  expect((await again.goto("/c/bramble-lane-vets/today"))?.url()).toMatch(/sign-in$/);

  await page.goto(`${AGENCY}/people`);
  page.once("dialog", (dialog) => dialog.accept());
  await page.getByRole("button", { name: "Remove Ivo Brandt" }).click();
  await expect(page.getByText("ivo@bramblelane.example")).toHaveCount(0);
  expect((await ivo.goto("/c/bramble-lane-vets/today"))?.status()).toBe(404);
  // What was done stands in the trail, for whoever may manage people.
  await page.goto(`${AGENCY}/trail?part=agency`);
  await expect(page.getByText("removed").first()).toBeVisible();
  await expectAccessible(page);
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Export as CSV" }).click(),
  ]);
  expect(file.suggestedFilename()).toBe("trail-of-larkspur-vane.csv");
});

test("whoever manages people sees the pages as somebody does, changes nothing, and stops", async ({ page }) => {
  await takeSeat(page, "demo-operator");
  await page.goto(`${AGENCY}/people`);
  await page.getByRole("button", { name: /View as them.*Maud Ellery/ }).click();
  await page.waitForURL(/bramble-lane-vets\/today/);
  const told = page.getByText("You’re viewing this as Maud Ellery. You can’t change anything.");
  await expect(told).toBeVisible();
  await expectAccessible(page);
  expect((await page.goto(AGENCY))?.status()).toBe(404);
  await page.goto("/c/bramble-lane-vets/set-up/tags");
  await expect(told).toBeVisible();
  await page.goto("/c/bramble-lane-vets/today");
  await page.getByRole("button", { name: "Pause everything" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Reason").fill("Only looking");
  await dialog.getByRole("button", { name: "Pause everything" }).click();
  await page.waitForURL(/looking$/);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Nothing was changed.");
  await page.getByRole("button", { name: "Back to my own view" }).first().click();
  await page.waitForURL(/agency\/larkspur-vane$/);
  await page.goto("/c/bramble-lane-vets/today");
  await expect(page.getByRole("button", { name: "Pause everything" })).toBeVisible();
  await page.goto(`${AGENCY}/trail?part=agency`);
  await expect(page.getByText(/viewed Estima as.*Maud Ellery/).first()).toBeVisible();
});

test("a client fills in its own blanks on a phone; the agency takes them over, and later the client goes for good", async ({
  page,
  browser,
}) => {
  await takeSeat(page, "demo-operator");
  await page.goto(AGENCY);
  await page.getByRole("button", { name: "Start a client" }).click();
  await page.waitForURL(/start\//);
  const start = page.url();
  await page.getByRole("button", { name: "Make a link" }).click();
  const link = (await page.locator("code").filter({ hasText: "/fill/" }).textContent()) ?? "";

  const phone = await customer(browser, true);
  await phone.goto(link);
  await expect(phone.getByRole("heading", { level: 1 })).toHaveText("Tell Larkspur & Vane about your business.");
  await expectAccessible(phone);
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await phone.getByLabel("Name", { exact: true }).fill("Osprey Ridge Kites");
  await phone.getByLabel("Postal address").fill("1 Ridge Road, Merrow Bay");
  await phone.getByLabel("Your email").fill("hello@ospreyridge.example");
  await expect(phone.getByText("Saved.")).toBeVisible();
  await phone.reload();
  await expect(phone.getByLabel("Name", { exact: true })).toHaveValue("Osprey Ridge Kites");
  await phone.getByRole("button", { name: "Send it in" }).click();
  await expect(phone.getByText("Thank you. Your agency has your answers")).toBeVisible();

  await page.goto(start);
  // It counts once somebody of the agency has seen it.
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("");
  await expect(page.getByText("1 Ridge Road, Merrow Bay")).toBeVisible();
  await page.getByRole("button", { name: "Use their answers" }).click();
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Osprey Ridge Kites");
  await page.getByLabel("Text sender number").fill("0113 496 0771");
  await expect(page.getByText("Saved.")).toBeVisible();
  await page.getByRole("button", { name: "Create client" }).click();
  await page.waitForURL(/osprey-ridge-kites\/asking\/plans/);
  await phone.goto(link);
  await expect(phone.getByRole("heading", { level: 1 })).toHaveText("This link has expired.");

  // Another one like it; then it is archived, taken back, and deleted for good.
  await page.goto(`${AGENCY}/clients/osprey-ridge-kites`);
  await expectAccessible(page);
  await page.getByLabel("Name of the new client").fill("Heron Ridge Kites");
  await page.getByLabel("Sender email").fill("hello@heronridge.example");
  await page.getByLabel("Postal address").fill("4 Ridge Lane, Merrow Bay");
  await page.getByLabel("Text sender number").fill("12");
  await page.getByRole("button", { name: "Copy Osprey Ridge Kites" }).click();
  await expect(page.getByText("That isn’t a phone number in that country.")).toBeVisible();
  await page.getByLabel("Text sender number").fill("0113 496 0772");
  await page.getByRole("button", { name: "Copy Osprey Ridge Kites" }).click();
  await page.waitForURL(/heron-ridge-kites\/asking\/plans/);

  await page.goto(`${AGENCY}/clients/heron-ridge-kites`);
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Export (JSON)" }).click(),
  ]);
  expect(file.suggestedFilename()).toBe("heron-ridge-kites.client.json");
  page.once("dialog", (dialog) => dialog.accept());
  await page.getByRole("button", { name: "Archive it" }).click();
  await expect(page.getByText(/^Archived on/)).toBeVisible();
  expect((await page.goto("/c/heron-ridge-kites/today"))?.status()).toBe(404);
  await page.goto(`${AGENCY}/clients/heron-ridge-kites`);
  await page.getByRole("button", { name: "Restore it" }).click();
  await expect(page.getByRole("button", { name: "Archive it" })).toBeVisible();
  await page.getByLabel("Type its name to confirm: Heron Ridge Kites").fill("Something else");
  await page.getByRole("button", { name: "Delete permanently" }).click();
  await expect(page.getByText("Type Heron Ridge Kites exactly as shown here.").first()).toBeVisible();
  await page.getByLabel("Type its name to confirm: Heron Ridge Kites").fill("Heron Ridge Kites");
  await page.getByRole("button", { name: "Delete permanently" }).click();
  await page.waitForURL(/agency\/larkspur-vane$/);
  await expect(async () => {
    await page.goto(`${AGENCY}/trail?part=agency`);
    await expect(page.getByText("permanently deleted").first()).toBeVisible({ timeout: 1000 });
  }).toPass();
  const mail = await (await browser.newContext()).newPage();
  await openLastMail(mail, "iris@larkspur.example");
  await expect(mail.getByText("everything about Heron Ridge Kites has been permanently deleted").first()).toBeVisible();
});

test("a phone at the desk asks one person at a time, in the name of whoever says by four digits who they are", async ({
  page,
  browser,
}) => {
  await signIn(page, "corin@copperline.example");
  await page.waitForURL(/today/);
  await page.goto("/account");
  const shared = page.getByRole("region", { name: "On a shared phone" });
  await page.getByLabel("PIN").fill("2718");
  await shared.getByLabel("Your password").fill("not this");
  await shared.getByRole("button", { name: "Save" }).click();
  await expect(shared.getByText("That isn’t your password.").first()).toBeVisible();
  await page.getByLabel("PIN").fill("1234");
  await shared.getByLabel("Your password").fill("merrow-bay-demo");
  await page.getByRole("region", { name: "On a shared phone" }).getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("That’s too easy to guess. Choose another PIN.").first()).toBeVisible();
  await page.getByLabel("PIN").fill("2718");
  await shared.getByLabel("Your password").fill("merrow-bay-demo");
  await page.getByRole("region", { name: "On a shared phone" }).getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("You’ve set a PIN.")).toBeVisible();
  await page.goto("/c/copperline-piano-care/set-up/phones");
  await expectAccessible(page);
  await page.getByLabel("Name", { exact: true }).fill("Van phone");
  await page.getByRole("button", { name: "Add the phone" }).click();
  const link = (await page.locator("code").filter({ hasText: "/desk/" }).textContent()) ?? "";

  const phone = await customer(browser, true);
  await phone.goto(link);
  await phone.getByRole("button", { name: "Use this phone" }).click();
  await phone.waitForURL(/copperline-piano-care\/desk/);
  await expectAccessible(phone);
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await expect(phone.getByRole("button", { name: /Ask someone/ })).toBeVisible();
  expect((await phone.goto("/c/copperline-piano-care/people"))?.status()).toBe(404);
  await phone.goto("/");
  await phone.getByText("Corin Teale", { exact: true }).click();
  await phone.getByLabel("My PIN").fill("0000");
  await phone.getByRole("button", { name: "Continue" }).click();
  await expect(phone.getByText("That PIN isn’t right.").first()).toBeVisible();
  await phone.getByLabel("My PIN").fill("2718");
  await phone.getByRole("button", { name: "Continue" }).click();
  const named = phone.getByText("For ten minutes, what you do on Van phone is in your name, Corin Teale.");
  await expect(named).toBeVisible();
  for (const place of ["today", "people", "set-up"])
    expect((await phone.goto(`/c/copperline-piano-care/${place}`))?.status()).toBe(404);
  await phone.goto("/");
  await phone.getByRole("button", { name: "I’m done" }).click();
  await expect(named).toHaveCount(0);
  // Five wrong tries: Corin's digits are locked here, he is told, and signing in elsewhere unlocks them.
  await phone.getByText("Corin Teale", { exact: true }).click();
  for (let time = 0; time < 5; time++) {
    await phone.getByLabel("My PIN").fill(`000${time}`);
    await phone.getByRole("button", { name: "Continue" }).click();
    await expect(phone.getByText(time < 4 ? "That PIN isn’t right." : "Your PIN is locked").first()).toBeVisible();
  }
  await phone.getByLabel("My PIN").fill("2718");
  await phone.getByRole("button", { name: "Continue" }).click();
  await expect(phone.getByText("Your PIN is locked").first()).toBeVisible();
  const mail = await (await browser.newContext()).newPage();
  await openLastMail(mail, "corin@copperline.example");
  await expect(mail.getByText("Someone entered a wrong PIN for you five times on Van phone").first()).toBeVisible();
  const elsewhere = await (await browser.newContext()).newPage();
  await signIn(elsewhere, "corin@copperline.example");
  await elsewhere.waitForURL(/today/);
  await phone.getByLabel("My PIN").fill("2718");
  await phone.getByRole("button", { name: "Continue" }).click();
  await expect(named).toBeVisible();

  await page.reload();
  page.once("dialog", (dialog) => dialog.accept());
  await page.getByRole("button", { name: "Sign out Van phone" }).click();
  await expect(page.getByRole("heading", { name: "No shared phones yet." })).toBeVisible();
  expect((await phone.goto("/"))?.url()).toMatch(/sign-in$/);
});
