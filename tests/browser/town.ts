import AxeBuilder from "@axe-core/playwright";
import { type Browser, test as base, expect, type Page, type Response } from "@playwright/test";

/** What the browser tests do again and again: take a seat, move the clock, look into mailboxes and phones. */

const town = () => process.env.ESTIMA_E2E_TOWN ?? "";
const portOf = (offset: number) => town().replace(/:(\d+)$/, (_, port) => `:${Number(port) + offset}`);
export const mailUrl = () => portOf(1);
export const phoneUrl = () => portOf(2);
export const waypostUrl = () => portOf(3);

export const daybookUrl = () => portOf(4);

/**
 * Whoever opens a page in these tests uses it when it can be used: until the browser has made its buttons work (marked
 * on the document, see Places), a click on a slow machine would be lost.
 */
export const test = base.extend<{ page: Page; agreement: undefined }>({
  agreement: [
    async ({ page, browser, baseURL }, use, info) => {
      const clients = new Set<string>();
      page.on("framenavigated", (frame) => {
        const slug = /\/c\/([a-z0-9-]+)\//.exec(new URL(frame.url(), "http://x").pathname)?.[1];
        if (slug && frame === page.mainFrame()) clients.add(slug);
      });
      await use(undefined);
      if (info.status === info.expectedStatus)
        for (const slug of clients) await expectAgreement(browser, baseURL ?? "", slug);
    },
    { auto: true },
  ],
  page: async ({ page }, use) => {
    const isReady = () =>
      page.waitForFunction(() => !document.querySelector("[data-hydrates]") || document.documentElement.dataset.ready);
    const afterwards =
      <Args extends unknown[]>(open: (...args: Args) => Promise<Response | null>) =>
      async (...args: Args) => {
        const response = await open(...args);
        await isReady();
        return response;
      };
    page.goto = afterwards(page.goto.bind(page));
    page.reload = afterwards(page.reload.bind(page));
    await use(page);
  },
});

/** What an operator's browser carries, by installation: signed in once. */
const operators = new Map<string, Awaited<ReturnType<Browser["newContext"]>> | null>();

async function operatorAt(browser: Browser, base: string) {
  const known = operators.get(base);
  if (known !== undefined) return known;
  const context = await browser.newContext({ baseURL: base, javaScriptEnabled: true });
  const page = await context.newPage();
  await page.goto("/sign-in");
  const seat = page.locator("button[value=demo-operator]");
  const isDemo = (await seat.count()) > 0;
  if (isDemo) {
    await seat.click();
    await page.waitForURL(/\/(?:today|agency)/);
  }
  await page.close();
  operators.set(base, isDemo ? context : null);
  return isDemo ? context : null;
}

/** What one reads on a page, without its marks; "" for one that the operator is not shown. */
async function textOf(context: NonNullable<Awaited<ReturnType<typeof operatorAt>>>, path: string): Promise<string> {
  const response = await context.request.get(path, { maxRedirects: 0 });
  if (response.status() !== 200) return "";
  const html = await response.text();
  const body = html.slice(html.indexOf("<body"), html.indexOf("<script", html.indexOf("</main>")));
  return body
    .replace(/<script[\s\S]*?<\/script>|<style[\s\S]*?<\/style>/g, " ")
    .replace(/<[^>]+>/g, " ")
    .replace(/&#x27;|&rsquo;/g, "’")
    .replace(/\s+/g, " ");
}

const numberAfter = (text: string, words: RegExp) => {
  const found = words.exec(text)?.[1];
  return found === undefined ? 0 : Number(found.replaceAll(",", ""));
};

/**
 * What pages of a client say about the same thing agrees: how many wait (masthead, Heard), whether everything is paused
 * and how many plans run (Today, Asking, the agency's page), how many kind notes are unread (Today, Heard).
 */
export async function expectAgreement(browser: Browser, base: string, slug: string): Promise<void> {
  const context = await operatorAt(browser, base);
  if (!context) return;
  const at = `/c/${slug}`;
  const read = async () => {
    const [today, heard, asking] = [
      await textOf(context, `${at}/today`),
      await textOf(context, `${at}/heard`),
      await textOf(context, `${at}/asking`),
    ];
    if (!today || !heard || !asking) return null;
    const isPaused = today.includes("Everything is paused");
    return {
      waiting: [numberAfter(today, /\bHeard ([\d,]+)/), numberAfter(heard, /\bWaiting ([\d,]+)/)],
      paused: [isPaused, /Everything is paused: no plan/.test(asking)],
      // Where a plan has paused itself, the page speaks of that alone.
      nothingRuns: [
        // Before the first ask, starting the plan is one of the steps that are left.
        !isPaused && /No plan is running|Go to the plan/.test(today),
        !isPaused &&
          (/paused (?:itself|themselves)/.test(asking)
            ? /No plan is running/.test(today)
            : /No plans are running/.test(asking)),
      ],
      kind: [/Kind words “/.test(today), numberAfter(heard, /\bKind words ([\d,]+)/) > 0],
    };
  };
  // The clock of the town runs on between two pages: what differs is looked at again.
  await expect(async () => {
    const seen = await read();
    if (seen) for (const [what, [one, other]] of Object.entries(seen)) expect([what, one]).toEqual([what, other]);
  }).toPass({ timeout: 20_000 });
}

/** The drop-off link of the demo's front desk. */
export const DROP_OFF = "merrowBayFrontDesk2345";

export type Seat = "demo-operator" | "demo-manager" | "demo-desk";

export async function takeSeat(page: Page, seat: Seat, client = "bramble-lane-vets"): Promise<void> {
  await page.goto("/sign-in");
  await page.locator(`button[value=${seat}]`).click();
  await page.waitForURL(/\/(?:today|agency)/);
  if (!page.url().includes(`/c/${client}/`)) await page.goto(`/c/${client}/today`);
}

export async function signIn(page: Page, email: string, password = "merrow-bay-demo"): Promise<void> {
  await page.goto("/sign-in");
  await page.getByLabel("Email").fill(email);
  await page.getByLabel("Password").fill(password);
  await page.getByRole("button", { name: "Sign in" }).click();
}

/** What a skip moves the clock by at least: less is only the clock running on. */
const LEAST = { "Skip to the next message": 1, "Skip an hour": 55 * 60_000, "Skip to tomorrow, 9:00": 3_600_000 };

/** Skips the demo clock and waits until it has arrived. */
export async function skip(page: Page, how: keyof typeof LEAST, times = 1): Promise<void> {
  const clock = page.getByRole("button", { name: /demo clock: skip ahead/ }).and(page.locator(":visible"));
  const read = async (timeout = 500) =>
    Date.parse(
      `${/(\d+ \w+), (\d+:\d+)/
        .exec((await clock.textContent({ timeout })) ?? "")
        ?.slice(1, 3)
        .join(" 2026 ")} UTC`,
    );
  for (let turn = 0; turn < times; turn++) {
    const before = await read(90_000);
    await clock.click();
    await page.getByRole("menuitem", { name: how }).click();
    // It stands while it skips, and shows another time when it is there.
    await expect(async () => expect((await read()) - before).toBeGreaterThanOrEqual(LEAST[how])).toPass({
      timeout: 600_000,
    });
  }
}

/** A customer's browser: another person, without JavaScript unless asked for. */
export async function customer(browser: Browser, javaScriptEnabled = false): Promise<Page> {
  const context = await browser.newContext({ javaScriptEnabled, viewport: { width: 390, height: 844 } });
  return context.newPage();
}

export async function linkOnPhone(page: Page, number: string): Promise<string> {
  await page.goto(`${phoneUrl()}/phone/${encodeURIComponent(number)}`);
  // What has not arrived yet does not appear by itself: whoever waits for it looks again.
  const links = page.locator("a[href*='/a/']");
  return (await links.count()) > 0 ? ((await links.last().getAttribute("href")) ?? "") : "";
}

/** `timeout` in milliseconds: how long a mail is waited for, where another look at the mailbox follows. */
export async function openLastMail(page: Page, address: string, timeout?: number): Promise<void> {
  await page.goto(`${mailUrl()}/box/${encodeURIComponent(address)}`);
  await page.getByRole("link", { name: "Open" }).first().click({ timeout });
}

/** Nothing serious for those who use a keyboard or a screen reader (WCAG 2.2 AA, as far as a machine can tell). */
export async function expectAccessible(page: Page, rules?: string[]): Promise<void> {
  const axe = new AxeBuilder({ page });
  const { violations } = await (rules
    ? axe.withRules(rules)
    : axe.withTags(["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"])
  ).analyze();
  expect(
    violations
      .filter(({ impact }) => impact === "serious" || impact === "critical")
      .map(({ id, nodes }) => `${id}: ${nodes[0]?.html.slice(0, 160)}`),
  ).toEqual([]);
}

/** Chooses from a list that is searched by typing. */
export async function choose(page: Page, label: string, words: string): Promise<void> {
  await page.getByLabel(label, { exact: true }).click();
  await page.getByPlaceholder(/^Search /).fill(words);
  await page.getByRole("option", { name: words, exact: true }).click();
}
