import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import nodemailer from "nodemailer";
import { Faults, faultInput } from "./faults";
import { Journal } from "./journal";
import { Town, townPorts } from "./town";
import { chanceFor, pickByShare } from "./townsfolk/chance";
import { decide } from "./townsfolk/decide";
import { say } from "./townsfolk/words";
import { placeKey } from "./waypost";

/** The simulated outside world keeps its own promises; Estima's tests lean on them. */

const secrets = { mailHook: "m", textHook: "t", textKey: "k", waypost: "w" };
let base = 0;
let town: Town;

beforeAll(async () => {
  base = await freeBase();
  town = new Town({
    basePort: base,
    folder: null,
    seed: 1,
    estimaUrl: null,
    secrets,
    places: [{ slug: "here", name: "Here" }],
    senders: [],
  });
  await town.start();
});
afterAll(() => town.stop());
beforeEach(() => {
  town.mail.faults.clear();
  town.texts.faults.clear();
});

async function freeBase(): Promise<number> {
  for (let tries = 0; tries < 50; tries++) {
    const first = 20000 + Math.floor(Math.random() * 30000);
    const free = await Promise.all(
      [0, 1, 2, 3, 4, 5].map(
        (offset) =>
          new Promise<boolean>((done) => {
            const server = createServer()
              .once("error", () => done(false))
              .listen(first + offset, "127.0.0.1", () => server.close(() => done(true)));
          }),
      ),
    );
    if (free.every(Boolean)) return first;
  }
  throw new Error("No free ports.");
}

const mailer = () => nodemailer.createTransport({ host: "127.0.0.1", port: townPorts(base).smtp });
const letter = (id: string, to = "a@post.example") => ({
  messageId: `<${id}@x.example>`,
  from: "x@x.example",
  to,
  subject: "Hello",
  text: "Hi",
});

describe("mail", () => {
  test("a Message-ID that was seen is taken and not kept again", async () => {
    const before = town.mail.mails.size;
    for (let turn = 0; turn < 3; turn++) await mailer().sendMail(letter("one"));
    expect(town.mail.mails.size).toBe(before + 1);
    expect(town.mail.repeats).toBeGreaterThanOrEqual(2);
    const report = (await (await fetch(`http://127.0.0.1:${townPorts(base).mail}/report`)).json()) as {
      distinct: number;
    };
    expect(report.distinct).toBe(before + 1);
  });

  test.each([
    ["bounce", 550],
    ["defer", 451],
  ] as const)("told to %s, it answers %i and keeps nothing", async (kind, code) => {
    const before = town.mail.mails.size;
    town.mail.faults.add({ kind, match: "b@post.example", count: 1 });
    await expect(mailer().sendMail(letter(kind, "b@post.example"))).rejects.toMatchObject({ responseCode: code });
    expect(town.mail.mails.size).toBe(before);
    await mailer().sendMail(letter(kind, "b@post.example"));
    expect(town.mail.mails.size).toBe(before + 1);
  });
});

describe("texts", () => {
  const post = (body: unknown, headers: Record<string, string> = {}) =>
    fetch(`http://127.0.0.1:${townPorts(base).texts}/messages`, {
      method: "POST",
      headers: { authorization: "Bearer k", "content-type": "application/json", ...headers },
      body: JSON.stringify(body),
    });
  const good = { from: "+447700900990", to: "+447700900123", body: "Hi", reference: "r1" };

  test("the same Idempotency-Key gives the same text, once", async () => {
    const answers = await Promise.all(
      [1, 2, 3].map(
        async () => ((await (await post(good, { "idempotency-key": "same" })).json()) as { id: string }).id,
      ),
    );
    expect(new Set(answers).size).toBe(1);
    expect(town.texts.phone("+447700900123")).toHaveLength(1);
  });

  test.each([
    [{ ...good, to: "07700" }, {}, 400],
    [{}, {}, 400],
    [good, { authorization: "Bearer wrong" }, 401],
  ])("nonsense %# is refused", async (body, headers, status) => {
    expect((await post(body, headers as Record<string, string>)).status).toBe(status);
  });

  test.each([
    ["too many", 429],
    ["error", 500],
    ["bounce", 422],
  ] as const)("told %s, it answers %i", async (kind, status) => {
    town.texts.faults.add({ kind, count: 1 });
    expect((await post({ ...good, reference: kind }, { "idempotency-key": kind })).status).toBe(status);
  });
});

describe("Waypost", () => {
  const api = (path: string, init: RequestInit = {}) =>
    fetch(`http://127.0.0.1:${townPorts(base).waypost}${path}`, {
      ...init,
      headers: { authorization: `Bearer ${placeKey("w", "here")}` },
    });
  const write = (stars: string, words = "Good") =>
    fetch(`http://127.0.0.1:${townPorts(base).waypost}/places/here`, {
      method: "POST",
      redirect: "manual",
      body: new URLSearchParams({ author: "Jun A.", stars, words }),
    });
  type Page = {
    reviews: { id: string; deleted: boolean; reply: { words: string } | null }[];
    cursor: string;
    more: boolean;
  };
  const read = async (since: string) => (await (await api(`/api/places/here/reviews?since=${since}`)).json()) as Page;

  test("gives what is new or changed since a cursor, page by page, to the owner alone", async () => {
    for (let n = 0; n < 130; n++) expect((await write("5")).status).toBe(303);
    const one = await read("");
    const two = await read(one.cursor);
    expect([one.reviews.length, one.more, two.reviews.length, two.more]).toEqual([100, true, 30, false]);
    expect((await read(two.cursor)).reviews).toEqual([]);
    await api(`/api/places/here/reviews/${one.reviews[0].id}/reply`, {
      method: "PUT",
      body: JSON.stringify({ words: "Thanks" }),
    });
    await api(`/api/reviews/${one.reviews[1].id}`, { method: "DELETE" });
    const changed = await read(two.cursor);
    expect(changed.reviews.map(({ id, deleted, reply }) => [id, deleted, reply?.words])).toEqual([
      [one.reviews[0].id, false, "Thanks"],
      [one.reviews[1].id, true, undefined],
    ]);
    expect((await fetch(`http://127.0.0.1:${townPorts(base).waypost}/api/places/here/reviews`)).status).toBe(401);
    expect((await api("/api/places/elsewhere/reviews")).status).toBe(401);
  });

  test("refuses reviews without stars and replies without words", async () => {
    expect((await write("9")).status).toBe(422);
    expect((await api("/api/places/here/reviews/none/reply", { method: "PUT", body: "{}" })).status).toBe(400);
    expect((await api("/api/places/here/reviews?since=x")).status).toBe(400);
  });
});

describe("the appointment book", () => {
  const at = () => `http://127.0.0.1:${townPorts(base).daybook}`;
  const start = Date.UTC(2026, 10, 24, 9);
  const hour = 3_600_000;

  test("finishes what is over, says so in its calendar and its file, and somebody books as the hours pass", async () => {
    town.clock.set(start, true);
    town.daybook.open({
      slug: "vets",
      name: "Vets",
      services: ["Check-up"],
      branches: ["Here"],
      staff: ["Dr Hale"],
      about: null,
    });
    const customer = { id: "1", name: "Odette Marsh", phone: "+447700900123", email: null };
    town.daybook.load([
      {
        id: "A1",
        book: "vets",
        customer,
        service: "Check-up",
        branch: "Here",
        staff: "Dr Hale",
        about: null,
        startsAt: start,
        endsAt: start + hour,
        status: "booked",
        changedAt: start,
      },
    ]);
    expect(town.daybook.next()).toBe(start + hour);
    const calendar = async (etag = "") =>
      fetch(`${at()}/book/vets/calendar.ics`, { headers: { "if-none-match": etag } });
    const first = await calendar();
    expect(await first.text()).toContain("SUMMARY:Check-up: Odette Marsh");
    expect((await calendar(first.headers.get("etag") ?? "")).status).toBe(304);
    town.clock.set(start + 2 * hour, true);
    town.daybook.actUntil(start + 2 * hour);
    expect(["finished", "missed"]).toContain(town.daybook.appointments.get("A1")?.status);
    expect(await (await fetch(`${at()}/book/vets/end-of-day.csv`)).text()).toMatch(
      /A1,Odette Marsh,07700900123,,24\/11\/2026,10:00/,
    );
    for (let n = 3; n < 40; n++) {
      town.clock.set(start + n * hour, true);
      town.daybook.actUntil(start + n * hour);
    }
    expect(town.daybook.appointments.size).toBeGreaterThan(1);
  });

  test("nonsense is refused, and pages play", async () => {
    const form = (body: Record<string, string>) =>
      fetch(`${at()}/book/vets`, { method: "POST", body: new URLSearchParams(body), redirect: "manual" });
    expect((await form({ name: "" })).status).toBe(422);
    expect((await form({ name: "Jun", reach: "jun@post.example", service: "Check-up", minutes: "30" })).status).toBe(
      303,
    );
    expect((await fetch(`${at()}/book/nobody`)).status).toBe(404);
    expect((await fetch(`${at()}/book/vets/none/finished`, { method: "POST" })).status).toBe(404);
    expect((await fetch(`${at()}/book/vets/connect`, { method: "POST", body: "{}" })).status).toBe(422);
    expect(await (await fetch(`${at()}/book/vets`)).text()).toContain("Jun");
  });
});

describe("townsfolk", () => {
  const heard = (n: number, channel: "text" | "email" = "text") => ({
    seed: 7,
    channel,
    address: `p${n}`,
    link: `http://x/a/${n}.0`,
    at: Date.UTC(2026, 10, 24, 16),
    trade: "vets" as const,
    it: "Biscuit",
  });

  test("the same message gives the same deeds; another seed gives others", () => {
    const deeds = (seed: number) =>
      JSON.stringify(Array.from({ length: 300 }, (_, n) => decide({ ...heard(n), seed })));
    expect(deeds(7)).toBe(deeds(7));
    expect(deeds(7)).not.toBe(deeds(8));
  });

  test("they behave as a town would: some answer, most of those happily, few ask to be left alone, nobody acts at night or before the message", () => {
    const acts = Array.from({ length: 3000 }, (_, n) => decide(heard(n))).flat();
    const answers = acts.flatMap((act) => (act.kind === "answer" ? [act] : []));
    expect(answers.length / 3000).toBeGreaterThan(0.3);
    expect(answers.length / 3000).toBeLessThan(0.5);
    expect(answers.filter(({ rating }) => rating >= 4).length / answers.length).toBeGreaterThan(0.7);
    expect(acts.filter(({ kind }) => kind === "stop").length).toBeLessThan(100);
    for (const act of acts) {
      expect(act.at).toBeGreaterThan(heard(0).at);
      const hour = new Date(act.at).getUTCHours();
      expect(hour >= 7 && hour < 22).toBe(true);
    }
    for (const { words, rating } of answers) if (words && rating <= 2) expect(words).not.toMatch(/\{it\}/);
  });

  test("what they say names whom it was about, and starts with a capital", () => {
    for (let n = 0; n < 200; n++) {
      const words = say("vets", 1 + (n % 5), n % 2 ? "Biscuit" : null, chanceFor(n, "words"));
      expect(words).not.toContain("{it}");
      expect(words).toMatch(/^[A-Z]/);
    }
  });

  test("chance by share keeps its shares", () => {
    const chance = chanceFor(3, "shares");
    const counts = { a: 0, b: 0 };
    for (let n = 0; n < 4000; n++)
      counts[pickByShare(["a", "b"] as const, (name) => (name === "a" ? 3 : 1), chance)] += 1;
    expect(counts.a / 4000).toBeGreaterThan(0.72);
    expect(counts.a / 4000).toBeLessThan(0.78);
  });
});

describe("memory", () => {
  test("a journal tells what happened before, and passes over a line that was cut off", async () => {
    const file = join(mkdtempSync(join(tmpdir(), "estima-")), "j.jsonl");
    const journal = new Journal<{ n: number }>(file);
    for (let n = 0; n < 3; n++) journal.append({ n });
    await journal.close();
    writeFileSync(file, `${readFileSync(file, "utf8")}{"n":`);
    const seen: number[] = [];
    new Journal<{ n: number }>(file).replay(({ n }) => seen.push(n));
    expect(seen).toEqual([0, 1, 2]);
  });

  test("faults are made as often as was said, for whom it was said", () => {
    const faults = new Faults();
    faults.add({ kind: "defer", match: "b@", count: 2 });
    expect([
      faults.take("a@x", ["defer"]),
      faults.take("b@x", ["bounce"]),
      faults.take("b@x", ["defer"]),
      faults.take("b@x", ["defer"]),
      faults.take("b@x", ["defer"]),
    ]).toEqual([null, null, "defer", "defer", null]);
    expect(faultInput.safeParse({ kind: "explode" }).success).toBe(false);
  });
});
