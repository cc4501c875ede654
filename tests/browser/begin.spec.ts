import { expect } from "@playwright/test";
import { expectAccessible, openLastMail, test, waypostUrl } from "./town";

/** From an empty database to the first message: a real installation, without demo and with the time that it is. */

const home = process.env.ESTIMA_E2E_UNBEGUN ?? "";
const token = process.env.ESTIMA_E2E_TOKEN ?? "";

/** A zone in which it is about noon now, so that messages may leave whenever this runs. */
function zoneAtNoon(): string {
  const ahead = 12 - new Date().getUTCHours();
  return ahead === 0 ? "Etc/UTC" : `Etc/GMT${ahead > 0 ? "-" : "+"}${Math.abs(ahead)}`;
}

test("an installation is begun, a client started and checked, and its first message arrives", async ({
  page,
  browser,
}) => {
  test.skip(!home, "Only beside an installation that has not begun: npm test starts one.");
  await page.goto(home);
  await page.waitForURL(/begin$/);
  await expectAccessible(page);
  const fields: [string, string][] = [
    ["token", "not what was printed"],
    ["agency", "Ridge Kites"],
    ["name", "Jory Vell"],
    ["email", "jory@ridgekites.example"],
    ["password", "a password of Jory"],
  ];
  for (const [name, value] of fields) await page.locator(`#begin-${name}`).fill(value);
  await page.getByRole("button", { name: "Begin" }).click();
  await expect(page.getByText("That isn’t the code the server printed.")).toBeVisible();
  await page.locator("#begin-token").fill(token);
  await page.getByRole("button", { name: "Begin" }).click();
  await page.waitForURL(/agency\/ridge-kites/);
  await expectAccessible(page);

  await page.getByRole("button", { name: "Start a client" }).click();
  await page.waitForURL(/start\//);
  await page.getByLabel("Name", { exact: true }).fill("Ridge Kites");
  // Where no public holiday keeps a message from leaving today.
  await page.getByLabel("Country").selectOption("Antarctica");
  await page.getByLabel("Time zone").fill(zoneAtNoon());
  await page.getByLabel("Sender email").fill("hello@ridgekites.example");
  await page.getByLabel("Text sender number").fill("+44 113 496 0770");
  await page.getByLabel("Postal address").fill("1 Ridge Road, Merrow Bay");
  await page.getByLabel("Review site").fill("Waypost");
  await page.getByLabel("Link to its page").fill(`${waypostUrl()}/places/bramble-lane-merrow-bay`);
  await page.getByRole("checkbox", { name: "Sunday" }).check();
  await page.getByRole("button", { name: "Create client" }).click();
  await page.waitForURL(/ridge-kites\/asking\/plans/);
  // Nothing is sent before somebody says so.
  await page.getByRole("button", { name: "Start plan" }).click();
  await expect(page.getByRole("button", { name: "Pause", exact: true })).toBeVisible();

  // A business alone is told nothing of clients: it starts at Today.
  await page.goto(home);
  await page.waitForURL(/ridge-kites\/today/);
  await page.keyboard.press("a");
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Add someone new" }).click();
  await dialog.getByLabel("Name", { exact: true }).fill("Odette Marsh");
  await dialog.getByLabel("Email", { exact: true }).fill("odette.first@post.example");
  await dialog.getByLabel("By", { exact: true }).selectOption("email");
  await expect(dialog.getByText(/Goes out now/)).toBeVisible();
  await dialog.getByRole("button", { name: "Ask", exact: true }).click();
  await expect(page.getByText("Odette Marsh will be asked.")).toBeVisible();
  const mail = await (await browser.newContext()).newPage();
  await expect(async () => {
    await openLastMail(mail, "odette.first@post.example");
    await expect(mail.getByText("Ridge Kites").first()).toBeVisible({ timeout: 1000 });
  }).toPass();
});
