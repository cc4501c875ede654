import { eq, sql } from "drizzle-orm";
import type { PlanRules } from "@/core/plans/planRules";
import { STARTERS, starterRules } from "@/core/plans/starters";
import { stableHash } from "@/core/stableHash";
import { DAY, HOUR, MINUTE } from "@/core/time/zone";
import { wordsOfRehearsed } from "@/features/asks";
import { loadSetting } from "@/features/clients";
import { findIntake, receiveList, startImport } from "@/features/intake";
import { savePerson } from "@/features/people";
import { type RehearsalSource, runRehearsal, stageRehearsal } from "@/features/plan-editor";
import { installPlan } from "@/features/plans";
import { recordVisit } from "@/features/visits";
import { withClient } from "@/platform/database";
import type { clients } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { people } from "@/schema/people";
import { plans } from "@/schema/plans";
import { skipAhead } from "@/worker/skip";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";
import { size } from "../../support/size";

/** A rehearsal says what is then really sent, message for message, when nobody reacts. Nothing of it is kept. */
describe("rehearsal", () => {
  let harness: Harness;

  beforeAll(async () => {
    harness = await startHarness("rehearsal");
  });
  afterAll(() => harness.stop());

  const starter = (key: string) => STARTERS.find((one) => one.key === key)?.rules([]) as PlanRules;

  /** A client with people of every kind, and visits booked over the next days. */
  async function populated(
    change: Partial<typeof clients.$inferInsert>,
    rules: PlanRules,
    others: PlanRules[] = [],
    count = 70,
  ): Promise<Scene> {
    const scene = new Scene(harness, await harness.addClient(change));
    await scene.moveTo(TUESDAY);
    const { scope, client } = scene;
    const chance = (what: string, n: number) => stableHash(client.slug, what, String(n));
    await withClient(scope, async (tx) => {
      await tx.update(plans).set({ rules }).where(eq(plans.id, client.planId));
      await tx.execute(
        sql`update plan_versions set rules = ${JSON.stringify(rules)}::jsonb where plan_id = ${client.planId}`,
      );
      for (const [index, other] of others.entries())
        await installPlan(tx, scope, { name: `Other ${index}`, rules: other, runningSince: 0, position: -1 - index });
      const persons: string[] = [];
      for (let n = 0; n < Math.ceil(count * 0.7); n++) {
        const { person } = await savePerson(
          tx,
          scope,
          scene.person({
            given: `Person${n}`,
            ...(chance("email", n) < 0.2 ? { email: null } : {}),
            ...(chance("phone", n) < 0.4 ? { phone: null } : {}),
            ...(chance("never", n) < 0.05 ? { doNotAsk: "said so" } : {}),
            ...(chance("prefers", n) < 0.3 ? { prefers: "email" as const } : {}),
          }),
          TUESDAY,
        ).catch(() => ({ person: null }));
        if (person) persons.push(person.id);
      }
      for (const id of persons.slice(0, 3))
        await tx.update(people).set({ zone: "America/New_York" }).where(eq(people.id, id));
      for (let n = 0; n < count; n++)
        await recordVisit(
          tx,
          scope,
          "Maud",
          {
            personId: persons[Math.floor(chance("who", n) * persons.length)],
            serviceId: client.serviceId,
            branchId: client.branchId,
            about: chance("about", n) < 0.5 ? `Pet${n % 7}` : "",
            endsAt: TUESDAY + 10 * MINUTE + Math.floor(chance("when", n) * 3 * 24 * 60) * MINUTE,
            outcome: chance("outcome", n) < 0.06 ? "cancelled" : "booked",
            requestKey: newId(),
          },
          TUESDAY,
        );
    });
    return scene;
  }

  type Told = { at: string; person: string; channel: string; step: string; words: string; parts: number | null };
  const plain = (words: string) => words.replace(/\/a\/[0-9A-Za-z]+\./g, "/a/x.");
  const sorted = (list: Told[]) => list.map((one) => JSON.stringify(one)).sort();

  async function rehearsed(
    scene: Scene,
    source: RehearsalSource,
  ): Promise<{ told: Told[]; before: unknown; after: unknown }> {
    const counts = async () =>
      (
        await harness.owner.query(
          "select (select count(*)::int from messages) as messages, (select count(*)::int from asks) as asks, (select count(*)::int from people) as people, (select count(*)::int from visits where examined_at is not null) as examined, (select count(*)::int from audit_entries) as noted",
        )
      ).rows;
    const before = await counts();
    const told = await withClient(scene.scope, async (tx) => {
      const setting = await loadSetting(tx);
      const [plan] = await tx.select().from(plans).where(eq(plans.id, scene.client.planId));
      const stage = await stageRehearsal(tx, scene.scope, setting, plan.rules, source, TUESDAY);
      if (!stage) throw new Error("There’s nothing to rehearse on.");
      return runRehearsal(stage, plan.id, plan.rules).messages.map((message): Told => {
        const words = wordsOfRehearsed(stage, message);
        return {
          at: new Date(message.at).toISOString(),
          person: message.personId,
          channel: message.channel,
          step: message.rules.steps[message.step].name,
          words: plain(`${words.subject ?? ""} ${words.body}`),
          parts: message.parts,
        };
      });
    });
    return { told, before, after: await counts() };
  }

  async function sent(scene: Scene): Promise<Told[]> {
    const { rows } = await harness.owner.query(
      "select * from messages where client_id = $1 and sent_at is not null order by sent_at",
      [scene.client.id],
    );
    return rows.map((row) => ({
      at: new Date(row.sent_at).toISOString(),
      person: row.person_id,
      channel: row.channel,
      step: row.step_name,
      words: plain(`${row.subject ?? ""} ${row.body}`),
      parts: row.parts,
    }));
  }

  const town = { advance: async (now: number, stands: boolean) => harness.town.advance(now, stands) };

  const cases: [string, Partial<typeof clients.$inferInsert>, PlanRules, PlanRules[]][] = [
    ["the plan of an appointment", {}, starterRules([]), []],
    [
      "both channels, the preferred one, wordings on trial and a ceiling",
      { emailsAnHour: 3, textsAnHour: 2, gapMinutes: 600 },
      {
        ...starterRules([]),
        repeat: { kind: "every visit" },
        households: "each",
        steps: [
          {
            ...starterRules().steps[0],
            channel: "both",
            others: [{ key: "b", text: "Other {link} STOP", subject: "Other", email: "Other {link}" }],
          },
          { ...starterRules().steps[1], channel: "preferred", delay: { amount: 1, unit: "days", at: 22 * 60 } },
        ],
      },
      [],
    ],
    [
      "an allowance that is used up, two plans in order, rest across plans",
      { textsAMonth: 9, emailsAMonth: 25, restDays: 2 },
      { ...starterRules([]), repeat: { kind: "rest", days: 1 } },
      [starter("job"), starter("invoice")],
    ],
    ["how it went first, of which only the first part leaves", {}, starter("feeling"), []],
  ];

  test.each(cases)(
    "booked visits: %s",
    async (_name, change, rules, others) => {
      const scene = await populated(change, rules, others, size(36, 120));
      const { told, before, after } = await rehearsed(scene, { kind: "booked", days: 14 });
      expect(after).toEqual(before);
      expect(told.length).toBeGreaterThan(size(10, 40));
      await skipAhead(town, TUESDAY, TUESDAY + 16 * DAY, 60 * DAY);
      expect(sorted(await sent(scene))).toEqual(sorted(told.filter(({ at }) => Date.parse(at) <= TUESDAY + 16 * DAY)));
    },
    120_000,
  );

  test("a list, before it is kept: in daily portions, the newest visits first", async () => {
    const scene = await populated(
      {},
      { ...starter("reawaken"), portions: { perDay: 5, mostBounced: 50, mostOptedOut: 50 } },
      [],
      0,
    );
    // No digit: a name with one is none to greet with.
    const letter = (n: number) => String.fromCharCode(97 + n);
    const lines = Array.from(
      { length: 18 },
      (_, n) => `Old${letter(n)} Friend,old${n}@post.example,${String(1 + n).padStart(2, "0")}/03/2025,Check-up`,
    );
    const bytes = new TextEncoder().encode(["Name,Email,Date,Service", ...lines, "Nobody,not an address,,"].join("\n"));
    const id = await receiveList(scene.scope, {
      source: "file",
      name: "old.csv",
      bytes,
      who: "Maud",
      requestKey: newId(),
    });
    const { told, before, after } = await rehearsed(scene, { kind: "list", id });
    expect(after).toEqual(before);
    expect(told).toHaveLength(18);
    // What the list said before it was kept, day by day: within a day its messages are spread.
    const seen = await withClient(scene.scope, (tx) => findIntake(tx, scene.scope, id));
    const foretold = (seen?.forecast?.visits ?? []).flatMap(({ name, what }) =>
      what.code === "asked" ? [`${new Date(what.at).toISOString().slice(0, 10)} ${name.split(" ")[0]}`] : [],
    );
    expect(await startImport(scene.scope, id, "Maud", true)).toBe(true);
    await skipAhead(town, TUESDAY, TUESDAY + 9 * DAY, 60 * DAY);
    const left = await sent(scene);
    expect(foretold.sort()).toEqual(
      left.map(({ at, words }) => `${at.slice(0, 10)} ${/Hi (\w+)/.exec(words)?.[1]}`).sort(),
    );
    // The log says what they waited for, which is not the end of a visit of last year.
    const { rows: reasons } = await harness.owner.query(
      "select distinct reason ->> 'after' as after from messages where client_id = $1 and step = 0",
      [scene.client.id],
    );
    expect(reasons).toEqual([{ after: "portion" }]);
    const brief = (list: Told[]) =>
      list.map(({ at, words }) => `${at.slice(0, 10)} ${/Hi (\w+)/.exec(words)?.[1]}`).sort();
    expect(brief(left)).toEqual(brief(told));
    // Five a day, from the newest visit back.
    const perDay = new Map<string, number[]>();
    for (const { at, words } of left)
      perDay.set(at.slice(0, 10), [
        ...(perDay.get(at.slice(0, 10)) ?? []),
        (/Hi Old([a-r])/.exec(words)?.[1].charCodeAt(0) ?? 0) - 97,
      ]);
    const days = [...perDay.values()].map((numbers) => numbers.sort((a, b) => b - a));
    expect(days.flat()).toEqual(Array.from({ length: 18 }, (_, n) => 17 - n));
    expect(Math.max(...days.map(({ length }) => length))).toBe(5);
  }, 60_000);

  test("a period that is over is rehearsed as it stood then, whatever became of it since", async () => {
    const scene = await populated({}, starterRules([]), [], 40);
    await skipAhead(town, TUESDAY, TUESDAY + 6 * DAY, 60 * DAY);
    const real = await sent(scene);
    const told = await withClient(scene.scope, async (tx) => {
      const setting = await loadSetting(tx);
      const [plan] = await tx.select().from(plans).where(eq(plans.id, scene.client.planId));
      const stage = await stageRehearsal(
        tx,
        scene.scope,
        setting,
        plan.rules,
        { kind: "past", from: TUESDAY, to: TUESDAY + 4 * DAY },
        TUESDAY + 6 * DAY,
      );
      return stage ? runRehearsal(stage, plan.id, plan.rules).messages : [];
    });
    const key = (at: string | number, person: string) => `${new Date(at).toISOString()} ${person}`;
    const until = TUESDAY + 6 * DAY - HOUR;
    expect(
      told
        .filter(({ at }) => at <= until)
        .map(({ at, personId }) => key(at, personId))
        .sort(),
    ).toEqual(
      real
        .filter(({ at }) => Date.parse(at) <= until)
        .map(({ at, person }) => key(at, person))
        .sort(),
    );
  }, 60_000);
});
