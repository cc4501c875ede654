import pg from "pg";
import type { MessageReason } from "@/core/asks/messageReasons";
import { starterRules } from "@/core/plans/starters";
import { newId } from "@/schema/columns";
import { FAMILY as ALL_FAMILY, GIVEN as ALL_GIVEN } from "../seed/scenario";
import { copyInto } from "./copy";

/**
 * The seeded scale: people, visits, asks, messages, answers and reviews in the numbers asked for, by COPY. One client
 * has most of them.
 */

export type Scale = { people: number; visits: number; messages: number; reviews: number };
export const FULL: Scale = { people: 200_000, visits: 600_000, messages: 1_000_000, reviews: 200_000 };

const DAY = 86_400_000;
const GIVEN = ALL_GIVEN.slice(0, 20);
const FAMILY = ALL_FAMILY.slice(0, 20);
const WEEK = [0, 1, 2, 3, 4, 5, 6].map(() => [{ open: 540, close: 1140 }]);

export type Filled = { clientId: string; branchIds: string[]; serviceId: string; planId: string; now: number };

const iso = (at: number) => new Date(at).toISOString();

/**
 * Fills an empty, migrated database as its owner; foreign keys are not checked while it does. Gives the large client.
 */
export async function fill(
  ownerUrl: string,
  scale: Scale,
  now: number,
  say: (line: string) => void = () => {},
): Promise<Filled> {
  const db = new pg.Client({ connectionString: ownerUrl });
  await db.connect();
  await db.query(
    "set session_replication_role = replica; set synchronous_commit = off; set maintenance_work_mem = '512MB'",
  );
  const agency = newId();
  await db.query("insert into agencies (id, name) values ($1, 'Scale')", [agency]);
  const large = await addClient(db, agency, "large");
  const small = await addClient(db, agency, "small");
  const step = async (name: string, work: () => Promise<number>) => {
    const began = Date.now();
    const count = await work();
    say(`  ${count.toLocaleString("en-GB")} ${name} in ${((Date.now() - began) / 1000).toFixed(1)} s`);
  };
  // Nineteen of twenty belong to the large client.
  const clientOf = (n: number) => (n % 20 === 19 ? small : large);
  const people = Array.from({ length: scale.people }, () => newId());
  const visits = Array.from({ length: scale.visits }, () => newId());
  const personOf = (n: number) => n % scale.people;
  const endsAt = (n: number) => now - (n % 700) * DAY - (n % 600) * 60_000;

  // Building an index over all rows takes less than keeping it true for each; those of the constraints stay.
  const tables = ["people", "visits", "asks", "messages", "answers", "reviews"];
  const { rows: indexes } = await db.query(
    "select indexname, indexdef from pg_indexes where schemaname = 'public' and tablename = any($1) and indexname not in (select conname from pg_constraint)",
    [tables],
  );
  for (const { indexname } of indexes) await db.query(`drop index ${indexname}`);

  await step("people", () =>
    copyInto(
      db,
      "people",
      [
        "id",
        "client_id",
        "given",
        "family",
        "email",
        "phone",
        "phone_takes_texts",
        "note",
        "tags",
        "last_asked_at",
        "last_visit_at",
        "last_branch_id",
        "last_answered_at",
        "last_reviewed_at",
        "email_bounced_at",
        "email_opted_out_at",
        "external_id",
        "created_at",
        "source",
      ],
      (function* () {
        for (let n = 0; n < scale.people; n++) {
          const client = clientOf(n);
          const given = GIVEN[(n * 7) % GIVEN.length];
          const family =
            FAMILY[Math.floor(n / 20) % FAMILY.length] + (n % 3 === 0 ? `-${FAMILY[n % FAMILY.length]}` : "");
          yield [
            people[n],
            client.id,
            given,
            family,
            n % 11 === 0 ? null : `${given}.${family}.${n}@post.example`.toLowerCase(),
            n % 2 === 0 ? `+4474${String(10_000_000 + n)}` : null,
            n % 2 === 0,
            n % 50 === 0 ? `likes tea number ${n}` : "",
            n % 40 === 0 ? "{landlord}" : "{}",
            n % 3 === 0 ? iso(now - (n % 500) * DAY) : null,
            iso(endsAt(n)),
            client.branchIds[n % 3],
            n % 9 === 0 ? iso(now - (n % 400) * DAY) : null,
            n % 30 === 0 ? iso(now - (n % 400) * DAY) : null,
            n % 300 === 0 ? iso(now - DAY) : null,
            n % 150 === 1 ? iso(now - DAY) : null,
            `N${n}`,
            iso(now - 800 * DAY),
            "scale",
          ];
        }
      })(),
    ),
  );
  await step("visits", () =>
    copyInto(
      db,
      "visits",
      [
        "id",
        "client_id",
        "person_id",
        "branch_id",
        "service_id",
        "about",
        "ends_at",
        "outcome",
        "source",
        "decision",
        "reason",
        "examined_at",
        "external_id",
        "created_at",
      ],
      (function* () {
        for (let n = 0; n < scale.visits; n++) {
          const client = clientOf(personOf(n));
          const asked = n % 3 === 0;
          yield [
            visits[n],
            client.id,
            people[personOf(n)],
            client.branchIds[n % 3],
            client.serviceId,
            n % 2 === 0 ? "Biscuit" : null,
            iso(endsAt(n)),
            n % 25 === 0 ? "cancelled" : "finished",
            "webhook",
            asked ? "asked" : "left out",
            asked ? null : "resting",
            iso(endsAt(n)),
            `V${n}`,
            iso(endsAt(n) - DAY),
          ];
        }
      })(),
    ),
  );
  const asks = Array.from({ length: Math.floor(scale.messages / 2) }, () => newId());
  const visitOf = (n: number) => n % scale.visits;
  await step("asks", () =>
    copyInto(
      db,
      "asks",
      [
        "id",
        "client_id",
        "plan_id",
        "person_id",
        "visit_id",
        "branch_id",
        "token",
        "anchor_at",
        "sent_count",
        "done",
        "first_sent_at",
        "last_sent_at",
        "stop",
        "ended",
        "ended_at",
        "answered_at",
        "created_at",
      ],
      (function* () {
        for (let n = 0; n < asks.length; n++) {
          const client = clientOf(personOf(visitOf(n)));
          const at = endsAt(visitOf(n));
          yield [
            asks[n],
            client.id,
            client.planId,
            people[personOf(visitOf(n))],
            visits[visitOf(n)],
            client.branchIds[n % 3],
            `scale${String(n).padStart(9, "0")}`,
            iso(at),
            2,
            2,
            iso(at),
            iso(at + DAY),
            n % 4 === 0 ? "answered" : null,
            n % 4 === 0 ? null : "all sent",
            iso(at + 3 * DAY),
            n % 4 === 0 ? iso(at + DAY) : null,
            iso(at),
          ];
        }
      })(),
    ),
  );
  const delay = { amount: 2, unit: "hours" as const };
  const reason: MessageReason = { code: "scheduled", after: "visit", delay, channel: "text", moves: [] };
  const texts =
    "Hi Odette, how was Biscuit's check-up at Large Vets today? Tell us in one tap: https://ask.example/a/xxxxxxxxxxxxxx.0 Reply STOP to opt out.";
  await step("messages", () =>
    copyInto(
      db,
      "messages",
      [
        "id",
        "client_id",
        "person_id",
        "branch_id",
        "ask_id",
        "direction",
        "channel",
        "step",
        "state",
        "reason",
        "due_at",
        "address",
        "body",
        "sent_at",
        "delivered_at",
        "created_at",
      ],
      (function* () {
        for (let n = 0; n < scale.messages; n++) {
          const ask = Math.floor(n / 2) % asks.length;
          const client = clientOf(personOf(visitOf(ask)));
          const at = endsAt(visitOf(ask)) + (1 + (n % 2) * 2) * DAY;
          const planned = n % 500 === 0;
          yield [
            newId(),
            client.id,
            people[personOf(visitOf(ask))],
            client.branchIds[n % 3],
            asks[ask],
            "out",
            n % 2 === 0 ? "text" : "email",
            n % 2,
            planned ? "planned" : "delivered",
            JSON.stringify(reason),
            iso(planned ? now + (n % 90) * 3_600_000 : at),
            "+447400000000",
            texts,
            planned ? null : iso(at),
            planned ? null : iso(at),
            iso(at),
          ];
        }
      })(),
    ),
  );
  await step("answers", () =>
    copyInto(
      db,
      "answers",
      ["id", "client_id", "ask_id", "person_id", "branch_id", "rating", "words", "given_at"],
      (function* () {
        for (let n = 0; n < asks.length; n += 4) {
          const client = clientOf(personOf(visitOf(n)));
          yield [
            newId(),
            client.id,
            asks[n],
            people[personOf(visitOf(n))],
            client.branchIds[n % 3],
            1 + (n % 5),
            n % 12 === 0 ? "It went well, thank you." : null,
            iso(endsAt(visitOf(n)) + DAY),
          ];
        }
      })(),
    ),
  );
  await step("reviews", () =>
    copyInto(
      db,
      "reviews",
      [
        "id",
        "client_id",
        "listing_id",
        "branch_id",
        "external_id",
        "author",
        "scale",
        "own_rating",
        "rating",
        "words",
        "written_at",
        "collected_at",
        "seen_at",
        "reply",
        "reply_state",
        "replied_at",
      ],
      (function* () {
        for (let n = 0; n < scale.reviews; n++) {
          const client = clientOf(n);
          const at = now - (n % 900) * DAY - n;
          yield [
            newId(),
            client.id,
            client.listingIds[n % 3],
            client.branchIds[n % 3],
            `R${n}`,
            `${GIVEN[n % 20]} ${FAMILY[n % 20][0]}.`,
            "five",
            1 + (n % 5),
            1 + (n % 5),
            n % 97 === 0 ? "Kind people, and a lovely café next door." : "Kind people, and a clear explanation.",
            iso(at),
            iso(at),
            iso(at),
            n % 10 === 0 ? null : "Thank you.",
            n % 10 === 0 ? "none" : "posted",
            n % 10 === 0 ? null : iso(at + DAY),
          ];
        }
      })(),
    ),
  );
  const answers = await db.query(
    "select id, client_id, ask_id, person_id, branch_id from answers where rating < 3 limit 40000",
  );
  await step("concerns", () =>
    copyInto(
      db,
      "concerns",
      [
        "id",
        "client_id",
        "answer_id",
        "person_id",
        "visit_id",
        "branch_id",
        "rating",
        "words",
        "state",
        "opened_at",
        "answer_by",
        "closed_at",
      ],
      (function* () {
        for (const [n, row] of answers.rows.entries()) {
          const open = n % 200 === 0;
          yield [
            newId(),
            row.client_id,
            row.id,
            row.person_id,
            visits[n % visits.length],
            row.branch_id,
            2,
            "It took long.",
            open ? "new" : "closed",
            iso(now - n * 60_000),
            iso(now),
            open ? null : iso(now),
          ];
        }
      })(),
    ),
  );
  const feed = newId();
  await db.query(
    "insert into feeds (id, client_id, kind, name, created_at) values ($1, $2, 'webhook', 'Book', now())",
    [feed, large.id],
  );
  await step("inbound events", () =>
    copyInto(
      db,
      "inbound_events",
      ["id", "client_id", "feed_id", "event_id", "body", "at", "state", "result"],
      (function* () {
        for (let n = 0; n < scale.visits / 20; n++)
          yield [
            newId(),
            large.id,
            feed,
            `e${n}`,
            '{"type":"visit.finished"}',
            iso(now - n * 60_000),
            n % 100 === 0 ? "failed" : "done",
            '{"code":"erased"}',
          ];
      })(),
    ),
  );
  const began = Date.now();
  for (const { indexdef } of indexes) await db.query(indexdef);
  say(`  ${indexes.length} indexes in ${((Date.now() - began) / 1000).toFixed(1)} s`);
  await db.query(
    "update listings l set review_count = s.n, rating_sum = s.total from (select listing_id, count(*)::int as n, sum(rating) as total from reviews where deleted_at is null group by 1) s where s.listing_id = l.id",
  );
  await db.query("vacuum analyze");
  await db.end();
  return { clientId: large.id, branchIds: large.branchIds, serviceId: large.serviceId, planId: large.planId, now };
}

async function addClient(db: pg.Client, agencyId: string, slug: string) {
  const [id, serviceId, planId] = [newId(), newId(), newId()];
  const branchIds = [newId(), newId(), newId()];
  const listingIds = [newId(), newId(), newId()];
  await db.query(
    "insert into clients (id, agency_id, slug, name, country, zone, sender_email, postal_address, text_number, send_hours) values ($1,$2,$3,$4,'GB','Europe/London',$5,'1 Lane',$6,$7)",
    [
      id,
      agencyId,
      slug,
      `${slug} Vets`,
      `hello@${slug}.example`,
      `+44770090${slug === "large" ? "0981" : "0982"}`,
      JSON.stringify({ text: WEEK, email: WEEK }),
    ],
  );
  for (const [index, branch] of branchIds.entries()) {
    await db.query(
      "insert into branches (id, client_id, name, zone, address, position) values ($1,$2,$3,'Europe/London','1 Lane',$4)",
      [branch, id, `Branch ${index}`, index],
    );
    await db.query(
      "insert into listings (id, client_id, branch_id, site, url) values ($1,$2,$3,'Waypost','https://waypost.example/x')",
      [listingIds[index], id, branch],
    );
  }
  await db.query("insert into services (id, client_id, name) values ($1,$2,'Check-up')", [serviceId, id]);
  await db.query("insert into tags (id, client_id, name) values ($1,$2,'landlord')", [newId(), id]);
  await db.query(
    "insert into plans (id, client_id, name, state, rules, running_since) values ($1,$2,'After a visit','running',$3,'2020-01-01')",
    [planId, id, JSON.stringify(starterRules())],
  );
  await db.query(
    "insert into plan_versions (plan_id, version, client_id, rules, by, at) values ($1,1,$2,$3,'Estima','2020-01-01')",
    [planId, id, JSON.stringify(starterRules())],
  );
  return { id, serviceId, planId, branchIds, listingIds };
}
