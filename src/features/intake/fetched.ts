import { and, eq } from "drizzle-orm";
import { readCalendarEvent } from "@/core/calendar/arrivals";
import { NoCalendar } from "@/core/calendar/expand";
import type { FetchReport } from "@/core/intake/feedReports";
import { DAY } from "@/core/time/zone";
import { stopAsksOfVisits } from "@/features/asks";
import { loadSetting, zoneOf } from "@/features/clients";
import { refreshLastVisits } from "@/features/people";
import { cancelUnnamed } from "@/features/visits";
import { now as clockNow } from "@/platform/clock";
import { type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { discard, readBounded } from "@/platform/hooks";
import { describeError, log } from "@/platform/log";
import { callOutside, RefusedAddress } from "@/platform/outbound";
import { newId } from "@/schema/columns";
import { feeds } from "@/schema/feeds";
import { type Feed, findFeed } from "./feeds";
import { MOST_BYTES, Unreadable } from "./files";
import { ingest } from "./ingest";
import { startImport } from "./listImport";
import { receiveList } from "./listReading";
import { findIntake } from "./listState";
import { readCalendarApart } from "./reader";

/**
 * Feeds that Estima fetches: calendars every half hour, end-of-day files once a day. Conditional requests (RFC 9110)
 * spare both sides.
 */

/** Visits of the last two days and the next sixty are kept from a calendar. */
const BACK = 2 * DAY;
const AHEAD = 60 * DAY;

/**
 * Fetches one feed and takes in what is new. What goes wrong is written down beside the feed, and tried again when
 * its turn comes.
 */
export async function fetchFeed({ clientId, feedId }: { clientId: string; feedId: string }): Promise<void> {
  const scope = workFor(clientId);
  const feed = await withClient(scope, (tx) => findFeed(tx, scope, feedId));
  if (!feed?.url || feed.state === "off") return;
  const now = await clockNow();
  const end = (change: Partial<typeof feeds.$inferInsert>) =>
    withClient(scope, (tx) =>
      tx
        .update(feeds)
        .set({ polledAt: now, problem: null, ...change })
        // What was fetched from another address says nothing of the one that somebody has set meanwhile.
        .where(and(eq(feeds.clientId, clientId), eq(feeds.id, feedId), eq(feeds.url, feed.url ?? ""))),
    );
  try {
    const response = await callOutside(feed.url, {
      headers: {
        ...(feed.etag ? { "if-none-match": feed.etag } : {}),
        ...(feed.lastModified ? { "if-modified-since": feed.lastModified } : {}),
      },
    });
    if (response.status === 304) {
      await discard(response);
      return void (await end({ report: { code: "nothing new" } }));
    }
    if (!response.ok) {
      await discard(response);
      return void (await end({ problem: { code: "answered", status: response.status } }));
    }
    const body = await readBounded(response, MOST_BYTES);
    if (body === null) return void (await end({ problem: { code: "too large", megabytes: MOST_BYTES / 1024 / 1024 } }));
    const report =
      feed.kind === "calendar"
        ? await takeCalendar(scope, feed, body, now)
        : await takeEndOfDay(scope, feed, body, now);
    await end({ report, etag: response.headers.get("etag"), lastModified: response.headers.get("last-modified") });
  } catch (error) {
    if (error instanceof RefusedAddress) return void (await end({ problem: { code: error.why } }));
    if (error instanceof NoCalendar) return void (await end({ problem: { code: "not a calendar" } }));
    if (error instanceof Unreadable) return void (await end({ problem: { code: "file", problem: error.problem } }));
    log.warn({ feedId, ...describeError(error) }, "feed could not be fetched");
    await end({ problem: { code: "not reached" } });
  }
}

/**
 * Takes a calendar in. An occurrence keeps its number when it is moved, so it stays one visit; what is no longer in the
 * calendar and lies ahead counts as cancelled. Throws `NoCalendar`.
 */
export async function takeCalendar(scope: Scope, feed: Feed, text: string, now: number): Promise<FetchReport> {
  const zone = zoneOf(await withClient(scope, loadSetting), feed.branchId);
  // What was over at the last look was seen then: a series that is changed afterwards does not bring its past again.
  const from = Math.max(now - BACK, (feed.polledAt ?? 0) - DAY / 4);
  // No transaction is open meanwhile: reading may take its time.
  const read = await readCalendarApart(scope.clientId, text, { zone, from, to: now + AHEAD });
  return withClient(scope, async (tx) => {
    const setting = await loadSetting(tx);
    const { events, unreadable, unreadableKeys, unknownZones, isWhole } = read;
    const prefix = feed.id.slice(-12);
    const seen = events.map((event) =>
      readCalendarEvent(event, feed.rules ?? [], prefix, { country: setting.client.country, zone, now }),
    );
    const coming = seen.flatMap((one) => (one.kind === "visit" ? [one] : []));
    const numbers: string[] = [];
    let changed = 0;
    let added = 0;
    for (const serviceId of new Set(coming.map((one) => one.serviceId))) {
      const some = coming.filter((one) => one.serviceId === serviceId);
      const taken = await ingest(
        tx,
        scope,
        setting,
        some.map(({ arrival }) => ({ arrival, saidAt: now })),
        {
          source: feed.name,
          sharedAddress: "another person",
          replaces: false,
          way: "calendar",
          feedId: feed.id,
          looked: true,
          serviceId: serviceId ?? feed.serviceId,
          branchId: feed.branchId,
          now,
        },
      );
      for (const { visit, visitKind } of taken) {
        if (visit?.externalId) numbers.push(visit.externalId);
        if (visitKind === "new") added += 1;
        if (visitKind === "changed") changed += 1;
      }
    }
    // What could not be read is not gone: a reading that is not whole cancels nothing.
    const unread = unreadableKeys.map((key) => `${prefix} ${key}`);
    const gone = isWhole ? await cancelMissing(tx, scope, feed, numbers, unread, now) : 0;
    const nobody = seen.filter(({ kind }) => kind === "nobody").length;
    const zones = unknownZones.slice(0, 3).map((name) => name.slice(0, 60));
    return {
      code: "calendar read",
      events: events.length,
      added,
      changed,
      gone,
      nobody,
      unreadable,
      ...(zones.length > 0 ? { zones } : {}),
      isWhole,
    };
  });
}

async function cancelMissing(
  tx: Tx,
  scope: Scope,
  feed: Feed,
  numbers: string[],
  unread: string[],
  now: number,
): Promise<number> {
  const gone = await cancelUnnamed(tx, scope, { feedId: feed.id, named: numbers, unread, now, until: now + AHEAD });
  await stopAsksOfVisits(
    tx,
    scope,
    gone.map(({ id }) => id),
    now,
  );
  await refreshLastVisits(tx, scope, [...new Set(gone.map(({ personId }) => personId))]);
  return gone.length;
}

/** Takes an end-of-day file in and begins asking, unless it has to be looked at first. Throws `Unreadable`. */
async function takeEndOfDay(scope: Scope, feed: Feed, body: string, now: number): Promise<FetchReport> {
  const id = await receiveList(scope, {
    source: "end of day",
    name: `${feed.name}, ${new Date(now).toISOString().slice(0, 10)}`,
    bytes: new TextEncoder().encode(body),
    who: feed.name,
    requestKey: newId(),
    feedId: feed.id,
    from: { branchId: feed.branchId, serviceId: feed.serviceId, onlyBranch: false },
  });
  await startImport(scope, id, feed.name, true);
  const intake = await withClient(scope, (tx) => findIntake(tx, scope, id));
  if (intake?.state === "failed") throw new Unreadable(intake.error ?? { code: "not readable" });
  if (intake?.state === "reading" || intake?.state === "checking") return { code: "file being read" };
  const { counts } = intake ?? {};
  return counts && intake?.state !== "ready"
    ? { code: "file read", rows: counts.rows, added: counts.new, visits: counts.visits, refused: counts.refused }
    : { code: "file to look at" };
}
