import fc from "fast-check";
import { HOUR } from "@/core/time/zone";
import { LANGUAGES } from "@/core/words/languages";
import { listNotes, saidBeside } from "@/features/answers";
import { loadSetting } from "@/features/clients";
import { answerConcern, listConcerns } from "@/features/concerns";
import { optOutByLink } from "@/features/messaging";
import { listOwnReviews } from "@/features/own-reviews";
import { customerWords } from "@/locales/customer";
import { withClient } from "@/platform/database";
import { newId } from "@/schema/columns";
import { CustomerPage } from "../../support/customerPage";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";
import { size } from "../../support/size";

/**
 * Whatever someone does on their page, on one phone or two, with and without script: every word they sent is on a page
 * that someone of the business reads, once, with the right name and rating, and what the page promises is so.
 */
describe("every word", () => {
  let harness: Harness;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("every_word");
    scene = new Scene(harness, await harness.addClient());
    await scene.moveTo(TUESDAY);
    await scene.setRules("more", {
      aspects: ["The waiting"],
      recommend: "ten",
      questions: ["What should we change?"],
      mayShow: true,
      doorsLookAt: "rating",
    });
  });
  afterAll(() => harness.stop());

  const say = customerWords("en");
  const branchName = () => withClient(scene.scope, async (tx) => (await loadSetting(tx)).branches[0].name);

  async function asked(change: Parameters<Scene["finishVisit"]>[0] = {}) {
    await scene.moveTo(TUESDAY);
    const { person } = await scene.finishVisit(change);
    await scene.advance(TUESDAY + 2 * HOUR);
    const { token } = await scene.askOf(person.id);
    return { person, token, base: `${harness.env.APP_URL}/a/${token}` };
  }

  /** What the business reads of a person: each text with where it is, and the rating beside it. */
  function heardOf(personId: string) {
    return withClient(scene.scope, async (tx) => {
      const notes = (await listNotes(tx, scene.scope, { unread: false, branchId: null, before: null }, 500)).filter(
        ({ answer }) => answer.personId === personId,
      );
      const concerns = (await listConcerns(tx, scene.scope, { open: false })).filter(
        ({ person }) => person?.id === personId,
      );
      const own = (await listOwnReviews(tx, scene.scope, null, null)).filter((one) => one.personId === personId);
      const answerIds = [...notes.map(({ answer }) => answer.id), ...concerns.map(({ concern }) => concern.answerId)];
      const beside = await saidBeside(tx, scene.scope, answerIds);
      const inOwn = await saidBeside(
        tx,
        scene.scope,
        own.flatMap(({ answerId }) => (answerIds.includes(answerId) ? [] : answerId)),
      );
      const texts = [
        ...notes.map(({ answer }) => answer.words ?? ""),
        ...concerns.map(({ concern }) => concern.words),
        // What is on the page of own reviews is a concern too, where it is one.
        ...own.filter(({ answerId }) => !answerIds.includes(answerId)).map(({ words }) => words),
        ...[...beside.values(), ...inOwn.values()].flatMap(({ more }) => Object.values(more)),
      ];
      return {
        words: texts.join(" ").split(/\s+/).filter(Boolean),
        ratings: [...notes.map(({ answer }) => answer.rating), ...concerns.map(({ concern }) => concern.rating)],
        concerns: concerns.map(({ concern }) => concern.id),
      };
    });
  }

  const action = fc.record({
    on: fc.nat(1),
    does: fc.constantFrom(
      "rate",
      "words",
      "question",
      "send",
      "save",
      "tap",
      "language",
      "leave",
      "change",
      "reload",
      "show",
    ),
    rating: fc.integer({ min: 1, max: 5 }),
    text: fc.stringMatching(/^[a-z]{3,7}$/),
    language: fc.constantFrom(...LANGUAGES),
    hasScript: fc.boolean(),
  });

  test("that is sent is read, once; what was only typed is still in its field, and on nobody's page", async () => {
    const branch = await branchName();
    await fc.assert(
      fc.asyncProperty(fc.array(action, { minLength: 3, maxLength: 14 }), async (actions) => {
        const { person, base } = await asked();
        const phones = [new CustomerPage(base), new CustomerPage(base)];
        for (const phone of phones) await phone.open();
        const sent = new Set<string>();
        let rating: number | null = null;
        for (const [index, it] of actions.entries()) {
          const phone = phones[it.on];
          await scene.moveTo(TUESDAY + 2 * HOUR + (index + 1) * 60_000);
          const word = `${it.text}${index}`;
          const typedBefore = phone.fields;
          const has = (to: string) => phone.buttons.some((one) => one.to === to);
          const add = (name: string) => {
            if (name in phone.fields) phone.type(name, `${phone.fields[name]} ${word}`.trim());
          };
          const sends = () => {
            for (const text of Object.values(phone.fields))
              for (const each of text.split(/\s+/).filter(Boolean)) sent.add(each);
          };
          if (it.does === "words") add("words");
          else if (it.does === "question") add("q0");
          else if (it.does === "show" && phone.asksToShow) phone.tick("show", it.rating > 2);
          else if (it.does === "reload") await phone.open();
          else if (it.does === "rate" && has("rate")) {
            await phone.press({ to: "rate", value: String(it.rating) });
            rating = it.rating;
          } else if (it.does === "send" && has("words")) {
            if (Object.values(phone.fields).some((text) => text.trim())) sends();
            await phone.press({ to: "words" });
          } else if (it.does === "save" && phone.buttons.some(({ to, name }) => to === "more" && !name)) {
            sends();
            await phone.press({ to: "more", name: undefined });
          } else if (it.does === "tap" && has("more")) {
            // A tap sends what stands in the fields of its own part, and leaves the words where they are.
            for (const each of (phone.fields.q0 ?? "").split(/\s+/).filter(Boolean)) sent.add(each);
            const words = phone.fields.words ?? "";
            await phone.press({ to: "more", name: "aspect", value: `0:${it.rating}` });
            if (words.trim() && "words" in phone.fields) expect(phone.fields.words).toBe(words);
          } else if (it.does === "language" && has("aside")) {
            await phone.press({ to: "aside", value: `lang:${it.language}` }).catch(() => phone);
            for (const [name, text] of Object.entries(typedBefore))
              if (text.trim() && name in phone.fields) expect([name, phone.fields[name]]).toEqual([name, text]);
          } else if (it.does === "change" && has("aside")) await phone.press({ to: "aside", value: "change" });
          else if (it.does === "leave" && it.hasScript && has("words")) {
            await phone.beacon();
            await phone.open();
            for (const [name, text] of Object.entries(typedBefore))
              if (text.trim() && name in phone.fields) expect([name, phone.fields[name]]).toEqual([name, text]);
          }
          expect([it.does, phone.status]).toEqual([it.does, phone.status < 500 ? phone.status : "no fault"]);
        }
        const heard = await heardOf(person.id);
        for (const word of sent) expect([word, heard.words.filter((one) => one === word).length]).toEqual([word, 1]);
        for (const word of heard.words) expect(sent).toContain(word);
        for (const one of heard.ratings) expect(one).toBe(rating);
        // What the page promises at the end is so.
        const end = await new CustomerPage(base).open("?lang=en");
        if (end.text.includes(say("private.willWrite", { branch }))) {
          expect(heard.concerns).toHaveLength(1);
          expect(await writes(heard.concerns[0])).toBeNull();
        }
        if (end.text.includes(say("sites.ready"))) expect(heard.concerns).toEqual([]);
      }),
      { numRuns: size(25, 600), endOnFailure: true },
    );
  });

  /** Answers a concern by whichever way there is: null where that is done, else why it is not. */
  const writes = (id: string) =>
    withClient(scene.scope, async (tx) => {
      const letter = { words: "We are sorry.", requestKey: newId() };
      const now = TUESDAY + 5 * HOUR;
      const byText = await answerConcern(tx, scene.scope, "Maud", id, { ...letter, channel: "text" }, now);
      return byText && answerConcern(tx, scene.scope, "Maud", id, { ...letter, channel: "email" }, now);
    });

  const LANDLINE = { number: "+441632960961", canText: false, country: "GB" };

  test.each([
    ["a mobile", { email: null }, true],
    ["a mailbox", { phone: null }, true],
    ["a landline and a mailbox that bounced", { phone: LANDLINE, bounced: true }, false],
    ["an address, and opted out", { out: true }, false],
  ] as const)("with %s, what the page promises of an answer is so", async (_, change, isReached) => {
    const branch = await branchName();
    const { bounced, out, ...values } = { bounced: false, out: false, ...change };
    const { person, token, base } = await asked(values as never);
    if (bounced)
      await harness.owner.query("update people set email_bounced_at = now(), email_opted_out_at = null where id = $1", [
        person.id,
      ]);
    if (out) await optOutByLink(token);
    const page = await new CustomerPage(base).open();
    await page.press({ to: "rate", value: "2" });
    page.type("words", "Nobody told me what it would cost.");
    await page.press({ to: "words" });
    expect(page.text.includes(say("private.willWrite", { branch }))).toBe(isReached);
    expect(page.text.includes(say("private.needsAddress"))).toBe(!isReached);
    const concern = async () => (await heardOf(person.id)).concerns[0];
    if (isReached) return expect(await writes(await concern())).toBeNull();
    expect(await writes(await concern())).toHaveProperty("refused");
    for (const wrong of ["", "01632 960961", "no@@mail", "x".repeat(300)]) {
      page.fill("reach", wrong);
      await page.press({ to: "reach" });
      expect([wrong, page.status, page.text.includes(say("wrong.reach"))]).toEqual([wrong, 422, true]);
    }
    page.fill("reach", "odette.other@post.example");
    await page.press({ to: "reach" });
    expect(page.text).toContain(say("private.writesTo", { address: "odette.other@post.example" }));
    expect(page.text).not.toContain(say("private.needsAddress"));
    expect(await writes(await concern())).toBeNull();
    const sent = (await scene.messagesOf(person.id)).find((one) => one.writtenBy === "Maud");
    expect([sent?.channel, sent?.address]).toEqual(["email", "odette.other@post.example"]);
    // It is for this answer alone: what is on file of them stays.
    const { rows } = await harness.owner.query("select email from people where id = $1", [person.id]);
    expect(rows[0].email).not.toBe("odette.other@post.example");
  });

  test("an unhappy customer who changes the rating still waits: one history, the present rating, and nothing for the public", async () => {
    const { person, base } = await asked();
    const page = await new CustomerPage(base).open();
    await page.press({ to: "rate", value: "2" });
    await scene.moveTo(TUESDAY + 3 * HOUR);
    page.type("words", "Please call me.");
    await page.press({ to: "words" });
    await scene.moveTo(TUESDAY + 4 * HOUR);
    await page.press({ to: "aside", value: "change" });
    await page.press({ to: "rate", value: "5" });
    expect(page.text).toContain(say("private.willWrite", { branch: await branchName() }));
    expect(page.text).not.toContain(say("sites.ready"));
    expect(page.html).not.toContain('data-copies="');
    await withClient(scene.scope, async (tx) => {
      const [listed] = (await listConcerns(tx, scene.scope, { open: true })).filter(
        (one) => one.person?.id === person.id,
      );
      expect(listed.concern).toMatchObject({ rating: 5, words: "Please call me.", state: "new", answeredAt: null });
      expect(listed.ratings).toEqual([
        { rating: 2, at: TUESDAY + 2 * HOUR },
        { rating: 5, at: TUESDAY + 4 * HOUR },
      ]);
    });
  });
});
