import { expect, type Page } from "@playwright/test";
import sharp from "sharp";
import { drawPdf, readCode } from "../support/codes";
import { customer, expectAccessible, linkOnPhone, mailUrl, takeSeat, test } from "./town";

/** What customers get: changed where it stands, tried on oneself, put in force; answered, shown, printed. */

test.describe.configure({ mode: "serial" });

const HOME = "/c/bramble-lane-vets";
let walk = "";
let link = "";

async function change(page: Page, label: string, words: string): Promise<void> {
  const editor = page.getByRole("textbox", { name: label, exact: true });
  await editor.click();
  await page.keyboard.press("Control+End");
  await page.keyboard.type(words);
  const save = page.getByRole("button", { name: new RegExp(`^Save\\s*: ${label}$`) });
  await save.click();
  await expect(save).toHaveCount(0);
}

test("a manager changes logo and two sentences, sees them on the walk, sends it to herself, puts it in force", async ({
  page,
}) => {
  await takeSeat(page, "demo-manager");
  await page.goto(`${HOME}/set-up/business`);
  const logo = await sharp({ create: { width: 300, height: 90, channels: 4, background: "#2F5D50" } })
    .png()
    .toBuffer();
  await page
    .getByLabel("Choose a logo")
    .first()
    .setInputFiles({ name: "logo.png", mimeType: "image/png", buffer: logo });
  await expect(page.getByRole("img", { name: "Bramble Lane Vets logo" })).toBeVisible();

  await page.goto(`${HOME}/asking`);
  await page.getByRole("link", { name: "After a visit", exact: true }).click();
  await page.getByRole("link", { name: "What customers see" }).click();
  await page.waitForURL(/\/words/);
  walk = new URL(page.url()).pathname;
  await change(page, "Text", " Thank you!");
  await expect(page.getByRole("region", { name: "The text of First ask" })).toContainText(
    "Reply STOP to opt out. Thank you!",
  );
  await page.getByRole("link", { name: /^The question/ }).click();
  await page.waitForURL(/stop=question/);
  await change(page, "Below it", " It stays between us.");
  const frame = page.frameLocator("iframe");
  await expect(frame.getByText("It stays between us.")).toBeVisible();
  await expect(frame.getByRole("img", { name: "Bramble Lane Vets" })).toBeVisible();
  // Nothing runs inside the frame, so that no tool looks into it: its page is looked at where it is served.
  await page.locator("iframe").evaluate((element) => element.remove());
  await expectAccessible(page);
  await page.reload();

  // A placeholder is one thing: it is deleted like a letter, and what was done is undone.
  const editor = page.getByRole("textbox", { name: "The question", exact: true });
  await editor.click();
  await page.keyboard.press("Control+End");
  await page.keyboard.press("Backspace");
  await page.keyboard.press("Backspace");
  await expect(editor.locator("[data-placeholder]")).toHaveCount(1);
  await page.keyboard.press("Control+z");
  await expect(editor.locator("[data-placeholder]")).toHaveCount(2);
  await expect(page.getByRole("button", { name: "Cancel" })).toHaveCount(0);

  await page.getByRole("button", { name: "By email" }).click();
  await expect(page.getByText("Sent to maud@bramblelane.example.")).toBeVisible();
  await page
    .getByRole("button", { name: /^Apply/ })
    .first()
    .click();
  const dialog = page.getByRole("dialog");
  if (await dialog.isVisible().catch(() => false))
    await dialog
      .getByRole("button", { name: /^Apply/ })
      .first()
      .click();
  await expect(page.getByText("It stays between us.", { exact: false }).first()).toBeVisible();
  await page.reload();
  await expect(page.getByRole("button", { name: /^Apply/ })).toHaveCount(0);

  await page.goto(`${mailUrl()}/box/${encodeURIComponent("maud@bramblelane.example")}`);
  await expect(page.getByText(/Sample: /).first()).toBeVisible();
});

test("a picture with the customer's name is put together with the keyboard, seen on the way, and sent as a sample", async ({
  page,
}) => {
  await takeSeat(page, "demo-manager");
  await page.goto(`${HOME}/asking`);
  await page.getByRole("link", { name: "After a visit", exact: true }).click();
  await page.getByRole("link", { name: "What it shows" }).click();
  await page.waitForURL(/\/picture$/);
  await expect(page.getByRole("img", { name: "The picture for Odette: Thank you, Odette" })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: /The words: drag them/ }).focus();
  for (let n = 0; n < 3; n++) await page.keyboard.press("ArrowUp");
  await expect(page.getByLabel("Vertical position")).toHaveValue("43");
  const box = await page.getByRole("button", { name: /The words: drag them/ }).boundingBox();
  if (!box) throw new Error("The words are not drawn.");
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 + 40, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByLabel("Vertical position")).not.toHaveValue("43");
  await page.getByRole("img", { name: "window", exact: true }).click();
  const photo = await sharp({ create: { width: 900, height: 700, channels: 3, background: "#88AACC" } })
    .jpeg()
    .toBuffer();
  await page.getByLabel("Your own photo").setInputFiles({ name: "yard.jpg", mimeType: "image/jpeg", buffer: photo });
  await expect(page.getByText("Another photo")).toBeVisible();
  await page.getByLabel("Another photo").setInputFiles({
    name: "notes.txt",
    mimeType: "text/plain",
    buffer: Buffer.from("not a picture"),
  });
  await expect(page.getByText(/We can’t read this picture|Choose a PNG/)).toBeVisible();
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText(/a photo of your own \(/).first()).toBeVisible();

  await page.goto(`${walk}?stop=message-1&by=email`);
  const shown = page.frameLocator("iframe").getByRole("img", { name: "Thank you, Odette" });
  await expect(shown).toBeVisible();
  const served = await page.request.get((await shown.getAttribute("src")) ?? "");
  expect([served.status(), served.headers()["content-type"]]).toEqual([200, "image/jpeg"]);
  expect((await sharp(await served.body()).metadata()).width).toBe(960);
  await page.getByRole("button", { name: "By email" }).click();
  await expect(page.getByText("Sent to maud@bramblelane.example.")).toBeVisible();
  await page
    .getByRole("button", { name: /Discard changes/ })
    .first()
    .click();
  await expect(page.getByRole("region", { name: "Changes not applied yet" })).toHaveCount(0);
});

test("somebody outside sees the whole of it by a link, and changes nothing", async ({ page, browser }) => {
  await takeSeat(page, "demo-manager");
  await page.goto(walk);
  await page.getByRole("button", { name: "Make a link" }).click();
  const shared = (await page.locator("code").filter({ hasText: "/way/" }).textContent()) ?? "";
  const visitor = await customer(browser);
  await visitor.goto(shared);
  await expect(visitor.getByRole("heading", { name: "What your customers will see, step by step." })).toBeVisible();
  await expect(visitor.getByText("Reply STOP to opt out. Thank you!")).toBeVisible();
  await expect(visitor.locator("form")).toHaveCount(0);
});

test("a customer answers every question in Polish without script, stands on the page of reviews, and withdraws", async ({
  page,
  browser,
}) => {
  await takeSeat(page, "demo-desk");
  await page.keyboard.press("a");
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Add someone new" }).click();
  await dialog.getByLabel("Name", { exact: true }).fill("Zofia Łęcka");
  await dialog.getByLabel("Mobile").fill("07700 900971");
  await dialog.getByLabel("Who or what it’s about").fill("Figa");
  await dialog.getByRole("button", { name: "Ask", exact: true }).click();
  await expect(page.getByText("Zofia Łęcka will be asked.")).toBeVisible();
  const visitor = await customer(browser);
  await expect(async () => expect(await linkOnPhone(visitor, "+447700900971")).toContain("/a/")).toPass({
    timeout: 600_000,
  });
  link = await linkOnPhone(visitor, "+447700900971");
  await visitor.goto(link);
  await visitor.getByRole("link", { name: "Polski" }).click();
  await expect(visitor.locator("html")).toHaveAttribute("lang", "pl");
  await visitor.getByRole("button", { name: /^5 na 5|5 z 5/ }).click();
  await expect(visitor.getByRole("group", { name: "The vet" })).toBeVisible();
  await visitor.getByRole("group", { name: "The vet" }).getByRole("button", { name: /: 5 / }).click();
  await visitor.getByRole("group", { name: "The price" }).getByRole("button").last().click();
  await visitor.getByRole("button", { name: "10", exact: true }).click();
  await expect(visitor.locator("html")).toHaveAttribute("lang", "pl");
  await expect(visitor.getByRole("button", { name: "10", exact: true })).toHaveAttribute("aria-pressed", "true");
  await visitor.locator("#photo").setInputFiles({
    name: "figa.png",
    mimeType: "image/png",
    buffer: await sharp({ create: { width: 300, height: 200, channels: 3, background: "#AA8866" } })
      .png()
      .toBuffer(),
  });
  await visitor.getByRole("button", { name: "Wyślij zdjęcie" }).click();
  await expect(visitor.getByText(/Zdjęcie dotarło/)).toBeVisible();
  await visitor.locator("textarea[name=words]").fill("Figa wróciła zdrowa i wesoła.");
  await visitor.locator("input[name=show]").check();
  await visitor.locator("button[formaction$='/words']").click();
  await expect(visitor.getByText("Zofia Ł.", { exact: false })).toBeVisible();

  // The business sees what was said beside the words, the photo too; nobody else does.
  await page.goto(`${HOME}/people?q=Łęcka`);
  await page.getByRole("link", { name: /Łęcka/ }).first().click();
  await expect(page.getByText("Would recommend you: 10 out of 10")).toBeVisible();
  const sent = page.getByRole("img", { name: "What they sent" });
  await expect(sent).toBeVisible();
  const picture = new URL((await sent.getAttribute("src")) ?? "", page.url()).toString();
  expect((await page.request.get(picture)).status()).toBe(200);
  expect((await visitor.request.get(picture)).headers()["content-type"]).not.toContain("image");
  await visitor.goto("/reviews/bramble-lane-vets");
  await expect(visitor.getByText("Figa wróciła zdrowa i wesoła.")).toBeVisible();
  await expect(visitor.getByText("Zofia Ł.", { exact: false })).toBeVisible();
  // What looks for faults runs in the page, and so in a browser that runs script.
  await page.goto("/reviews/bramble-lane-vets");
  await expectAccessible(page);
  await visitor.goto(link);
  await visitor.locator("button[formaction$='/withdraw']").click();
  await visitor.goto("/reviews/bramble-lane-vets");
  await expect(visitor.getByText("Figa wróciła zdrowa i wesoła.")).toHaveCount(0);
});

test("a poster is printed, and its code leads to the question", async ({ page, browser }) => {
  await takeSeat(page, "demo-manager");
  await page.goto(`${HOME}/asking/links`);
  await page.locator("summary", { hasText: "Print it" }).filter({ hasText: "Counter" }).click();
  const form = page.locator("form[action$='/poster']").filter({ visible: true }).first();
  await form.getByRole("combobox", { name: "Size" }).selectOption("a6");
  await form.getByRole("combobox", { name: "Language" }).selectOption("pl");
  await form.getByLabel("Heading").fill("Jak się czuje zwierzak?");
  const address = new URL((await form.getAttribute("action")) ?? "", page.url());
  for (const [name, value] of [
    ["format", "a6"],
    ["language", "pl"],
    ["title", "Jak się czuje zwierzak?"],
  ])
    address.searchParams.set(name, value);
  const [opened] = await Promise.all([
    page.context().waitForEvent("request", (request) => request.url().includes("/poster?")),
    form.getByRole("button", { name: "Open the PDF" }).click(),
  ]);
  expect(new URL(opened.url()).searchParams.get("title")).toBe("Jak się czuje zwierzak?");
  const response = await page.request.get(address.toString());
  expect([response.status(), response.headers()["content-type"]]).toEqual([200, "application/pdf"]);
  const [drawn] = await drawPdf(await response.body());
  const code = readCode(drawn.pixels, drawn.width, drawn.height);
  expect(code).toMatch(/\/s\/[0-9A-Za-z]{12}$/);
  const visitor = await customer(browser);
  await visitor.goto(code);
  await expect(visitor.getByRole("button", { name: /5 of 5/ })).toBeVisible();
});

/** The pages that a customer can come to with their link, each with what brings them there. */
const PAGES = ["", "?change=1", "/name", "/privacy"] as const;

test("no word of a customer's page is from outside the catalogues", async ({ browser }) => {
  const visitor = await customer(browser);
  const token = /\/a\/([0-9A-Za-z]+)/.exec(link)?.[1] ?? "";
  // What the business or the customer wrote themselves, and names.
  const ours =
    /^(?:Bramble Lane Vets|Merrow Bay|Fenwick|Old Mill|Waypost|Commons|Pawprint Guide|The waiting|The vet|The price|English|Español|Français|Deutsch|Português|Polski|B|[\d★ .,–-]*|Zofia Ł\.?|Łęcka|Figa.*|.*It stays between us\..*)$/u;
  const plain: string[] = [];
  for (const path of [
    ...PAGES.map((page) => `/a/${token}${page}`),
    `/u/${token}`,
    "/reviews/bramble-lane-vets",
    "/a/nowhere23456789",
  ]) {
    await visitor.goto(`${path}${path.includes("?") ? "&" : "?"}lang=en-XA`);
    const found = await visitor.evaluate(() => {
      const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
      const words: string[] = [];
      while (walker.nextNode()) {
        const parent = walker.currentNode.parentElement;
        if (parent && !["SCRIPT", "STYLE"].includes(parent.tagName) && !parent.closest("[itemprop=review]"))
          words.push(walker.currentNode.textContent?.trim() ?? "");
      }
      for (const element of document.querySelectorAll("[aria-label],[alt],[placeholder]"))
        words.push(element.getAttribute("aria-label") ?? element.getAttribute("alt") ?? "");
      return [document.title, ...words];
    });
    for (const words of found)
      if (/\p{L}/u.test(words) && !ours.test(words) && !/[áàâåäéèêëíìîïóòôöúùûüñçşžýðþÁÉÍÓÚÂÊÎÔÛÄËÏÖÜÑÇ]/u.test(words))
        plain.push(`${path}: ${words}`);
  }
  // The page of a link that leads nowhere knows no language but the browser's.
  expect(plain.filter((line) => !line.startsWith("/a/nowhere"))).toEqual([]);
});

test("the answer page holds in every language at 320 pixels, with large type, in the dark, and in print", async ({
  browser,
}) => {
  for (const scheme of ["light", "dark"] as const) {
    const context = await browser.newContext({
      viewport: { width: 320, height: 640 },
      colorScheme: scheme,
    });
    const visitor = await context.newPage();
    for (const language of ["en", "es", "fr", "de", "pt", "pl"])
      for (const page of ["", "change=1&"]) {
        await visitor.goto(`${link.replace(/\.\d$/, "")}?${page}lang=${language}`);
        await expect(visitor.locator("html")).toHaveAttribute("lang", language);
        await expectAccessible(visitor);
        const width = () => visitor.evaluate(() => document.documentElement.scrollWidth);
        expect([language, scheme, await width()]).toEqual([language, scheme, 320]);
      }
    // Twice the type: as large as a browser makes it when somebody asks for that.
    await visitor.setViewportSize({ width: 640, height: 1280 });
    await visitor.addStyleTag({ content: "html{font-size:200%}body{font-size:34px}" });
    expect(await visitor.evaluate(() => document.documentElement.scrollWidth)).toBe(640);
    await visitor.emulateMedia({ media: "print" });
    await expect(visitor.locator("button").first()).toBeHidden();
    await expect(visitor.getByRole("heading").first()).toBeVisible();
    await context.close();
  }
});

test("the answer page is light: under 60 KB with font and logo, in Polish too", async ({ browser }) => {
  for (const language of ["en", "pl"]) {
    const visitor = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
    let bytes = 0;
    visitor.on("response", async (response) => {
      const { responseBodySize, responseHeadersSize } = await response.request().sizes();
      bytes += responseBodySize + responseHeadersSize;
    });
    await visitor.goto(`${link.replace(/\.\d$/, "")}?change=1&lang=${language}`);
    await visitor.waitForLoadState("networkidle");
    expect(bytes).toBeGreaterThan(5_000);
    expect([language, bytes < 60 * 1024]).toEqual([language, true]);
    await visitor.context().close();
  }
});

test("a reader hears the question, five answers and where the page leads", async ({ browser }) => {
  const visitor = await customer(browser);
  await visitor.goto(`${link.replace(/\.\d$/, "")}?change=1&lang=en`);
  await expect(visitor.locator("main")).toMatchAriaSnapshot(`
    - heading /How was .*/ [level=1]
    - paragraph: /One tap is enough/
    - button /1 of 5, poor/
    - button /2 of 5, not good/
    - button /3 of 5, all right/
    - button /4 of 5, good/
    - button /5 of 5, excellent/
  `);
});

test("every mail of the walk holds at 320 and 600 pixels, light and dark, with pictures off", async ({ page }) => {
  await takeSeat(page, "demo-manager");
  await page.route(/\/images\//, (route) => route.abort());
  for (const language of ["en", "de", "pl"])
    for (const [width, scheme] of [
      [320, "light"],
      [320, "dark"],
      [600, "light"],
    ] as const) {
      await page.setViewportSize({ width, height: 800 });
      await page.emulateMedia({ colorScheme: scheme });
      await page.goto(`${walk}/stop/message-0?by=email&language=${language}`);
      expect([language, width, await page.evaluate(() => document.documentElement.scrollWidth)]).toEqual([
        language,
        width,
        width,
      ]);
      await expect(page.getByRole("link", { name: "5", exact: true })).toBeVisible();
      // The business is named where its picture is not.
      await expect(page.getByRole("img", { name: "Bramble Lane Vets" })).toHaveCount(1);
    }
});
