import sharp from "sharp";
import { DAY, HOUR } from "@/core/time/zone";
import { LANGUAGES, withoutMarks } from "@/core/words/languages";
import type { WalkChoice } from "@/core/words/walk";
import { answerOwnReview, hideOwnReview, loadReviewsPage, ReviewsPage } from "@/features/own-reviews";
import { listPeople } from "@/features/people";
import { exportPeople } from "@/features/people-admin";
import { findPlan } from "@/features/plans";
import { codePng, codeSvg } from "@/features/standing-links";
import {
  endWayLinks,
  handleSampleRequest,
  handleWayRequest,
  loadWalk,
  makeSampleLink,
  makeWayLink,
  sendSample,
  WALK_TOKEN,
  type Walk,
  walkMail,
  walkMessage,
  walkPage,
} from "@/features/words";
import { readWordsFile, rowsOfWords, withWordsRows, wordsFile } from "@/features/words/files";
import { standingLink } from "@/platform/customerLinks";
import { withClient } from "@/platform/database";
import { markupOf } from "@/ui/markup";
import { BROWSER } from "../../support/browser";
import { readCode } from "../../support/codes";
import { type Harness, startHarness, type TestClient } from "../../support/harness";
import { post, Scene, TUESDAY } from "../../support/scene";

/** What customers get, beyond the first rating: words in their language, more questions, own reviews, links in time. */
describe("customer side", () => {
  let harness: Harness;
  let client: TestClient;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("customer_side");
  });
  afterAll(() => harness.stop());
  beforeEach(async () => {
    client = await harness.addClient();
    scene = new Scene(harness, client);
    await scene.moveTo(TUESDAY);
  });

  const ASKS_MORE = {
    aspects: ["The waiting", "The price"],
    recommend: "ten",
    questions: ["What should we change?"],
    mayShow: true,
    doorsLookAt: "rating",
  };
  const PLAIN: WalkChoice = { stop: "message-0", language: null, service: null, by: null, who: "real" };
  const walkAs = (change: Partial<WalkChoice> = {}, now = TUESDAY) =>
    withClient(scene.scope, async (tx) => {
      const walk = await loadWalk(tx, scene.scope, client.planId, { ...PLAIN, ...change }, now);
      if (!walk) throw new Error("no walk");
      return walk;
    });
  const linkFor = (walk: Walk) => withClient(scene.scope, (tx) => makeSampleLink(tx, scene.scope, "Maud", walk));
  /** Somebody who was asked by text two hours after their visit, and their page. */
  async function asked(change: Parameters<Scene["finishVisit"]>[0] = {}) {
    const { person } = await scene.finishVisit(change);
    await scene.advance(TUESDAY + 2 * HOUR);
    const { token, id } = await scene.askOf(person.id);
    const base = `${harness.env.APP_URL}/a/${token}`;
    const page = async (query = "") => (await fetch(`${base}${query}`, { headers: BROWSER })).text();
    return { person, token, id, base, page };
  }

  describe("the customer's way", () => {
    test("its pages are byte for byte those that are served, but for the token, in every language", async () => {
      await scene.setRules("more", ASKS_MORE);
      const { token, base } = await asked();
      const real = async (language: string) => (await fetch(`${base}?lang=${language}`)).text();
      const same = async (
        moment: Parameters<typeof walkPage>[1],
        language: (typeof LANGUAGES)[number],
        served: string,
      ) => {
        const walked = await walkPage(await walkAs({ language }), moment, false);
        // A language that was chosen on the page itself is carried by its forms.
        const plain = served
          .replaceAll(token, WALK_TOKEN)
          .replaceAll(`<input type="hidden" name="lang" value="${language}"/>`, "")
          .replaceAll(`?lang=${language}`, "")
          .replaceAll(`&amp;lang=${language}`, "");
        const own = walked
          .replaceAll(`<input type="hidden" name="lang" value="${language}"/>`, "")
          .replaceAll(`?lang=${language}`, "");
        expect(own).toBe(plain);
      };
      for (const language of LANGUAGES) await same("question", language, await real(language));
      await post(`${base}/rate`, { rating: "2" });
      for (const language of LANGUAGES) await same("unhappy", language, await real(language));
      await post(`${base}/rate`, { rating: "5" });
      for (const language of LANGUAGES) await same("happy", language, await real(language));
    });

    test("its texts and mails are those that leave, but for the token", async () => {
      const { person, token } = await asked();
      const [text] = harness.town.texts.phone(person.phone ?? "");
      expect(walkMessage(await walkAs(), 0, "text").body).toBe(text.body.replaceAll(token, WALK_TOKEN));
      const mailed = await asked({ phone: null });
      const [mail] = harness.town.mail.mailbox(mailed.person.email ?? "");
      const raw = Buffer.from(mail.raw);
      const { simpleParser } = await import("mailparser");
      const read = await simpleParser(raw);
      const walked = await walkMail(await walkAs(), 0);
      expect(walked.subject).toBe(read.subject);
      const html = String(read.html).replaceAll(mailed.token, WALK_TOKEN).trim();
      // The one thing that a walk does not have: the picture that tells that a mail was opened.
      const picture = /<img [^>]*\/o\/[^>]*>/;
      expect(html).toMatch(picture);
      expect(walked.html.trim()).toBe(html.replace(picture, ""));
      expect(walked.text.trim()).toBe((read.text ?? "").replaceAll(mailed.token, WALK_TOKEN).trim());
      expect(Buffer.byteLength(walked.html)).toBeLessThan(90 * 1024);
    });

    test("a sample arrives as a customer would get it, counts nowhere, and its page keeps nothing", async () => {
      await scene.finishVisit();
      const counted = async () =>
        (
          await harness.owner.query(
            "select (select count(*) from messages where client_id = $1) as messages, (select count(*) from answers where client_id = $1) as answers, (select count(*) from ask_events where client_id = $1) as events",
            [client.id],
          )
        ).rows[0];
      const before = await counted();
      const walk = await walkAs({ language: "pl" });
      for (const to of [
        { kind: "email" as const, address: "maud@client.example" },
        { kind: "text" as const, address: "+447700900777" },
      ])
        expect((await sendSample(walk, 0, await linkFor(walk), to)).kind).toBe("sent");
      const [mail] = harness.town.mail.mailbox("maud@client.example");
      const { simpleParser } = await import("mailparser");
      const read = await simpleParser(Buffer.from(mail.raw));
      expect(read.subject).toMatch(/^Przykład: /);
      const token = /\/a\/(1[0-9A-Za-z]{13})\.0/.exec(String(read.html))?.[1] ?? "";
      const at = (path: string[], init?: RequestInit) =>
        handleSampleRequest(new Request(`http://x.example/a/${path.join("/")}`, init), path);
      const page = await at([`${token}.0`]);
      expect(page.status).toBe(200);
      expect(await page.text()).toContain('<p class="sample">');
      const form = (fields: Record<string, string>) => ({ method: "POST", body: new URLSearchParams(fields) });
      expect((await at([token, "rate"], form({ rating: "1" }))).headers.get("location")).toBe(`/a/${token}?as=unhappy`);
      expect((await at([token, "words"], form({ words: "Hm" }))).status).toBe(303);
      expect(await (await at([token])).text()).toContain('class="rate"');
      expect(await counted()).toEqual(before);
      await scene.moveTo(TUESDAY + 40 * DAY);
      expect((await at([token])).status).toBe(404);
      expect((await at(["1nonsense"])).status).toBe(404);
    });

    test("a link shows the whole way to somebody outside, to look at only, until it ends or its time is over", async () => {
      await scene.finishVisit();
      const make = () => withClient(scene.scope, (tx) => makeWayLink(tx, scene.scope, "Maud", client.planId, TUESDAY));
      const look = (path: string[]) => handleWayRequest(new Request(`http://x.example/way/${path.join("/")}`), path);
      const token = await make();
      const whole = await look([token]);
      expect([whole.status, await whole.text()]).toEqual([
        200,
        expect.stringContaining("What your customers will see, step by step."),
      ]);
      const stop = await look([token, "question"]);
      expect(stop.headers.get("content-security-policy")).toMatch(/form-action 'none'.*sandbox/);
      expect((await look([token, "nothing"])).status).toBe(404);
      await withClient(scene.scope, (tx) => endWayLinks(tx, scene.scope, client.planId, TUESDAY));
      expect((await look([token])).status).toBe(404);
      const other = await make();
      await scene.moveTo(TUESDAY + 15 * DAY);
      expect((await look([other])).status).toBe(404);
    });
  });

  describe("words as a file", () => {
    test("out and in again changes nothing; what a translator changed is changed; what is wrong is named with its line", async () => {
      const plan = await withClient(scene.scope, (tx) => findPlan(tx, scene.scope, client.planId));
      if (!plan) throw new Error("no plan");
      const rows = rowsOfWords(plan.rules, "en");
      const read = async (file: string) => {
        const rows = await readWordsFile(client.id, file);
        return withClient(scene.scope, (tx) => withWordsRows(tx, plan.rules, rows));
      };
      for (const kind of ["csv", "json"] as const)
        expect(await read(wordsFile(rows, kind))).toEqual({ rules: expect.anything(), changed: 0 });
      const changed = rows.map((row) =>
        row.piece === "pl:page/happy" ? { ...row, words: "=Dziękujemy, pięknie!" } : row,
      );
      for (const kind of ["csv", "json"] as const) {
        const after = await read(wordsFile(changed, kind));
        expect(after).toMatchObject({ changed: 1 });
        if ("rules" in after) expect(after.rules.words?.own).toEqual({ "pl:page/happy": "=Dziękujemy, pięknie!" });
      }
      for (const [file, says] of [
        ["", /columns/],
        ["a,b\n1,2\n", /columns/],
        ["{", /JSON/],
        ['{"words": 3}', /isn’t a words file/],
        ["piece,words\r\nen:nowhere/x,Hm\r\n", /Line 2: /],
        ["piece,words\r\npl:page/happy,{nonsense}\r\n", /Line 2: .*isn’t a placeholder/],
        ["piece,words\r\npl:step.first/text,Bez linku\r\n", /Line 2: .*link/],
        [`piece,words\r\npl:page/happy,${"x".repeat(300)}\r\n`, /Line 2: .*under/],
        ["\u0000\u0001", /columns/],
      ] as const)
        expect([file, await read(file)]).toEqual([file, { wrong: expect.stringMatching(says) }]);
    });
  });

  describe("more questions", () => {
    test("each tap and each word is kept without script, in the person's language, and doors can look at them", async () => {
      await scene.setRules("more", { ...ASKS_MORE, doorsLookAt: "lowest aspect" });
      const { id, base, page } = await asked();
      expect(await page("?lang=pl")).toContain('lang="pl"');
      await post(`${base}/rate`, { rating: "5", lang: "pl" });
      const happy = await page("?lang=pl");
      expect(happy).toContain("The waiting");
      expect(happy).toContain("What should we change?");
      await post(`${base}/more`, { aspect: "0:2" });
      await post(`${base}/more`, { aspect: "1:-" });
      await post(`${base}/more`, { recommend: "9" });
      await post(`${base}/more`, { q0: "Chairs for dogs" });
      const { rows } = await harness.owner.query("select * from answers where ask_id = $1", [id]);
      expect(rows[0]).toMatchObject({
        rating: 5,
        aspects: { "The waiting": 2, "The price": null },
        recommend: 9,
        more: { "What should we change?": "Chairs for dogs" },
        language: "pl",
      });
      // The lowest side decides: they are listened to first now.
      const ask = (
        await harness.owner.query("select answer_rating, answer_judged, answer_recommend from asks where id = $1", [id])
      ).rows[0];
      expect(ask).toEqual({ answer_rating: 5, answer_judged: 2, answer_recommend: 9 });
      for (const fields of [
        { aspect: "9:9" },
        { aspect: "0:6" },
        { recommend: "11" },
        { recommend: "x" },
        { q0: "x".repeat(2001) },
      ])
        expect([fields, (await post(`${base}/more`, fields as never)).status]).toEqual([fields, 422]);
      // A side that the plan does not have changes nothing.
      expect((await post(`${base}/more`, { aspect: "4:5" })).status).toBe(303);
      expect(
        (await harness.owner.query("select aspects from answers where ask_id = $1", [id])).rows[0].aspects,
      ).toEqual(rows[0].aspects);
    });

    test("what is being typed is kept as a draft, stands there again, and answers nothing", async () => {
      const { id, base, page } = await asked();
      await post(`${base}/rate`, { rating: "2" });
      const draft = await fetch(`${base}/words`, {
        method: "POST",
        body: new URLSearchParams({ words: "The waiting room was", as: "draft" }),
      });
      expect(draft.status).toBe(204);
      expect(await page()).toContain("The waiting room was</textarea>");
      const { rows } = await harness.owner.query(
        "select words, draft_words, (select count(*)::int from concerns c where c.client_id = a.client_id) as concerns from answers a where ask_id = $1",
        [id],
      );
      expect(rows[0]).toMatchObject({ words: null, draft_words: "The waiting room was", concerns: expect.any(Number) });
      await post(`${base}/words`, { words: "The waiting room was cold." });
      expect(await page()).toContain("The waiting room was cold.");
    });

    test("only those who would recommend are asked for a review, again after some days, and People shows who they are", async () => {
      await scene.setRules("more", ASKS_MORE);
      await scene.setRules("style", "how it went first");
      const [first, second] = (await harness.owner.query("select rules from plans where client_id = $1", [client.id]))
        .rows[0].rules.steps;
      await scene.setRules("steps", [
        first,
        { ...second, part: "review", onlyIf: "would recommend", delay: { amount: 2, unit: "days", at: null } },
      ]);
      const people: Record<string, string> = {};
      for (const [name, recommend] of [
        ["Would", "9"],
        ["Undecided", "7"],
        ["Never", "3"],
        ["Silent", null],
      ] as const) {
        const { person } = await scene.finishVisit({ given: name });
        people[name] = person.id;
        await scene.advance(TUESDAY + 2 * HOUR);
        const base = `${harness.env.APP_URL}/a/${(await scene.askOf(person.id)).token}`;
        await post(`${base}/rate`, { rating: "5" });
        if (recommend) await post(`${base}/more`, { recommend });
        await scene.moveTo(TUESDAY);
      }
      await scene.advance(TUESDAY + 2 * DAY + 3 * HOUR);
      const sent = async (name: string) =>
        (await scene.messagesOf(people[name])).filter(({ state }) => state === "delivered" || state === "sent").length;
      expect([await sent("Would"), await sent("Undecided"), await sent("Never"), await sent("Silent")]).toEqual([
        2, 1, 1, 1,
      ]);
      const facts = { now: TUESDAY, zone: "Europe/London", restDays: 30 };
      const named = async (state: "would recommend" | "undecided" | "would not") =>
        withClient(scene.scope, async (tx) => (await listPeople(tx, { state }, null, facts)).map(({ given }) => given));
      expect([await named("would recommend"), await named("undecided"), await named("would not")]).toEqual([
        ["Would"],
        ["Undecided"],
        ["Never"],
      ]);
      const { body } = await withClient(scene.scope, (tx) =>
        exportPeople(tx, Object.values(people), "csv", "Europe/London", TUESDAY),
      );
      expect(String(body)).toMatch(/Would,[^\n]*would recommend/);
    });
  });

  describe("own reviews", () => {
    async function reviewed(rating: string, words: string, given = "Odette") {
      const it = await asked({ given, family: "Marsh" });
      await post(`${it.base}/rate`, { rating });
      await post(`${it.base}/words`, { words, "asked-show": "1", show: "1" });
      return it;
    }
    const publicPage = async (path: string[], before: string | null = null) => {
      const view = await loadReviewsPage(path, before, null);
      return view ? { view, html: await markupOf(ReviewsPage({ view })) } : null;
    };
    beforeEach(async () => {
      await scene.setRules("more", ASKS_MORE);
      await harness.owner.query("update clients set reviews_address = $2 where id = $1", [client.id, client.slug]);
    });
    const idOf = async (words: string) =>
      (await harness.owner.query("select id from own_reviews where client_id = $1 and words = $2", [client.id, words]))
        .rows[0].id;

    test("with the customer's yes an answer stands on the page, unhappy ones too, as markup that search engines read", async () => {
      await reviewed("5", "Gentle & kind <b>hands</b>");
      await reviewed("2", "We waited an hour.", "Jun");
      const silent = await asked();
      await post(`${silent.base}/rate`, { rating: "4" });
      await post(`${silent.base}/words`, { words: "Not for the public", "asked-show": "1" });
      const page = await publicPage([client.slug]);
      expect(page?.html).toContain("Gentle &amp; kind &lt;b&gt;hands&lt;/b&gt;");
      expect(page?.html).toContain("We waited an hour.");
      expect(page?.html).not.toContain("Not for the public");
      expect(page?.html).toContain("Odette M.");
      expect(page?.html).not.toContain("Marsh");
      expect(page?.html).not.toMatch(/<script/);
      expect(page?.html).toMatch(/<meta itemProp="ratingValue" content="3.5"\/>/i);
      expect(page?.html).toMatch(new RegExp(`rel="canonical" href="[^"]*/reviews/${client.slug}"`));
      expect((await publicPage([client.slug, "fenwick"]))?.view.reviews).toHaveLength(2);
      for (const path of [[], ["no-such"], [client.slug, "nowhere"], [client.slug, "fenwick", "x"], ["'; drop table"]])
        expect([path, await publicPage(path)]).toEqual([path, null]);
      expect((await publicPage([client.slug], "nonsense"))?.view.reviews).toHaveLength(2);
    });

    test("it can be answered, hidden for a named reason and shown again; how many are hidden is said", async () => {
      await reviewed("1", "My neighbour Ann Other is a thief");
      const id = await idOf("My neighbour Ann Other is a thief");
      const change = (work: typeof hideOwnReview | typeof answerOwnReview, value: never) =>
        withClient(scene.scope, (tx) => work(tx, scene.scope, "Maud", id, value, TUESDAY));
      expect(await change(answerOwnReview, "We are sorry." as never)).toBe(true);
      expect((await publicPage([client.slug]))?.html).toContain("We are sorry.");
      expect(await change(hideOwnReview, "private facts" as never)).toBe(true);
      const hidden = await publicPage([client.slug]);
      expect(hidden?.html).not.toContain("thief");
      expect(hidden?.view).toMatchObject({ hidden: 1, counts: null });
      expect(hidden?.html).toContain("1 review isn’t shown");
      expect(await change(hideOwnReview, null as never)).toBe(true);
      expect((await publicPage([client.slug]))?.html).toContain("thief");
      // Nobody of another client reaches it.
      const other = new Scene(harness, await harness.addClient());
      expect(await withClient(other.scope, (tx) => hideOwnReview(tx, other.scope, "X", id, "abuse", TUESDAY))).toBe(
        false,
      );
    });

    test("its writer changes and withdraws it through their link; pages of it go by key", async () => {
      const { base, page } = await reviewed("5", "Lovely");
      expect(await page()).toContain("They’re on our own reviews page, as Odette M.");
      await post(`${base}/words`, { words: "Lovely, and on time", "asked-show": "1", show: "1" });
      expect((await publicPage([client.slug]))?.html).toContain("Lovely, and on time");
      await post(`${base}/withdraw`, {});
      expect((await publicPage([client.slug]))?.view.reviews).toEqual([]);
      await harness.owner.query(
        `insert into answers (id, client_id, branch_id, origin, rating, words, given_at)
       select gen_random_uuid(), $1, $2, 'link', 5, 'Words ' || n, now() from generate_series(1, 45) n`,
        [client.id, client.branchId],
      );
      await harness.owner.query(
        `insert into own_reviews (id, client_id, branch_id, answer_id, name, rating, words, language, written_at)
       select gen_random_uuid(), $1, $2, a.id, 'A', 5, a.words, 'en', now() - (row_number() over ()) * interval '1 minute'
       from answers a where a.client_id = $1 and a.words like 'Words %'`,
        [client.id, client.branchId],
      );
      const seen = new Set<string>();
      let before: string | null = null;
      for (let turn = 0; turn < 5; turn++) {
        const part = await publicPage([client.slug], before);
        for (const review of part?.view.reviews ?? []) seen.add(review.words);
        before = part?.view.next ?? null;
        if (!before) break;
      }
      expect(seen.size).toBe(45);
    });
  });

  describe("links in time", () => {
    test("a link works for its days after the last message, then says so kindly; no more messages can be said for ever", async () => {
      await harness.owner.query("update clients set link_days = 20 where id = $1", [client.id]);
      const { base, token, person } = await asked();
      await post(`${base}/rate`, { rating: "5" });
      await scene.moveTo(TUESDAY + 2 * HOUR + 19 * DAY);
      expect((await fetch(base)).status).toBe(200);
      await scene.moveTo(TUESDAY + 2 * HOUR + 21 * DAY);
      const late = await fetch(base);
      expect(late.status).toBe(410);
      expect(await late.text()).toContain("20");
      expect((await post(`${base}/rate`, { rating: "1" })).status).toBe(410);
      const leave = `${harness.env.APP_URL}/u/${token}`;
      expect((await fetch(leave)).status).toBe(200);
      await post(leave, {});
      const out = async () =>
        (
          await harness.owner.query("select email_opted_out_at is not null as out from people where id = $1", [
            person.id,
          ])
        ).rows[0].out;
      expect(await out()).toBe(true);
      expect(await (await post(`${leave}/back`, {})).text()).toBeTruthy();
      expect(await out()).toBe(false);
      // Whoever opted out by another way is not brought back by this one.
      await harness.owner.query(
        `update people set email_opted_out_at = now(), email_opted_out_how = '{"code":"set by hand"}' where id = $1`,
        [person.id],
      );
      await post(`${leave}/back`, {});
      expect(await out()).toBe(true);
    });

    test("who wrote gets a copy by mail if they like, in their language, once however often they click", async () => {
      const { base, person, page } = await asked();
      await post(`${base}/rate`, { rating: "2" });
      expect(await page()).not.toContain("/receipt");
      await post(`${base}/receipt`, {});
      await post(`${base}/words`, { words: "Zimno w poczekalni" });
      expect(await page("?lang=pl")).toContain("/receipt");
      const asks = await Promise.all([0, 1, 2].map(() => post(`${base}/receipt`, { lang: "pl" })));
      expect(asks.map(({ status }) => status)).toEqual([303, 303, 303]);
      expect(await (await fetch(new URL(asks[0].headers.get("location") ?? "", base))).text()).toContain(
        'role="status"',
      );
      await scene.advance(TUESDAY + 2 * HOUR + 60_000);
      const mails = harness.town.mail.mailbox(person.email ?? "");
      expect(mails).toHaveLength(1);
      const { simpleParser } = await import("mailparser");
      const read = await simpleParser(Buffer.from(mails[0].raw));
      expect(read.subject).toContain("Wiadomość do");
      expect(read.text).toContain("Zimno w poczekalni");
      expect(String(read.html)).toContain('lang="pl"');
    });

    test("after the link has ended its writer gets another by mail, and takes their words off the page with it", async () => {
      await scene.setRules("more", ASKS_MORE);
      await harness.owner.query("update clients set link_days = 20, reviews_address = $2 where id = $1", [
        client.id,
        client.slug,
      ]);
      const { base, person } = await asked();
      await post(`${base}/rate`, { rating: "5" });
      await post(`${base}/words`, { words: "Too private after all", "asked-show": "1", show: "1" });
      const shown = async () => (await loadReviewsPage([client.slug], null, null))?.reviews;
      expect(await shown()).toHaveLength(1);
      const late = TUESDAY + 2 * HOUR + 30 * DAY;
      await scene.moveTo(late);
      expect(await (await fetch(base)).text()).toContain("/again");
      for (let click = 0; click < 3; click++) expect((await post(`${base}/again`, {})).status).toBe(200);
      await scene.advance(late + 60_000);
      const mails = harness.town.mail.mailbox(person.email ?? "");
      expect(mails).toHaveLength(1);
      const { simpleParser } = await import("mailparser");
      const read = await simpleParser(Buffer.from(mails[0].raw));
      const link = /https?:\/\/\S+\/mine\?\S+/.exec(read.text ?? "")?.[0] ?? "";
      const page = await fetch(link);
      expect([page.status, await page.text()]).toEqual([200, expect.stringContaining("Too private after all")]);
      for (const wrong of [
        link.replace(/key=./, "key=_"),
        link.replace(/until=\d/, "until=9"),
        `${base}/mine`,
        `${base}/mine?until=x&key=`,
      ])
        expect([wrong, (await fetch(wrong)).status]).toEqual([wrong, 410]);
      expect(await shown()).toHaveLength(1);
      expect((await post(link, {})).status).toBe(200);
      expect(await shown()).toHaveLength(0);
      await scene.moveTo(late + 8 * DAY);
      expect((await fetch(link)).status).toBe(410);
      // Asked for again and again it is refused, and says nothing of what is kept.
      const answers = await Promise.all(Array.from({ length: 8 }, () => post(`${base}/again`, {})));
      expect(answers.some(({ status }) => status === 429)).toBe(true);
    });

    test("codes as PNG and SVG, as they are downloaded, lead to the link", async () => {
      for (const bytes of [await codePng("k7q2m9wx4tzr"), Buffer.from(await codeSvg("k7q2m9wx4tzr"))]) {
        const { data, info } = await sharp(bytes).resize(300).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
        expect(readCode(new Uint8ClampedArray(data), info.width, info.height)).toBe(standingLink("k7q2m9wx4tzr"));
      }
    });

    test("Polish texts say what marks cost: without them they are shorter by parts, and read the same", async () => {
      await scene.finishVisit();
      const body = walkMessage(await walkAs({ language: "pl" }), 0, "text").body;
      expect(withoutMarks(body)).not.toMatch(/[ąćęłńóśźżĄĆĘŁŃÓŚŹŻ]/);
      expect(withoutMarks(body)).toHaveLength(body.length);
    });
  });
});
