import { Webhook } from "standardwebhooks";
import { HOUR, MINUTE } from "@/core/time/zone";
import { optBackIn, optOutByLink } from "@/features/messaging";
import { newId } from "@/schema/columns";
import { type Harness, startHarness } from "../../support/harness";
import { HOOK_SECRETS, sendHook } from "../../support/hooks";
import { Scene, TUESDAY } from "../../support/scene";

/** What gateways report and customers write: signed, in any order, more than once, about anything. */
describe("receipts", () => {
  let harness: Harness;
  let scene: Scene;
  let theirs: Scene;

  beforeAll(async () => {
    harness = await startHarness("receipts");
    scene = new Scene(harness, await harness.addClient());
    theirs = new Scene(harness, await harness.addClient());
  });
  afterAll(() => harness.stop());
  beforeEach(() => scene.moveTo(TUESDAY));

  const text = (from: string, body: string, id = newId()) => ({
    type: "text.received",
    data: { id, from, to: "+447700900990", body },
  });

  describe("signatures", () => {
    const event = { type: "text.delivered", data: { reference: newId() } };

    test("a good one is taken, and says that it knew nothing of this message", async () => {
      expect(await sendHook(harness, "texts", event)).toEqual({ status: 200, body: { kept: false } });
    });

    test.each([
      ["another secret", { secret: "something else" }],
      ["the mail hook's secret", { secret: HOOK_SECRETS.mail }],
      ["ten minutes ago", { at: new Date(Date.now() - 600_000) }],
      ["ten minutes ahead", { at: new Date(Date.now() + 600_000) }],
    ])("refused: %s", async (_name, change) => {
      expect((await sendHook(harness, "texts", event, change)).status).toBe(401);
    });

    test("a body changed on its way is refused", async () => {
      const response = await fetch(`${harness.env.APP_URL}/hooks/texts`, {
        method: "POST",
        body: JSON.stringify(event),
        headers: {
          "webhook-id": "msg_1",
          "webhook-timestamp": String(Math.floor(Date.now() / 1000)),
          "webhook-signature": new Webhook(Buffer.from(HOOK_SECRETS.texts).toString("base64")).sign(
            "msg_1",
            new Date(),
            "{}",
          ),
        },
      });
      expect(response.status).toBe(401);
    });

    test.each([
      ["not JSON", "{", 400],
      ["nothing of ours", JSON.stringify({ type: "text.eaten", data: {} }), 422],
      ["a reference that is none", JSON.stringify({ type: "text.delivered", data: { reference: "x" } }), 422],
      ["a list", "[]", 422],
      [
        "a date that is none",
        JSON.stringify({ type: "text.delivered", data: { reference: newId(), at: "yesterday" } }),
        422,
      ],
    ])("well signed, but %s", async (_name, body, status) => {
      const answer = await sendHook(harness, "texts", null, { body });
      expect(answer.status).toBe(status);
      expect(answer.body.detail).toEqual(expect.any(String));
    });
  });

  describe("receipts", () => {
    async function sentText() {
      const { person } = await scene.finishVisit();
      harness.town.texts.faults.add({ kind: "drop receipt", match: person.phone ?? "" });
      await scene.advance(TUESDAY + 2 * HOUR);
      const [message] = await scene.messagesOf(person.id);
      expect(message.state).toBe("sent");
      return { person, message };
    }

    test("delivered twice is delivered once, at the time the gateway gave", async () => {
      const { person, message } = await sentText();
      const at = new Date(TUESDAY + 2 * HOUR + MINUTE).toISOString();
      for (let turn = 0; turn < 2; turn++)
        expect(
          (await sendHook(harness, "texts", { type: "text.delivered", data: { reference: message.id, at } })).body,
        ).toEqual({ kept: true });
      const [after] = await scene.messagesOf(person.id);
      expect(after).toMatchObject({ state: "delivered", deliveredAt: TUESDAY + 2 * HOUR + MINUTE });
    });

    test("a bounce that comes twice takes the step back once, and the mail goes once", async () => {
      const { person, message } = await sentText();
      for (let turn = 0; turn < 2; turn++)
        await sendHook(harness, "texts", {
          type: "text.undelivered",
          data: { reference: message.id, reason: "No such phone" },
        });
      await scene.advance(TUESDAY + 2 * HOUR + MINUTE);
      expect(harness.town.mail.mailbox(person.email ?? "")).toHaveLength(1);
      expect((await scene.messagesOf(person.id)).map(({ state, channel, step }) => [state, channel, step])).toEqual([
        ["bounced", "text", 0],
        ["delivered", "email", 0],
        ["planned", "email", 1],
      ]);
    });

    test("a late 'delivered' does not undo a bounce", async () => {
      const { person, message } = await sentText();
      await sendHook(harness, "texts", { type: "text.undelivered", data: { reference: message.id } });
      await sendHook(harness, "texts", { type: "text.delivered", data: { reference: message.id } });
      expect((await scene.messagesOf(person.id))[0].state).toBe("bounced");
    });

    test("a bounce after the ask was answered changes nothing of the ask", async () => {
      const { person, message } = await sentText();
      await fetch(`${harness.env.APP_URL}/a/${(await scene.askOf(person.id)).token}/rate`, {
        method: "POST",
        body: "rating=5",
        redirect: "manual",
      });
      await sendHook(harness, "texts", { type: "text.undelivered", data: { reference: message.id } });
      expect(await scene.askOf(person.id)).toMatchObject({ stop: "answered", sentCount: 1 });
      await scene.advance(TUESDAY + 5 * 24 * HOUR);
      expect(harness.town.mail.mailbox(person.email ?? "")).toHaveLength(0);
    });
  });

  describe("incoming texts", () => {
    test("the same text delivered twice is kept once", async () => {
      const { person } = await scene.finishVisit();
      const event = text(person.phone ?? "", "All well, thank you");
      for (let turn = 0; turn < 2; turn++) expect((await sendHook(harness, "texts", event)).status).toBe(200);
      expect((await scene.messagesOf(person.id)).filter(({ direction }) => direction === "in")).toHaveLength(1);
    });

    test("STOP from a phone that a household shares stops all of them, and START lets them be asked again", async () => {
      const shared = {
        number: `+447700900${String(900 + Math.floor(Math.random() * 50))}`,
        canText: true,
        country: "GB",
      };
      const one = await scene.finishVisit({ phone: shared, email: null, given: "Ines" });
      // The same phone under another name is the same person unless the household is told apart by hand.
      await harness.owner.query(
        "insert into people (id, client_id, given, family, phone, phone_takes_texts, created_at) values ($1, $2, 'Bram', 'Pike', $3, true, now())",
        [newId(), scene.client.id, shared.number],
      );
      await sendHook(harness, "texts", text(shared.number, "stop"));
      const out = async () =>
        (
          await harness.owner.query(
            "select count(*)::int as n from people where phone = $1 and text_opted_out_at is not null",
            [shared.number],
          )
        ).rows[0].n;
      expect(await out()).toBe(2);
      expect((await scene.askOf(one.person.id)).stop).toBe("opted out");
      await sendHook(harness, "texts", text(shared.number, "START"));
      expect(await out()).toBe(0);
    });

    test("the link ends every way of writing to them, also where there is only a phone; START begins all of it again", async () => {
      const phone = { number: "+447700900961", canText: true, country: "GB" };
      const stateOf = async (id: string) =>
        (
          await harness.owner.query(
            "select email_opted_out_at is not null as email, text_opted_out_at is not null as text from people where id = $1",
            [id],
          )
        ).rows[0];
      const onlyPhone = await scene.finishVisit({ phone, email: null, given: "Wren", family: "Oduya" });
      const { token } = await scene.askOf(onlyPhone.person.id);
      expect(await optOutByLink(token)).toBe(true);
      expect(await stateOf(onlyPhone.person.id)).toEqual({ email: false, text: true });
      expect((await scene.askOf(onlyPhone.person.id)).stop).toBe("opted out");
      // Twice is once, and "that was a mistake" takes it back.
      expect(await optOutByLink(token)).toBe(true);
      expect(await optBackIn(token)).toBe(true);
      expect(await stateOf(onlyPhone.person.id)).toEqual({ email: false, text: false });
      const other = { number: "+447700900962", canText: true, country: "GB" };
      const both = await scene.finishVisit({ phone: other, email: "bram@post.example", given: "Bram", family: "Pike" });
      expect(await optOutByLink((await scene.askOf(both.person.id)).token)).toBe(true);
      expect(await stateOf(both.person.id)).toEqual({ email: true, text: true });
      await sendHook(harness, "texts", text(other.number, "START"));
      expect(await stateOf(both.person.id)).toEqual({ email: false, text: false });
      // Whoever wrote STOP themselves is not let back in by a link's "mistake".
      await sendHook(harness, "texts", text(other.number, "STOP"));
      expect(await optBackIn((await scene.askOf(both.person.id)).token)).toBe(false);
      expect(await stateOf(both.person.id)).toEqual({ email: false, text: true });
    });

    test("the same phone at another client stays as it was there", async () => {
      const phone = { number: "+447700900960", canText: true, country: "GB" };
      const ours = await scene.finishVisit({ phone });
      const other = await theirs.finishVisit({ phone });
      await sendHook(harness, "texts", text(phone.number, "STOP"));
      expect((await scene.askOf(ours.person.id)).stop).toBe("opted out");
      expect((await theirs.askOf(other.person.id)).stop).toBeNull();
    });

    test("from a phone nobody has it is kept as nobody’s; to a number that is nobody’s nothing is kept, and nothing breaks", async () => {
      expect((await sendHook(harness, "texts", text("+447700900001", "hello"))).body).toEqual({ kept: true });
      expect(
        (
          await sendHook(harness, "texts", {
            type: "text.received",
            data: { id: newId(), from: "+447700900001", to: "+4400", body: "hello" },
          })
        ).body,
      ).toEqual({ kept: false });
      expect((await sendHook(harness, "texts", text("+447700900001", "odd \u0000 letter"))).status).toBe(200);
    });
  });

  describe("incoming mail", () => {
    test("a reply with a forged or missing tag is not believed", async () => {
      const { person } = await scene.finishVisit({ phone: null });
      await scene.advance(TUESDAY + 2 * HOUR);
      const [message] = await scene.messagesOf(person.id);
      for (const to of [
        `hello+${message.id}.aaaaaaaaaaaaaaaa@client0.example`,
        `hello+${newId()}.aaaaaaaaaaaaaaaa@client0.example`,
      ]) {
        expect(
          (
            await sendHook(harness, "mail", {
              type: "mail.received",
              data: { id: newId(), from: "evil@post.example", to, subject: "Re", text: "Stop asking" },
            })
          ).body,
        ).toEqual({
          kept: false,
        });
      }
      expect((await scene.askOf(person.id)).stop).toBeNull();
    });

    test("a true reply stops the ask and stands in the story", async () => {
      const { person } = await scene.finishVisit({ phone: null });
      await scene.advance(TUESDAY + 2 * HOUR);
      const [mail] = harness.town.mail.mailbox(person.email ?? "");
      await harness.town.mail.reply(mail, "Everything was fine.");
      await harness.town.settled(true);
      expect((await scene.askOf(person.id)).stop).toBe("wrote back");
      expect(
        (await scene.messagesOf(person.id)).map(({ direction, body }) => [direction, body?.slice(0, 20)]),
      ).toContainEqual(["in", "Everything was fine."]);
    });
  });
});
