import fc from "fast-check";
import { type MachineSign, machineSign, type VisitorFacts } from "./visitor";

/**
 * Requests as scanners, previews, mail proxies and people make them, written down by hand from what each is known to
 * send. A pattern names what it sends, and nothing more.
 */

const HTML = "text/html,application/xhtml+xml,application/xml;q=0.9,image/avif,image/webp,*/*;q=0.8";
const HOUR = 3_600_000;
const facts = (change: Partial<VisitorFacts>): VisitorFacts => ({
  method: "GET",
  asksFor: "page",
  agent: null,
  purpose: null,
  accept: HTML,
  acceptLanguage: "en-GB,en;q=0.9",
  sinceSent: HOUR,
  sinceOtherLink: null,
  ...change,
});

const PEOPLE: string[] = [
  "Mozilla/5.0 (iPhone; CPU iPhone OS 18_5 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.5 Mobile/15E148 Safari/604.1",
  "Mozilla/5.0 (iPhone; CPU iPhone OS 17_7 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) CriOS/139.0.7258.60 Mobile/15E148 Safari/604.1",
  "Mozilla/5.0 (iPhone; CPU iPhone OS 16_6 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) FxiOS/128.0 Mobile/15E148 Safari/605.1.15",
  "Mozilla/5.0 (iPad; CPU OS 17_5 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/17.5 Mobile/15E148 Safari/604.1",
  "Mozilla/5.0 (Linux; Android 15; Pixel 9) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0.0.0 Mobile Safari/537.36",
  "Mozilla/5.0 (Linux; Android 10; K) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/139.0.0.0 Mobile Safari/537.36",
  "Mozilla/5.0 (Linux; Android 14; HM-100) AppleWebKit/537.36 (KHTML, like Gecko) HandsetBrowser/27.0 Chrome/125.0.0.0 Mobile Safari/537.36",
  "Mozilla/5.0 (Android 14; Mobile; rv:141.0) Gecko/141.0 Firefox/141.0",
  "Mozilla/5.0 (Linux; Android 13; SM-A536B; wv) AppleWebKit/537.36 (KHTML, like Gecko) Version/4.0 Chrome/138.0.0.0 Mobile Safari/537.36",
  "Mozilla/5.0 (Linux; Android 12; M2101K6G) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/136.0.0.0 Mobile Safari/537.36 OPR/89.0.0.0",
  "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0.0.0 Safari/537.36",
  "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/139.0.0.0 Safari/537.36 Edg/139.0.0.0",
  "Mozilla/5.0 (Windows NT 10.0; Win64; x64; rv:142.0) Gecko/20100101 Firefox/142.0",
  "Mozilla/5.0 (Macintosh; Intel Mac OS X 10_15_7) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.5 Safari/605.1.15",
  "Mozilla/5.0 (Macintosh; Intel Mac OS X 10.15; rv:140.0) Gecko/20100101 Firefox/140.0",
  "Mozilla/5.0 (Macintosh; Intel Mac OS X 10_15_7) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/138.0.0.0 Safari/537.36",
  "Mozilla/5.0 (X11; Linux x86_64; rv:141.0) Gecko/20100101 Firefox/141.0",
  "Mozilla/5.0 (X11; CrOS x86_64 14541.0.0) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/138.0.0.0 Safari/537.36",
  "Mozilla/5.0 (iPhone; CPU iPhone OS 18_1 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Mobile/22B83 [FBAN/FBIOS;FBAV/480.0]",
  "Mozilla/5.0 (Linux; Android 14; Handset 7; wv) AppleWebKit/537.36 (KHTML, like Gecko) Version/4.0 Chrome/137.0.0.0 Mobile Safari/537.36 Snapshots 390.0.0.43.81 Android",
];

const MACHINES: [MachineSign, Partial<VisitorFacts>][] = [
  // Libraries and tools.
  ["agent", { agent: "curl/8.5.0", accept: "*/*", acceptLanguage: null }],
  ["agent", { agent: "Wget/1.21.4", accept: "*/*", acceptLanguage: null }],
  ["agent", { agent: "python-requests/2.32.3" }],
  ["agent", { agent: "Python-urllib/3.12" }],
  ["agent", { agent: "aiohttp/3.9.5" }],
  ["agent", { agent: "Go-http-client/1.1" }],
  ["agent", { agent: "Java/17.0.11" }],
  ["agent", { agent: "Apache-HttpClient/4.5.14 (Java/11.0.22)" }],
  ["agent", { agent: "okhttp/4.12.0" }],
  ["agent", { agent: "axios/1.7.2" }],
  ["agent", { agent: "node" }],
  ["agent", { agent: "undici" }],
  ["agent", { agent: "libwww-perl/6.72" }],
  ["agent", { agent: "Ruby" }],
  ["agent", { agent: "PostmanRuntime/7.39.0" }],
  ["agent", { agent: "HTTPie/3.2.2" }],
  ["agent", { agent: "Desk Suite/16.0 (Desk Mail 16.0.17628; Pro)" }],
  // Headless browsers and crawlers.
  [
    "agent",
    {
      agent:
        "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) HeadlessChrome/138.0.0.0 Safari/537.36",
    },
  ],
  ["agent", { agent: "Mozilla/5.0 (compatible; Finderbot/2.1; +https://finder.example/bot)" }],
  ["agent", { agent: "Mozilla/5.0 (compatible; lookupbot/2.0; +https://lookup.example/bot)" }],
  ["agent", { agent: "Mozilla/5.0 (compatible; YandexBot/3.0; +http://yandex.com/bots)" }],
  ["agent", { agent: "Mozilla/5.0 (compatible; AhrefsBot/7.0; +http://ahrefs.com/robot/)" }],
  [
    "agent",
    {
      agent:
        "Mozilla/5.0 (Linux; Android 6.0.1; Handset 5X) AppleWebKit/537.36 Chrome/138.0 Mobile Safari/537.36 (compatible; Finderbot/2.1)",
    },
  ],
  // Previews of chats.
  ["agent", { agent: "ChatPreview/2.24.13.77 A" }],
  ["agent", { agent: "externalhit/1.1 (+https://network.example/externalhit)" }],
  ["agent", { agent: "Notebot/1.0" }],
  ["agent", { agent: "Roombot-LinkExpanding 1.0 (+https://rooms.example/robots)" }],
  ["agent", { agent: "WireBot (like NoteBot)" }],
  ["agent", { agent: "Mozilla/5.0 (compatible; Discordbot/2.0; +https://discordapp.com)" }],
  ["agent", { agent: "TradeBot/1.0 (compatible; Mozilla/5.0; HttpClient +https://trades.example)" }],
  ["agent", { agent: "SkypeUriPreview Preview/0.5 skype-url-preview@microsoft.com" }],
  [
    "agent",
    {
      agent:
        "Mozilla/5.0 (Macintosh; Intel Mac OS X 10_11_1) AppleWebKit/601.2.4 (KHTML, like Gecko) Version/9.0.1 Safari/601.2.4 externalhit/1.1 Netbot Notebot/1.0",
    },
  ],
  // Scanners of mail.
  ["agent", { agent: "Mozilla/5.0 (compatible; Harbour Sentinel (EE); scanner)" }],
  ["agent", { agent: "Mozilla/5.0 (compatible; gatehouse-urlscanner; +crawler)" }],
  ["no agent", { agent: "" }],
  ["no agent", { agent: null }],
  ["no agent", { agent: "   " }],
  ["method", { method: "HEAD", agent: PEOPLE[10] }],
  ["method", { method: "HEAD", agent: "HarbourCentral" }],
  ["method", { method: "OPTIONS", agent: PEOPLE[0] }],
  ["no browser", { agent: PEOPLE[10], acceptLanguage: null }],
  ["no browser", { agent: PEOPLE[4], acceptLanguage: "" }],
  ["no browser", { agent: PEOPLE[13], accept: null }],
  ["no browser", { agent: PEOPLE[0], accept: "image/png" }],
  // A browser that looks ahead.
  ["prefetch", { agent: PEOPLE[10], purpose: "prefetch" }],
  ["prefetch", { agent: PEOPLE[10], purpose: "prefetch;prerender" }],
  ["prefetch", { agent: PEOPLE[13], purpose: "preview" }],
  ["prefetch", { agent: PEOPLE[0], purpose: "prefetch;anonymous-client-ip" }],
  // Proxies that load the pictures of mails.
  [
    "mail proxy",
    {
      asksFor: "picture",
      agent: "Mozilla/5.0 (Windows NT 5.1; rv:11.0) Gecko Firefox/11.0 (via pictures.example ImageProxy)",
    },
  ],
  ["mail proxy", { asksFor: "picture", agent: "TownMailProxy; https://help.townmail.example/proxy" }],
  ["mail proxy", { asksFor: "picture", agent: "Mozilla/5.0" }],
  ["mail proxy", { asksFor: "picture", agent: "Mozilla/5.0 AppleWebKit/605.1.15 (KHTML, like Gecko)" }],
  ["mail proxy", { asksFor: "picture", agent: "DuckDuckGo-Email-ImageProxy/1.0" }],
  ["agent", { agent: "Mozilla/5.0" }],
  // From data centres, in the moment of sending.
  [
    "too soon",
    {
      sinceSent: 2_000,
      agent: "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/138.0.0.0 Safari/537.36",
    },
  ],
  ["too soon", { sinceSent: 9_000, agent: "Mozilla/5.0 (Windows NT 6.1; WOW64; Trident/7.0; rv:11.0) like Gecko" }],
  ["too soon", { sinceSent: 0, agent: "Mozilla/4.0 (compatible; MSIE 8.0; Windows NT 6.1; Trident/4.0)" }],
  [
    "too soon",
    {
      sinceSent: 14_000,
      agent:
        "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/79.0.3945.88 Safari/537.36",
    },
  ],
  [
    "too soon",
    { sinceSent: 500, asksFor: "picture", agent: "Mozilla/5.0 (Windows NT 6.1; rv:45.0) Gecko/20100101 Firefox/45.0" },
  ],
  // Whatever follows every link of a mail at once.
  ["every link at once", { sinceOtherLink: 300, agent: PEOPLE[10] }],
  ["every link at once", { sinceOtherLink: 0, agent: PEOPLE[11] }],
  ["every link at once", { sinceOtherLink: 1_900, agent: PEOPLE[5] }],
];

test("there are at least sixty patterns of machines", () => {
  expect(MACHINES.length).toBeGreaterThanOrEqual(60);
});

test.each(MACHINES)("a machine, by its %s: %o", (sign, change) => {
  expect(machineSign(facts(change))).toBe(sign);
});

test.each(PEOPLE)("a person: %s", (agent) => {
  expect(machineSign(facts({ agent }))).toBeNull();
  expect(machineSign(facts({ agent, asksFor: "picture", accept: "image/*", acceptLanguage: null }))).toBeNull();
  // Two links with time between them, and a phone in the hand of whoever waited for the message.
  expect(machineSign(facts({ agent, sinceOtherLink: 9_000 }))).toBeNull();
  if (/Mobile|iP/.test(agent)) expect(machineSign(facts({ agent, sinceSent: 4_000 }))).toBeNull();
});

/** What few people use, and nobody's machine does. */
const RARE: string[] = [
  "Mozilla/5.0 (Linux; U; Android 2.3.6; en-gb; Handset 1) AppleWebKit/533.1 (KHTML, like Gecko) Version/4.0 Mobile Safari/533.1",
  "Mozilla/5.0 (Linux; Android 5.1; Handset 3) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/44.0.2403.119 Mobile Safari/537.36",
  "Mozilla/5.0 (compatible; MSIE 9.0; Windows Phone OS 7.5; Trident/5.0; IEMobile/9.0; Maker; Handset 710)",
  "Mozilla/5.0 (BB10; Touch) AppleWebKit/537.10+ (KHTML, like Gecko) Version/10.0.9.2372 Mobile Safari/537.10+",
  "Opera/9.80 (J2ME/MIDP; Opera Mini/7.1.32052/29.3709; U; en) Presto/2.8.119 Version/11.10",
  "Mozilla/5.0 (Mobile; Handset_2; rv:48.0) Gecko/48.0 Firefox/48.0 KAIOS/2.5",
  "Mozilla/5.0 (SMART-TV; Linux; Tizen 2.4.0) AppleWebKit/538.1 (KHTML, like Gecko) Version/2.4.0 TV Safari/538.1",
  "Mozilla/5.0 (Web0S; Linux/SmartTV) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/79.0.3945.79 Safari/537.36",
  "Mozilla/5.0 (PlayStation; PlayStation 5/2.26) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/13.0 Safari/605.1.15",
  "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0.0.0 Safari/537.36",
  "Mozilla/5.0 (Windows NT 6.1; Win64; x64; rv:115.0) Gecko/20100101 Firefox/115.0",
];

test.each(RARE)("a person on an old phone, a television, or a desktop where the mail was just read: %s", (agent) => {
  for (const sinceSent of [4_000, 12_000, HOUR]) expect(machineSign(facts({ agent, sinceSent }))).toBeNull();
});

test.each([...PEOPLE, ...RARE])(
  "a scanner with complete and ordinary headers, a second or two after sending: %s",
  (agent) => {
    for (const sinceSent of [0, 800, 1_500, 2_400]) expect(machineSign(facts({ agent, sinceSent }))).toBe("too soon");
  },
);

test("no request is too odd to be judged, and time alone makes nobody a machine", () => {
  const text = fc.option(fc.string({ maxLength: 300 }), { nil: null });
  fc.assert(
    fc.property(
      text,
      text,
      text,
      text,
      fc.option(fc.integer(), { nil: null }),
      (agent, purpose, accept, language, at) => {
        const it = facts({ agent, purpose, accept, acceptLanguage: language, sinceSent: at, sinceOtherLink: at });
        expect([null, "string"]).toContain(machineSign(it) === null ? null : typeof machineSign(it));
      },
    ),
  );
  for (const agent of PEOPLE) expect(machineSign(facts({ agent, sinceSent: 60_000 }))).toBeNull();
});
