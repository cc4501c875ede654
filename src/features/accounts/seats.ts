import { and, asc, eq, getTableColumns, isNull, sql } from "drizzle-orm";
import { type Permission, type PlacePermission, permissionsOf, type Rights } from "@/core/access/permissions";
import type { AgencyScope, Tx } from "@/platform/database";
import { clientGroups, roles, seats, users } from "@/schema/accounts";
import { branches, clients } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { nameOfPlace, type Place, permissionsAt, placeColumns, placeKind } from "./places";
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
  /** What the role comes to at its place. */
  permissions: Permission[];
  /** What the place is called; null for the whole agency. */
  place: string | null;
} & Place;

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
      ...placeColumns(seats),
    })
    .from(seats)
    .innerJoin(users, eq(users.id, seats.userId))
    .leftJoin(roles, eq(roles.id, seats.roleId))
    .leftJoin(clientGroups, eq(clientGroups.id, seats.onlyGroup))
    .leftJoin(clients, eq(clients.id, seats.onlyClient))
    .leftJoin(branches, eq(branches.id, seats.onlyBranch))
    .where(and(eq(seats.agencyId, scope.agencyId), clientId ? eq(seats.onlyClient, clientId) : undefined))
    .orderBy(
      sql`${clientGroups.name} nulls first`,
      sql`${clients.name} nulls first`,
      sql`${branches.name} nulls first`,
      asc(users.name),
      seats.id,
    );
  return rows.map(({ own, groupName, clientName, branchName, ...row }) => ({
    ...row,
    permissions: permissionsAt(row, own ?? permissionsOf(row.role)),
    place: nameOfPlace({ ...row, groupName, clientName, branchName }),
  }));
}

/** Who works for the whole agency, by name: those who can look after its clients. */
export function listTeam(tx: Tx, scope: AgencyScope): Promise<{ userId: string; name: string }[]> {
  return tx
    .selectDistinct({ userId: seats.userId, name: users.name })
    .from(seats)
    .innerJoin(users, eq(users.id, seats.userId))
    .where(and(eq(seats.agencyId, scope.agencyId), isNull(seats.onlyClient), isNull(seats.onlyGroup)))
    .orderBy(asc(users.name), seats.userId);
}

/** Adds a seat. Whoever has one there already gets this role instead. */
export async function addSeat(
  tx: Tx,
  scope: AgencyScope,
  it: { userId: string } & Place & Pick<Given, "role" | "roleId">,
): Promise<void> {
  const { userId, onlyGroup, onlyClient, onlyBranch, role, roleId } = it;
  await tx
    .insert(seats)
    .values({ id: newId(), agencyId: scope.agencyId, userId, onlyGroup, onlyClient, onlyBranch, role, roleId })
    .onConflictDoUpdate({
      target: [seats.userId, seats.agencyId, seats.onlyGroup, seats.onlyClient, seats.onlyBranch],
      set: { role, roleId },
    });
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
    aboutClient: found.onlyClient,
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
    aboutClient: found.onlyClient,
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
  const isManager = (one: SeatRow) => placeKind(one) === "agency" && one.permissions.includes("manage people");
  if (!isManager(seat)) return false;
  return (await listSeats(tx, scope)).filter((one) => isManager(one) && one.id !== seat.id).length === 0;
}

/** The agency's clients by name. */
export function agencyClients(
  tx: Tx,
  scope: AgencyScope,
): Promise<{ id: string; slug: string; name: string; zone: string; shownPlaces: PlacePermission[] | null }[]> {
  const { id, slug, name, zone, shownPlaces } = getTableColumns(clients);
  return tx
    .select({ id, slug, name, zone, shownPlaces })
    .from(clients)
    .where(and(eq(clients.agencyId, scope.agencyId), isNull(clients.archivedAt), isNull(clients.deletingAt)))
    .orderBy(asc(clients.name), clients.id);
}
