import { asc, eq } from "drizzle-orm";
import type { SendCalendar } from "@/core/time/sendHours";
import { parseDay } from "@/core/time/zone";
import type { Tx } from "@/platform/database";
import { holidaysOf } from "./holidays";
import { branches, clients, listings, services, teamMembers } from "./tables";

export type Client = typeof clients.$inferSelect;
export type Branch = typeof branches.$inferSelect;
export type Service = typeof services.$inferSelect;
export type TeamMember = typeof teamMembers.$inferSelect;
export type Listing = typeof listings.$inferSelect;

/** A client with all that is set up for it and that nearly every piece of work needs. */
export type Setting = {
  client: Client;
  branches: Branch[];
  services: Service[];
  team: TeamMember[];
  listings: Listing[];
};

/** Loads the current client's setting. Throws when the transaction is inside no client. */
export async function loadSetting(tx: Tx): Promise<Setting> {
  const [client] = await tx.select().from(clients);
  if (!client) throw new Error("No such client.");
  return {
    client,
    branches: await tx.select().from(branches).where(eq(branches.clientId, client.id)).orderBy(asc(branches.position)),
    services: await tx.select().from(services).where(eq(services.clientId, client.id)).orderBy(asc(services.name)),
    team: await tx.select().from(teamMembers).where(eq(teamMembers.clientId, client.id)).orderBy(asc(teamMembers.name)),
    listings: await tx.select().from(listings).where(eq(listings.clientId, client.id)).orderBy(asc(listings.position)),
  };
}

/** When messages of a branch may leave, with its country's public holidays for the years around `now`. */
export function calendarOf(setting: Setting, branchId: string, now: number): SendCalendar {
  const { client } = setting;
  const zone = setting.branches.find((branch) => branch.id === branchId)?.zone ?? client.zone;
  const closed = new Set(client.closedDates.map(parseDay));
  if (client.keepsHolidays) {
    const year = new Date(now).getUTCFullYear();
    for (const day of holidaysOf(client.country, year)) closed.add(day);
  }
  return { zone, hours: client.sendHours, closedDays: closed };
}
