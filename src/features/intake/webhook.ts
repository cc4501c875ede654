import { and, eq, sql } from "drizzle-orm";
import { z } from "zod";
import { type ReadEvent, readEvent, valueAt } from "@/core/intake/events";
import type { EventResult } from "@/core/intake/feedReports";
import type { Field } from "@/core/intake/fields";
import { shortKey } from "@/core/shortKey";
import { loadSetting, type Setting, zoneOf } from "@/features/clients";
import { nameOf } from "@/features/people";
import { now as clockNow } from "@/platform/clock";
import { anyOf, rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { checkHook, MOST_HOOK_BYTES, problem, readBounded, readHookBody } from "@/platform/hooks";
import { decrypt } from "@/platform/secrets";
import { newId } from "@/schema/columns";
import { feeds, inboundEvents } from "@/schema/feeds";
import { people } from "@/schema/people";
import { visits } from "@/schema/visits";
import { type Feed, mappingOf } from "./feeds";
import { fieldsOfKnown, type IngestResult, ingest } from "./ingest";

/**
 * What programs deliver. The address answers as soon as the delivery is kept, which is one statement; the worker then
 * reads it after the feed's mapping. An event that speaks of a visit nobody knows yet may simply have overtaken
 * another: it waits and is tried again before it counts as failed.
 */

type Known = { at: number; secret: string | null; isOpen: boolean };
const feedCache = new Map<string, Known>();
/** A renewed secret or a feed that was turned off counts everywhere after this many milliseconds of real time. */
const REMEMBERED = 5000;

async function feedOf(id: string): Promise<Known | null> {
  const cached = feedCache.get(id);
  if (cached && performance.now() - cached.at < REMEMBERED) return cached;
  const [row] = await rowsOf<{ kind: string; state: string; secret: string | null }>(
    sql`select kind, state, secret from estima_feed(${id})`,
  );
  if (row?.kind !== "webhook") return null;
  if (feedCache.size > 1000) feedCache.clear();
  const feed = { at: performance.now(), secret: row.secret && decrypt(row.secret), isOpen: row.state === "on" };
  feedCache.set(id, feed);
  return feed;
}

/**
 * Answers `POST /hooks/feeds/<feed>` after the Standard Webhooks specification: 202 when kept, 200 when it was here
 * before.
 */
export async function handleFeedHook(request: Request, id: string): Promise<Response> {
  if (!z.uuid().safeParse(id).success) return problem(404, "This feed doesn't exist.");
  let feed = await feedOf(id);
  if (!feed?.secret) return problem(404, "This feed doesn't exist.");
  if (!feed.isOpen) return problem(410, "This feed is turned off.");
  const text = await readBounded(request, MOST_HOOK_BYTES);
  if (text === null) return problem(413, "The delivery is larger than 256 KB.");
  let refused = checkHook(request.headers, text, feed.secret);
  if (refused && performance.now() - feed.at > 50) {
    // The secret may have been renewed a moment ago.
    feedCache.delete(id);
    feed = await feedOf(id);
    if (feed?.secret) refused = checkHook(request.headers, text, feed.secret);
  }
  if (refused) return refused;
  const read = readHookBody(request.headers, text);
  if (read instanceof Response) return read;
  if (read.id.length > 200) return problem(400, "The webhook-id is longer than 200 characters.");
  if (read.body === null || typeof read.body !== "object") return problem(422, "The body must be a JSON object.");
  const now = await clockNow();
  const [row] = await rowsOf<{ taken: boolean }>(
    sql`select estima_add_inbound_event(${newId()}, ${id}, ${read.id}, ${JSON.stringify(read.body)}::jsonb, ${new Date(now).toISOString()}) as taken`,
  );
  return Response.json({ kept: row.taken }, { status: row.taken ? 202 : 200 });
}

/** Works on deliveries of one client, in the order they came. */
export async function processEventsOf({ clientId, ids }: { clientId: string; ids: string[] }): Promise<void> {
  const scope = workFor(clientId);
  for (let from = 0; from < ids.length; from += 200)
    await withClient(scope, (tx) => workOnSome(tx, scope, ids.slice(from, from + 200)));
}

type Delivery = typeof inboundEvents.$inferSelect;

async function workOnSome(tx: Tx, scope: Scope, ids: string[]): Promise<void> {
  const due = await tx
    .select({ delivery: inboundEvents, feed: feeds })
    .from(inboundEvents)
    .innerJoin(feeds, eq(feeds.id, inboundEvents.feedId))
    .where(
      and(eq(inboundEvents.clientId, scope.clientId), anyOf(inboundEvents.id, ids), eq(inboundEvents.state, "waiting")),
    )
    .orderBy(inboundEvents.at, inboundEvents.id)
    .for("update", { of: inboundEvents });
  const now = await clockNow();
  const setting = await loadSetting(tx);
  const results: { id: string; done: Done; tries: number }[] = [];
  // Deliveries of one feed that name their people are taken in together; what depends on an earlier one comes after it.
  let together: { delivery: Delivery; feed: Feed; read: Arriving }[] = [];
  const takeTogether = async () => {
    const [first] = together;
    if (!first) return;
    const done = await takeEvents(tx, scope, setting, first.feed, together, now);
    for (const [index, { delivery }] of together.entries())
      results.push({ id: delivery.id, done: done[index], tries: delivery.tries + 1 });
    together = [];
  };
  for (const { delivery, feed } of due) {
    const mapping = mappingOf(feed);
    const names = ["email", "phone", "customer number"] as const;
    const isNamed = names.some((field) => valueAt(delivery.body, mapping.fields[field]) !== "");
    if (!isNamed || together[0]?.feed.id !== feed.id) await takeTogether();
    const read = await readOne(tx, scope, setting, delivery, feed, now, isNamed);
    if ("state" in read) results.push({ id: delivery.id, done: read, tries: delivery.tries + 1 });
    else together.push({ delivery, feed, read });
  }
  await takeTogether();
  await writeResults(tx, results);
}

type Done = Pick<Delivery, "state" | "result"> & Partial<Pick<Delivery, "visitId" | "personId">>;
type Arriving = Extract<ReadEvent, { kind: "arrival" }>;

async function writeResults(tx: Tx, results: { id: string; done: Done; tries: number }[]): Promise<void> {
  if (results.length === 0) return;
  const rows = results.map(({ id, done, tries }) => ({
    id,
    state: done.state,
    result: done.result,
    visit: done.visitId ?? null,
    person: done.personId ?? null,
    tries,
  }));
  await tx.execute(sql`
    update inbound_events d set state = r.state, result = r.result, visit_id = coalesce(r.visit, d.visit_id), person_id = coalesce(r.person, d.person_id), tries = r.tries,
      claimed_until = case when r.state = 'waiting' then clock_timestamp() + make_interval(secs => 4 * power(2, r.tries)) end
    from json_to_recordset(${JSON.stringify(rows)}::json) as r(id uuid, state text, result jsonb, visit uuid, person uuid, tries int) where d.id = r.id`);
}

/** After this many tries, about four minutes, a delivery that speaks of an unknown visit has failed. */
const MOST_TRIES = 5;

/** Reads one delivery; gives its arrival, or what became of it already. */
async function readOne(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  delivery: Delivery,
  feed: Feed,
  now: number,
  isNamed: boolean,
): Promise<Arriving | Done> {
  const mapping = mappingOf(feed);
  const number = valueAt(delivery.body, mapping.fields["visit number"]);
  const missing = isNamed ? null : await personOfVisit(tx, scope, number);
  const read = readEvent(
    delivery.body,
    mapping,
    { country: setting.client.country, zone: zoneOf(setting, feed.branchId), now },
    missing,
  );
  if (read.kind === "left aside") return { state: "ignored", result: read.why };
  if (read.kind === "arrival") return read;
  if (number && !isNamed && !missing && delivery.tries < MOST_TRIES)
    return { state: "waiting", result: { code: "visit not known", number: shortKey(number, 100) } };
  return { state: "failed", result: { code: "unusable", remarks: read.problems } };
}

async function takeEvents(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  feed: Feed,
  events: { delivery: Delivery; read: Arriving }[],
  now: number,
): Promise<Done[]> {
  const taken = await ingest(
    tx,
    scope,
    setting,
    events.map(({ delivery, read }) => ({ arrival: read.arrival, saidAt: read.saidAt ?? delivery.at })),
    {
      source: feed.name,
      sharedAddress: "another person",
      replaces: true,
      way: "webhook",
      feedId: feed.id,
      looked: true,
      serviceId: feed.serviceId,
      branchId: feed.branchId,
      now,
    },
  );
  return taken.map(
    (one): Done =>
      one.kind === "refused"
        ? { state: "failed", result: { code: "unusable", remarks: [{ code: "erased", field: "full name" }] } }
        : {
            state: "done",
            result: resultOf(one),
            visitId: one.visit?.id ?? null,
            personId: one.person?.id ?? null,
          },
  );
}

/** The person of a visit that is known already, for events that only name the visit. */
async function personOfVisit(tx: Tx, scope: Scope, number: string): Promise<Partial<Record<Field, string>> | null> {
  if (!number) return null;
  const [row] = await tx
    .select({ person: people })
    .from(visits)
    .innerJoin(people, eq(people.id, visits.personId))
    .where(and(eq(visits.clientId, scope.clientId), eq(visits.externalId, shortKey(number, 100))));
  return row ? fieldsOfKnown(row.person) : null;
}

/** What a delivery did. */
function resultOf({ person, kind, visit, visitKind, remarks }: IngestResult): EventResult {
  return {
    code: "taken in",
    name: person ? nameOf(person) : null,
    isNew: kind === "new",
    visit: visit && visitKind ? { change: visitKind, endsAt: visit.endsAt, outcome: visit.outcome } : null,
    remark: remarks[0] ?? null,
  };
}
