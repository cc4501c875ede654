import { and, eq, isNull, sql } from "drizzle-orm";
import type { RehearsedAsk, RehearsedClient, RehearsedMessage, RehearsedVisit } from "@/core/asks/rehearsal";
import type { Channel } from "@/core/time/sendHours";
import { mediaParts } from "@/core/words/namedPicture";
import { allowanceOf, calendarOf, ceilingOf, monthOf, type Setting, usageOf } from "@/features/clients";
import { NOBODY, type Person } from "@/features/people";
import { NO_VISIT, type Visit } from "@/features/visits";
import { answerLink } from "@/platform/customerLinks";
import { anyOf, rowsIn, type Scope, type Tx } from "@/platform/database";
import { asks } from "@/schema/asks";
import { type AskContext, loadContexts, soFar } from "./contexts";
import { isFromList } from "./decide";
import { type ComposedMessage, composeStep } from "./wording";

/** What a rehearsal takes from the database beside its people and visits. */

/** At most so many visits, and so many asks under way, in one rehearsal. */
export const MOST_REHEARSED = 20_000;

/** Asks under way: of these people, or of everybody. */
export async function asksUnderWay(
  tx: Tx,
  scope: Scope,
  personIds: readonly string[] | null = null,
): Promise<AskContext[]> {
  const open = await tx
    .select({ id: asks.id })
    .from(asks)
    .where(
      and(
        eq(asks.clientId, scope.clientId),
        isNull(asks.stop),
        isNull(asks.ended),
        personIds ? anyOf(asks.personId, personIds) : undefined,
      ),
    )
    .limit(MOST_REHEARSED);
  return contextsOf(
    tx,
    scope,
    open.map(({ id }) => id),
  );
}

/** Asks with all that they depend on, however many they are. */
export async function contextsOf(tx: Tx, scope: Scope, ids: readonly string[]): Promise<AskContext[]> {
  const found: AskContext[] = [];
  for (let index = 0; index < ids.length; index += 1000)
    found.push(...(await loadContexts(tx, scope, ids.slice(index, index + 1000))));
  return found;
}

/** An ask as a rehearsal goes on with it. */
export function rehearsedAsk(context: AskContext, setting: Setting): RehearsedAsk {
  const { ask, plan, person, visit } = context;
  return {
    id: ask.id,
    planId: plan.id,
    rules: plan.rules,
    personId: person.id,
    branchId: ask.branchId,
    endsAt: visit.endsAt,
    soFar: soFar(context, setting),
    visitIds: [visit.id],
    isOver: ask.stop !== null || ask.ended !== null,
  };
}

/** A visit as plans look at it at `examineAt` (milliseconds); `isSpread`: its ask is spread with its list. */
export function rehearsedVisit(visit: Visit, isSpread: boolean, examineAt: number): RehearsedVisit {
  const { id, personId, branchId, serviceId, kind, endsAt, outcome, tags } = visit;
  return {
    id,
    personId,
    branchId,
    serviceId,
    kind,
    fromList: isFromList(visit),
    isSpread,
    endsAt,
    examineAt,
    outcome,
    tags,
  };
}

/** The client of a rehearsal, with what its senders have used; `isPast` for a period that is over. */
export async function rehearsedClient(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  isPast: boolean,
  now: number,
): Promise<RehearsedClient> {
  const { client } = setting;
  const month = monthOf(setting, now);
  const usage = isPast ? null : await usageOf(tx, scope, month);
  const sent = await rowsIn<{ channel: Channel; recentSends: number[] }>(
    tx,
    sql`select channel, recent_sends as "recentSends" from senders where client_id = ${scope.clientId} and month = ${month} and ${!isPast}`,
  );
  const each = <T>(of: (channel: Channel) => T): Record<Channel, T> => ({ text: of("text"), email: of("email") });
  return {
    zone: client.zone,
    restDays: client.restDays,
    needsConsent: client.needsConsent,
    gapMinutes: client.gapMinutes,
    bookedCountsAsFinished: client.bookedCountsAsFinished,
    neverTags: setting.tags.filter(({ effect }) => effect === "do not ask").map(({ name }) => name),
    services: Object.fromEntries(setting.services.map(({ id, name, neverAsk }) => [id, { name, neverAsk }])),
    ceilings: each((channel) => ceilingOf(setting, channel)),
    allowances: each((channel) => allowanceOf(setting, channel)),
    used: each((channel) => usage?.[channel].used ?? 0),
    recentSends: each((channel) => sent.find((row) => row.channel === channel)?.recentSends ?? []),
    leavesOutWhenUsedUp: client.leavesOutWhenUsedUp,
    calendars: Object.fromEntries(setting.branches.map(({ id }) => [id, calendarOf(setting, id, now)])),
  };
}

/** Of what the messages of a rehearsal speak. */
export type Spoken = {
  setting: Setting;
  now: number;
  persons: ReadonlyMap<string, Person>;
  seen: ReadonlyMap<string, Visit>;
};

const TOKEN = "k7q2m9wx4tzr3n";

/** A message of a rehearsal exactly as it would read; only the link's own letters are made up. */
export function wordsOfRehearsed(
  { setting, persons, seen, now }: Spoken,
  message: Omit<RehearsedMessage, "parts">,
): ComposedMessage {
  const person = persons.get(message.personId) ?? NOBODY;
  const [first, ...others] = message.visitIds.flatMap((id) => seen.get(id) ?? []);
  const visit = first ?? { ...NO_VISIT, branchId: message.branchId };
  const along = others.map((other) => ({
    about: other.about,
    given: persons.get(other.personId)?.given ?? "",
    personId: other.personId,
  }));
  const guardian = persons.get(person.guardianId ?? "") ?? null;
  const plan = { id: message.planId, rules: message.rules };
  return composeStep(
    { plan, person, visit, guardian, along },
    setting,
    now,
    message.step,
    message.channel,
    answerLink(TOKEN, message.leg),
  );
}

/** What a message of a rehearsal costs of the allowance, where it is a text: its parts, or those its picture is worth. */
export function partsOfRehearsed(it: Spoken, message: Omit<RehearsedMessage, "parts">): number | null {
  if (message.channel !== "text") return null;
  const { parts, picture } = wordsOfRehearsed(it, message);
  const { mediaPrice, partPrice } = it.setting.client;
  return picture === null ? parts : mediaParts(mediaPrice, partPrice);
}
