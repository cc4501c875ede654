import { expect, type Page } from "@playwright/test";
import { size } from "../support/size";
import { customer, DROP_OFF, expectAccessible, signIn, skip, takeSeat, test } from "./town";

/** Every place, with keyboard, screen reader rules, narrow screens, wrong input and wrong roles. */

const PLACES = [
  "today",
  "people",
  "people?state=unreachable",
  "people/import",
  "people/addresses",
  "people/duplicates",
  "asking",
  "asking/log",
  "asking/log?state=planned",
  "asking/stages",
  "asking/links",
  "asking/links/how",
  "desk",
  "heard",
  "heard?show=reviews",
  "heard?show=concerns",
  "heard?show=own",
  "heard?show=aside",
  "heard?show=planned",
  "heard/rules",
  "heard/automated",
  "heard/answered",
  "heard/themes",
  "heard/told",
  "heard/bring-in",
  "set-up",
  "set-up/feeds",
  "set-up/business",
  "set-up/services",
  "set-up/pages",
  "set-up/pages/connect?site=tenfold",
  "set-up/tags",
  "set-up/names",
  "set-up/keys",
  "set-up/changes",
];

/** One place of each layout: what axe looks at in `npm test`. In `npm run prove` it looks at all. */
const LAYOUTS = ["today", "people", "people/import", "asking", "asking/log", "desk", "heard", "heard/themes", "set-up"];

test("axe finds nothing serious, light and dark, and nothing is wider than a phone", async ({ page }) => {
  test.setTimeout(900_000);
  for (const open of ["/sign-in", "/forgot", "/password/nothing", "/join/nothing", `/d/${DROP_OFF}`, "/api/v1"]) {
    await page.goto(open);
    await expectAccessible(page);
  }
  await takeSeat(page, "demo-manager");
  // What the server wrote and what the browser makes of it must be one: a mismatch shows as an error.
  const errors: string[] = [];
  page.on("pageerror", (error) => errors.push(`${page.url()}: ${error.message.slice(0, 200)}`));
  await page.goto("/c/bramble-lane-vets/set-up/feeds");
  const feed = (await page.getByRole("link", { name: "Daybook" }).getAttribute("href")) ?? "";
  const concern = await firstConcern(page);
  const person = await firstPerson(page);
  await page.goto("/c/bramble-lane-vets/asking");
  const plan = (await page.getByRole("link", { name: "After a visit" }).getAttribute("href")) ?? "";
  await page.goto("/c/bramble-lane-vets/asking/log?state=sent");
  const why = (await page.getByRole("link", { name: "Why?" }).first().getAttribute("href")) ?? "";
  const asking = [
    plan,
    `${plan}?step=1&wording=b`,
    `${plan}/picture`,
    `${plan}/rehearsal`,
    `${plan}/rehearsal?on=booked&show=left+out`,
    `${plan}/rehearsal?on=list`,
    why,
    `${person}/why`,
  ];
  const at = (place: string) => `/c/bramble-lane-vets/${place}`;
  const looked = new Set([...LAYOUTS.map(at), concern, person, plan]);
  for (const path of [...PLACES.map(at), concern, person, feed, ...asking]) {
    await page.goto(path);
    if (size(looked.has(path), true)) {
      await expectAccessible(page);
      // In the dark only colours differ, and on a phone only the layout.
      await page.emulateMedia({ colorScheme: "dark" });
      await expectAccessible(page, ["color-contrast"]);
      await page.emulateMedia({ colorScheme: "light" });
    }
    await page.setViewportSize({ width: 390, height: 844 });
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
    "people/addresses?after=x",
    "people?tag=%27%3B--&state=planned&asked=longer",
    "asking/log?state=nonsense&after=x~y&plan=%00&branch=1&day=2026-99-99",
    "asking/stages?stage=x&days=-4&plan=y&before=1~2",
    "heard?show=x&before=1~2&open=3",
    `people?q=${"%25".repeat(40)}`,
  ]) {
    const response = await page.goto(`/c/bramble-lane-vets/${path}`);
    expect([path, response?.status()]).toEqual([path, 200]);
    await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
  }
});

/** The same numbers on every run: what fails once can be looked at. */
function seeded(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    return Math.floor((state / 2_147_483_648) * below);
  };
}

test("no page answers any of a thousand odd addresses with a fault, and nothing of the sign-in library is open", async ({
  page,
}) => {
  test.setTimeout(300_000);
  await takeSeat(page, "demo-manager");
  const person = await firstPerson(page);
  const below = seeded(20261126);
  const one = <T>(list: readonly T[]): T => list[below(list.length)];
  const paths = [
    ...PLACES.map((place) => `/c/bramble-lane-vets/${place.split("?")[0]}`),
    person,
    `${person}/why`,
    `${person}/all.json`,
    "/c/bramble-lane-vets/people/import/x",
    "/c/bramble-lane-vets/set-up/feeds/x",
    "/c/bramble-lane-vets/asking/plans/x/rehearsal",
    "/c/nobody/today",
    "/sign-in",
    "/",
    "/a/x",
    "/u/x",
    "/d/x",
    "/o/x",
    `/d/${DROP_OFF}`,
    "/api/v1/people",
  ];
  const names = [
    "day",
    "days",
    "branch",
    "state",
    "after",
    "before",
    "q",
    "tag",
    "plan",
    "channel",
    "show",
    "site",
    "open",
    "list",
    "stage",
    "leftout",
    "step",
    "wording",
    "on",
    "part",
    "from",
    "to",
    "order",
    "r",
  ];
  const odd = [
    "",
    "0",
    "-1",
    "1e999",
    "NaN",
    "null",
    "[object Object]",
    "9999-12-31",
    "0000-00-00",
    "2026-02-30",
    "%00",
    "%ff",
    "%E0%A4",
    "'",
    "1~x",
    `${8.64e15}~${"0".repeat(36)}`,
    "%F0%9F%90%B6",
    "a".repeat(2000),
    "../../etc",
    "__proto__",
    "1 or 1=1",
    "%",
    "%25%25",
    "-9223372036854775809",
  ];
  const faults: string[] = [];
  for (let n = 0; n < 1000; n++) {
    const query = Array.from(
      { length: below(4) },
      () =>
        `${one(names)}${below(5) === 0 ? "[]" : ""}=${below(8) === 0 ? `${one(odd)}&${one(names)}=${one(odd)}` : one(odd)}`,
    ).join("&");
    const tail = below(6) === 0 ? `/${one(odd)}` : "";
    // Two slashes at the front would name another host.
    const address = `${one(paths)}${tail}${query ? `?${query}` : ""}`.replace(/^\/+/, "/");
    const response = await page.request.get(encodeURI(address).replaceAll("%25", "%"), {
      maxRedirects: 0,
      timeout: 600_000,
    });
    if (response.status() >= 500) faults.push(`${response.status()} ${address}`);
  }
  expect(faults).toEqual([]);
  for (const path of [
    "",
    "/",
    "/ok",
    "/error",
    "/get-session",
    "/sign-in/email",
    "/sign-up/email",
    "/update-user",
    "/change-email",
    "/delete-user",
    "/list-sessions",
    "/callback/x",
  ])
    for (const method of ["GET", "POST"]) {
      const response = await page.request.fetch(`/api/auth${path}`, {
        method,
        data: method === "POST" ? { name: "Choose someone else" } : undefined,
      });
      expect([path, response.status()]).toEqual([path, 404]);
    }
});

test("who did what is read by those who set up: sign-ins, exports, keys, changes of plans", async ({ page }) => {
  await takeSeat(page, "demo-manager");
  const person = await firstPerson(page);
  await page.request.get(`${person}/all.json`);
  await page.goto("/c/bramble-lane-vets/set-up");
  await page.getByRole("link", { name: "Who did what" }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Who did what" })).toBeVisible();
  await expect(page.getByText(/exported everything held about/).first()).toBeVisible();
  await page.getByRole("navigation", { name: "Filters" }).getByRole("link", { name: "Sign-ins" }).click();
  await expect(page.getByRole("listitem").filter({ hasText: "signed in" }).first()).toBeVisible();
  await expect(page.getByText(/exported everything/)).toHaveCount(0);
  await page.context().clearCookies();
  await takeSeat(page, "demo-desk");
  expect((await page.request.get("/c/bramble-lane-vets/set-up/changes")).status()).toBe(404);
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
      .locator("section[aria-label='Timeline']")
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
  await page.getByPlaceholder(/A page, a name/).fill(name.split(", ").reverse().join(" "));
  await page.getByRole("option").first().waitFor();
  await page.keyboard.press("Enter");
  await page.waitForURL(/people\/[0-9a-f-]{36}/);
  await page.keyboard.press("Control+k");
  await page.getByPlaceholder(/A page, a name/).fill("planned");
  await page.keyboard.press("Enter");
  await page.waitForURL(/asking\/log/);
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keyboard shortcuts" })).toContainText("ask someone");
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
  await expect(desk.getByRole("heading", { name: "Start another plan" })).toHaveCount(0);
  await desk.getByRole("link", { name: "After a visit" }).click();
  await desk.getByRole("link", { name: "Rehearse", exact: true }).waitFor();
  await expect(desk.getByRole("button", { name: /Pause|change$/ })).toHaveCount(0);
});

test("signing in: wrong words are refused without telling which, too many tries wait, everywhere means everywhere", async ({
  page,
  browser,
}) => {
  await signIn(page, "not an address");
  await expect(page.getByText("That isn’t an email address.")).toBeVisible();
  await signIn(page, "maud@bramblelane.example", "wrong-password");
  await expect(page.getByText("That email and password don’t match.")).toBeVisible();
  for (let turn = 0; turn < 9; turn++) {
    await page.getByLabel("Password").fill(`wrong ${turn}`);
    await page.getByRole("button", { name: "Sign in" }).click();
    await expect(page.getByRole("button", { name: "Sign in" })).toBeEnabled();
  }
  await expect(page.getByText("Too many attempts. Wait a minute, then try again.")).toBeVisible();

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
  await skip(page, "Skip an hour", 2);
  await page.getByRole("button", { name: /Ask someone/ }).click();
  await page.getByRole("dialog").getByRole("listitem").getByRole("button").first().click();
  await page.getByRole("dialog").getByRole("button", { name: /^Ask/ }).click();
  await expect(page.getByText(/will be asked\./)).toBeVisible();
});

test("the answer page weighs under 60 KB with its font, and its look answers nothing", async ({ page, browser }) => {
  await takeSeat(page, "demo-manager");
  const visitor = await customer(browser, true);
  const bodies: Promise<Buffer>[] = [];
  visitor.on("response", (each) => bodies.push(each.body().catch(() => Buffer.alloc(0))));
  const response = await visitor.goto("/a/aaaaaaaaaaaaaa");
  expect(response?.status()).toBe(404);
  await expect(visitor.getByRole("heading", { name: "This link no longer works." })).toBeVisible();
  await expectAccessible(visitor);
  await visitor.waitForLoadState("networkidle");
  const bytes = (await Promise.all(bodies)).reduce((sum, body) => sum + body.byteLength, 0);
  expect(bytes).toBeGreaterThan(5_000);
  expect(bytes).toBeLessThan(60_000);
});
