import type {
  Rehearsal,
  RehearsedClient,
  RehearsedMessage,
  RehearsedPerson,
  RehearsedPlan,
  RehearsedVisit,
} from "@/core/asks/rehearsal";
import { groupBy } from "@/core/groups";
import { legsOf } from "@/core/plans/legs";
import type { PlanRules } from "@/core/plans/planRules";
import { addDelay } from "@/core/time/delay";
import { nextPermitted, RECIPIENT_TEXT_HOURS, type SendCalendar } from "@/core/time/sendHours";
import { DAY, dayNumber, fromLocal, HOUR, MINUTE, timeOfDay, toLocal } from "@/core/time/zone";

/** A client with its people, plans and visits in memory, and what must hold whatever happens there. */

export type World = {
  zone: string;
  client: RehearsedClient;
  calendar: SendCalendar;
  plans: RehearsedPlan[];
  people: Map<string, RehearsedPerson>;
  visits: Map<string, RehearsedVisit>;
};

/** What must hold, and everything that breaks it. */
export function breaches(world: World, { messages, verdicts, stops, waiting }: Rehearsal): Record<string, unknown[]> {
  const { people, visits, plans, client, calendar, zone } = world;
  const person = (id: string) => people.get(id) as RehearsedPerson;
  const byAsk = groupBy(messages, ({ ask }) => ask);
  const byTo = groupBy(messages, ({ personId }) => person(personId).toId);
  const firsts = [...byAsk.values()].map(([first]) => first);
  const outAt = new Map<string, number>();
  for (const { personId, at, kind } of stops)
    if (kind === "opted out")
      outAt.set(person(personId).toId, Math.min(at, outAt.get(person(personId).toId) ?? Number.POSITIVE_INFINITY));
  const pairs = <T>(list: readonly T[], size = 1) => list.slice(size).map((one, index) => [list[index], one] as const);
  const overfull = (channel: "text" | "email") =>
    pairs(
      messages.filter((one) => one.channel === channel),
      client.ceilings[channel] ?? messages.length,
    ).filter(([a, b]) => b.at - a.at < HOUR);
  const monthly = groupBy(
    messages,
    ({ channel, at }) => `${channel} ${new Date(toLocal(zone, at)).toISOString().slice(0, 7)}`,
  );
  const reaskedWithin = (
    days: (rules: PlanRules) => number,
    same: (a: RehearsedMessage, b: RehearsedMessage) => boolean,
  ) =>
    [...groupBy(firsts, ({ personId }) => personId).values()].flatMap((own) =>
      pairs(own).filter(([a, b]) => same(a, b) && b.at - a.at < days(b.rules) * DAY),
    );
  return {
    "no message leaves outside the hours": messages.filter(
      ({ at, channel, personId }) => nextPermitted(at, channel, calendar, person(personId).zones)?.at !== at,
    ),
    "no text reaches anybody at night where they are": messages.filter(({ at, channel, personId }) => {
      const { zones } = person(personId);
      const times = (zones.length > 0 ? zones : [zone]).map((where) => timeOfDay(toLocal(where, at)));
      const { open, close } = RECIPIENT_TEXT_HOURS;
      return channel === "text" && times.some((time) => time < open * MINUTE || time >= close * MINUTE);
    }),
    "nothing goes to whoever opted out": messages.filter(
      ({ at, personId }) =>
        at > (outAt.get(person(personId).toId) ?? Number.POSITIVE_INFINITY) ||
        person(personId).addresses.emailOptedOut ||
        person(personId).addresses.textOptedOut,
    ),
    "nothing goes to a minor without a guardian": messages.filter(
      ({ personId }) => person(personId).isMinor && !person(personId).hasGuardian,
    ),
    "nothing goes to whom a mark or a tag protects": messages.filter(
      ({ personId, rules }) =>
        person(personId).doNotAsk !== null ||
        person(personId).tags.some((tag) => rules.excludeTags.includes(tag)) ||
        person(personId).consent === false,
    ),
    "nothing goes to an address that is not there or came back": messages.filter(({ personId, channel }) => {
      const { addresses } = person(personId);
      return channel === "email"
        ? !addresses.email || addresses.emailBounced
        : !addresses.phone || !addresses.phoneTakesTexts;
    }),
    "nothing is asked about what is never asked about, nor about what did not take place": messages.filter(
      ({ visitIds }) =>
        visitIds.some(
          (id) =>
            visits.get(id)?.serviceId === "care" || ["cancelled", "no-show"].includes(visits.get(id)?.outcome ?? ""),
        ),
    ),
    "nothing follows a stop": stops.filter(
      ({ at, ask, kind }) => kind !== "answered" && (byAsk.get(ask) ?? []).some((message) => message.at > at),
    ),
    "an unhappy answer is the last of its ask, and an answer ends the first part": stops.filter(
      ({ at, ask, kind }) =>
        kind === "answered" &&
        (byAsk.get(ask) ?? []).some(
          (message) => message.at > at && legsOf(message.rules)[message.leg].part === "first",
        ),
    ),
    "two messages to one person keep their distance": [...byTo.values()].flatMap((own) =>
      pairs(own).filter(
        ([a, b]) => b.at - a.at < client.gapMinutes * MINUTE && !(legsOf(b.rules)[b.leg].isCopy && a.ask === b.ask),
      ),
    ),
    "no hour holds more texts than the ceiling": overfull("text"),
    "no hour holds more emails than the ceiling": overfull("email"),
    "no month holds more than the allowance": [...monthly].filter(
      ([key, own]) =>
        own.reduce((sum, { parts }) => sum + (parts ?? 1), 0) >
        (client.allowances[key.startsWith("text") ? "text" : "email"] ?? Number.POSITIVE_INFINITY),
    ),
    "nobody is asked again by a plan within its rest": reaskedWithin(
      (rules) => (rules.repeat.kind === "rest" ? rules.repeat.days : 0),
      (a, b) => a.planId === b.planId,
    ),
    "nobody is asked again by any plan within the client's rest": reaskedWithin(
      () => client.restDays,
      () => true,
    ),
    "whoever is asked once only is asked once": [
      ...groupBy(
        firsts.filter(({ rules }) => rules.repeat.kind === "once"),
        ({ personId, planId }) => `${planId} ${personId}`,
      ).values(),
    ].filter((own) => own.length > 1),
    "no leg of an ask leaves twice, and none out of order": [...byAsk.values()].flatMap((own) =>
      pairs(own).filter(([a, b]) => b.leg <= a.leg),
    ),
    "a first message is never early, nor later than fresh": firsts.filter(({ at, visitIds, rules, why, step }) => {
      const ends = visitIds.map((id) => visits.get(id)?.endsAt ?? 0);
      // Whoever waited for a month's allowance counts from its first day.
      const local = new Date(toLocal(zone, at));
      const from = Math.max(...ends, fromLocal(zone, Date.UTC(local.getUTCFullYear(), local.getUTCMonth(), 1)));
      const wanted = addDelay(from, rules.steps[step].delay, zone);
      return at < Math.min(...ends) || (!why.includes("spread") && at > wanted + rules.freshDays * DAY);
    }),
    "a household is asked once for a day, where the plan says so": [
      ...groupBy(
        firsts.filter(({ rules }) => rules.households !== "each" && !rules.portions),
        ({ personId, visitIds }) =>
          `${person(personId).home} ${dayNumber(toLocal(zone, visits.get(visitIds[0])?.endsAt ?? 0))}`,
      ).values(),
    ].filter((own) => own.length > 1),
    "portions hold no more people than the plan says": plans.flatMap(({ id, rules }) =>
      [
        ...groupBy(
          verdicts.filter(({ planId, reason }) => rules.portions && planId === id && reason === null),
          ({ at }) => dayNumber(toLocal(zone, at)),
        ).values(),
      ].filter((own) => own.length > (rules.portions?.perDay ?? 0)),
    ),
    "every visit has one verdict":
      [...visits.keys()].length === verdicts.length + waiting &&
      new Set(verdicts.map(({ visitId }) => visitId)).size === verdicts.length
        ? []
        : ["not each"],
    "the reason is the rule that objected, and only that one did": verdicts.filter(({ reason, trace }) => {
      const objecting = trace.filter(({ objects }) => objects);
      return reason === null
        ? objecting.length > 0
        : objecting.length !== 1 || trace.at(-1)?.rule !== reason || !trace.at(-1)?.objects;
    }),
  };
}

/** What broke a rule, without the plan's wording. */
export function brief(found: unknown): string {
  return JSON.stringify(found, (key, value) => (key === "rules" ? undefined : value)).slice(0, 600);
}
