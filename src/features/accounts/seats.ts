import { and, asc, eq, isNull, sql } from "drizzle-orm";
import { type Permission, type PlacePermission, permissionsOf, type Rights } from "@/core/access/permissions";
import type { AgencyScope, Tx } from "@/platform/database";
import { roles, seats, users } from "@/schema/accounts";
import { clients } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { type Given, holds } from "./roles";
import { recordAccountEntry } from "./trail";

/** Who has a seat at an agency: for all of its clients, or for one. */

export type SeatRow = {
  id: string;
  userId: string;
  name: string;
  email: string;
  role: Given["role"];
  roleId: string | null;
  roleName: string | null;
  permissions: Permission[];
  client: { id: string; name: string } | null;
};

/** Everybody with a seat, the agency's own first; with `clientId` only those of that client alone. */
export async function listSeats(tx: Tx, scope: AgencyScope, clientId: string | null = null): Promise<SeatRow[]> {
  const rows = await tx
    .select({
      id: seats.id,
      userId: seats.userId,
      name: users.name,
      email: users.email,
      role: seats.role,
      roleId: seats.roleId,
      roleName: roles.name,
      own: roles.permissions,
      onlyClient: seats.onlyClient,
      client: clients.name,
    })
    .from(seats)
    .innerJoin(users, eq(users.id, seats.userId))
    .leftJoin(roles, eq(roles.id, seats.roleId))
    .leftJoin(clients, eq(clients.id, seats.onlyClient))
    .where(and(eq(seats.agencyId, scope.agencyId), clientId ? eq(seats.onlyClient, clientId) : undefined))
    .orderBy(sql`${clients.name} nulls first`, asc(users.name), seats.id);
  return rows.map(({ own, onlyClient, client, ...row }) => ({
    ...row,
    permissions: own ?? permissionsOf(row.role),
    client: onlyClient ? { id: onlyClient, name: client ?? "a client that is gone" } : null,
  }));
}

/** Adds a seat. Whoever has one there already gets this role instead. */
export async function addSeat(
  tx: Tx,
  scope: AgencyScope,
  it: { userId: string; onlyClient: string | null } & Pick<Given, "role" | "roleId">,
): Promise<void> {
  const { userId, onlyClient, role, roleId } = it;
  const same = and(
    eq(seats.agencyId, scope.agencyId),
    eq(seats.userId, userId),
    onlyClient ? eq(seats.onlyClient, onlyClient) : isNull(seats.onlyClient),
  );
  const changed = await tx.update(seats).set({ role, roleId }).where(same);
  if (!changed.rowCount)
    await tx.insert(seats).values({ id: newId(), agencyId: scope.agencyId, userId, onlyClient, role, roleId });
}

/** What became of changing or ending a seat. */
export type SeatResult = "saved" | "missing" | "last one" | "beyond your own";

type By = { userId: string; name: string; rights: Rights };

/** Gives a seat another role. */
export async function changeSeat(
  tx: Tx,
  scope: AgencyScope,
  by: By,
  id: string,
  given: Given,
  now: number,
): Promise<SeatResult> {
  const found = await seatFor(tx, scope, by, id);
  if (typeof found === "string") return found;
  if (!holds(by.rights, given.permissions)) return "beyond your own";
  if (!given.permissions.includes("manage people") && (await isLastManager(tx, scope, found))) return "last one";
  await tx.update(seats).set({ role: given.role, roleId: given.roleId }).where(eq(seats.id, id));
  await recordAccountEntry(tx, scope, {
    at: now,
    who: by.name,
    action: "changed",
    subject: "seat",
    name: found.name,
    aboutClient: found.client?.id,
  });
  return "saved";
}

/** Ends a seat: whoever had it may enter nothing by it from their next request on. */
export async function removeSeat(tx: Tx, scope: AgencyScope, by: By, id: string, now: number): Promise<SeatResult> {
  const found = await seatFor(tx, scope, by, id);
  if (typeof found === "string") return found;
  if (await isLastManager(tx, scope, found)) return "last one";
  await tx.delete(seats).where(and(eq(seats.agencyId, scope.agencyId), eq(seats.id, id)));
  await recordAccountEntry(tx, scope, {
    at: now,
    who: by.name,
    action: found.userId === by.userId ? "left" : "took off",
    subject: "seat",
    name: found.name,
    aboutClient: found.client?.id,
  });
  return "saved";
}

/** The seat, unless it is not there or holds more than whoever would change it. One's own is always one's own. */
async function seatFor(tx: Tx, scope: AgencyScope, by: By, id: string): Promise<SeatRow | SeatResult> {
  await tx
    .select({ id: seats.id })
    .from(seats)
    .where(eq(seats.agencyId, scope.agencyId))
    .orderBy(seats.id)
    .for("update");
  const seat = (await listSeats(tx, scope)).find((one) => one.id === id);
  if (!seat) return "missing";
  return seat.userId === by.userId || holds(by.rights, seat.permissions) ? seat : "beyond your own";
}

/** Whether nobody else could manage the people of the whole agency any more. */
async function isLastManager(tx: Tx, scope: AgencyScope, seat: SeatRow): Promise<boolean> {
  const isManager = ({ client, permissions }: SeatRow) => client === null && permissions.includes("manage people");
  if (!isManager(seat)) return false;
  return (await listSeats(tx, scope)).filter((one) => isManager(one) && one.id !== seat.id).length === 0;
}

/** The name of one of the agency's clients, or null where it has none of this id. */
export async function clientNameOf(tx: Tx, scope: AgencyScope, id: string): Promise<string | null> {
  const [client] = await tx
    .select({ name: clients.name })
    .from(clients)
    .where(and(eq(clients.agencyId, scope.agencyId), eq(clients.id, id)));
  return client?.name ?? null;
}

/** The agency's clients by name. */
export function agencyClients(
  tx: Tx,
  scope: AgencyScope,
): Promise<{ id: string; slug: string; name: string; shownPlaces: PlacePermission[] | null }[]> {
  return tx
    .select({ id: clients.id, slug: clients.slug, name: clients.name, shownPlaces: clients.shownPlaces })
    .from(clients)
    .where(eq(clients.agencyId, scope.agencyId))
    .orderBy(asc(clients.name), clients.id);
}
