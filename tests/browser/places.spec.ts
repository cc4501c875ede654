import AxeBuilder from "@axe-core/playwright";
import { expect, type Page, test } from "@playwright/test";
import { customer, DROP_OFF, signIn, skip, takeSeat } from "./town";

/** Every place, with keyboard, screen reader rules, narrow screens, wrong input and wrong roles. */

const PLACES = [
  "today",
  "people",
  "people?state=unreachable",
  "people/bring",
  "people/mend",
  "people/twins",
  "asking",
  "asking/log",
  "heard",
  "heard?show=reviews",
  "heard?show=concerns",
  "set-up",
  "set-up/services",
  "set-up/tags",
  "set-up/names",
  "set-up/keys",
];

async function expectAccessible(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).withTags(["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"]).analyze();
  expect(violations.filter(({ impact }) => impact === "serious" || impact === "critical").map(({ id, nodes }) => `${id}: ${nodes[0]?.html.slice(0, 160)}`)).toEqual([]);
}

test("axe finds nothing serious anywhere, light and dark, and nothing is wider than a phone", async ({ page }) => {
  test.setTimeout(300_000);
  for (const open of ["/sign-in", `/d/${DROP_OFF}`, "/api/v1"]) {
    await page.goto(open);
    await expectAccessible(page);
  }
  await takeSeat(page, "demo-manager");
  // What the server wrote and what the browser makes of it must be one: a mismatch shows as an error.
  const errors: string[] = [];
  page.on("pageerror", (error) => errors.push(`${page.url()}: ${error.message.slice(0, 200)}`));
  await page.goto("/c/bramble-lane-vets/set-up");
  const feed = (await page.getByRole("link", { name: "Daybook" }).getAttribute("href")) ?? "";
  const concern = await firstConcern(page);
  const person = await firstPerson(page);
  for (const path of [...PLACES.map((place) => `/c/bramble-lane-vets/${place}`), concern, person, feed]) {
    for (const colorScheme of ["light", "dark"] as const) {
      await page.emulateMedia({ colorScheme });
      await page.goto(path);
      await expectAccessible(page);
    }
    await page.emulateMedia({ colorScheme: "light" });
    await page.setViewportSize({ width: 390, height: 844 });
    await page.goto(path);
    expect([path, await page.evaluate(() => document.documentElement.scrollWidth)]).toEqual([path, 390]);
    await page.setViewportSize({ width: 1280, height: 800 });
  }
  expect(errors).toEqual([]);
});

async function firstConcern(page: Page): Promise<string> {
  await page.goto("/c/bramble-lane-vets/heard?show=concerns");
  return (await page.getByRole("article").getByRole("link").first().getAttribute("href")) ?? "";
}

async function firstPerson(page: Page): Promise<string> {
  await page.goto("/c/bramble-lane-vets/people");
  return (await page.getByRole("table").getByRole("link").first().getAttribute("href")) ?? "";
}

test("nonsense in the address is met with the page, not with a fault", async ({ page }) => {
  await takeSeat(page, "demo-manager");
  for (const path of [
    "today?day=yesterday",
    "today?day=9999-99-99&branch=x",
    "people?after=a~b~c",
    "people?q=%00",
    "heard?show=reviews&site=%00x",
    "people?leftout=nothing&day=0",
    "people?state=x&asked=y&branch=z&tag=%00&list=1",
    "people/mend?after=x",
    "people?tag=%27%3B--&state=planned&asked=longer",
    "asking?step=99",
    "asking?step=-1",
    "asking/log?state=nonsense&after=x~y",
    "heard?show=x&before=1~2&open=3",
    `people?q=${"%25".repeat(40)}`,
  ]) {
    const response = await page.goto(`/c/bramble-lane-vets/${path}`);
    expect([path, response?.status()]).toEqual([path, 200]);
    await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
  }
});

test("a plan is changed in its sentences; what is wrong is said beside the field", async ({ page }) => {
  await takeSeat(page, "demo-manager");
  await page.goto("/c/bramble-lane-vets/asking");
  await page.getByRole("button", { name: /How long a person rests: change/ }).click();
  await page.getByLabel("Days").fill("-3");
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByText("Rest cannot be negative.")).toBeVisible();
  await page.getByLabel("Days").fill("90");
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByRole("button", { name: "Keep" })).toHaveCount(0);
  await expect(page.getByRole("button", { name: /How long a person rests/ })).toHaveText("90 days");

  await page.getByRole("button", { name: /When “First ask” goes out: change/ }).click();
  await page.getByLabel("After").fill("45");
  await page.getByLabel("Unit").selectOption("minutes");
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByRole("button", { name: "Keep" })).toHaveCount(0);
  await expect(page.getByRole("link", { name: /First ask/ })).toContainText("text, that day at 11:45");

  await page.getByRole("button", { name: /When texts may leave: change/ }).click();
  await page.getByLabel("Monday, until").fill("8:00");
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByText("Monday: closing must come after opening.")).toBeVisible();
  await page.getByLabel("Monday, until").fill("18:30");
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByRole("button", { name: "Keep" })).toHaveCount(0);
  await expect(page.getByRole("button", { name: /When texts may leave/ })).toContainText("Mon 9:00 to 18:30");

  await page.getByRole("button", { name: /What the answer page opens/ }).click();
  await page.getByRole("radio", { name: /Private only/ }).check();
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByText("Private only needs the name of the person who answers for it.")).toBeVisible();
  await page.getByRole("radio", { name: /Open/ }).check();
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByRole("button", { name: "Keep" })).toHaveCount(0);
  await expect(page.getByRole("button", { name: /What the answer page opens/ })).toContainText("Open, unhappy is 3 of 5");

  await page.getByRole("button", { name: /The words of “First ask”: change/ }).click();
  await page.getByLabel("As a text").fill("No link here");
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByText("The text needs {link}, or nobody can answer.")).toBeVisible();
  await page.keyboard.press("Escape");
  await page.reload();
  await expect(page.getByRole("button", { name: /How long a person rests/ })).toHaveText("90 days");
});

test("two tabs on one plan: the later one is told instead of overwriting", async ({ page, context }) => {
  await takeSeat(page, "demo-manager");
  await page.goto("/c/bramble-lane-vets/asking");
  const other = await context.newPage();
  await other.goto("/c/bramble-lane-vets/asking");
  for (const [tab, days] of [
    [page, "5"],
    [other, "9"],
  ] as const) {
    await tab.getByRole("button", { name: /How late is too late: change/ }).click();
    await tab.getByLabel("Days").fill(days);
    await tab.getByRole("button", { name: "Keep" }).click();
  }
  await expect(other.getByText(/Somebody else changed this plan meanwhile/)).toBeVisible();
  await expect(page.getByRole("button", { name: /How late is too late/ })).toHaveText("5 days");
});

test("pausing holds what is planned, and the log shows it held; resuming plans it again", async ({ page }) => {
  await takeSeat(page, "demo-manager");
  await page.goto("/c/bramble-lane-vets/asking");
  await page.getByRole("button", { name: "Pause" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/is paused/);
  await page.goto("/c/bramble-lane-vets/asking/log?state=held");
  await expect(page.getByText("The plan is paused.").first()).toBeVisible();
  await page.goto("/c/bramble-lane-vets/asking");
  await page.getByRole("button", { name: "Resume" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/is running/);
  await page.goto("/c/bramble-lane-vets/asking/log?state=held");
  await expect(page.getByText("No message is like that.")).toBeVisible();
});

test("the ruler is walked with the arrow keys, and Enter opens the row", async ({ page }) => {
  await takeSeat(page, "demo-manager");
  const ruler = page.getByRole("group", { name: /Visits and messages/ });
  await ruler.locator("[data-mark][tabindex='0']").first().focus();
  const first = await page.evaluate(() => (document.activeElement as HTMLElement).dataset.mark);
  await page.keyboard.press("ArrowRight");
  const second = await page.evaluate(() => (document.activeElement as HTMLElement).dataset.mark);
  expect(second).not.toBe(first);
  await expect(
    page
      .locator("section[aria-label='Time ruler']")
      .getByText(second ?? "", { exact: true })
      .first(),
  ).toBeVisible();
  await page.keyboard.press("Enter");
  await page.waitForURL(/people\/[0-9a-f-]{36}/);
});

test("anything is reached by typing, and the keys are listed", async ({ page }) => {
  await takeSeat(page, "demo-manager");
  await page.goto("/c/bramble-lane-vets/people");
  const name = (await page.getByRole("table").getByRole("link").first().textContent()) ?? "";
  await page.keyboard.press("Control+k");
  await page.getByPlaceholder(/A place, a name/).fill(name.split(", ").reverse().join(" "));
  await page.getByRole("option").first().waitFor();
  await page.keyboard.press("Enter");
  await page.waitForURL(/people\/[0-9a-f-]{36}/);
  await page.keyboard.press("Control+k");
  await page.getByPlaceholder(/A place, a name/).fill("log");
  await page.keyboard.press("Enter");
  await page.waitForURL(/asking\/log/);
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toContainText("ask someone");
  await page.keyboard.press("Escape");
  await page.keyboard.press("h");
  await page.waitForURL(/heard/);
});

test("a reader sees and changes nothing; the desk cannot change the plan", async ({ page, browser }) => {
  await signIn(page, "reader@bramblelane.example");
  await page.waitForURL(/today/);
  await expect(page.getByRole("button", { name: /Ask someone/ })).toHaveCount(0);
  await page.goto("/c/bramble-lane-vets/asking");
  await expect(page.getByRole("button", { name: /change$/ })).toHaveCount(0);
  await page.goto(await firstPerson(page));
  await expect(page.getByRole("button", { name: "Record a visit" })).toHaveCount(0);
  const desk = await (await browser.newContext()).newPage();
  await takeSeat(desk, "demo-desk");
  await desk.goto("/c/bramble-lane-vets/asking");
  await expect(desk.getByRole("button", { name: "Pause" })).toHaveCount(0);
});

test("signing in: wrong words are refused without telling which, too many tries wait, everywhere means everywhere", async ({ page, browser }) => {
  await signIn(page, "not an address");
  await expect(page.getByText("This is not an email address.")).toBeVisible();
  await signIn(page, "maud@bramblelane.example", "wrong-password");
  await expect(page.getByText("This email and password do not go together.")).toBeVisible();
  for (let turn = 0; turn < 9; turn++) {
    await page.getByLabel("Password").fill(`wrong ${turn}`);
    await page.getByRole("button", { name: "Sign in" }).click();
    await expect(page.getByRole("button", { name: "Sign in" })).toBeEnabled();
  }
  await expect(page.getByText("Too many tries. Wait a minute, then try again.")).toBeVisible();

  await takeSeat(page, "demo-operator");
  const phone = await (await browser.newContext()).newPage();
  await takeSeat(phone, "demo-operator");
  await page.getByRole("button", { name: "Bramble Lane Vets" }).click();
  await page.getByRole("menuitem", { name: "Sign out on every device" }).click();
  await page.waitForURL(/sign-in/);
  await phone.goto("/c/bramble-lane-vets/today");
  await expect(phone).toHaveURL(/sign-in/);
});

test("on a phone the front desk asks a known person with two taps", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await takeSeat(page, "demo-desk");
  await skip(page, "An hour ahead", 2);
  await page.getByRole("button", { name: /Ask someone/ }).click();
  await page.getByRole("dialog").getByRole("listitem").getByRole("button").first().click();
  await page.getByRole("dialog").getByRole("button", { name: /^Ask/ }).click();
  await expect(page.getByText(/will be asked\./)).toBeVisible();
});

test("the answer page weighs under 60 KB with its font, and its look answers nothing", async ({ page, browser }) => {
  await takeSeat(page, "demo-manager");
  const visitor = await customer(browser, true);
  let bytes = 0;
  visitor.on("response", async (response) => {
    bytes += (await response.body().catch(() => Buffer.alloc(0))).byteLength;
  });
  const response = await visitor.goto("/a/aaaaaaaaaaaaaa");
  expect(response?.status()).toBe(404);
  await expect(visitor.getByRole("heading", { name: "This link has come to its end." })).toBeVisible();
  await expectAccessible(visitor);
  await visitor.waitForLoadState("networkidle");
  expect(bytes).toBeGreaterThan(5_000);
  expect(bytes).toBeLessThan(60_000);
});
