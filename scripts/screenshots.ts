import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { chromium, type Page } from "@playwright/test";
import sharp from "sharp";
import { articles } from "../src/features/guide";
import { GUIDE_PAGES } from "./guidePages";
import { openLocal, ROOT } from "./local";
import { startPostgres } from "./postgres";
import { freshStack } from "./stack";

/**
 * `npm run screenshots`: one picture of each main view, made from the demo's data, into docs/screenshots, and one for
 * each article of the guide into public/guide.
 */

/** What of its page a picture of the guide shows, where that is not its beginning. */
const SHOWN: Record<string, string> = {
  "how-a-plan-decides": "Who is asked",
  "texts-and-their-parts": "by text",
  rest: "For every plan",
  "concerns-and-answering": "Who handles concerns",
};

const out = join(ROOT, "docs/screenshots");
mkdirSync(out, { recursive: true });
const local = await openLocal(
  process.env.ESTIMA_HOME ? join(process.env.ESTIMA_HOME, "pictures") : join(ROOT, ".local", "pictures"),
  5100,
);
const postgres = await startPostgres(local, { fast: true });
const stack = await freshStack(local, postgres.ownerUrl, "estima_pictures", null);
const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-gpu", "--disable-background-networking"],
});
try {
  const base = stack.env.APP_URL;
  const home = `${base}/c/bramble-lane-vets`;
  const page = await (await browser.newContext({ baseURL: base, viewport: { width: 1280, height: 800 } })).newPage();
  const shoot = async (name: string, from: Page = page) => {
    await from.waitForTimeout(500);
    await from.screenshot({ path: join(out, `${name}.png`) });
  };
  await page.goto(`${base}/sign-in`);
  await page.locator("button[value=demo-manager]").click();
  await page.waitForURL(/today/);
  await shoot("today");
  await page.keyboard.press("a");
  await page.getByRole("dialog").getByRole("listitem").getByRole("button").first().click();
  await page.getByText(/Goes out (now|today|tomorrow)/).waitFor();
  await shoot("ask-someone");
  await page.goto(`${home}/heard?show=concerns`);
  const concern = (await page.getByRole("article").first().getByRole("link").first().getAttribute("href")) ?? "";
  // Of one site, so that the first stands there with its draft.
  await page.goto(`${home}/heard?site=Waypost`);
  await page.locator("textarea").first().waitFor();
  await shoot("heard");
  await page.goto(`${base}${concern}`);
  await shoot("concern");
  await page.getByRole("link", { name: /Full story/ }).click();
  await page.waitForURL(/people\//);
  await shoot("story");
  await page.goto(`${home}/asking`);
  await page.getByRole("link", { name: "After a visit", exact: true }).click();
  await page.getByRole("link", { name: /Second ask/ }).click();
  await page.waitForURL(/step=1/);
  await shoot("plan");
  await page.getByRole("link", { name: "Rehearse", exact: true }).click();
  await page.waitForURL(/rehearsal/);
  await shoot("rehearsal");
  await page.goto(`${home}/asking`);
  await page.getByRole("link", { name: "After a visit", exact: true }).click();
  await page.getByRole("link", { name: "What customers see" }).click();
  await page.waitForURL(/\/words/);
  await page.getByRole("link", { name: /^The question/ }).click();
  await page.waitForURL(/stop=question/);
  await page.frameLocator("iframe").getByRole("heading").first().waitFor();
  await shoot("words");
  await page.goto(`${home}/people?leftout=resting&day=2026-11-23`);
  await page.goto(
    `${await page
      .getByRole("table")
      .getByRole("link")
      .first()
      .getAttribute("href")
      .then((href) => new URL(href ?? "", base).href)}/why`,
  );
  await page.locator("a[href*='/asking/why/']", { hasText: "left out" }).first().click();
  await page.waitForURL(/asking\/why/);
  await shoot("why");

  await page.goto(`${base}/sign-in`);
  await page.locator("button[value=demo-operator]").click();
  await page.waitForURL(/agency/);
  // The worker works out how the clients are doing within a moment of its start.
  await page.getByRole("heading", { level: 1, name: /^Eight of 28/ }).waitFor();
  await shoot("clients");
  await page.getByRole("button", { name: "Start a client" }).click();
  await page.waitForURL(/start\//);
  await page.getByLabel("Trade", { exact: true }).click();
  await page.getByRole("option", { name: "Locksmiths" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Osprey Locksmiths");
  await page.getByText("Saved.").waitFor();
  await shoot("start-client");
  await page.goto(`${base}/c/copperline-piano-care/people/import`);
  await page.getByRole("link", { name: /Old tunings/ }).click();
  await page.getByRole("heading", { level: 1, name: /rows/ }).waitFor();
  await shoot("import-list");
  await page.goto(`${home}/heard/rules`);
  await page.getByRole("region", { name: "Rehearsal" }).waitFor();
  await shoot("reply-rules");
  await page.goto(`${home}/heard/themes`);
  await page.getByRole("table").waitFor();
  await shoot("themes");

  await page.goto(`${home}/set-up`);
  await shoot("set-up");
  const guide = join(ROOT, "public/guide");
  mkdirSync(guide, { recursive: true });
  for (const article of articles()) {
    await GUIDE_PAGES[article.page](page);
    const shown = SHOWN[article.slug];
    if (shown)
      await page
        .getByText(shown, { exact: true })
        .first()
        .evaluate((part) => {
          part.scrollIntoView({ block: "start" });
          scrollBy(0, -110);
        });
    await page.waitForTimeout(500);
    // Below the head of the page, wherever it is scrolled to.
    const main = await page.locator("main").boundingBox();
    const picture = await page.screenshot({
      clip: { x: main?.x ?? 0, y: 64, width: main?.width ?? 980, height: 520 },
    });
    await sharp(picture)
      .resize({ width: 800 })
      .webp({ quality: 82 })
      .toFile(join(guide, `${article.slug}.webp`));
  }

  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await phone.goto(`${base}/sign-in`);
  await phone.locator("button[value=demo-desk]").click();
  await phone.waitForURL(/today/);
  await shoot("today-phone", phone);
  await phone.goto(`${home}/heard?show=conversations`);
  await phone.getByRole("article").filter({ hasText: "that paw" }).getByRole("link", { name: /^Read/ }).click();
  await phone.getByAltText(/^Sent by/).waitFor();
  await phone.locator("[data-latest]").evaluate((letter) => letter.scrollIntoView({ block: "end" }));
  await shoot("conversation", phone);
  await phone.goto(`${stack.env.TOWN_URL?.replace(/:(\d+)$/, (_, port) => `:${Number(port) + 2}`)}/`);
  await phone.getByRole("table").getByRole("link").first().click();
  const link = (await phone.locator("a[href*='/a/']").last().getAttribute("href")) ?? "";
  await phone.goto(link.replace(/\.\d$/, "?change=1"));
  await phone.getByRole("button", { name: /^5 of 5/ }).click();
  await phone
    .getByRole("heading", { name: "A little more, if you like" })
    .evaluate((heading) => heading.scrollIntoView({ block: "start" }));
  await shoot("answer-questions", phone);
  await phone.goto(`${base}/reviews/bramble-lane-vets`);
  await shoot("own-reviews", phone);
} finally {
  await browser.close();
  await stack.stop();
  postgres.stop();
}
process.exit(0);
