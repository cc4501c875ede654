import type { AddressInfo } from "node:net";
import { connect } from "node:net";
import { CLIENT_HEADER } from "./clientAddress";
import { createWebServer, type WebServerOptions } from "./webServer";

/** The door before the framework: what it refuses itself, and what it makes of every request and answer. */

let port = 0;
let close: () => void = () => {};
afterEach(() => close());

/** Starts a server whose pages tell what they were asked. */
async function open(options: Partial<WebServerOptions> = {}): Promise<void> {
  const server = createWebServer({
    handle: (request, response) => {
      response.setHeader("content-type", "application/json");
      response.end(JSON.stringify({ url: request.url, client: request.headers[CLIENT_HEADER] }));
    },
    trustedProxies: 0,
    isHttps: false,
    ...options,
  });
  await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
  port = (server.address() as AddressInfo).port;
  close = () => server.close();
}

/** Sends exactly these bytes; gives everything that comes back. */
function raw(text: string): Promise<string> {
  return new Promise((done, fail) => {
    let answer = "";
    const socket = connect(port, "127.0.0.1", () => socket.write(text, "latin1"));
    socket.on("data", (data) => {
      answer += data;
    });
    socket.on("end", () => done(answer));
    socket.on("error", fail);
    socket.setTimeout(5000, () => socket.destroy(new Error("no answer")));
  });
}
const ask = (line: string, headers = "") => raw(`${line} HTTP/1.1\r\nhost: x\r\nconnection: close\r\n${headers}\r\n`);
const statusOf = (answer: string) => Number(/^HTTP\/1\.1 (\d+)/.exec(answer)?.[1]);

test.each(["/%", "/%E0%A4%A", "/c/%ff/today", "/a/%zz", "/%C0%AF", "/o/%ED%A0%80", "/c/x%00y"])(
  "an address that cannot be decoded is answered with 400: %s",
  async (path) => {
    await open();
    const answer = await ask(`GET ${path}`);
    expect(statusOf(answer)).toBe(400);
    expect(answer).toContain("application/problem+json");
  },
);

test.each(["TRACE", "PROPFIND", "LOCK", "PURGE"])("the method %s is refused", async (method) => {
  await open();
  expect(statusOf(await ask(`${method} /`))).toBe(405);
});

test("a tunnel is opened for nobody", async () => {
  await open();
  expect(await ask("CONNECT x:443").catch(() => "")).not.toMatch(/ 200 /);
  expect(statusOf(await ask("GET /"))).toBe(200);
});

test.each([
  "nonsense\r\n\r\n",
  "GET\r\n\r\n",
  "GET / HTTP/9.9\r\n\r\n",
  "\u0000\u0001\u0002\r\n\r\n",
  `GET / HTTP/1.1\r\nhost: x\r\nx: ${"y".repeat(40_000)}\r\n\r\n`,
])("what is no HTTP is answered with 400, and the server goes on (%#)", async (text) => {
  await open();
  expect(statusOf(await raw(text))).toBe(400);
  expect(statusOf(await ask("GET /"))).toBe(200);
});

test("an address of ten thousand letters is refused", async () => {
  await open();
  expect(statusOf(await ask(`GET /${"a".repeat(10_000)}`))).toBe(414);
});

test("every answer, also a refusal, says what browsers may do with it", async () => {
  await open({ isHttps: true });
  for (const answer of [await ask("GET /"), await ask("GET /%"), await ask("TRACE /")]) {
    const head = answer.split("\r\n\r\n")[0].toLowerCase();
    for (const header of [
      "x-content-type-options: nosniff",
      "x-frame-options: deny",
      "content-security-policy: default-src 'none'",
      "referrer-policy:",
      "strict-transport-security: max-age=",
    ])
      expect(head).toContain(header);
  }
  close();
  await open({ isHttps: false });
  expect((await ask("GET /")).toLowerCase()).not.toContain("strict-transport-security");
});

test("what a page says itself of what browsers may do holds, and stands there once", async () => {
  await open({
    handle: (request, response) => {
      // As the framework does it: only what is not there yet.
      for (const [name, value] of [
        ["content-security-policy", "default-src 'self'"],
        ["referrer-policy", "no-referrer"],
      ])
        if (!response.hasHeader(name)) response.setHeader(name, value);
      if (request.url === "/head") response.writeHead(404, { "x-frame-options": "SAMEORIGIN" });
      response.end("x");
    },
  });
  for (const path of ["/", "/head"]) {
    const head = (await ask(`GET ${path}`)).split("\r\n\r\n")[0].toLowerCase();
    expect(head.match(/content-security-policy: .*/g)).toEqual(["content-security-policy: default-src 'self'"]);
    expect(head).toContain("referrer-policy: no-referrer");
    expect(head).toContain("x-content-type-options: nosniff");
    expect(head).toContain(path === "/" ? "x-frame-options: deny" : "x-frame-options: sameorigin");
  }
});

describe("whose request it is", () => {
  const client = async (headers: string) =>
    (JSON.parse((await ask("GET /", headers)).split("\r\n\r\n")[1]) as { client: string }).client.replace(
      "::ffff:",
      "",
    );

  test("is the connection's address where no proxy is trusted, whatever the request claims", async () => {
    await open();
    for (const claim of [
      "",
      "x-forwarded-for: 8.8.8.8\r\n",
      `${CLIENT_HEADER}: 8.8.8.8\r\n`,
      `x-forwarded-for: 1.1.1.1, 2.2.2.2\r\n${CLIENT_HEADER}: 8.8.8.8\r\n`,
    ])
      expect(await client(claim)).toBe("127.0.0.1");
  });

  test("is what the trusted proxies wrote down, not what somebody wrote before them", async () => {
    await open({ trustedProxies: 1 });
    expect(await client("x-forwarded-for: 5.5.5.5\r\n")).toBe("5.5.5.5");
    expect(await client("x-forwarded-for: 8.8.8.8, 5.5.5.5\r\n")).toBe("5.5.5.5");
    expect(await client(`x-forwarded-for: 8.8.8.8, 5.5.5.5\r\n${CLIENT_HEADER}: 9.9.9.9\r\n`)).toBe("5.5.5.5");
    close();
    await open({ trustedProxies: 2 });
    expect(await client("x-forwarded-for: 8.8.8.8, 5.5.5.5, 10.0.0.9\r\n")).toBe("5.5.5.5");
  });
});

test("on the short host a link leads to the page behind it, and everything else where it always leads", async () => {
  await open({ shortHost: "s.example:1" });
  const urlOf = async (path: string, host: string) =>
    JSON.parse(
      /\{.*\}/.exec(await raw(`GET ${path} HTTP/1.1\r\nhost: ${host}\r\nconnection: close\r\n\r\n`))?.[0] ?? "",
    ).url;
  expect(await urlOf("/k7q2m9wx4tzr3n1", "S.example:1")).toBe("/a/k7q2m9wx4tzr3n.1");
  expect(await urlOf("/k7q2m9wx4tzr?lang=pl", "s.example:1")).toBe("/s/k7q2m9wx4tzr?lang=pl");
  expect(await urlOf("/a/k7q2m9wx4tzr3n/rate", "s.example:1")).toBe("/a/k7q2m9wx4tzr3n/rate");
  expect(await urlOf("/k7q2m9wx4tzr3n1", "x")).toBe("/k7q2m9wx4tzr3n1");
});
