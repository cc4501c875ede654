import { and, eq, gte } from "drizzle-orm";
import { DAY } from "@/core/time/zone";
import { loadSetting } from "@/features/clients";
import { addFeed, addressOf, type Feed, receiveList, secretOf } from "@/features/intake";
import { saveView } from "@/features/people";
import { makeLink } from "@/features/standing-links";
import { type Scope, withClient, workFor } from "@/platform/database";
import { tags } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { feeds } from "@/schema/feeds";
import { people } from "@/schema/people";
import { visits } from "@/schema/visits";
import type { Appointment, Customer } from "../../standins/daybook";
import type { Town } from "../../standins/town";
import { DEMO_NOW, type DemoClient } from "./scenario";

/**
 * Connects the demo's clients to the world: the appointment book by webhook, calendar or end-of-day file, and
 * drop-off pages.
 */

type Connecting = { town: Town; daybookUrl: string; appUrl: string };

const MINUTE = 60_000;

/** What the appointment book of a client holds: its visits from yesterday on, with their people. */
async function appointmentsOf(client: DemoClient, scope: Scope): Promise<Appointment[]> {
  return withClient(scope, async (tx) => {
    const setting = await loadSetting(tx);
    const rows = await tx
      .select({ visit: visits, person: people })
      .from(visits)
      .innerJoin(people, eq(people.id, visits.personId))
      .where(and(eq(visits.clientId, scope.clientId), gte(visits.endsAt, DEMO_NOW - DAY)));
    const name = (list: { id: string; name: string }[], id: string | null) =>
      list.find((one) => one.id === id)?.name ?? "";
    return rows.flatMap(({ visit, person }): Appointment[] => {
      const customer: Customer = {
        id: person.externalId ?? person.id,
        name: `${person.given} ${person.family}`,
        phone: person.phone,
        email: person.email,
        birthDate: person.birthDate,
      };
      const status = ({ booked: "booked", finished: "finished", cancelled: "cancelled", "no-show": "missed" } as const)[
        visit.outcome
      ];
      return [
        {
          id: visit.externalId ?? visit.id,
          book: client.slug,
          customer,
          service: name(setting.services, visit.serviceId),
          branch: name(setting.branches, visit.branchId),
          staff: name(setting.team, visit.teamMemberId),
          about: visit.about,
          startsAt: visit.endsAt - 30 * MINUTE,
          endsAt: visit.endsAt,
          status,
          changedAt: visit.createdAt,
        },
      ];
    });
  });
}

/** Opens the books and connects every client in its own way. */
export async function connectFeeds(client: DemoClient, clientId: string, it: Connecting): Promise<void> {
  const scope = workFor(clientId);
  it.town.daybook.open({
    slug: client.slug,
    name: client.name,
    services: client.services.map(({ name }) => name),
    branches: client.branches.map(({ name }) => name),
    staff: client.team,
    about: client.about,
  });
  const appointments = await appointmentsOf(client, scope);
  it.town.daybook.load(appointments);
  const add = (kind: Feed["kind"], name: string, url = "") =>
    withClient(scope, (tx) =>
      addFeed(tx, scope, "Iris Vane", { kind, name, url, branchId: null, serviceId: null }, DEMO_NOW - 30 * DAY),
    );
  const book = `${it.daybookUrl}/book/${client.slug}`;
  const drop = await add("drop-off", client.trade === "vets" ? "Front desk" : "Drop-off page");
  if (client.trade === "vets") {
    await withClient(scope, (tx) => tx.update(feeds).set({ token: DEMO_DROP_OFF }).where(eq(feeds.id, drop.id)));
    const feed = await add("webhook", "Daybook");
    await adopt(scope, feed, (number) => number);
    it.town.daybook.connect(
      client.slug,
      (addressOf(feed) ?? "").replace(/^https?:\/\/[^/]+/, it.appUrl),
      secretOf(feed) ?? "",
    );
  } else if (client.trade === "driving") {
    const feed = await add("calendar", "Lesson calendar", `${book}/calendar.ics`);
    await adopt(scope, feed, (number) => `${feed.id.slice(-12)} ${number}`);
    await withClient(scope, (tx) =>
      tx
        .update(feeds)
        .set({ pollAt: DEMO_NOW + 10 * MINUTE })
        .where(eq(feeds.id, feed.id)),
    );
  } else if (client.trade === "stove") {
    const feed = await add("end of day", "Jobs of the day", `${book}/end-of-day.csv`);
    await adopt(scope, feed, (number) => number);
    // Every evening at half past six.
    await withClient(scope, (tx) =>
      tx
        .update(feeds)
        .set({ pollAt: Date.UTC(2026, 10, 24, 18, 30) })
        .where(eq(feeds.id, feed.id)),
    );
  }
}

/**
 * The drop-off link of the main client's front desk, the same in every demo so that guides and pictures can name it.
 */
export const DEMO_DROP_OFF = "merrowBayFrontDesk2345";

/** Visits that the history brought count as the feed's, under the numbers it will use. */
async function adopt(scope: Scope, feed: Feed, number: (known: string) => string): Promise<void> {
  await withClient(scope, async (tx) => {
    const rows = await tx
      .select({ id: visits.id, externalId: visits.externalId })
      .from(visits)
      .where(and(eq(visits.clientId, scope.clientId), gte(visits.endsAt, DEMO_NOW - 3 * DAY)));
    for (const row of rows)
      await tx
        .update(visits)
        .set({ feedId: feed.id, externalId: number(row.externalId ?? row.id) })
        .where(eq(visits.id, row.id));
  });
}

/** Tags, views and a list that waits for somebody, so that every page has something to show. */
export async function addOddments(client: DemoClient, clientId: string): Promise<void> {
  const scope = workFor(clientId);
  await withClient(scope, async (tx) => {
    const names: [string, (typeof tags.$inferInsert)["effect"]][] =
      client.trade === "stove"
        ? [
            ["landlord", "none"],
            ["do-not-ask", "do not ask"],
          ]
        : client.trade === "vets"
          ? [
              ["do-not-ask", "do not ask"],
              ["breeder", "none"],
              ["email please", "email only"],
              ["new here", "ask first"],
            ]
          : [["do-not-ask", "do not ask"]];
    await tx
      .insert(tags)
      .values(names.map(([name, effect]) => ({ id: newId(), clientId, name, effect })))
      .onConflictDoNothing();
    if (client.trade !== "vets") return;
    await saveView(tx, scope, "Maud Ferrier", "Waiting to hear from us", { q: "", state: "concern" });
    await saveView(tx, scope, "Maud Ferrier", "Cannot be reached", { q: "", state: "unreachable" });
    const { branches, team } = await loadSetting(tx);
    const at = { branchId: branches[0].id, teamMemberId: null };
    for (const link of [
      { ...at, name: "Invoice foot" },
      { ...at, name: team[0].name, teamMemberId: team[0].id },
      { ...at, name: "Counter" },
    ])
      await makeLink(tx, scope, "Maud Ferrier", link, DEMO_NOW - 3 * DAY);
  });
  if (client.trade === "piano") {
    const rows = OLD_LIST.map(([name, phone, email, date, work]) => [name, phone, `"${email}"`, date, work].join(";"));
    await receiveList(scope, {
      source: "file",
      name: "Old tunings 2023 to 2025.csv",
      bytes: new TextEncoder().encode(["Kunde;Telefon;E-Mail;Datum;Arbeit", ...rows].join("\r\n")),
      who: "Corin Teale",
      requestKey: newId(),
    });
  }
}

/**
 * A piano tuner's old card index, with what such lists have: other columns, an unknown service, a date that is none.
 */
const OLD_LIST: [string, string, string, string, string][] = [
  ["MERRIMAN, AGNES", "01134 960 611", "agnes.merriman@inkwell.test", "14.03.2024", "Tuning"],
  ["Kofi Wetherby", "07700 900907", "", "02.05.2024", "Tuning"],
  ["Lindqvist, Elin", "", "elin.lindqvist@post.example; elin@harbourmail.example", "19.09.2024", "Regulation"],
  ["Tobias Zeller", "", "tobias.zeller@post.exmaple", "30.01.2025", "Tuning"],
  ["Hugo Nairn", "7700900908.0", "hugo.nairn@tidewater.test", "11.06.2025", "Repair"],
  ["Wilma Orchard", "", "wilma at post", "17.06.2025", "Tuning"],
  ["Petra Sharples", "07700 900909", "petra.sharples@post.example", "31.02.2025", "Tuning"],
  ["Basil Rookwood", "07700 900910", "basil.rookwood@harbourmail.example", "20.11.2026", "Tuning"],
];
