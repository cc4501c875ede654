import { ASK_STAGES } from "@/core/asks/stages";
import { DAY, dayNumber, HOUR, timeOfDay, toLocal, weekday } from "@/core/time/zone";
import { countStages, peopleAt, STAGE_PAGE, type StageFilter, whyPerson, whyVisit } from "@/features/asks";
import { loadSetting, monthOf, usageOf } from "@/features/clients";
import { withClient, workFor } from "@/platform/database";
import { clients } from "@/schema/clients";
import { book, populate } from "../../../scripts/seed/population";
import { CLIENTS, DEMO_NOW, LAPSED_DOMAIN, SEED, ZONE } from "../../../scripts/seed/scenario";
import { seedDemo, townOptions } from "../../../scripts/seed/seed";
import { type Harness, SECRETS, startHarness } from "../../support/harness";
import { size } from "../../support/size";

/** Weeks of the demo really lived through: what must hold whoever did what. */
describe("weeks", () => {
  const DAYS = size(4, 20);
  let harness: Harness;

  beforeAll(async () => {
    const { places, senders } = townOptions(0, null, "", SECRETS);
    harness = await startHarness("weeks", { seed: SEED, places, senders });
    harness.town.mail.faults.add({ kind: "bounce", match: `@${LAPSED_DOMAIN}` });
    await seedDemo({
      town: harness.town,
      waypostUrl: harness.waypostUrl,
      daybookUrl: harness.daybookUrl,
      appUrl: harness.env.APP_URL,
      waypostSecret: SECRETS.waypost,
      historyDays: DAYS,
      clients: CLIENTS,
    });
    await harness.town.settled(true);
  }, 240_000);
  afterAll(() => harness.stop());

  const rows = async (text: string, values: unknown[] = []) => (await harness.owner.query(text, values)).rows;

  test("a good deal happened at every client", async () => {
    const seen = await rows(
      "select c.slug, count(distinct a.id)::int as asks, count(distinct m.id) filter (where m.sent_at is not null)::int as sent, count(distinct an.id)::int as answers from clients c left join asks a on a.client_id = c.id left join messages m on m.ask_id = a.id left join answers an on an.ask_id = a.id group by 1 order by 1",
    );
    expect(seen).toHaveLength(CLIENTS.length);
    const vets = seen.find(({ slug }) => slug === "bramble-lane-vets");
    expect(vets.asks).toBeGreaterThan(8 * DAYS);
    expect(vets.sent).toBeGreaterThan(vets.asks);
    expect(vets.answers).toBeGreaterThan(2 * DAYS);
  });

  test("no ask ever left outside the hours", async () => {
    const sent = await rows(
      "select m.sent_at, m.channel, c.id from messages m join clients c on c.id = m.client_id where m.sent_at is not null and m.step is not null",
    );
    const { sendHours } = (await withClient(workFor(sent[0].id), (tx) => tx.select().from(clients)))[0];
    for (const { sent_at, channel } of sent) {
      const local = toLocal(ZONE, new Date(sent_at).getTime());
      const hours = sendHours[channel as "text" | "email"][weekday(dayNumber(local))];
      expect(
        hours.some(({ open, close }) => timeOfDay(local) >= open * 60_000 && timeOfDay(local) < close * 60_000),
      ).toBe(true);
    }
  });

  test("nothing left after its ask was stopped, and no first message before its delay", async () => {
    expect(
      await rows(
        "select m.id from messages m join asks a on a.id = m.ask_id where a.stop is not null and m.sent_at > a.ended_at",
      ),
    ).toEqual([]);
    expect(
      await rows(
        "select m.id from messages m join asks a on a.id = m.ask_id where m.step = 0 and m.sent_at < a.anchor_at + interval '2 hours' and not a.by_hand",
      ),
    ).toEqual([]);
    expect(
      await rows(
        "select m.id from messages m join messages f on f.ask_id = m.ask_id and f.step = 0 and f.sent_at is not null and f.state <> 'bounced' where m.step = 1 and m.sent_at < f.sent_at + interval '1 day'",
      ),
    ).toEqual([]);
  });

  test("nobody was asked twice, nobody whom a rule protects, nobody about what is never asked about", async () => {
    expect(
      await rows("select person_id from asks where sent_count > 0 group by client_id, person_id having count(*) > 1"),
    ).toEqual([]);
    expect(
      await rows(
        "select a.id from asks a join people p on p.id = a.person_id where p.do_not_ask is not null or 'do-not-ask' = any(p.tags)",
      ),
    ).toEqual([]);
    expect(
      await rows(
        "select a.id from asks a join visits v on v.id = a.visit_id join services s on s.id = v.service_id where s.never_ask or v.outcome in ('cancelled', 'no-show')",
      ),
    ).toEqual([]);
    expect(
      await rows(
        "select m.id from messages m join people p on p.id = m.person_id where m.step is not null and m.sent_at > greatest(p.email_opted_out_at, p.text_opted_out_at)",
      ),
    ).toEqual([]);
  });

  test("every visit that is over has its decision, and every reason is the one its trace ends with", async () => {
    expect(await rows("select id from visits where ends_at <= $1 and decision is null", [new Date(DEMO_NOW)])).toEqual(
      [],
    );
    expect(
      await rows(
        "select id from visits where decision = 'left out' and (reason is distinct from trace -> -1 ->> 'rule' or not (trace -> -1 ->> 'objects')::boolean)",
      ),
    ).toEqual([]);
    expect(
      await rows(
        "select id from visits where decision = 'asked' and exists (select 1 from jsonb_array_elements(trace) t where (t ->> 'objects')::boolean)",
      ),
    ).toEqual([]);
  });

  test("what Estima says it sent is what arrived, once each", async () => {
    const [sent] = await rows(
      "select count(*) filter (where channel = 'text')::int as texts, count(*) filter (where channel = 'email')::int as mails from messages where direction = 'out' and sent_at is not null",
    );
    const arrived = [...harness.town.texts.texts.values()].filter(({ direction }) => direction === "out").length;
    expect({ texts: arrived, mails: harness.town.mail.mails.size }).toEqual(sent);
    expect(harness.town.texts.repeats + harness.town.mail.repeats).toBe(0);
    expect(await rows("select id from messages where direction = 'out' and state = 'sent'")).toEqual([]);
  });

  test("every unhappy private word became a concern, and every review written in town was collected", async () => {
    expect(
      await rows(
        "select a.id from answers a left join concerns c on c.answer_id = a.id where a.rating <= 3 and a.words is not null and c.id is null",
      ),
    ).toEqual([]);
    expect(await rows("select c.id from concerns c join answers a on a.id = c.answer_id where a.rating > 3")).toEqual(
      [],
    );
    const [{ n }] = await rows("select count(*)::int as n from reviews");
    expect(n).toBe(harness.town.waypost.reviews.size);
    expect(await rows("select id from listings where collect_error is not null")).toEqual([]);
  });

  test("everybody stands at one stage, each stage opens exactly those it counts, and plans and branches add up", async () => {
    for (const { id } of await rows("select id from clients order by id")) {
      const scope = workFor(id);
      await withClient(scope, async (tx) => {
        const all: StageFilter = { since: 0, planId: null, branchId: null };
        const counts = await countStages(tx, scope, all);
        const through = async (stage: (typeof ASK_STAGES)[number], only: boolean) => {
          const found: string[] = [];
          for (let before: { at: number; id: string } | null = null; ; ) {
            const page: Awaited<ReturnType<typeof peopleAt>> = await peopleAt(tx, scope, all, stage, only, before);
            found.push(...page.slice(0, STAGE_PAGE).map(({ askId }) => askId));
            if (page.length <= STAGE_PAGE) return found;
            before = { at: page[STAGE_PAGE - 1].at, id: page[STAGE_PAGE - 1].askId };
          }
        };
        const standing: string[] = [];
        for (const [index, stage] of ASK_STAGES.entries()) {
          const came = await through(stage, false);
          expect([came.length, new Set(came).size]).toEqual([counts[stage], counts[stage]]);
          if (index > 0) expect(counts[stage]).toBeLessThanOrEqual(counts[ASK_STAGES[index - 1]]);
          standing.push(...(await through(stage, true)));
        }
        expect([standing.length, new Set(standing).size]).toEqual([counts.planned, counts.planned]);
        // What asks sum up is what their messages tell.
        const differing = await rows(
          `select a.id from asks a left join messages m on m.ask_id = a.id and m.direction = 'out' where a.client_id = $1 group by a.id
         having a.furthest <> case when a.reviewed_at is not null then 7 when a.site_followed_at is not null then 6 when a.answered_at is not null then 5 when a.sent_count = 0 then 0
           when bool_or(m.followed_at is not null) then 4 when bool_or(m.opened_at is not null) then 3 when bool_or(m.delivered_at is not null) then 2 else 1 end`,
          [id],
        );
        expect(differing).toEqual([]);
        // Counted from the log of events it is the same: the furthest event of each ask that has not come back since.
        const logged = await rows(
          `select a.id, a.furthest, max(case when e.source = 'machine' then 0 else case e.kind when 'reviewed' then 7 when 'site opened' then 6 when 'answered' then 5
           when 'followed' then 4 when 'opened' then 3 when 'delivered' then 2 when 'sent' then 1 else 0 end end) as logged
         from asks a join ask_events e on e.client_id = a.client_id and e.ask_id = a.id
         where a.client_id = $1 and not (e.message_id is not null and exists (
           select 1 from ask_events b where b.client_id = e.client_id and b.message_id = e.message_id and b.kind = 'bounced'))
         group by 1, 2 having a.furthest <> max(case when e.source = 'machine' then 0 else case e.kind when 'reviewed' then 7 when 'site opened' then 6 when 'answered' then 5
           when 'followed' then 4 when 'opened' then 3 when 'delivered' then 2 when 'sent' then 1 else 0 end end)`,
          [id],
        );
        expect(logged).toEqual([]);
        for (const part of ["plan_id", "branch_id"] as const) {
          const parts = await rows(`select distinct ${part} as id from asks where client_id = $1`, [id]);
          const each = await Promise.all(
            parts.map((one) =>
              countStages(tx, scope, { ...all, ...(part === "plan_id" ? { planId: one.id } : { branchId: one.id }) }),
            ),
          );
          for (const stage of ASK_STAGES) expect(each.reduce((sum, one) => sum + one[stage], 0)).toBe(counts[stage]);
        }
      });
    }
  });

  test("what a month is said to have used is what left in it", async () => {
    for (const { id } of await rows("select id from clients order by id")) {
      const setting = await withClient(workFor(id), (tx) => loadSetting(tx));
      const left = await rows(
        `select channel, to_char(coalesce(sent_at, ended_at) at time zone $2, 'YYYY-MM') as month, count(*)::int as messages, sum(case when channel = 'text' then parts else 1 end)::int as used
       from messages where client_id = $1 and direction = 'out' and attempts > 0 group by 1, 2`,
        [id, setting.client.zone],
      );
      const usage = await withClient(workFor(id), (tx) => usageOf(tx, workFor(id), monthOf(setting, DEMO_NOW)));
      for (const channel of ["text", "email"] as const) {
        const seen = left.find((row) => row.channel === channel && row.month === monthOf(setting, DEMO_NOW));
        // Once each, however often it was tried; also what came back at once.
        expect(usage[channel]).toEqual({ channel, messages: seen?.messages ?? 0, used: seen?.used ?? 0 });
      }
    }
  });

  test("why tells of every visit what its trace says, and of every person what holds today", async () => {
    for (const { id } of await rows("select id from clients order by id")) {
      const scope = workFor(id);
      const seen = await rows(
        "select id, person_id, decision, reason from visits where client_id = $1 and decision is not null order by id limit 60",
        [id],
      );
      await withClient(scope, async (tx) => {
        const setting = await loadSetting(tx);
        for (const visit of seen) {
          const why = await whyVisit(tx, scope, setting, visit.id, DEMO_NOW);
          expect(why?.visit.trace?.find(({ objects }) => objects)?.rule ?? null).toBe(
            visit.decision === "left out" ? visit.reason : null,
          );
          const person = await whyPerson(tx, scope, setting, visit.person_id, DEMO_NOW);
          for (const { asked, objecting, trace } of person?.plans ?? []) {
            expect(asked).toBe(objecting.length === 0);
            expect(objecting.every(({ objects }) => objects)).toBe(true);
            // The first rule that objects is the one that decides.
            expect(trace.find(({ objects }) => objects)?.rule ?? null).toBe(objecting[0]?.rule ?? null);
          }
        }
      });
    }
  });

  test("the people and visits of the demo come from the seed alone, and only from what is kept for fiction", () => {
    const [vets] = CLIENTS;
    const strip = (list: ReturnType<typeof populate>) => list.map(({ id: _id, ...rest }) => rest);
    const people = populate(vets, "c", 60);
    expect(strip(populate(vets, "c", 60))).toEqual(strip(people));
    expect(new Set(people.flatMap(({ email }) => email ?? [])).size).toBe(people.filter(({ email }) => email).length);
    for (const { phone, email } of people) {
      if (phone) expect(phone).toMatch(/^\+44(7700900|1134960)\d{3}$/);
      if (email) expect(email).toMatch(/\.(example|test)$/);
    }
    const ids = { branches: ["a", "b", "c"], services: [{ id: "s", share: 1, neverAsk: false }], team: ["t"] };
    const visits = book(vets, "c", people, ids, 60);
    const perDay = visits.length / new Set(visits.map(({ endsAt }) => dayNumber(toLocal(ZONE, endsAt)))).size;
    expect(perDay).toBeGreaterThan(30);
    expect(perDay).toBeLessThan(42);
    for (const { endsAt } of visits) {
      const time = timeOfDay(toLocal(ZONE, endsAt));
      expect(time >= 8 * HOUR && time < 19 * HOUR && weekday(dayNumber(toLocal(ZONE, endsAt))) !== 6).toBe(true);
      expect(endsAt).toBeLessThan(DEMO_NOW + 15 * DAY);
    }
  });
});
