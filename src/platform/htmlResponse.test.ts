import { HtmlResponse } from "./htmlResponse";

const make = () => new HtmlResponse("<p>★</p>", { "content-type": "text/html; charset=utf-8", "x-one": "1" }, 410);

test("a page is a response like any other", async () => {
  const [page, plain] = [make(), new Response("<p>★</p>", { status: 410, headers: make().plainHeaders })];
  expect(page).toBeInstanceOf(Response);
  expect([page.status, page.ok, [...page.headers]]).toEqual([plain.status, plain.ok, [...plain.headers]]);
  expect(await page.clone().text()).toBe("<p>★</p>");
  expect(page.bodyUsed).toBe(false);
  expect(await page.text()).toBe("<p>★</p>");
  expect(page.bodyUsed).toBe(true);
  await expect(page.text()).rejects.toThrow("already been read");
});

test("its bytes and its stream are those of its text", async () => {
  const bytes = new TextEncoder().encode("<p>★</p>");
  expect(new Uint8Array(await make().arrayBuffer())).toEqual(bytes);
  expect((await make().blob()).size).toBe(bytes.length);
  expect(await new Response(make().body).text()).toBe("<p>★</p>");
});
