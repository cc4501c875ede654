import { getTableColumns, type SQL, sql } from "drizzle-orm";
import type { PgTable } from "drizzle-orm/pg-core";
import { type OfficeCalendar, startingHours } from "@/core/time/officeHours";
import type { SendCalendar } from "@/core/time/sendHours";
import { dayNumber, formatDay, parseDay, toLocal } from "@/core/time/zone";
import { type ShownLook, shownLook } from "@/core/words/look";
import { oncePerTransaction, type Tx } from "@/platform/database";
import { branches, clients, listings, services, tags, teamMembers } from "@/schema/clients";
import { holidaysOf, regionOf, regionsOf } from "./holidays";

export type Client = typeof clients.$inferSelect;
export type Branch = typeof branches.$inferSelect;
export type Service = typeof services.$inferSelect;
export type TeamMember = typeof teamMembers.$inferSelect;
export type Tag = typeof tags.$inferSelect;
/** A review page as everything but its connector sees it: the connector's key stays in the database. */
export type Listing = Omit<typeof listings.$inferSelect, "connectorKey">;

/** A client with all that is set up for it and that nearly every piece of work needs. */
export type Setting = {
  /** The agency's confirmed address, while the client's own is not confirmed; else null. */
  agencySender: string | null;
  client: Client;
  branches: Branch[];
  services: Service[];
  team: TeamMember[];
  listings: Listing[];
  tags: Tag[];
};

const OF_SETTING = ["clients", "branches", "services", "team_members", "listings", "tags", "agencies"];

/**
 * The current client's setting, loaded in one statement once in a transaction. Throws when the transaction is inside no
 * client.
 */
export function loadSetting(tx: Tx): Promise<Setting> {
  return oncePerTransaction(tx, "setting", OF_SETTING, () => readSetting(tx));
}

async function readSetting(tx: Tx): Promise<Setting> {
  const all = <T>(table: SQL, order: SQL) =>
    sql<T[]>`coalesce((select json_agg(t order by ${order}) from ${table} t), '[]')`;
  const [row] = await tx
    .select({
      client: clients,
      agencySender: sql<string | null>`case when ${clients.senderConfirmedAt} is null then estima_agency_sender() end`,
      branches: all<RawRow>(sql`branches`, sql`t.position, t.id`),
      services: all<RawRow>(sql`services`, sql`t.name`),
      team: all<RawRow>(sql`team_members`, sql`t.name`),
      listings: all<RawRow>(sql`listings`, sql`t.position, t.id`),
      tags: all<RawRow>(sql`tags`, sql`t.name`),
    })
    .from(clients)
    .prepare("setting")
    .execute();
  if (!row) throw new Error("No such client.");
  return {
    client: row.client,
    agencySender: row.agencySender,
    branches: row.branches.map((raw) => fromRaw<Branch>(branches, raw)),
    services: row.services.map((raw) => fromRaw<Service>(services, raw)),
    team: row.team.map((raw) => fromRaw<TeamMember>(teamMembers, raw)),
    listings: row.listings.map((raw) => withoutKey(fromRaw<typeof listings.$inferSelect>(listings, raw))),
    tags: row.tags.map((raw) => fromRaw<Tag>(tags, raw)),
  };
}

function withoutKey({ connectorKey: _, ...listing }: typeof listings.$inferSelect): Listing {
  return listing;
}

type RawRow = Record<string, unknown>;

/** A row as the database writes it in JSON, with the names and types of the code. */
function fromRaw<Row>(table: PgTable, raw: RawRow): Row {
  return Object.fromEntries(
    Object.entries(getTableColumns(table)).map(([name, column]) => {
      const value = raw[column.name];
      return [name, value === null || value === undefined ? null : column.mapFromDriverValue(value)];
    }),
  ) as Row;
}

/**
 * When messages of a channel may leave, as it is shown and changed: the week, closed days, and whose public holidays
 * each branch keeps.
 */
export function hoursOf({ client, branches: all }: Setting, channel: "text" | "email") {
  const { country, sendHours, closedDates, keepsHolidays } = client;
  const holidays = {
    branches: all.map(({ id, name, region }) => ({ id, name, region: regionOf(country, region) })),
    regions: regionsOf(country),
  };
  return { channel, week: sendHours[channel], closedDates, keepsHolidays, holidays };
}

/** The ISO day it is at the client. */
export function todayOf(setting: { client: Pick<Client, "zone"> }, now: number): string {
  return formatDay(dayNumber(toLocal(setting.client.zone, now)));
}

/** The IANA zone of a branch; the client's own where it is none of theirs. */
export function zoneOf({ branches, client }: Pick<Setting, "branches" | "client">, branchId?: string | null): string {
  return branches.find(({ id }) => id === branchId)?.zone ?? client.zone;
}

/** When messages of a branch may leave, with the public holidays of its region for the years around `now`. */
export function calendarOf(setting: Setting, branchId: string, now: number): SendCalendar {
  const { client } = setting;
  const branch = setting.branches.find(({ id }) => id === branchId);
  const zone = branch?.zone ?? client.zone;
  const closed = new Set(client.closedDates.map(parseDay));
  if (client.keepsHolidays) {
    const year = new Date(now).getUTCFullYear();
    for (const day of holidaysOf(client.country, branch?.region ?? null, year)) closed.add(day);
  }
  return { zone, hours: client.sendHours, closedDays: closed };
}

/** When somebody is there to answer at a branch: its own hours, or those it begins with; of any where none is named. */
export function officeCalendarOf(setting: Setting, branchId: string | null, now: number): OfficeCalendar {
  const at = branchId ?? setting.branches[0]?.id ?? "";
  const { zone, closedDays, hours } = calendarOf(setting, at, now);
  const own = setting.branches.find(({ id }) => id === at)?.officeHours;
  return { zone, closedDays, hours: own ?? startingHours(hours.email) };
}

type ClientLook = Pick<Client, "colour" | "logo" | "header" | "portrait" | "look">;

/** What customers see of the business at a branch; of the business itself where none is named. */
export function lookAt(
  { client, branches }: { client: ClientLook; branches: readonly Pick<Branch, "id" | "look">[] },
  branchId: string | null,
): ShownLook {
  return shownLook(client, branches.find(({ id }) => id === branchId)?.look);
}
