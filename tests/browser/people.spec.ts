import { readFileSync } from "node:fs";
import { type Browser, expect, type Page } from "@playwright/test";
import { customer, DROP_OFF, daybookUrl, linkOnPhone, skip, takeSeat, test } from "./town";

/**
 * People and visits come in: by a list, by the drop-off page, by the appointment book; and their records are kept in
 * order.
 */

const VETS = "/c/bramble-lane-vets";
const file = (name: string, text: string | Buffer) => ({ name, mimeType: "text/csv", buffer: Buffer.from(text) });

/** The day in the demo, as the other program would write it. */
const TODAY = "24.11.2026";

async function bring(page: Page, name: string, text: string | Buffer): Promise<void> {
  await page.goto(`${VETS}/people/import`);
  await page.getByLabel("Choose a file").setInputFiles(file(name, text));
  await page.waitForURL(/\/people\/import\/[0-9a-f-]{36}/);
}

test("a file with odd columns: what would happen is seen, a column is put right, a row is mended, and the first ask leaves", async ({
  page,
  browser,
}) => {
  await takeSeat(page, "demo-operator");
  const rows = [
    "Besuche der Woche;;;;;",
    "Kunde;Handy;Post;Wann;Uhr;Was",
    `"ZIEGLER, JÜRGEN";07700 900950;;${TODAY};08:40;Check-up`,
    `Tilda Vance-Zeller;;tilda.vz@post.example;${TODAY};09:10;Zahnpflege`,
    `Nobody At All;12;;${TODAY};09:30;Check-up`,
    `Rafe Zeller;;rafe.zeller@post.example;31.02.2026;10:00;Check-up`,
  ];
  await bring(page, "woche.csv", Buffer.from(rows.join("\r\n"), "latin1"));
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(
    "Four rows: 2 new, 0 already known, 2 can’t be used.",
  );
  await expect(page.getByText("Windows-1252 text with semicolons")).toBeVisible();
  // "Post" and "Wann" are words nobody knows over such columns; what the cells look like settled them. "Was" is told
  // by hand.
  await expect(page.getByLabel("What’s in “Post”")).toHaveValue("email");
  await expect(page.getByLabel("What’s in “Wann”")).toHaveValue("visit date");
  await page.getByLabel("What’s in “Was”").selectOption("service");
  await expect(page.getByText("“Zahnpflege” (1)")).toBeVisible();
  await expect(page.getByRole("row", { name: /Jürgen Ziegler .* asked/ })).toBeVisible();
  await expect(
    page.getByRole("row", { name: /Tilda Vance-Zeller .* waits until its service is matched/ }),
  ).toBeVisible();

  await page.getByRole("button", { name: "Import and ask 1" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Four rows imported, but 2 couldn’t be used.");
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: "Download them to fix" }).click();
  const csv = readFileSync(await (await download).path(), "utf8");
  expect(csv).toContain("What’s wrong");
  expect(csv).toContain("Nobody At All");

  const wrong = page.getByRole("listitem").filter({ hasText: "“31.02.2026” isn’t a date" });
  await wrong.getByLabel("Wann").fill("24.11.2026");
  await wrong.getByRole("button", { name: "Try this row again" }).click();
  await expect(wrong).toHaveCount(0);

  // The unknown name is assigned once; its visit goes on.
  await page.goto(`${VETS}/set-up/names`);
  const name = page.getByRole("listitem").filter({ hasText: "Zahnpflege" });
  await name.getByRole("combobox").selectOption({ label: "Dental care" });
  await name.getByRole("button", { name: "Match" }).click();
  await expect(page.getByText("One visit goes ahead").first()).toBeVisible();

  // A list is spread over the send hours; this one is sent before its turn.
  await page.goto(`${VETS}/asking/log?state=planned&channel=text`);
  await page.getByRole("listitem").filter({ hasText: "Jürgen Ziegler" }).getByRole("checkbox").check();
  await page.getByRole("button", { name: "Send now" }).click();
  const anyway = page.getByRole("button", { name: "Send now anyway" });
  const sent = page.getByText(/will go out/i);
  await expect(anyway.or(sent)).toBeVisible();
  if (await anyway.isVisible()) await anyway.click();
  await expect(sent).toBeVisible();
  await skip(page, "Skip an hour", 2);
  const phone = await customer(browser);
  await expect(async () => expect(await linkOnPhone(phone, "+447700900950")).toContain("/a/")).toPass({
    timeout: 600_000,
  });
  const link = await linkOnPhone(phone, "+447700900950");
  expect(link).toContain("/a/");
  await expect(phone.getByText(/Hi Jürgen, how was your check-up/)).toBeVisible();

  // Something of it was sent: it cannot be taken back, and what was sent is told.
  await page.goto(`${VETS}/people/import`);
  await page.getByRole("link", { name: "woche.csv" }).click();
  page.once("dialog", (dialog) => dialog.accept());
  await page.getByRole("button", { name: "Undo this import" }).click();
  await expect(page.getByText(/can’t undo this import: \d messages? (?:was|were) sent/)).toBeVisible();
});

test("dates that can be read both ways are asked about; people only asks nobody; the list is taken back whole", async ({
  page,
}) => {
  await takeSeat(page, "demo-desk");
  await bring(page, "both ways.csv", "Name\tEmail\tDate\nWilla Both\twilla.both@post.example\t05/11/2026\n");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("One row, and one question for you.");
  await page.getByLabel("day first").check();
  await expect(page.getByRole("button", { name: "Import the person only" })).toBeVisible();
  await page.getByRole("button", { name: "Import the person only" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("One row imported.");
  await page.getByRole("link", { name: "Show the new people" }).click();
  await expect(page.getByRole("link", { name: "Both, Willa" })).toBeVisible();
  await page.goBack();
  page.once("dialog", (dialog) => dialog.accept());
  await page.getByRole("button", { name: "Undo this import" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("This import was undone.");
  await page.goto(`${VETS}/people?q=willa.both`);
  await expect(page.getByText("No matches")).toBeVisible();
});

test("a list of twelve megabytes arrives whole, and shows how far it is", async ({ page }) => {
  test.setTimeout(300_000);
  await takeSeat(page, "demo-desk");
  const note = "n".repeat(2000);
  const rows = Array.from({ length: 6000 }, (_, n) => `Large List${n},large.list${n}@post.example,${note}`);
  const answer = await page.request.post(`${VETS}/people/import/upload`, {
    multipart: { file: file("large.csv", `Name,Email,Notes\n${rows.join("\n")}`) },
  });
  const { list } = (await answer.json()) as { list: string };
  await page.goto(`${VETS}/people/import/${list}`);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("6,000 rows: 6,000 new, 0 already known.", {
    timeout: 600_000,
  });
  await page.getByRole("button", { name: "Import the people only" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("6,000 rows imported.", { timeout: 600_000 });
  page.once("dialog", (dialog) => dialog.accept());
  await page.getByRole("button", { name: "Undo this import" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("This import was undone.", { timeout: 600_000 });
});

test("what is no list is refused in words, by file and by paste", async ({ page }) => {
  await takeSeat(page, "demo-desk");
  await bring(page, "a.pdf", "%PDF-1.4 something");
  await expect(page.getByText("This is a PDF")).toBeVisible();
  await page.goto(`${VETS}/people/import`);
  await page.getByText("Or paste rows from a spreadsheet").click();
  await page.getByLabel("Rows").fill("Name\tMobile\nPasted Person\t07700 900951");
  await page.getByRole("button", { name: "Check these rows" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("One row: 1 new, 0 already known.");
});

test("drop-off on a phone, without signing in and without script: one person, and a list with a broken row", async ({
  page,
  browser,
}) => {
  const desk = await customer(browser);
  await desk.goto(`/d/${DROP_OFF}`);
  await desk.getByLabel("Name").fill("Dora Quill");
  await desk.getByLabel("Mobile or email").fill("123");
  await desk.getByRole("button", { name: "Add person" }).click();
  await expect(desk.getByRole("alert")).toContainText("isn’t a mobile number or an email address");
  await expect(desk.getByLabel("Name")).toHaveValue("Dora Quill");
  await desk.getByLabel("Mobile or email").fill("07700 900952");
  await desk.getByRole("button", { name: "Add person" }).click();
  await expect(desk.getByRole("status")).toContainText("Added.");
  await desk
    .getByLabel("File")
    .setInputFiles(file("week.csv", "Name,Email\nDrop Person,drop.person@post.example\nBroken,nothing\n"));
  await desk.getByRole("button", { name: "Upload the list" }).click();
  await expect(desk.getByRole("heading", { level: 1 })).toHaveText("One row added.");
  await expect(desk.getByText("Row 3:")).toBeVisible();
  expect(await desk.evaluate(() => document.documentElement.scrollWidth)).toBe(390);

  await takeSeat(page, "demo-desk");
  await page.goto(`${VETS}/people?q=quill`);
  await page.getByRole("link", { name: "Quill, Dora" }).click();
  await expect(page.getByText("Added just now: Front desk.")).toBeVisible();
});

test("an appointment finished in the book is a visit within a moment, and its log says what it did", async ({
  page,
  browser,
}) => {
  await takeSeat(page, "demo-operator");
  await page.goto(`${VETS}/set-up/feeds`);
  await page.getByRole("link", { name: "Daybook" }).click();
  const book = await customer(browser, true);
  await book.goto(`${daybookUrl()}/book/bramble-lane-vets`);
  await book.getByLabel("Name").fill("Cleo Bookwright");
  await book.getByLabel("Mobile or email").fill("cleo.bookwright@post.example");
  await book.getByLabel("Ends in how many minutes").fill("30");
  await book.getByRole("button", { name: "Book", exact: true }).click();
  await expect(page.getByText(/Cleo Bookwright is new: a visit .*booked/)).toBeVisible({ timeout: 600_000 });
  await book
    .getByRole("row", { name: /Cleo Bookwright/ })
    .getByRole("button", { name: "Finish" })
    .click();
  await expect(page.getByText(/Cleo Bookwright: the visit .* is now finished/)).toBeVisible({ timeout: 600_000 });
  await page.goto(`${VETS}/people?q=bookwright`);
  await page.getByRole("link", { name: "Bookwright, Cleo" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Cleo Bookwright will be asked");
});

test("an address that came back is mended with one key, and goes on to the next", async ({ page }) => {
  await takeSeat(page, "demo-desk");
  await page.goto(`${VETS}/people/addresses`);
  const before = await page.locator("input[data-mend]").count();
  const first = page.locator("input[data-mend]").first();
  const row = page
    .getByRole("listitem")
    .filter({ has: page.locator("input[data-mend]") })
    .first();
  const name = (await row.getByRole("link").first().textContent()) ?? "";
  await first.fill("nonsense");
  await first.press("Enter");
  await expect(page.getByText("That isn’t an email address")).toBeVisible();
  await first.fill("mended.address@post.example");
  await first.press("Enter");
  await expect(page.getByText(/^Fixed\./).first()).toBeVisible();
  await expect(page.locator("input[data-mend]")).toHaveCount(before - 1);
  await page.goto(`${VETS}/people?q=mended.address`);
  await expect(page.getByRole("table").getByRole("link").first()).toContainText(name.split(" ").at(-1) ?? "");
});

test("two records are made one and two again", async ({ page }) => {
  await takeSeat(page, "demo-operator");
  await page.goto(`${VETS}/people/duplicates`);
  const title = page.getByRole("heading", { level: 1 });
  const before = await title.textContent();
  await page.getByRole("button", { name: "Keep the left one" }).first().click();
  await expect(page.getByText("Merged. Both histories are kept.")).toBeVisible();
  await expect(title).not.toHaveText(before ?? "");
  await page.getByRole("button", { name: "Undo" }).first().click();
  await expect(page.getByText("Split back into two.")).toBeVisible();
  await expect(title).toHaveText(before ?? "");
});

test("several are ticked, previewed, tagged and let rest; filters live in the address and become a view", async ({
  page,
}) => {
  await takeSeat(page, "demo-operator");
  await page.goto(`${VETS}/people`);
  await page.getByRole("button", { name: "State: everyone" }).click();
  await page.getByRole("menuitem", { name: "people we can’t reach" }).click();
  await expect(page).toHaveURL(/state=unreachable/);
  await page.reload();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("people we can’t reach");
  await page.getByRole("button", { name: "Save as a view: change" }).click();
  await page.getByLabel("Name", { exact: true }).fill("No way to reach");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("link", { name: "No way to reach" })).toBeVisible();

  await page.goto(`${VETS}/people?asked=never`);
  const ticks = page.getByRole("table").getByRole("checkbox");
  for (const n of [1, 2, 3]) await ticks.nth(n).check();
  await page.getByRole("button", { name: "Ask", exact: true }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("heading", { level: 2 })).toContainText("would be asked.");
  await dialog.getByRole("button", { name: "Cancel" }).click();
  await page.getByRole("button", { name: "Tag", exact: true }).click();
  await dialog.getByLabel("Tag").selectOption("breeder");
  await dialog.getByRole("button", { name: "Add tag" }).click();
  await expect(page.getByText("Three people tagged.")).toBeVisible();
  await page.goto(`${VETS}/people?tag=breeder`);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Three people fit.");
  await page.getByLabel("Everyone on this page").check();
  await page.getByRole("button", { name: "Set a rest" }).click();
  await page.getByRole("button", { name: "Set rest" }).click();
  await expect(page.getByText("Three people set to rest.")).toBeVisible();
  await page.goto(`${VETS}/people?tag=breeder&state=resting`);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Three people who are resting.");
  const download = page.waitForEvent("download");
  await page.getByLabel("Everyone on this page").check();
  await page.getByRole("button", { name: "Export" }).click();
  await page.getByRole("menuitem", { name: "as vCard" }).click();
  expect(readFileSync(await (await download).path(), "utf8").match(/BEGIN:VCARD/g)).toHaveLength(3);
});

async function newPerson(page: Page, name: string, email: string): Promise<void> {
  await page.goto(`${VETS}/people`);
  await page.getByRole("button", { name: "Add a person" }).click();
  await page.getByLabel("Name", { exact: true }).fill(name);
  await page.getByRole("textbox", { name: "Email", exact: true }).fill(email);
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText(name);
}

test("a person is erased: the word is asked for, and no list brings them back", async ({ page }) => {
  await takeSeat(page, "demo-operator");
  await newPerson(page, "Gone Tomorrow", "gone.tomorrow@post.example");
  const address = page.url();
  await page.getByRole("button", { name: "Erase Gone Tomorrow: change" }).click();
  await page.getByLabel("Type “erase” to continue").fill("maybe");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("Type “erase” to continue.").first()).toBeVisible();
  await page.getByLabel("Type “erase” to continue").fill("erase");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await page.waitForURL(/\/people$/);
  await page.goto(`${VETS}/people?q=gone.tomorrow`);
  await expect(page.getByText("No matches")).toBeVisible();
  await page.goto(address);
  await expect(page.getByText("gone.tomorrow")).toHaveCount(0);
  await bring(page, "again.csv", "Name,Email\nGone Tomorrow,gone.tomorrow@post.example\n");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("One row: 0 new, 0 already known, 1 can’t be used.");
});

test("whoever may not, does not: the desk erases and sets up nothing, a reader brings nothing", async ({
  page,
  browser,
}) => {
  await takeSeat(page, "demo-desk");
  for (const path of ["set-up", "set-up/keys", "set-up/tags"])
    expect([path, (await page.goto(`${VETS}/${path}`))?.status()]).toEqual([path, 404]);
  expect(
    (await page.request.post(`${VETS}/people/export`, { form: { format: "csv", chosen: '{"all":""}' } })).status(),
  ).toBe(404);
  await page.goto(`${VETS}/people`);
  await page.getByLabel("Everyone on this page").check();
  await expect(page.getByRole("button", { name: "Erase", exact: true })).toHaveCount(0);
  await reader(browser);
});

async function reader(browser: Browser): Promise<void> {
  const page = await (await browser.newContext()).newPage();
  await page.goto("/sign-in");
  await page.getByLabel("Email").fill("reader@bramblelane.example");
  await page.getByLabel("Password").fill("merrow-bay-demo");
  await page.getByRole("button", { name: "Sign in" }).click();
  await page.waitForURL(/today/);
  for (const path of ["people/import", "people/addresses", "people/duplicates", "set-up/names"])
    expect([path, (await page.goto(`${VETS}/${path}`))?.status()]).toEqual([path, 404]);
  const multipart = {
    file: { name: "x.csv", mimeType: "text/csv", buffer: Buffer.from("Name,Email\nA,a@post.example\n") },
  };
  expect((await page.request.post(`${VETS}/people/import/upload`, { multipart })).status()).toBe(404);
}

test("a key is shown once and opens the API; ended, it opens nothing", async ({ page }) => {
  await takeSeat(page, "demo-manager");
  await page.goto(`${VETS}/set-up/keys`);
  await page.getByRole("button", { name: "Create a key" }).click();
  await page.getByRole("button", { name: "Create key" }).click();
  await expect(page.getByRole("alert")).toContainText("Say what the key is for.");
  await page.getByLabel("What’s it for?").fill("Till");
  await page.getByLabel("people:read").check();
  await page.getByRole("button", { name: "Create key" }).click();
  await expect(page.getByText(/We won’t show it again/)).toBeVisible();
  const key = (await page.getByRole("dialog").locator("code").textContent()) ?? "";
  await page.getByRole("button", { name: "I’ve copied it" }).click();
  const get = () => page.request.get("/api/v1/people?limit=1", { headers: { authorization: `Bearer ${key}` } });
  expect((await get()).status()).toBe(200);
  page.once("dialog", (dialog) => dialog.accept());
  await page.getByRole("listitem").filter({ hasText: "Till" }).getByRole("button", { name: "End" }).click();
  await expect(page.getByText("No API keys yet.")).toBeVisible();
  expect((await get()).status()).toBe(401);
});
