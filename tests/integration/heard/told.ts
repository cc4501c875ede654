import { eq } from "drizzle-orm";
import { simpleParser } from "mailparser";
import { startChoice, type ToldChoice } from "@/core/notices/choices";
import { HOUR, MINUTE } from "@/core/time/zone";
import { loadSetting } from "@/features/clients";
import { answerConcern, openConcern, takeConcern } from "@/features/concerns";
import { keepChoice, recentTellings, staffOf } from "@/features/notices";
import { claimTellings, deliverTellings } from "@/features/notices/tell";
import { collect } from "@/features/reviews";
import { draftForApproval } from "@/features/reviews/replies";
import { withClient } from "@/platform/database";
import { answers } from "@/schema/answers";
import { newId } from "@/schema/columns";
import { concerns } from "@/schema/concerns";
import { reviews } from "@/schema/reviews";
import { tellings } from "@/schema/tellings";
import { tellDue } from "@/worker/due";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/** Who is told of what: each once, in their time, by their ways, and nobody of what is settled. */
describe("told", () => {
  let harness: Harness;
  let scene: Scene;
  let people: Record<"manager" | "desk" | "agency", { id: string; email: string }>;

  beforeAll(async () => {
    harness = await startHarness("told");
  });
  beforeEach(async () => {
    scene = new Scene(harness, await harness.addClient());
    harness.town.mail.faults.clear();
    await scene.moveTo(TUESDAY);
    people = { manager: await seat("manager"), desk: await seat("desk"), agency: await seat("agency") };
  });
  afterAll(() => harness.stop());

  async function seat(role: "manager" | "desk" | "agency"): Promise<{ id: string; email: string }> {
    const id = newId();
    const email = `${id}@staff.example`;
    await harness.owner.query("insert into users (id, name, email, phone) values ($1, $2, $3, $4)", [
      id,
      `${role} Person`,
      email,
      role === "desk" ? `+4477009${id.replace(/\D/g, "").padEnd(5, "7").slice(0, 5)}` : null,
    ]);
    await harness.owner.query(
      "insert into seats (id, user_id, agency_id, only_client, role) select $1, $2, agency_id, $3, $4 from clients where id = $5",
      [newId(), id, role === "agency" ? null : scene.client.id, role, scene.client.id],
    );
    return { id, email };
  }

  const inside = <T>(work: Parameters<typeof withClient<T>>[1]) => withClient(scene.scope, work);
  const mailsTo = async ({ email }: { email: string }) =>
    Promise.all(
      harness.town.mail.mailbox(email).map(async ({ raw }) => {
        const { subject = "", text = "" } = await simpleParser(raw);
        return { subject, text };
      }),
    );
  const subjectsTo = async (who: { email: string }) => (await mailsTo(who)).map(({ subject }) => subject);
  /** Whoever looks after an agency is told of its other clients too. */
  const ofThis = (subjects: string[]) =>
    subjects.filter((subject) => subject.startsWith(`Test Vets ${scene.client.place.split("-")[1]}:`));

  async function concern(words = "We waited an hour."): Promise<string> {
    const { person, visit } = await scene.finishVisit();
    const ask = await scene.askOf(person.id);
    const now = harness.town.clock.now();
    return inside(async (tx) => {
      const [answer] = await tx
        .insert(answers)
        .values({
          clientId: scene.client.id,
          askId: ask.id,
          personId: person.id,
          branchId: ask.branchId,
          rating: 2,
          words,
          givenAt: now,
        })
        .returning();
      await openConcern(
        tx,
        scene.scope,
        { answerId: answer.id, personId: person.id, visitId: visit.id, branchId: ask.branchId, rating: 2, words },
        now,
      );
      const [row] = await tx.select().from(concerns).where(eq(concerns.answerId, answer.id));
      return row.id;
    });
  }
  const choose = (who: { id: string }, change: Partial<ToldChoice>) =>
    inside(async (tx) => {
      const staff = (await staffOf(tx)).find(({ id }) => id === who.id);
      if (!staff) throw new Error("Nobody of that name.");
      await keepChoice(tx, scene.scope, who.id, { ...startChoice(staff, staff.isOfAgency), ...change }, TUESDAY);
    });
  const at = async (instant: number) => {
    await scene.moveTo(instant);
    await tellDue(instant);
  };

  test("a concern is told to the manager at once, with its words and two links, and once only", async () => {
    const id = await concern("We waited “an hour”, and nobody said why.");
    await tellDue(TUESDAY);
    await tellDue(TUESDAY);
    const mails = await mailsTo(people.manager);
    expect(mails).toHaveLength(1);
    expect(mails[0].subject).toMatch(/was unhappy at Fenwick \(2 of 5\)/);
    expect(mails[0].text).toContain(`/heard/concerns/${id}`);
    expect(mails[0].text).toContain("/heard/told");
    expect([await mailsTo(people.desk), await mailsTo(people.agency)]).toEqual([[], []]);
    // The desk sees it in the application.
    const listed = await inside((tx) => recentTellings(tx, scene.scope, people.desk.id, 10));
    expect(listed.map(({ told, seen, dueAt }) => [told.code, seen?.code, dueAt])).toEqual([
      ["concern", "concern", null],
    ]);
  });

  test("what is due together is one message, in its hour, and not in quiet hours", async () => {
    await choose(people.manager, { when: "hourly" });
    await choose(people.desk, { ways: ["text"], when: "at once", quiet: { from: 14 * 60, to: 16 * 60 } });
    await concern();
    await concern("The bill was double.");
    await at(TUESDAY + 10 * MINUTE);
    expect([await mailsTo(people.manager), await mailsTo(people.desk)]).toEqual([[], []]);
    await at(TUESDAY + 55 * MINUTE);
    expect(await subjectsTo(people.manager)).toEqual([expect.stringMatching(/Two things to look at/)]);
    const texts = async () => {
      const [{ phone }] = (await harness.owner.query("select phone from users where id = $1", [people.desk.id])).rows;
      return [...harness.town.texts.texts.values()].filter(({ to }) => to === phone).map(({ body }) => body);
    };
    expect(await texts()).toEqual([]);
    await at(TUESDAY + 116 * MINUTE);
    expect(await texts()).toEqual([expect.stringMatching(/Two things to look at.*\/heard/)]);
  });

  test("what is settled by then is not told", async () => {
    await choose(people.manager, { when: "daily", dailyAt: 17 * 60 });
    const id = await concern();
    await inside((tx) =>
      answerConcern(
        tx,
        scene.scope,
        "Jonah",
        id,
        { channel: "email", words: "We are sorry.", requestKey: newId() },
        TUESDAY,
      ),
    );
    await at(TUESDAY + 4 * HOUR);
    expect(await mailsTo(people.manager)).toEqual([]);
    const [row] = await inside((tx) => tx.select().from(tellings).where(eq(tellings.userId, people.manager.id)));
    expect(row).toMatchObject({ dueAt: null, toldAt: null });
  });

  test("an unanswered concern reminds its owner, the manager, and the agency, each once", async () => {
    await harness.owner.query("update clients set answer_within_hours = 4 where id = $1", [scene.client.id]);
    const id = await concern();
    await tellDue(TUESDAY);
    const desk = { ...scene.scope, user: { id: people.desk.id, name: "desk Person" } };
    await withClient(desk, (tx) => takeConcern(tx, desk, "desk Person", id, TUESDAY));
    const told = () =>
      Promise.all(
        (["desk", "manager", "agency"] as const).map(async (who) => ofThis(await subjectsTo(people[who])).length),
      );
    expect(await told()).toEqual([0, 1, 0]);
    for (const minutes of [119, 120, 121, 180]) await at(TUESDAY + minutes * MINUTE);
    expect(await told()).toEqual([1, 1, 0]);
    for (const minutes of [240, 241, 300]) await at(TUESDAY + minutes * MINUTE);
    expect(await told()).toEqual([1, 2, 0]);
    for (const hours of [28, 29, 80]) await at(TUESDAY + hours * HOUR);
    expect(await told()).toEqual([1, 2, 1]);
    expect(ofThis(await subjectsTo(people.agency))[0]).toMatch(/a day overdue for an answer/);
  });

  test("reviews as far as one chose, drafts to whoever approves; older ones are no news", async () => {
    const { listings } = await inside(loadSetting);
    const collectNow = () => collect(scene.client.id, listings[0].id);
    await collectNow();
    const write = (stars: number, when = harness.town.clock.now()) =>
      harness.town.waypost.write(scene.client.place, { author: "Jun A.", stars, words: "So it was." }, when);
    write(5);
    write(2);
    write(1, TUESDAY - 30 * 24 * HOUR);
    await scene.moveTo(TUESDAY + MINUTE);
    await collectNow();
    await tellDue(TUESDAY + MINUTE);
    expect(await subjectsTo(people.manager)).toEqual([
      expect.stringMatching(/Jun A\. wrote on Waypost about Fenwick: 2 of 5/),
    ]);
    const list = await inside((tx) => tx.select().from(reviews).where(eq(reviews.clientId, scene.client.id)));
    const unhappy = list.find(({ rating, writtenAt }) => rating === 2 && writtenAt >= TUESDAY);
    await inside((tx) =>
      draftForApproval(tx, scene.scope, "Ada", unhappy?.id ?? "", "We are sorry.", "", TUESDAY + MINUTE),
    );
    await tellDue(TUESDAY + MINUTE);
    expect(await subjectsTo(people.manager)).toContainEqual(expect.stringMatching(/Ada drafted a reply to Jun A\./));
    expect(await mailsTo(people.desk)).toEqual([]);
  });

  test("told again after a crash it is the same mail, and a server that defers gets it later", async () => {
    await concern();
    harness.town.mail.faults.add({ kind: "defer", match: people.manager.email, count: 1 });
    const claims = await claimTellings(TUESDAY);
    const mine = claims.filter(({ userId }) => userId === people.manager.id);
    expect(mine).toHaveLength(1);
    await deliverTellings(mine[0]);
    expect(await mailsTo(people.manager)).toEqual([]);
    await at(TUESDAY + HOUR);
    expect(await mailsTo(people.manager)).toHaveLength(1);
    // Killed before it was noted: the row says due, and the server knows the mail.
    await harness.owner.query(
      "update tellings set due_at = $1, ways = '{}', told_at = null, claimed_until = null where user_id = $2",
      [new Date(TUESDAY), people.manager.id],
    );
    await at(TUESDAY + 2 * HOUR);
    expect(await mailsTo(people.manager)).toHaveLength(1);
  });

  test("whoever left is told nothing", async () => {
    await concern();
    await harness.owner.query("delete from seats where user_id = $1", [people.manager.id]);
    await tellDue(TUESDAY);
    expect(await mailsTo(people.manager)).toEqual([]);
  });
});
