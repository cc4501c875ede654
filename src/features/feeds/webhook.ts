import { and, eq, sql } from "drizzle-orm";
import { z } from "zod";
import { readEvent, valueAt } from "@/core/intake/events";
import type { Field } from "@/core/intake/fields";
import { sayWhen } from "@/core/time/say";
import { now as clockNow } from "@/platform/clock";
import { newId } from "@/platform/columns";
import { anyOf, rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { problem, readHook } from "@/platform/hooks";
import { decrypt } from "@/platform/secrets";
import { loadSetting, type Setting } from "../clients";
import { type Taken, takeIn } from "../intake";
import { nameOf, people } from "../people";
import { visits } from "../visits";
import { type Feed, mappingOf } from "./service";
import { deliveries, feeds } from "./tables";

/**
 * What programs deliver. The address answers as soon as the delivery is kept, which is one statement; the worker then reads
 * it after the feed's mapping. An event that speaks of a visit nobody knows yet may simply have overtaken another: it waits
 * and is tried again before it counts as failed.
 */

type Known = { at: number; secret: string | null; isOpen: boolean };
const known = new Map<string, Known>();
/** A renewed secret or a feed that was turned off counts everywhere after this many milliseconds of real time. */
const REMEMBERED = 5000;

async function feedOf(id: string): Promise<Known | null> {
  const cached = known.get(id);
  if (cached && performance.now() - cached.at < REMEMBERED) return cached;
  const [row] = await rowsOf<{ kind: string; state: string; secret: string | null }>(sql`select kind, state, secret from estima_feed(${id})`);
  if (row?.kind !== "webhook") return null;
  if (known.size > 1000) known.clear();
  const feed = { at: performance.now(), secret: row.secret && decrypt(row.secret), isOpen: row.state === "on" };
  known.set(id, feed);
  return feed;
}

/** Answers `POST /hooks/feeds/<feed>` after the Standard Webhooks specification: 202 when kept, 200 when it was here before. */
export async function handleFeedHook(request: Request, id: string): Promise<Response> {
  if (!z.uuid().safeParse(id).success) return problem(404, "There is no such feed.");
  let feed = await feedOf(id);
  if (!feed?.secret) return problem(404, "There is no such feed.");
  if (!feed.isOpen) return problem(410, "This feed is turned off.");
  let read = await readHook(request.clone(), feed.secret);
  if (read instanceof Response && read.status === 401 && performance.now() - feed.at > 50) {
    // The secret may have been renewed a moment ago.
    known.delete(id);
    feed = await feedOf(id);
    if (feed?.secret) read = await readHook(request, feed.secret);
  }
  if (read instanceof Response) return read;
  if (read.id.length > 200) return problem(400, "The webhook-id is longer than 200 characters.");
  if (read.body === null || typeof read.body !== "object") return problem(422, "The body must be a JSON object.");
  const now = await clockNow();
  const [row] = await rowsOf<{ taken: boolean }>(
    sql`select estima_take_delivery(${newId()}, ${id}, ${read.id}, ${JSON.stringify(read.body)}::jsonb, ${new Date(now).toISOString()}) as taken`,
  );
  return Response.json({ kept: row.taken }, { status: row.taken ? 202 : 200 });
}

/** Works on deliveries of one client, in the order they came. */
export async function workOnDeliveries({ clientId, ids }: { clientId: string; ids: string[] }): Promise<void> {
  const scope = workFor(clientId);
  for (let from = 0; from < ids.length; from += 50) await withClient(scope, (tx) => workOnSome(tx, scope, ids.slice(from, from + 50)));
}

type Delivery = typeof deliveries.$inferSelect;

async function workOnSome(tx: Tx, scope: Scope, ids: string[]): Promise<void> {
  const due = await tx
    .select({ delivery: deliveries, feed: feeds })
    .from(deliveries)
    .innerJoin(feeds, eq(feeds.id, deliveries.feedId))
    .where(and(eq(deliveries.clientId, scope.clientId), anyOf(deliveries.id, ids), eq(deliveries.state, "waiting")))
    .orderBy(deliveries.at, deliveries.id)
    .for("update", { of: deliveries });
  const now = await clockNow();
  const setting = await loadSetting(tx);
  for (const { delivery, feed } of due) {
    const done = await workOnOne(tx, scope, setting, delivery, feed, now);
    await tx
      .update(deliveries)
      .set({
        ...done,
        tries: delivery.tries + 1,
        ...(done.state === "waiting" ? { claimedUntil: sql`clock_timestamp() + make_interval(secs => ${8 * 2 ** delivery.tries})` as never } : { claimedUntil: null }),
      })
      .where(eq(deliveries.id, delivery.id));
  }
}

type Done = Pick<Delivery, "state" | "what"> & Partial<Pick<Delivery, "visitId" | "personId">>;

/** After this many tries, about four minutes, a delivery that speaks of an unknown visit has failed. */
const MOST_TRIES = 5;

async function workOnOne(tx: Tx, scope: Scope, setting: Setting, delivery: Delivery, feed: Feed, now: number): Promise<Done> {
  const mapping = mappingOf(feed);
  const zone = setting.branches.find(({ id }) => id === feed.branchId)?.zone ?? setting.client.zone;
  const number = valueAt(delivery.body, mapping.fields["visit number"]);
  const missing = await personOfVisit(tx, scope, number);
  const read = readEvent(delivery.body, mapping, { country: setting.client.country, zone, now }, missing);
  if (read.kind === "left aside") return { state: "ignored", what: read.why };
  if (read.kind === "unusable") {
    const why = read.problems.map(({ message }) => message).join(" ");
    if (number && !missing && delivery.tries < MOST_TRIES) return { state: "waiting", what: `Visit ${number} is not known yet; tried again shortly.` };
    return { state: "failed", what: why };
  }
  const [taken] = await takeIn(tx, scope, setting, [{ arrival: read.arrival, saidAt: read.saidAt ?? delivery.at }], {
    source: feed.name,
    sharedAddress: "same person",
    replaces: true,
    way: "webhook",
    feedId: feed.id,
    looked: true,
    serviceId: feed.serviceId,
    branchId: feed.branchId,
    now,
  });
  if (taken.kind === "refused") return { state: "failed", what: taken.why };
  return { state: "done", what: sayTaken(taken, zone, now), visitId: taken.visit?.id ?? null, personId: taken.person?.id ?? null };
}

/** The person of a visit that is known already, for events that only name the visit. */
async function personOfVisit(tx: Tx, scope: Scope, number: string): Promise<Partial<Record<Field, string>> | null> {
  if (!number) return null;
  const [row] = await tx
    .select({ person: people })
    .from(visits)
    .innerJoin(people, eq(people.id, visits.personId))
    .where(and(eq(visits.clientId, scope.clientId), eq(visits.externalId, number.slice(0, 100))));
  if (!row) return null;
  const { person } = row;
  return { "customer number": person.externalId ?? "", "given name": person.given, "family name": person.family, email: person.email ?? "", phone: person.phone ?? "" };
}

/** What a delivery did, in a sentence. */
function sayTaken({ person, kind, visit, visitKind, remarks }: Taken, zone: string, now: number): string {
  const who = person ? nameOf(person) || "Somebody without a name" : "Nobody";
  const name = kind === "new" ? `${who} is new` : who;
  if (!visit || !visitKind) return `${name}; no visit.`;
  const when = sayWhen(zone, visit.endsAt, now);
  const what = { new: `a visit ${when}, ${visit.outcome}`, changed: `the visit ${when} is ${visit.outcome} now`, unchanged: "nothing new about the visit" }[visitKind];
  return `${name}: ${what}.${remarks.length > 0 ? ` ${remarks[0].message}` : ""}`;
}
