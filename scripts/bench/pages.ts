import { randomUUID } from "node:crypto";
import { sql } from "drizzle-orm";
import pg from "pg";
import { loadSetting } from "@/features/clients";
import { listConcerns } from "@/features/concerns";
import { readLog } from "@/features/messaging";
import { listOutlooks, loadStartMargin } from "@/features/outlook";
import { listPeople, searchPeople } from "@/features/people";
import { listReviews } from "@/features/reviews";
import { timelineOf } from "@/features/timeline";
import { goingOutNext } from "@/features/today";
import { auth } from "@/platform/auth";
import { type Tx, withAgency, withClient } from "@/platform/database";
import { hashPassword } from "@/platform/passwords";
import type { Filled } from "./fill";

/** Pages and searches at the seeded scale: what they ask beside the plainest indexed query, and whole beside a plain page. */

const TURNS = 15;

export type Pair = { name: string; ours: number; plain: number };

/** The time of the middle try in milliseconds, after three that warm. */
async function timeOf(work: () => Promise<unknown>): Promise<number> {
  const times: number[] = [];
  for (let turn = -3; turn < TURNS; turn++) {
    const began = performance.now();
    await work();
    if (turn >= 0) times.push(performance.now() - began);
  }
  return times.sort((a, b) => a - b)[Math.floor(TURNS / 2)];
}

/**
 * Each main list and each search in its own transaction, beside the plainest query that reads as many rows of the same
 * table in the same order by an index.
 */
export async function queriesBesidePlain({ clientId, now }: Filled, ownerUrl: string): Promise<Pair[]> {
  const scope = { clientId };
  const own = sql`client_id = ${clientId}`;
  const facts = { now, zone: "Europe/London", restDays: 180 };
  // The pages and branches of the client, which a list of reviews is given by its page.
  const setting = await withClient(scope, loadSetting);
  const [person] = await withClient(scope, (tx) => listPeople(tx, {}, null, facts, 1));
  const people = sql`select * from people where ${own} and merged_into is null and erased_at is null order by family, given, id limit 51`;
  const pairs: [string, (tx: Tx) => Promise<unknown>, ReturnType<typeof sql>][] = [
    ["people, by name", (tx) => listPeople(tx, {}, null, facts), people],
    ["search “odette mar”", (tx) => searchPeople(tx, "odette mar"), people],
    ["search by the end of a number", (tx) => searchPeople(tx, "12345"), people],
    [
      "planned and sent",
      (tx) => readLog(tx, scope, { state: null, channel: null, after: null }),
      sql`select m.*, p.given, p.family from messages m join people p on p.id = m.person_id where m.${own} order by m.due_at desc, m.id desc limit 51`,
    ],
    [
      "going out next",
      (tx) => goingOutNext(tx, scope, null, 6),
      sql`select m.*, p.given, p.family from messages m join people p on p.id = m.person_id where m.${own} and m.state = 'planned' order by m.due_at limit 6`,
    ],
    [
      "reviews, latest first",
      (tx) => listReviews(tx, scope, { waiting: false, site: null, branchId: null, before: null }, setting),
      sql`select * from reviews where ${own} order by written_at desc, id desc limit 31`,
    ],
    [
      "reviews that wait",
      (tx) => listReviews(tx, scope, { waiting: true, site: null, branchId: null, before: null }, setting),
      sql`select * from reviews where ${own} and reply_state in ('none', 'failed', 'posting', 'awaits approval') and deleted_at is null order by rating, written_at limit 31`,
    ],
    [
      "unhappy reviews with words",
      (tx) =>
        listReviews(
          tx,
          scope,
          {
            waiting: false,
            site: null,
            branchId: null,
            before: null,
            ratings: [1, 2],
            words: "with",
          },
          setting,
        ),
      sql`select * from reviews where ${own} and rating between 1 and 2 and words <> '' order by written_at desc, id desc limit 31`,
    ],
    [
      "concerns",
      (tx) => listConcerns(tx, scope, { open: false }),
      sql`select c.*, p.given, p.family from concerns c left join people p on p.id = c.person_id where c.${own} order by c.opened_at desc limit 100`,
    ],
    [
      "one person's timeline",
      (tx) => timelineOf(tx, scope, person.id),
      sql`select v.*, m.*, a.* from visits v left join asks a on a.visit_id = v.id left join messages m on m.ask_id = a.id where v.${own} and v.person_id = ${person.id}`,
    ],
  ];
  // The plain search is asked by the tables' owner: before a row policy its operator may not use the index.
  const owner = new pg.Client({ connectionString: ownerUrl });
  await owner.connect();
  const found: Pair[] = [
    {
      name: "reviews with a word",
      ours: await timeOf(() =>
        withClient(scope, (tx) =>
          listReviews(tx, scope, { waiting: false, site: null, branchId: null, before: null, search: "cafe" }, setting),
        ),
      ),
      plain: await timeOf(() =>
        owner.query(
          "select * from reviews where client_id = $1 and search @@ to_tsquery('simple', 'cafe:*') order by written_at desc, id desc limit 31",
          [clientId],
        ),
      ),
    },
  ];
  await owner.end();
  for (const [name, ask, plain] of pairs)
    found.push({
      name,
      ours: await timeOf(() => withClient(scope, ask)),
      plain: await timeOf(() => withClient(scope, (tx) => tx.execute(plain))),
    });
  return found;
}

/** How many clients the agency of the bench has. */
const CLIENTS = 500;

/**
 * What an agency's start page asks, all of it, at 500 clients, beside its plainest query: the same clients with how they
 * are doing, by name.
 */
export async function startPageBesidePlain(ownerUrl: string, now: number): Promise<Pair> {
  const agencyId = randomUUID();
  const owner = new pg.Client({ connectionString: ownerUrl });
  await owner.connect();
  await owner.query("insert into agencies (id, name) values ($1, 'Bench')", [agencyId]);
  await owner.query(
    `insert into clients (id, agency_id, slug, name, country, zone, sender_email, postal_address, text_number, send_hours)
     select gen_random_uuid(), $1, 'bench-start-' || n, 'Client ' || md5(n::text), 'GB', 'Europe/London', 'a@b.example', 'x', '+44121497' || lpad(n::text, 4, '0'), '{}'
     from generate_series(1, $2) n`,
    [agencyId, CLIENTS],
  );
  await owner.query(
    `insert into outlooks (client_id, agency_id, at, needs, urgency, asked, new_reviews, shown, answered, weeks)
     select id, agency_id, $2, case when random() < 0.1 then '[{"code": "unhappy overdue", "count": 2, "since": 1}]'::jsonb else '[]'::jsonb end,
       case when random() < 0.1 then 1 end, (random() * 100)::int, (random() * 9)::int, 4.7, 0.8, '{1,2,3,4,5,6,7,8}'
     from clients where agency_id = $1`,
    [agencyId, new Date(now)],
  );
  await owner.query("analyze clients, outlooks");
  await owner.end();
  const scope = { agencyId };
  const page = async (tx: Tx) => {
    await listOutlooks(tx, scope, { q: "", group: null, by: null, only: null });
    await loadStartMargin(tx, scope, "nobody");
  };
  const plain = sql`select c.id, c.slug, c.name, c.zone, o.* from clients c join outlooks o on o.client_id = c.id where c.agency_id = ${agencyId} order by c.name`;
  return {
    name: `the start page of ${CLIENTS} clients`,
    ours: await timeOf(() => withAgency(scope, page)),
    plain: await timeOf(() => withAgency(scope, (tx) => tx.execute(plain))),
  };
}

/** The cookie of somebody who may see everything at the seeded client. */
export async function signInAt(ownerUrl: string, clientId: string): Promise<string> {
  const [id, password] = [randomUUID(), "a password of the bench"];
  const owner = new pg.Client({ connectionString: ownerUrl });
  await owner.connect();
  await owner.query(
    "insert into users (id, name, email, email_verified) values ($1, 'Bench', $1 || '@bench.example', true)",
    [id],
  );
  await owner.query(
    "insert into accounts (id, account_id, provider_id, user_id, password) values ($1, $1, 'credential', $1, $2)",
    [id, await hashPassword(password)],
  );
  await owner.query(
    "insert into seats (id, user_id, agency_id, only_client, role) select gen_random_uuid(), $1, agency_id, id, 'agency' from clients where id = $2",
    [id, clientId],
  );
  await owner.end();
  const response = await (await auth()).api.signInEmail({
    body: { email: `${id}@bench.example`, password },
    asResponse: true,
  });
  return response.headers
    .getSetCookie()
    .map((cookie) => cookie.split(";")[0])
    .join("; ");
}

/** So many times each page is loaded before it counts: a server that runs has done so. */
const WARMING = 15;

/**
 * Whole pages of the built application, beside the page of the services, which asks for little. Each is loaded in turn, so
 * that what else the machine does, and how warm the server is, meets all alike.
 */
export async function pagesBesidePlain(url: string, cookie: string, slug: string, personId: string): Promise<Pair[]> {
  const load = async (path: string): Promise<number> => {
    const began = performance.now();
    const response = await fetch(`${url}/c/${slug}/${path}`, { headers: { cookie }, redirect: "manual" });
    if (response.status !== 200) throw new Error(`${path} answered ${response.status}`);
    await response.text();
    return performance.now() - began;
  };
  const paths: [name: string, path: string][] = [
    ["Services", "set-up/services"],
    ["Today", "today"],
    ["People", "people"],
    ["People, searched", "people?q=odette+mar"],
    ["A person", `people/${personId}`],
    ["Asking", "asking"],
    ["Planned and sent", "asking/log"],
    ["Where everyone stands", "asking/stages"],
    ["Heard", "heard"],
  ];
  const times = paths.map((): number[] => []);
  for (let turn = -WARMING; turn < TURNS; turn++)
    for (const [index, [, path]] of paths.entries()) {
      const took = await load(path);
      if (turn >= 0) times[index].push(took);
    }
  const [plain, ...ours] = times.map((all) => all.sort((a, b) => a - b)[Math.floor(TURNS / 2)]);
  return ours.map((each, index) => ({ name: paths[index + 1][0], ours: each, plain }));
}

/** The slug of the seeded client and somebody who is there. */
export async function seededPlaces({ clientId, now }: Filled): Promise<{ slug: string; personId: string }> {
  return withClient({ clientId }, async (tx) => {
    const [person] = await listPeople(tx, {}, null, { now, zone: "Europe/London", restDays: 0 }, 1);
    return { slug: (await loadSetting(tx)).client.slug, personId: person.id };
  });
}
