import type { AddressInfo } from "node:net";
import { handleAnswerRequest } from "@/features/answers";
import { createWebServer } from "@/platform/webServer";
import { serveCustomerPage } from "@/web/customerPages";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/** Customers' pages as the web server answers them, over HTTP; everything else is the framework's. */
describe("customer server", () => {
  let harness: Harness;
  let scene: Scene;
  let token = "";
  let url = "";
  const server = createWebServer({
    handle: (request, response) => {
      if (!serveCustomerPage(request, response)) response.end("the framework");
    },
    trustedProxies: 0,
    isHttps: false,
    shortHost: "short.example",
  });

  beforeAll(async () => {
    harness = await startHarness("customer_server");
    scene = new Scene(harness, await harness.addClient());
    await scene.moveTo(TUESDAY);
    const { person } = await scene.finishVisit();
    token = (await scene.askOf(person.id)).token;
    await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
    url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  });
  afterAll(async () => {
    server.closeAllConnections();
    server.close();
    await harness.stop();
  });

  const open = (path: string, init: RequestInit = {}) => fetch(`${url}${path}`, { redirect: "manual", ...init });
  const form = (fields: Record<string, string>): RequestInit => ({ method: "POST", body: new URLSearchParams(fields) });

  test("a page has the handler's very bytes and headers", async () => {
    const [served, made] = [
      await open(`/a/${token}`),
      await handleAnswerRequest(new Request(`http://x/a/${token}`), [token]),
    ];
    expect(served.status).toBe(200);
    expect(await served.text()).toBe(await made.text());
    for (const [name, value] of made.headers) expect([name, served.headers.get(name)]).toEqual([name, value]);
  });

  test("an answer is kept from its form, and read back", async () => {
    const said = await open(`/a/${token}/rate`, form({ rating: "2" }));
    expect([said.status, said.headers.get("location")]).toEqual([303, `/a/${token}`]);
    const { rows } = await harness.owner.query("select rating from answers");
    expect(rows).toEqual([{ rating: 2 }]);
    expect((await open(`/a/${token}/rate`, form({ rating: "9" }))).status).toBe(422);
    expect((await open(`/a/${token}/words`, form({ words: "x".repeat(70_000) }))).status).toBe(413);
  });

  test("what leads nowhere says so, and a HEAD has no body", async () => {
    expect((await open("/a/nobodyhasthislink")).status).toBe(404);
    expect((await open("/s/nobodyhasthislink")).status).toBe(404);
    const head = await open(`/a/${token}`, { method: "HEAD" });
    expect([head.status, await head.text()]).toEqual([200, ""]);
  });

  const optedOut = async () =>
    (
      await harness.owner.query(
        "select 1 from people where email_opted_out_at is not null or text_opted_out_at is not null",
      )
    ).rowCount;

  test("the opt-out page only asks; its form opts out", async () => {
    const asked = await open(`/u/${token}`);
    expect(asked.status).toBe(200);
    expect(await optedOut()).toBe(0);
    expect((await open(`/u/${token}`, { method: "POST" })).status).toBe(200);
    expect(await optedOut()).toBe(1);
  });

  test.each([
    ["GET", "/"],
    ["GET", "/a"],
    ["GET", "/a/"],
    ["GET", "/constructor/x"],
    ["GET", "/c/some/today"],
    ["GET", "//a/x"],
    ["GET", "/a/x/1/2/3/4"],
    ["DELETE", "/a/x"],
    ["PUT", "/u/x"],
    ["POST", "/u/x/back"],
  ])("%s %s is left to the framework", async (method, path) => {
    const answer = await open(path, { method });
    expect(await answer.text()).toBe("the framework");
  });
});
