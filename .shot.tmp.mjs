import { chromium } from "@playwright/test";
const [,, seat, size, ...paths] = process.argv;
const [w, h] = size.split("x").map(Number);
const browser = await chromium.launch({ executablePath: "/usr/bin/chromium" });
const page = await (await browser.newContext({ viewport: { width: w, height: h } })).newPage();
const errors = [];
page.on("console", (m) => { if (m.type() === "error") errors.push(m.text().slice(0, 200)); });
page.on("pageerror", (e) => errors.push(String(e).slice(0, 300)));
if (seat !== "none") {
  await page.goto("http://127.0.0.1:4300/sign-in");
  await page.click(`button[value=${seat}]`);
  await page.waitForURL(/today/);
}
let n = 0;
for (const path of paths) {
  const [p, ...acts] = path.split("||");
  const r = await page.goto(`http://127.0.0.1:4300${p}`);
  for (const act of acts) {
    const [kind, sel, value] = act.split("::");
    if (kind === "click") await page.click(sel);
    if (kind === "fill") await page.fill(sel, value);
    if (kind === "wait") await page.waitForSelector(sel);
    if (kind === "full") {}
  }
  await page.waitForTimeout(500);
  await page.screenshot({ path: `/tmp/shot-${n}.png`, fullPage: acts.includes("full") });
  console.log(n++, p, r.status(), await page.title());
}
console.log(errors.join("\n"));
await browser.close();
