import { eq } from "drizzle-orm";
import { simpleParser } from "mailparser";
import sharp from "sharp";
import { DAY, HOUR, MINUTE } from "@/core/time/zone";
import { loadSetting, setAwayWord } from "@/features/clients";
import { answerConcern, openConcern, openConcernOf, viewConcern } from "@/features/concerns";
import {
  answerConversation,
  assignConversation,
  conversationCounts,
  conversationOf,
  identify,
  listConversations,
  setConversationAside,
  settle,
  viewConversation,
} from "@/features/conversations";
import { bringSharedTexts, listSharedTexts } from "@/features/conversations/shared";
import { BOXES, readPicture } from "@/features/images";
import { settleStopWish } from "@/features/messaging";
import { receiveTextAt } from "@/features/messaging/incoming";
import { erasePeople, mergePeople } from "@/features/people-admin";
import { rowIn, withAgency, withClient } from "@/platform/database";
import { answers } from "@/schema/answers";
import { newId } from "@/schema/columns";
import { conversations } from "@/schema/conversations";
import { messagePictures } from "@/schema/messagePictures";
import { messages } from "@/schema/messages";
import { people } from "@/schema/people";
import { type Harness, startHarness } from "../../support/harness";
import { sendHook } from "../../support/hooks";
import { Scene, TUESDAY } from "../../support/scene";

/** What customers and the business write to each other: one thread each, from whichever number, answered once. */
describe("conversations", () => {
  let harness: Harness;
  let scene: Scene;
  let number: string;

  beforeAll(async () => {
    harness = await startHarness("conversations");
  });
  beforeEach(async () => {
    scene = new Scene(harness, await harness.addClient());
    harness.town.texts.faults.clear();
    harness.town.mail.faults.clear();
    await scene.moveTo(TUESDAY);
    number = (await inside(loadSetting)).client.textNumber;
  });
  afterAll(() => harness.stop());

  const inside = <T>(work: Parameters<typeof withClient<T>>[1]) => withClient(scene.scope, work);
  const now = () => harness.town.clock.now();

  /** Somebody texts, and everything that follows from it happens. */
  async function text(from: string, words: string, pictures: string[] = [], to = number): Promise<void> {
    await harness.town.texts.write(from, to, words, pictures);
    await harness.town.settled(true);
    await scene.advance(now());
  }
  const toPhone = (phone: string) =>
    harness.town.texts.phone(phone).flatMap(({ direction, body }) => (direction === "out" ? [body] : []));
  const waiting = () =>
    inside((tx) =>
      listConversations(tx, scene.scope, { state: "waiting", assigned: null, branchId: null, before: null }, now()),
    );
  const only = async () => {
    const [row, ...more] = await inside((tx) =>
      tx.select().from(conversations).where(eq(conversations.clientId, scene.client.id)),
    );
    expect(more).toEqual([]);
    return row;
  };
  const answer = (
    id: string,
    words: string,
    change: { channel?: "text" | "email"; requestKey?: string; seenAt?: number } = {},
  ) =>
    inside((tx) =>
      answerConversation(
        tx,
        scene.scope,
        "Maud",
        id,
        { channel: "text", words, requestKey: newId(), seenAt: now(), ...change },
        now(),
      ),
    );

  describe("one thread a person", () => {
    test("what they text and mail stands together with their ask, waits, and is answered by either", async () => {
      const { person } = await scene.finishVisit();
      await scene.advance(TUESDAY + 2 * HOUR);
      await text(person.phone ?? "", "Could Biscuit come in on Friday?");
      const [mail] = harness.town.mail.mailbox(person.email ?? "");
      if (mail) await harness.town.mail.reply(mail, "And by mail too.");
      await harness.town.settled(true);
      const list = await waiting();
      expect(list.map(({ person, conversation }) => [person?.given, conversation.isUnread])).toEqual([
        ["Odette", true],
      ]);
      const conversation = await only();
      const seen = await inside((tx) => viewConversation(tx, scene.scope, conversation.id));
      const said = seen?.exchanged.map(({ message, plan }) => [message.direction, plan ? "ask" : message.body]);
      expect(said?.[0]).toEqual(["out", "ask"]);
      expect(said).toContainEqual(["in", "Could Biscuit come in on Friday?"]);
      expect(await answer(conversation.id, "Yes, at nine?")).toBeNull();
      await scene.advance(now());
      expect(toPhone(person.phone ?? "")).toContain("Yes, at nine?");
      expect(await waiting()).toEqual([]);
      expect(await only()).toMatchObject({ waitingSince: null, isUnread: false, assignedTo: "Maud" });
    });

    test("a mail is answered under its own subject, with a link back to the thread", async () => {
      const { person } = await scene.finishVisit({ phone: null });
      await scene.advance(TUESDAY + 2 * HOUR);
      await harness.town.mail.write(
        person.email ?? "",
        (await inside(loadSetting)).client.senderEmail,
        "My bill",
        "Is it right?",
      );
      await harness.town.settled(true);
      const conversation = await only();
      expect(conversation).toMatchObject({ channel: "email", personId: person.id });
      await answer(conversation.id, "It is, we checked.", { channel: "email" });
      await scene.advance(now());
      const mails = await Promise.all(
        harness.town.mail.mailbox(person.email ?? "").map(({ raw }) => simpleParser(raw)),
      );
      expect(mails.at(-1)?.subject).toBe("Re: My bill");
      const [last] = harness.town.mail.mailbox(person.email ?? "").slice(-1);
      await harness.town.mail.reply(last, "Thank you.");
      await harness.town.settled(true);
      expect((await only()).waitingSince).toBe(now());
    });

    test("what is written while somebody writes is shown first; two people send once", async () => {
      const { person } = await scene.finishVisit();
      await text(person.phone ?? "", "Hello?");
      const { id } = await only();
      const began = now();
      await scene.moveTo(began + MINUTE);
      await text(person.phone ?? "", "Are you there?");
      expect(await answer(id, "Yes.", { seenAt: began })).toMatchObject({
        refused: expect.stringContaining("written again"),
      });
      const key = newId();
      expect(await answer(id, "Yes.", { requestKey: key })).toBeNull();
      expect(await answer(id, "Yes.", { requestKey: key })).toBeNull();
      await scene.moveTo(began + 2 * MINUTE);
      const other = await answer(id, "We are.", { seenAt: began + MINUTE - 1 });
      expect(other).toMatchObject({ refused: expect.stringContaining("Maud has just answered") });
      await scene.advance(now());
      expect(toPhone(person.phone ?? "").filter((body) => body === "Yes.")).toHaveLength(1);
    });

    test("ten texts at once begin one conversation, and each is kept once", async () => {
      const person = await scene.addPerson();
      const texts = Array.from({ length: 10 }, (_, index) => ({
        id: `t${index}`,
        from: person.phone ?? "",
        to: number,
        body: `part ${index}`,
        pictures: [],
      }));
      await Promise.all([...texts, ...texts].map((one) => receiveTextAt(scene.client.id, one)));
      const conversation = await only();
      const seen = await inside((tx) => viewConversation(tx, scene.scope, conversation.id));
      expect(seen?.exchanged.filter(({ message }) => message.direction === "in")).toHaveLength(10);
    });

    test("what an open concern is about stands with it, and an answer there ends the waiting", async () => {
      const { person, visit } = await scene.finishVisit();
      const ask = await scene.askOf(person.id);
      const concernId = await inside(async (tx) => {
        const { branchId } = ask;
        const told = { personId: person.id, branchId, rating: 2, words: "Too long." };
        const [{ id: answerId }] = await tx
          .insert(answers)
          .values({ ...told, clientId: scene.client.id, askId: ask.id, givenAt: now() })
          .returning();
        await openConcern(tx, scene.scope, { ...told, answerId, visitId: visit.id }, now());
        return (await openConcernOf(tx, scene.scope, [person.id]))?.id ?? "";
      });
      await text(person.phone ?? "", "I am still waiting.");
      expect(await waiting()).toHaveLength(1);
      await scene.moveTo(now() + MINUTE);
      const letter = { channel: "text" as const, words: "We are sorry.", requestKey: newId() };
      expect(await inside((tx) => answerConcern(tx, scene.scope, "Maud", concernId, letter, now()))).toBeNull();
      expect(await waiting()).toEqual([]);
      const viewed = await inside((tx) => viewConcern(tx, scene.scope, concernId));
      expect(viewed?.letters.map(({ message }) => message.body)).toEqual(["I am still waiting.", "We are sorry."]);
    });
  });

  describe("unknown numbers", () => {
    const PHONE = "+447700900777";

    test("are a thread of their own, answered, and become somebody's with all that was written", async () => {
      await text(PHONE, "Do you open on Sundays?");
      const { id, personId } = await only();
      expect(personId).toBeNull();
      await answer(id, "We don't, sorry.");
      await scene.advance(now());
      expect(toPhone(PHONE)).toContain("We don't, sorry.");
      const person = await scene.addPerson({ phone: null });
      expect(await inside((tx) => identify(tx, scene.scope, "Maud", id, person.id, now()))).toBeNull();
      expect((await only()).personId).toBe(person.id);
      expect((await scene.messagesOf(person.id)).map(({ direction }) => direction)).toEqual(["in", "out"]);
    });

    test("become theirs by themselves once the number is known", async () => {
      await text(PHONE, "Do you open on Sundays?");
      const before = await only();
      const person = await scene.addPerson({ phone: { number: PHONE, canText: true, country: "GB" } });
      await text(PHONE, "Thanks.");
      expect(await only()).toMatchObject({ id: before.id, personId: person.id });
    });

    test("get no text after they said stop, nor once they are known", async () => {
      await text(PHONE, "Do you open on Sundays?");
      await text(PHONE, "stop");
      const { id } = await only();
      expect(await answer(id, "We don't.")).toMatchObject({ refused: expect.stringContaining("opted out of texts") });
      const person = await scene.addPerson({ phone: { number: PHONE, canText: true, country: "GB" } });
      await text(PHONE, "One more thing");
      const [known] = await inside((tx) => tx.select().from(people).where(eq(people.id, person.id)));
      expect(known.textOptedOutAt).not.toBeNull();
      expect(await answer(id, "Yes?")).toMatchObject({ refused: expect.stringContaining("opted out") });
    });

    test("who may want no more messages is asked about: someone of the team says so, once, and it is confirmed", async () => {
      const words = "How can I unsubscribe? And do you open on Sundays?";
      const { person } = await scene.finishVisit();
      const from = person.phone ?? "";
      await text(from, words);
      const doubtful = await only();
      expect(doubtful).toMatchObject({ personId: person.id, mayStopAt: expect.any(Number) });
      const settle = (stops: boolean) =>
        inside((tx) => settleStopWish(tx, scene.scope, "Maud", doubtful.id, stops, now()));
      // Of two at once one settles it.
      const both = await Promise.all([settle(true), settle(true)]);
      expect(both.filter((refused) => refused === null)).toHaveLength(1);
      await scene.advance(now() + 60_000);
      const [stopped] = await inside((tx) => tx.select().from(people).where(eq(people.id, person.id)));
      expect(stopped).toMatchObject({
        textOptedOutAt: expect.any(Number),
        textOptedOutHow: { code: "wrote back", word: words.slice(0, 40) },
      });
      expect(await only()).toMatchObject({ mayStopAt: null, waitingSince: null });
      expect(toPhone(from).filter((body) => body.includes("any more texts from us"))).toHaveLength(1);
    });

    test("whom the team lets go on is asked about again only when they write so again", async () => {
      await text(PHONE, "Is this the wrong number for Old Mill?");
      const { id } = await only();
      expect(await inside((tx) => settleStopWish(tx, scene.scope, "Maud", id, false, now()))).toBeNull();
      expect(await only()).toMatchObject({ mayStopAt: null, stoppedAt: null, waitingSince: expect.any(Number) });
      await text(PHONE, "And on Sundays?");
      expect(await only()).toMatchObject({ mayStopAt: null });
      await text(PHONE, "Please leave me alone, all of you there");
      expect(await only()).toMatchObject({ mayStopAt: expect.any(Number) });
    });

    test("a letter to nobody's number that comes back is marked so", async () => {
      await text(PHONE, "Do you open on Sundays?");
      const { id } = await only();
      harness.town.texts.faults.add({ kind: "late bounce", match: PHONE });
      await answer(id, "We don't.");
      await scene.advance(now());
      const [letter] = await inside((tx) => tx.select().from(messages).where(eq(messages.writtenBy, "Maud")));
      expect(letter.state).toBe("bounced");
    });
  });

  describe("keywords", () => {
    test.each([
      ["BAJA", "ya no le enviaremos SMS"],
      ["stop", "get any more texts"],
      ["Bitte abmelden", "keine SMS mehr"],
    ])("%s ends texts, and is confirmed once in its language", async (word, confirmed) => {
      const { person } = await scene.finishVisit();
      await text(person.phone ?? "", word);
      await text(person.phone ?? "", word);
      expect(toPhone(person.phone ?? "").filter((body) => body.includes(confirmed))).toHaveLength(1);
      expect((await scene.askOf(person.id)).stop).toBe("opted out");
      expect(await waiting()).toEqual([]);
      await text(person.phone ?? "", "START");
      const [known] = await inside((tx) => tx.select().from(people).where(eq(people.id, person.id)));
      expect(known.textOptedOutAt).toBeNull();
    });

    test("help is answered by itself, once an hour, and stops nothing", async () => {
      const { person } = await scene.finishVisit();
      const before = toPhone(person.phone ?? "").length;
      await text(person.phone ?? "", "HELP");
      await text(person.phone ?? "", "help");
      const said = toPhone(person.phone ?? "").slice(before);
      expect(said).toHaveLength(1);
      expect(said[0]).toContain((await inside(loadSetting)).client.senderEmail);
      expect((await scene.askOf(person.id)).stop).toBeNull();
    });
  });

  describe("outside the hours", () => {
    const EVENING = TUESDAY + 7 * HOUR;

    test("they are told once that nobody is there, and again the next evening", async () => {
      const person = await scene.addPerson();
      await scene.moveTo(EVENING);
      await text(person.phone ?? "", "Hello?");
      await text(person.phone ?? "", "Anybody?");
      const said = () => toPhone(person.phone ?? "").filter((body) => body.includes("We're closed right now"));
      expect(said()).toHaveLength(1);
      expect(said()[0]).toContain("Wednesday");
      await scene.moveTo(TUESDAY + DAY);
      await text(person.phone ?? "", "Hello again.");
      expect(said()).toHaveLength(1);
      await scene.moveTo(EVENING + DAY);
      await text(person.phone ?? "", "Still there?");
      expect(said()).toHaveLength(2);
    });

    test("not hours later, where the sender stood still meanwhile", async () => {
      const person = await scene.addPerson();
      await scene.moveTo(EVENING);
      await harness.town.texts.write(person.phone ?? "", number, "Hello?");
      await harness.town.settled(true);
      await scene.advance(EVENING + 2 * HOUR);
      expect(toPhone(person.phone ?? "")).toEqual([]);
      const [word] = await inside((tx) => tx.select().from(messages).where(eq(messages.direction, "out")));
      expect(word).toMatchObject({ state: "stopped", reason: { code: "automatic", what: "away" } });
    });

    test("in the business's own words, or not at all", async () => {
      const person = await scene.addPerson();
      await inside((tx) =>
        setAwayWord(tx, scene.scope, "Maud", { isOn: true, words: { en: "Back {opens}. {business}" } }, now()),
      );
      await scene.moveTo(EVENING);
      await text(person.phone ?? "", "Hello?");
      expect(toPhone(person.phone ?? "").at(-1)).toMatch(/^Back Wednesday/);
      await inside((tx) => setAwayWord(tx, scene.scope, "Maud", { isOn: false, words: {} }, now()));
      await scene.moveTo(EVENING + DAY);
      await text(person.phone ?? "", "Hello?");
      expect(toPhone(person.phone ?? "")).toHaveLength(1);
    });

    test("a mail program that answers by itself waits for nobody, stops nothing, and is told nothing", async () => {
      const { person } = await scene.finishVisit({ phone: null });
      await scene.advance(TUESDAY + 2 * HOUR);
      await scene.moveTo(EVENING);
      const [mail] = harness.town.mail.mailbox(person.email ?? "");
      await harness.town.mail.reply(mail, "I am away until Monday.", [], true);
      await harness.town.settled(true);
      await scene.advance(now());
      expect(await waiting()).toEqual([]);
      expect((await scene.askOf(person.id)).stop).toBeNull();
      expect(harness.town.mail.mailbox(person.email ?? "")).toHaveLength(1);
    });
  });

  describe("who sees to it, and when", () => {
    test("set aside until a time, back then, or when they write again", async () => {
      const person = await scene.addPerson();
      await text(person.phone ?? "", "When suits you?");
      const { id } = await only();
      await inside((tx) => setConversationAside(tx, scene.scope, id, now() + HOUR));
      expect(await waiting()).toEqual([]);
      expect(await inside((tx) => rowIn(tx, conversationCounts(scene.scope, now())))).toMatchObject({
        waiting: 0,
        aside: 1,
      });
      await scene.moveTo(now() + HOUR);
      expect(await waiting()).toHaveLength(1);
      await inside((tx) => setConversationAside(tx, scene.scope, id, now() + DAY));
      await text(person.phone ?? "", "It is urgent.");
      expect(await waiting()).toHaveLength(1);
      await inside((tx) => settle(tx, scene.scope, "Maud", id, now()));
      expect(await waiting()).toEqual([]);
    });

    test("only whoever has a seat can see to it", async () => {
      const person = await scene.addPerson();
      await text(person.phone ?? "", "When suits you?");
      const { id } = await only();
      const given = await inside((tx) => assignConversation(tx, scene.scope, id, "nobody-here"));
      expect(given).toMatchObject({ refused: expect.stringContaining("no longer has access") });
    });
  });

  describe("pictures", () => {
    const bytes = () =>
      sharp({ create: { width: 40, height: 30, channels: 3, background: "#c33" } })
        .png()
        .toBuffer();
    const kept = () => inside((tx) => tx.select().from(messagePictures).orderBy(messagePictures.position));

    test("are fetched and drawn anew; what is none, too large or gone is refused and said", async () => {
      const { album } = harness.town.texts;
      const person = await scene.addPerson();
      await text(person.phone ?? "", "Look", [
        album.keep("image/png", await bytes()),
        album.keep("image/png", new TextEncoder().encode("<script>alert(1)</script>")),
        album.keep("image/png", new Uint8Array(30_000_000)),
        `${new URL(album.keep("image/png", await bytes())).origin}/pictures/none`,
      ]);
      expect((await kept()).map(({ type, refusal, address }) => [type, refusal, address])).toEqual([
        [expect.stringMatching(/^image\//), null, null],
        [null, "not a picture", null],
        [null, "too large", null],
        [null, "not there", null],
      ]);
    });

    test("are not refused because many others are being read just then: they are fetched later", async () => {
      const person = await scene.addPerson();
      const large = await sharp({ create: { width: 3000, height: 3000, channels: 3, background: "#c33" } })
        .png()
        .toBuffer();
      const { box, as } = BOXES.photo;
      const others = Promise.allSettled(
        Array.from({ length: 60 }, () => readPicture(scene.scope.clientId, large, box, as)),
      );
      await text(person.phone ?? "", "Look", [harness.town.texts.album.keep("image/png", await bytes())]);
      expect(await kept()).toMatchObject([{ type: null, refusal: null, attempts: 1 }]);
      expect((await others).filter(({ status }) => status === "fulfilled").length).toBeGreaterThan(40);
      await scene.advance(TUESDAY + 2 * MINUTE);
      expect(await kept()).toMatchObject([{ type: "image/jpeg", refusal: null }]);
    });

    test("are fetched from nowhere inside, and no more than six of a message", async () => {
      const person = await scene.addPerson();
      await text(
        person.phone ?? "",
        "Look",
        Array.from({ length: 9 }, () => "http://127.0.0.1:9/secret.png"),
      );
      const rows = await kept();
      expect(rows).toHaveLength(6);
      expect(rows.every(({ type }) => type === null)).toBe(true);
    });

    test("go with their person", async () => {
      const person = await scene.addPerson();
      await text(person.phone ?? "", "Look", [harness.town.texts.album.keep("image/png", await bytes())]);
      await inside((tx) => erasePeople(tx, scene.scope, [person.id], "Maud", now()));
      expect(await kept()).toEqual([]);
      expect(await inside((tx) => tx.select().from(conversations))).toEqual([]);
    });
  });

  test("two records made one have their letters together", async () => {
    const [a, b] = [await scene.addPerson(), await scene.addPerson({ given: "Odete" })];
    await text(a.phone ?? "", "From one.");
    await text(b.phone ?? "", "From the other.");
    await inside((tx) => mergePeople(tx, scene.scope, a.id, b.id, "Maud", now()));
    const conversation = await inside((tx) => conversationOf(tx, scene.scope, a.id));
    const seen = await inside((tx) => viewConversation(tx, scene.scope, conversation?.id ?? ""));
    expect(seen?.exchanged.map(({ message }) => message.body).sort()).toEqual(["From one.", "From the other."]);
    await answer(conversation?.id ?? "", "To both.");
    expect(await waiting()).toEqual([]);
  });

  describe("a number that several clients share", () => {
    let other: Scene;
    const PHONE = "+447700900778";
    const agency = async () => ({ agencyId: (await inside(loadSetting)).client.agencyId, user: { id: "demo" } });
    const at = (which: Scene) => withClient(which.scope, (tx) => tx.select().from(conversations));

    beforeEach(async () => {
      other = new Scene(harness, await harness.addClient());
      await harness.owner.query("update clients set text_number = $1 where id = $2", [number, other.client.id]);
      await harness.owner.query("delete from shared_texts");
    });
    afterEach(async () => {
      await harness.owner.query("update clients set text_number = $1 where id = $2", [
        `+4411349${Math.floor(Math.random() * 1e6)}`,
        other.client.id,
      ]);
    });

    test("goes to whoever wrote last", async () => {
      const values = { number: PHONE, canText: true, country: "GB" };
      await scene.addPerson({ phone: values });
      const { person } = await other.finishVisit({ phone: values });
      await other.advance(TUESDAY + 2 * HOUR);
      expect(person.phone).toBe(PHONE);
      await text(PHONE, "Thank you!");
      expect([(await at(scene)).length, (await at(other)).length]).toEqual([0, 1]);
    });

    test("asks where nobody can tell, and brings what waited to the client that is named", async () => {
      await text(PHONE, "Do you open on Sundays?");
      await scene.moveTo(now() + MINUTE);
      await text(PHONE, "Hello?");
      await scene.moveTo(now() + HOUR);
      expect(toPhone(PHONE).filter((body) => body.includes("Several businesses"))).toHaveLength(1);
      expect([(await at(scene)).length, (await at(other)).length]).toEqual([0, 0]);
      await text(PHONE, "2");
      const [mine, theirs] = [await at(scene), await at(other)];
      expect(mine.length + theirs.length).toBe(1);
      const [whose, row] = mine.length > 0 ? [scene, mine[0]] : [other, theirs[0]];
      const seen = await withClient(whose.scope, (tx) => viewConversation(tx, whose.scope, row.id));
      expect(seen?.exchanged.map(({ message }) => message.body)).toEqual(["Do you open on Sundays?", "Hello?"]);
      expect(await withAgency(await agency(), async (tx) => listSharedTexts(tx, await agency()))).toEqual([]);
    });

    test("is brought to a client by somebody of the agency, once", async () => {
      await text(PHONE, "Do you open on Sundays?");
      const scope = await agency();
      const [waits] = await withAgency(scope, (tx) => listSharedTexts(tx, scope));
      const bring = () => bringSharedTexts(scope, waits.id, (one) => receiveTextAt(other.client.id, one));
      expect((await Promise.all([bring(), bring()])).sort()).toEqual([false, true]);
      expect((await at(other)).length).toBe(1);
    });

    test("stop is said to all of them", async () => {
      const values = { number: PHONE, canText: true, country: "GB" };
      await scene.addPerson({ phone: values });
      await other.addPerson({ phone: values });
      await text(PHONE, "STOP");
      for (const each of [scene, other]) {
        const [person] = await withClient(each.scope, (tx) => tx.select().from(people).where(eq(people.phone, PHONE)));
        expect(person.textOptedOutAt).not.toBeNull();
      }
    });

    test("another agency cannot have it", async () => {
      const foreign = newId();
      await harness.owner.query("insert into agencies (id, name, slug) values ($1, 'Other', $2)", [foreign, foreign]);
      const taken = harness.owner.query("update clients set agency_id = $1 where id = $2", [foreign, other.client.id]);
      await expect(taken).rejects.toMatchObject({ code: "23P01" });
    });
  });

  test("nonsense from a gateway is refused, and nothing is kept", async () => {
    for (const data of [
      { id: "x", from: "y", to: number, body: "z" },
      { id: "x", from: "+447700900779", to: number, body: "z", pictures: ["javascript:alert(1)"] },
      { id: "x", from: "+447700900779", to: number, body: "z".repeat(3000) },
    ])
      expect((await sendHook(harness, "texts", { type: "text.received", data })).status).toBe(422);
    expect(await waiting()).toEqual([]);
  });
});
