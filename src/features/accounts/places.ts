import { and, asc, eq, isNull } from "drizzle-orm";
import { z } from "zod";
import { givenFor, type Permission } from "@/core/access/permissions";
import type { AgencyScope, Tx } from "@/platform/database";
import { clientGroups, type invitations, type seats } from "@/schema/accounts";
import { branches, clients } from "@/schema/clients";

/** For how much of an agency somebody gets a role: all of it, a group of clients, one client, or one branch. */

export type Place = { onlyGroup: string | null; onlyClient: string | null; onlyBranch: string | null };

export const WHOLE_AGENCY: Place = { onlyGroup: null, onlyClient: null, onlyBranch: null };

/** A place as a form names it: empty for the whole agency, else its kind and identifier. */
export const placeChoice = z.union([z.literal(""), z.string().regex(/^(?:group|client|branch) [0-9a-f-]{36}$/)], {
  error: "Choose what this covers.",
});

/** The place as a form names it. */
export function placeValue({ onlyGroup, onlyClient, onlyBranch }: Place): string {
  if (onlyBranch) return `branch ${onlyBranch}`;
  if (onlyClient) return `client ${onlyClient}`;
  return onlyGroup ? `group ${onlyGroup}` : "";
}

export type PlaceKind = "agency" | "group" | "client" | "branch";

export function placeKind({ onlyGroup, onlyClient, onlyBranch }: Place): PlaceKind {
  return onlyBranch ? "branch" : onlyClient ? "client" : onlyGroup ? "group" : "agency";
}

/** What a role comes to at a place. */
export const permissionsAt = (place: Place, permissions: readonly Permission[]): Permission[] =>
  givenFor(placeKind(place), permissions);

/** A place with its name, as whoever is invited reads it; the agency itself has none here. */
export type NamedPlace = Place & { name: string | null };

/** Every place of the agency below itself, as choices: groups, clients, and branches of those with several. */
export async function listPlaces(
  tx: Tx,
  scope: AgencyScope,
): Promise<{ kind: Exclude<PlaceKind, "agency">; value: string; name: string }[]> {
  const groups = await tx
    .select({ id: clientGroups.id, name: clientGroups.name })
    .from(clientGroups)
    .where(eq(clientGroups.agencyId, scope.agencyId))
    .orderBy(asc(clientGroups.name));
  const own = await tx
    .select({ id: clients.id, name: clients.name })
    .from(clients)
    .where(and(eq(clients.agencyId, scope.agencyId), isNull(clients.archivedAt), isNull(clients.deletingAt)))
    .orderBy(asc(clients.name), clients.id);
  const all = await tx
    .select({ id: branches.id, name: branches.name, clientId: branches.clientId, client: clients.name })
    .from(branches)
    .innerJoin(clients, eq(clients.id, branches.clientId))
    .where(and(isNull(clients.archivedAt), isNull(clients.deletingAt)))
    .orderBy(asc(clients.name), asc(branches.position), branches.id);
  const several = all.filter(({ clientId }) => all.filter((other) => other.clientId === clientId).length > 1);
  return [
    ...groups.map(({ id, name }) => ({ kind: "group" as const, value: `group ${id}`, name })),
    ...own.map(({ id, name }) => ({ kind: "client" as const, value: `client ${id}`, name })),
    ...several.map(({ id, name, client }) => ({
      kind: "branch" as const,
      value: `branch ${id}`,
      name: `${name}, ${client}`,
    })),
  ];
}

/** The place that a form names; null where the agency has none of that identifier. */
export async function placeOf(tx: Tx, scope: AgencyScope, choice: string): Promise<NamedPlace | null> {
  if (choice === "") return { ...WHOLE_AGENCY, name: null };
  const [kind, id] = choice.split(" ");
  if (kind === "group") {
    const [group] = await tx
      .select({ name: clientGroups.name })
      .from(clientGroups)
      .where(and(eq(clientGroups.agencyId, scope.agencyId), eq(clientGroups.id, id)));
    return group ? { ...WHOLE_AGENCY, onlyGroup: id, name: group.name } : null;
  }
  if (kind === "client") {
    const [client] = await tx
      .select({ name: clients.name })
      .from(clients)
      .where(and(eq(clients.agencyId, scope.agencyId), eq(clients.id, id)));
    return client ? { ...WHOLE_AGENCY, onlyClient: id, name: client.name } : null;
  }
  const [branch] = await tx
    .select({ clientId: branches.clientId, name: branches.name, client: clients.name })
    .from(branches)
    .innerJoin(clients, eq(clients.id, branches.clientId))
    .where(and(eq(clients.agencyId, scope.agencyId), eq(branches.id, id)));
  return branch
    ? { onlyGroup: null, onlyClient: branch.clientId, onlyBranch: id, name: `${branch.name}, ${branch.client}` }
    : null;
}

/** The columns of a seat or an invitation that say its place, and the tables that have their names. */
export const placeColumns = (table: typeof seats | typeof invitations) => ({
  onlyGroup: table.onlyGroup,
  onlyClient: table.onlyClient,
  onlyBranch: table.onlyBranch,
  groupName: clientGroups.name,
  clientName: clients.name,
  branchName: branches.name,
});

/** What a place is called, from the rows of `placeColumns`; null for the whole agency. */
export function nameOfPlace(
  row: Place & { groupName: string | null; clientName: string | null; branchName: string | null },
): string | null {
  if (row.onlyBranch)
    return `${row.branchName ?? "a branch that’s been removed"}, ${row.clientName ?? "a client that’s been removed"}`;
  if (row.onlyClient) return row.clientName ?? "a client that’s been removed";
  return row.onlyGroup ? (row.groupName ?? "a group that’s been removed") : null;
}
