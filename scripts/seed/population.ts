import { DAY, dayNumber, fromLocal, MINUTE, toLocal, weekday } from "@/core/time/zone";
import { newId } from "@/schema/columns";
import type { people } from "@/schema/people";
import type { visits } from "@/schema/visits";
import { chanceFor, pick, pickByShare } from "../../standins/townsfolk/chance";
import {
  AHEAD_DAYS,
  DEMO_NOW,
  type DemoClient,
  FAMILY,
  GIVEN,
  LAPSED_DOMAIN,
  MAIL_DOMAINS,
  SEED,
  ZONE,
} from "./scenario";

type NewPerson = typeof people.$inferInsert & { id: string };
type NewVisit = typeof visits.$inferInsert;

/** The people of one demo client. The same seed gives the same people. */
export function populate(client: DemoClient, clientId: string, historyDays: number): NewPerson[] {
  const chance = chanceFor(SEED, `people of ${client.slug}`);
  const since = DEMO_NOW - historyDays * DAY;
  let mobile = client.mobiles[0];
  const used = new Set<string>();
  return Array.from({ length: client.people }, (_, index) => {
    const given = pick(GIVEN, chance);
    const family = pick(FAMILY, chance);
    // The fictional numbers are few: they are spread over everybody instead of given to whoever comes first.
    const hasMobile =
      chance() < Math.min(0.75, (client.mobiles[1] - client.mobiles[0]) / client.people) && mobile <= client.mobiles[1];
    const hasLandline = !hasMobile && chance() < 0.25;
    const hasEmail = chance() < (hasMobile ? 0.66 : 0.93);
    const phone = hasMobile
      ? `+447700900${String(mobile++).padStart(3, "0")}`
      : hasLandline
        ? `+441134960${String(index % 1000).padStart(3, "0")}`
        : null;
    let email = `${given}.${family}`.toLowerCase();
    while (used.has(email)) email = `${given}.${family}${2 + Math.floor(chance() * 97)}`.toLowerCase();
    used.add(email);
    const domain = chance() < (client.lapsed ?? 0.012) ? LAPSED_DOMAIN : pick(MAIL_DOMAINS, chance);
    return {
      id: newId(),
      clientId,
      given,
      family,
      phone,
      phoneTakesTexts: hasMobile,
      email: hasEmail ? `${email}@${domain}` : null,
      tags: client.trade === "stove" && chance() < 0.1 ? ["landlord", "do-not-ask"] : [],
      doNotAsk: chance() < 0.006 ? "Asked us not to, by phone" : null,
      note: "",
      createdAt: since,
      source: "Daybook",
      externalId: `${client.slug.slice(0, 2).toUpperCase()}-P${String(index + 1).padStart(4, "0")}`,
      postalAddress:
        client.trade === "stove" ? `${1 + Math.floor(index / 2)} ${pick(STREETS, chance)}, Merrow Bay` : null,
      consent: { given: true, at: since, source: "Daybook" },
    };
  });
}

const STREETS = ["Quay Street", "Tarry Lane", "Chandlers Row", "Saltpan Way", "Lantern Hill"];

/**
 * What makes a client's people true to life: pupils under age with their guardians, couples who share a mailbox,
 * somebody written down twice, a mail domain mistyped.
 */
export function entwine(client: DemoClient, clientId: string, persons: NewPerson[], historyDays: number): NewPerson[] {
  const chance = chanceFor(SEED, `bonds of ${client.slug}`);
  const since = DEMO_NOW - historyDays * DAY;
  if (client.trade === "driving") {
    const guardians: NewPerson[] = [];
    for (const [index, pupil] of persons.slice(0, 14).entries()) {
      pupil.birthDate = `${2008 + (index % 3 === 0 ? 1 : 0)}-${String(1 + (index % 12)).padStart(2, "0")}-${String(1 + index).padStart(2, "0")}`;
      const isMinor = pupil.birthDate > "2008-11-24";
      // One guardian is still missing: somebody has to ask for the address.
      if (!isMinor || index === 12) continue;
      const given = pick(GIVEN, chance);
      const guardian: NewPerson = {
        id: newId(),
        clientId,
        given,
        family: pupil.family,
        email: `${given}.${pupil.family}.${index}@${pick(MAIL_DOMAINS, chance)}`.toLowerCase(),
        note: "",
        tags: [],
        createdAt: since,
        source: "Daybook",
      };
      pupil.guardianId = guardian.id;
      guardians.push(guardian);
    }
    return [...guardians, ...persons];
  }
  if (client.trade !== "vets") return persons;
  for (let index = 40; index < 100; index += 12) {
    // Two of one home who share the mailbox.
    persons[index + 1].family = persons[index].family;
    persons[index + 1].email = persons[index].email ?? `${persons[index].family}.home@post.example`.toLowerCase();
    persons[index].email = persons[index + 1].email;
  }
  for (let index = 200; index < 215; index += 5) {
    // Written down twice, with a slip in the number.
    const [one, other] = [persons[index], persons[index + 1]];
    other.given = one.given.slice(0, -1) + (one.given.endsWith("a") ? "e" : "a");
    other.family = one.family;
    if (one.phone && other.phone) other.phone = `${one.phone.slice(0, -2)}${one.phone.at(-1)}${one.phone.at(-2)}`;
    other.email = one.email ? one.email.replace("@", "@").replace(/^(.)(.)/, "$2$1") : other.email;
    other.postalAddress = one.postalAddress = "8 Lantern Hill, Merrow Bay";
  }
  for (const index of [301, 333, 377])
    persons[index].email = `${persons[index].given}.${persons[index].family}@post.exmaple`.toLowerCase();
  return persons;
}

export type Ids = { branches: string[]; services: { id: string; share: number; neverAsk: boolean }[]; team: string[] };

/** The visits of one demo client, from the first day of its history to two weeks ahead, all still to end. */
export function book(
  client: DemoClient,
  clientId: string,
  persons: NewPerson[],
  ids: Ids,
  historyDays: number,
): NewVisit[] {
  const chance = chanceFor(SEED, `visits of ${client.slug}`);
  const today = dayNumber(toLocal(ZONE, DEMO_NOW));
  const pets = new Map<string, string>();
  const booked: NewVisit[] = [];
  for (let day = today - historyDays; day <= today + AHEAD_DAYS; day++) {
    const kind = weekday(day) === 6 ? 2 : weekday(day) === 5 ? 1 : 0;
    const usual = client.perDay[kind];
    const count = usual === 0 ? 0 : Math.max(0, Math.round(usual * (0.85 + chance() * 0.3)));
    for (let index = 0; index < count; index++) {
      const person = pick(persons, chance);
      if (client.about && !pets.has(person.id)) pets.set(person.id, pick(client.about, chance));
      const minute = 8 * 60 + 25 + Math.floor(chance() * (kind === 1 ? 480 : 600));
      const endsAt = fromLocal(ZONE, day * DAY + minute * MINUTE);
      const roll = chance();
      const isPast = endsAt < DEMO_NOW;
      const service = pickByShare(ids.services, ({ share }) => share, chance);
      const branch = ids.branches.length === 1 ? 0 : chance() < 0.5 ? 0 : chance() < 0.55 ? 1 : 2;
      booked.push({
        id: newId(),
        clientId,
        externalId: `${client.slug.slice(0, 2).toUpperCase()}-${day - today + 5000}${String(index).padStart(2, "0")}`,
        personId: person.id,
        branchId: ids.branches[branch],
        serviceId: service.id,
        teamMemberId: pick(ids.team, chance),
        about: pets.get(person.id) ?? null,
        endsAt,
        outcome: roll < 0.04 ? "cancelled" : roll < 0.06 && isPast ? "no-show" : "booked",
        source: "webhook",
        examineAt: endsAt,
        createdAt: endsAt - 7 * DAY,
      });
    }
  }
  const quietSince = client.quietDays === undefined ? Number.POSITIVE_INFINITY : DEMO_NOW - client.quietDays * DAY;
  return booked.filter(({ createdAt }) => (createdAt as number) < quietSince);
}
