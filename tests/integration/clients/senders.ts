import { readFileSync } from "node:fs";
import { sql } from "drizzle-orm";
import { simpleParser } from "mailparser";
import { askForSender, confirmSender, loadSetting, mayMail, readSenderLink, senderOf } from "@/features/clients";
import { rowsOf, withClient, workFor } from "@/platform/database";
import { mayTextFrom } from "@/platform/texts";
import { type Harness, startHarness, type TestClient } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/** Addresses that emails go out from: a claim counts for nobody else until its owner confirmed it. */
describe("senders", () => {
  let harness: Harness;
  let ours: TestClient;
  let rival: TestClient;
  const look = { id: "00000000-0000-4000-8000-000000000001", name: "Larkspur", colour: "#6A2156" };

  beforeAll(async () => {
    harness = await startHarness("senders");
    ours = await harness.addClient({ senderEmail: "hello@heron.example" });
  });
  afterAll(() => harness.stop());

  const from = async (client: TestClient) => senderOf(await withClient(workFor(client.id), loadSetting));

  /** The link in the last mail to an address. */
  async function linkTo(address: string): Promise<string> {
    const { text } = await lastMail(address);
    const token = /\/sender\/([\w-]+)/.exec(text ?? "")?.[1];
    if (!token) throw new Error(`No link went to ${address}.`);
    return token;
  }

  const lastMail = (address: string) => simpleParser(harness.town.mail.mailbox(address).at(-1)?.raw ?? "");

  async function mailboxOf(address: string): Promise<string | null> {
    const [row] = await rowsOf<{ id: string | null }>(sql`select estima_client_by_mailbox(${address}) as id`);
    return row.id;
  }

  test("a rival that claims our address takes nothing of ours, and sends from its agency's address", async () => {
    rival = await harness.addClient({ senderEmail: "Hello@heron.example", senderConfirmedAt: null });
    expect(await mailboxOf("hello@heron.example")).toBe(ours.id);
    expect(await from(ours)).toEqual({ address: "hello@heron.example", replyTo: null });
    expect(await from(rival)).toEqual({ address: "estima@127.0.0.1", replyTo: "Hello@heron.example" });
    // Even with the link, it is ours: one address, one client.
    expect(await askForSender("client", rival.id, "Eve", look)).toBe("mailed");
    const claim = await readSenderLink(await linkTo("hello@heron.example"));
    expect(claim).toMatchObject({ kind: "client", id: rival.id, isConfirmed: false });
    if (claim) expect(await confirmSender(claim)).toBe("taken");
    expect(await mailboxOf("hello@heron.example")).toBe(ours.id);
  });

  test("a link confirms the address it was mailed to: not another one, not too late, not when it is changed a little", async () => {
    const client = await harness.addClient({ senderEmail: "post@quay.example", senderConfirmedAt: null });
    expect(await mailboxOf("post@quay.example")).toBeNull();
    expect(await askForSender("client", client.id, "Maud", look)).toBe("mailed");
    const link = await linkTo("post@quay.example");
    for (const other of [
      "",
      "x",
      `${link}x`,
      link.slice(0, -1),
      link.replace(client.id, ours.id),
      link.replace("c-", "a-"),
    ])
      expect([other, await readSenderLink(other)]).toEqual([other, null]);
    await harness.owner.query("update clients set sender_email = 'other@quay.example' where id = $1", [client.id]);
    expect(await readSenderLink(link)).toBeNull();
    await harness.owner.query("update clients set sender_email = 'post@quay.example' where id = $1", [client.id]);
    const claim = await readSenderLink(link);
    if (!claim) throw new Error("The link does not hold.");
    expect(await confirmSender(claim)).toBe("confirmed");
    expect(await from(client)).toEqual({ address: "post@quay.example", replyTo: null });
    expect(await mailboxOf("post@quay.example")).toBe(client.id);
    // Again is no harm.
    const again = await readSenderLink(link);
    expect(again?.isConfirmed).toBe(true);
    expect(await askForSender("client", client.id, "Maud", look)).toBe("confirmed");
  });

  test("until then customers are written to in the client's name from the agency's confirmed address, and can answer", async () => {
    const client = await harness.addClient({
      senderEmail: "new@pier.example",
      senderConfirmedAt: null,
      name: "Pier Vets",
    });
    await harness.owner.query(
      "update agencies set sender_email = 'post@agency.example', sender_confirmed_at = now() where id = (select agency_id from clients where id = $1)",
      [client.id],
    );
    expect(await from(client)).toEqual({ address: "post@agency.example", replyTo: "new@pier.example" });
    const scene = new Scene(harness, client);
    await scene.moveTo(TUESDAY);
    await scene.finishVisit({ email: "odette@post.example", phone: null });
    await scene.advance(TUESDAY + 48 * 3_600_000);
    const mail = await lastMail("odette@post.example");
    expect(mail.from?.text).toBe('"Pier Vets" <post@agency.example>');
    expect(mail.replyTo?.text).toMatch(/^post\+.+@agency\.example, new@pier\.example$/);
    await harness.owner.query("update agencies set sender_confirmed_at = null");
  });

  test("what was there before counts as confirmed, of several who claimed one address the oldest", async () => {
    const statement = readFileSync("db/migrations/0049_senders.sql", "utf8")
      .split("--> statement-breakpoint")
      .find((part) => part.includes('UPDATE "clients"'));
    const [first, second] = [
      await harness.addClient({ senderEmail: "same@x.example", senderConfirmedAt: null }),
      await harness.addClient({ senderEmail: "SAME@x.example", senderConfirmedAt: null }),
    ];
    await harness.owner.query("update clients set sender_confirmed_at = null");
    await harness.owner.query(statement ?? "");
    const { rows } = await harness.owner.query(
      "select id, sender_confirmed_at is not null as is from clients where id = any($1::uuid[])",
      [[first.id, second.id, ours.id, rival.id]],
    );
    const confirmed = rows.filter((row) => row.is).map(({ id }) => id);
    expect(confirmed.sort()).toEqual([first.id, ours.id].sort());
  });

  test("few mails go to one address, and one agency sends few", async () => {
    const agency = "00000000-0000-4000-8000-000000000002";
    const told = [];
    for (let time = 0; time < 6; time++) told.push(await mayMail(agency, "victim@post.example"));
    expect(told).toEqual([true, true, true, true, false, false]);
    let sent = 0;
    for (let time = 0; time < 60; time++) if (await mayMail(agency, `someone${time}@post.example`)) sent += 1;
    expect(sent).toBeLessThanOrEqual(40);
  });

  test("the gateway says from which numbers texts can be sent", async () => {
    harness.town.texts.numbersOfOthers.add("+447700900555");
    expect(await mayTextFrom("+447700900554")).toBe("yes");
    expect(await mayTextFrom("+447700900555")).toBe("no");
    expect(await mayTextFrom("nonsense")).toBe("no");
  });
});
