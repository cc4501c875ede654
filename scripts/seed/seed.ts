import { eq, sql } from "drizzle-orm";
import { weekOf } from "@/core/time/sendHours";
import { DAY, dayNumber, fromLocal, HOUR, toLocal } from "@/core/time/zone";
import { groupNamed } from "@/features/accounts";
import { changeClient } from "@/features/clients";
import { DEMO_PASSWORD } from "@/features/navigation";
import { refreshLastVisits } from "@/features/people";
import { addRule, changeRule, keepSaved, listSaved } from "@/features/reviews";
import { listenTo } from "@/features/sites";
import { offersOf, saveAgencyPiece, takeOffer } from "@/features/words";
import { setDemoClock } from "@/platform/clock";
import { database, type Tx, withAgency, withClient, workFor } from "@/platform/database";
import { hashPassword } from "@/platform/passwords";
import { encrypt } from "@/platform/secrets";
import { accounts, agencies, seats, users } from "@/schema/accounts";
import { branches, clients, listings, services, teamMembers } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { people } from "@/schema/people";
import { visits } from "@/schema/visits";
import { doAllDue } from "@/worker/due";
import { skipAhead } from "@/worker/skip";
import { GUIDES } from "../../standins/guides";
import type { Town } from "../../standins/town";
import { placeKey } from "../../standins/waypost";
import { plantConversations } from "./conversations";
import { plantFaults } from "./faults";
import { addOddments, connectFeeds } from "./feeds";
import { installPlans } from "./plans";
import { book, entwine, populate } from "./population";
import { AGENCY, CLIENTS, DEMO_NOW, type DemoClient, HISTORY_DAYS, SEATS, SEED, ZONE } from "./scenario";
import { SMALL_CLIENTS } from "./smallClients";
import { actAsStaff } from "./staff";

/** Every client of the town: the four that are looked at closely, and the agency's smaller ones. */
export const TOWN_CLIENTS: readonly DemoClient[] = [...CLIENTS, ...SMALL_CLIENTS];

export type SeedOptions = {
  town: Town;
  waypostUrl: string;
  daybookUrl: string;
  appUrl: string;
  waypostSecret: string;
  historyDays?: number;
  /** Whose history is lived; every client's of the town where nothing is said. */
  clients?: readonly DemoClient[];
  /** Lives no more than so many of those days, and without it to the moment at which the demo begins. */
  stopAfter?: number;
  say?: (line: string) => void;
};

/** Fills an empty database with the demo: its history is lived, then it is opened. */
export async function seedDemo(it: SeedOptions): Promise<void> {
  await openDemo(await liveHistory(it), it);
}

/** The clients of the demo as its database names them. */
export type DemoIds = { agencyId: string; ids: Record<string, string> };

/**
 * People and booked visits of all clients, and then sixty days that really happen, one due moment after the other,
 * through the same rules, gateways and pages as in earnest.
 */
export async function liveHistory({
  town,
  waypostUrl,
  waypostSecret,
  historyDays = HISTORY_DAYS,
  stopAfter = Number.POSITIVE_INFINITY,
  clients: living = TOWN_CLIENTS,
  say = () => {},
}: SeedOptions): Promise<DemoIds> {
  const firstDay = dayNumber(toLocal(ZONE, DEMO_NOW)) - historyDays;
  const start = fromLocal(ZONE, firstDay * DAY + 7 * HOUR);
  await setDemoClock(start, DEMO_NOW, start);
  const agency = { id: newId() };
  await withAgency({ agencyId: agency.id }, (tx) =>
    tx.insert(agencies).values({ ...agency, name: AGENCY, slug: "larkspur-vane" }),
  );
  const ids: Record<string, string> = {};
  for (const client of living)
    ids[client.slug] = await setUp(client, agency.id, { town, waypostUrl, waypostSecret, historyDays, start });
  await database()
    .execute(sql`analyze`)
    .catch(() => {});

  let at = start;
  for (let day = firstDay; at < DEMO_NOW && day < firstDay + stopAfter; day++) {
    const morning = Math.min(fromLocal(ZONE, (day + 1) * DAY + 9.5 * HOUR), DEMO_NOW);
    await skipAhead(town, at, morning, DAY);
    at = morning;
    if (at === DEMO_NOW) break;
    await setDemoClock(at, DEMO_NOW, start);
    // Staff act at this very moment, for the town too.
    await town.advance(at, true);
    const isFinal = at > DEMO_NOW - 2 * DAY;
    for (const client of living)
      if (!client.isUnattended)
        await actAsStaff(
          ids[client.slug],
          SEATS.find((seat) => seat.client === client.slug)?.name ?? "Iris Vane",
          isFinal,
        );
    await doAllDue();
    if ((day - firstDay) % 10 === 9)
      say(`  ${Math.round((at - start) / DAY)} of ${historyDays} days have passed in Merrow Bay`);
  }
  return { agencyId: agency.id, ids };
}

/** What the demo has beside its history: the accounts, the feeds, and a few things to put right. */
export async function openDemo(
  { agencyId, ids }: DemoIds,
  { town, daybookUrl, appUrl }: Pick<SeedOptions, "town" | "daybookUrl" | "appUrl">,
): Promise<void> {
  const password = await hashPassword(DEMO_PASSWORD);
  for (const seat of SEATS) {
    await database().insert(users).values({ id: seat.id, name: seat.name, email: seat.email, emailVerified: true });
    await database()
      .insert(accounts)
      .values({ id: `${seat.id}-account`, accountId: seat.id, providerId: "credential", userId: seat.id, password });
    const onlyClient = seat.client ? ids[seat.client] : null;
    await withAgency({ agencyId }, (tx) =>
      tx.insert(seats).values({ userId: seat.id, agencyId, onlyClient, role: seat.role }),
    );
  }
  await withAgency({ agencyId }, (tx) =>
    tx
      .update(agencies)
      .set({ senderEmail: "hello@larkspur.example", senderConfirmedAt: 0, colour: "#6A2156" })
      .where(eq(agencies.id, agencyId)),
  );
  await setDemoClock(DEMO_NOW);
  const groups = await makeGroups(agencyId);
  for (const [index, client] of TOWN_CLIENTS.entries()) {
    if (!ids[client.slug]) continue;
    const scope = workFor(ids[client.slug]);
    const lookedAfterBy = index % 3 < 2 ? "demo-operator" : "demo-second";
    const groupId = client.group ? groups.get(client.group) : null;
    await withClient(scope, (tx) => changeClient(tx, scope, { lookedAfterBy, groupId }));
    await connectFeeds(client, ids[client.slug], { town, daybookUrl, appUrl });
    await addOddments(client, ids[client.slug]);
    const pages = await withClient(scope, (tx) =>
      tx.select().from(listings).where(eq(listings.clientId, scope.clientId)),
    );
    for (const page of pages) await listenTo(scope, page, page.id);
  }
  await sayAsAgency(agencyId, ids["blue-heron-driving"]);
  await replyByRule(ids["bramble-lane-vets"]);
  await plantConversations(agencyId, ids["bramble-lane-vets"], { texts: `${town.texts.album.origin}` });
  await plantFaults(ids);
}

/** Words of the agency's own: in force with one client, on offer to the others. */
const AGENCY_PIECES: Record<string, string> = {
  "en:page/thanks.site": "Thank you. It helps whoever chooses next.",
  "en:page/unhappy.prompt": "What should have gone better? We read it the same day.",
};

/** Thanks that the vets have saved, for those who wrote no words. */
const SAVED_THANKS = [
  "Hello {first name|there}, thank you for the marks. They make a good day at {branch} better.\n\n{signature}",
  "Thank you, {first name|and welcome back any time}. It is good to know that all went well.\n\n{signature}",
  "Thanks for taking the time, {first name|friend}. The whole team has read it.\n\n{signature}",
];

/** The vets' rules for replying: thanks to the happy without words go out by themselves, others get a draft. */
async function replyByRule(clientId: string | undefined): Promise<void> {
  if (!clientId) return;
  const scope = workFor(clientId);
  const who = { id: "demo-manager", name: "Maud Ellery" };
  await withClient(scope, async (tx) => {
    for (const words of SAVED_THANKS)
      await keepSaved(
        tx,
        scope,
        who,
        { id: null, isOwn: false, purpose: "Happy, no words", language: "en", words },
        DEMO_NOW,
      );
    const savedReplyIds = (await listSaved(tx, scope, null)).map(({ id }) => id);
    const first = await addRule(tx, scope, who.name, DEMO_NOW);
    const second = await addRule(tx, scope, who.name, DEMO_NOW);
    if (first)
      await changeRule(
        tx,
        scope,
        who.name,
        first,
        { words: "without", deed: "post", savedReplyIds, mostPerDay: 5 },
        DEMO_NOW,
      );
    if (second) await changeRule(tx, scope, who.name, second, { words: "with" }, DEMO_NOW);
  });
}

async function sayAsAgency(agencyId: string, followerId: string | undefined): Promise<void> {
  const who = { id: "demo-operator", name: "Iris Vane" };
  const at = DEMO_NOW - 2 * DAY;
  await withAgency({ agencyId, user: who }, async (tx) => {
    for (const [piece, words] of Object.entries(AGENCY_PIECES))
      await saveAgencyPiece(tx, { agencyId }, who.name, piece, words, at);
  });
  if (!followerId) return;
  const scope = workFor(followerId);
  const plans = await withClient(scope, (tx) => offersOf(tx, scope));
  for (const { planId } of plans) await takeOffer(scope, who.name, planId, null, at);
}

/** The groups in which the agency looks at its clients together. */
async function makeGroups(agencyId: string): Promise<Map<string, string>> {
  const names = new Set(TOWN_CLIENTS.flatMap(({ group }) => group ?? []));
  const made = new Map<string, string>();
  for (const name of names)
    made.set(
      name,
      await withAgency({ agencyId }, (tx) => groupNamed(tx, { agencyId }, "Iris Vane", name, DEMO_NOW - 50 * DAY)),
    );
  return made;
}

async function setUp(
  client: DemoClient,
  agencyId: string,
  it: Required<Pick<SeedOptions, "town" | "waypostUrl" | "waypostSecret" | "historyDays">> & { start: number },
): Promise<string> {
  const id = newId();
  const scope = workFor(id);
  await withClient(scope, async (tx) => {
    const weekdays = [0, 1, 2, 3, 4];
    const hours = (open: number) =>
      weekOf(weekdays, open, 19 * 60).map((day, index) => (index === 5 ? [{ open: 9 * 60, close: 17 * 60 }] : day));
    await tx.insert(clients).values({
      id,
      agencyId,
      slug: client.slug,
      name: client.name,
      country: "GB",
      zone: ZONE,
      colour: client.colour,
      senderEmail: client.senderEmail,
      senderConfirmedAt: 0,
      postalAddress: client.postalAddress,
      textNumber: client.textNumber,
      reviewsAddress: client.trade === "vets" ? client.slug : null,
      sendHours: { text: hours(9 * 60), email: hours(9 * 60) },
    });
    const branchRows = client.branches.map((branch, position) => ({
      id: newId(),
      clientId: id,
      name: branch.name,
      zone: ZONE,
      address: branch.address,
      position,
    }));
    await tx.insert(branches).values(branchRows);
    const serviceRows = client.services.map((service) => ({
      id: newId(),
      clientId: id,
      name: service.name,
      neverAsk: service.neverAsk ?? false,
    }));
    await tx.insert(services).values(serviceRows);
    const teamRows = client.team.map((name) => ({ id: newId(), clientId: id, name }));
    await tx.insert(teamMembers).values(teamRows);
    // A second site that the business only has a link to.
    const guide = client.trade === "vets" ? "pawprint" : client.trade === "driving" ? "commons" : null;
    if (guide)
      await tx.insert(listings).values(
        client.branches.map(({ place }, index) => ({
          clientId: id,
          branchId: branchRows[index].id,
          site: GUIDES[guide],
          url: `${it.town.url}/guides/${guide}/${place}`,
          position: 1,
        })),
      );
    await tx.insert(listings).values(
      client.branches.map(({ place }, index) => ({
        clientId: id,
        branchId: branchRows[index].id,
        site: "Waypost",
        accountDomains: ["waypost-mail.example"],
        url: `${it.waypostUrl}/places/${place}`,
        connector: "waypost" as const,
        connectorUrl: `${it.waypostUrl}/api/places/${place}`,
        connectorKey: encrypt(placeKey(it.waypostSecret, place)),
        collectAt: it.start,
      })),
    );
    await installPlans(tx, scope, client, it.start);
    const persons = entwine(client, id, populate(client, id, it.historyDays), it.historyDays);
    await insertInParts(tx, people, persons);
    const booked = book(
      client,
      id,
      persons.filter(({ externalId }) => externalId),
      {
        branches: branchRows.map((row) => row.id),
        services: serviceRows.map((row, index) => ({
          id: row.id,
          share: client.services[index].share,
          neverAsk: row.neverAsk,
        })),
        team: teamRows.map((row) => row.id),
      },
      it.historyDays,
    );
    await insertInParts(tx, visits, booked);
    await refreshLastVisits(
      tx,
      scope,
      persons.map((person) => person.id),
    );
    it.town.folk.settle(
      persons.flatMap((person) =>
        [person.email, person.phone].flatMap((address) =>
          address ? [{ address, name: `${person.given} ${person.family}` }] : [],
        ),
      ),
    );
  });
  return id;
}

async function insertInParts(tx: Tx, table: typeof people | typeof visits, rows: unknown[]): Promise<void> {
  for (let index = 0; index < rows.length; index += 500)
    await tx.insert(table).values(rows.slice(index, index + 500) as never);
}

/** The town of the demo, ready to start. */
export function townOptions(
  basePort: number,
  folder: string | null,
  estimaUrl: string,
  secrets: { mailHook: string; textHook: string; textKey: string; waypost: string },
) {
  return {
    basePort,
    folder,
    seed: SEED,
    estimaUrl,
    secrets,
    places: TOWN_CLIENTS.flatMap((client) =>
      client.branches.map((branch) => ({
        slug: branch.place,
        name: client.branches.length > 1 ? `${client.name}, ${branch.name}` : client.name,
        address: branch.address,
      })),
    ),
    siteHistory: 130,
    senders: TOWN_CLIENTS.flatMap((client) =>
      [client.senderEmail.split("@")[1], client.textNumber].map((match) => ({ match, trade: client.trade })),
    ),
  };
}
