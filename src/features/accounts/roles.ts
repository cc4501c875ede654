import { and, asc, eq, isNull, sql } from "drizzle-orm";
import { z } from "zod";
import { PERMISSIONS, type Permission, permissionsOf, type Rights, STARTER_ROLES } from "@/core/access/permissions";
import { typedText } from "@/core/words/typed";
import type { AgencyScope, Tx } from "@/platform/database";
import { invitations, roles, seats } from "@/schema/accounts";
import { newId } from "@/schema/columns";
import { recordAccountEntry } from "./trail";

/** The roles that an agency made, beside those that every agency has. */

export type Role = typeof roles.$inferSelect;

export const roleInput = z.object({
  name: typedText(40, "Enter a name for the role.", "the name"),
  permissions: z.array(z.enum(PERMISSIONS)).min(1, "Choose at least one thing this role can do."),
});
export type RoleInput = z.output<typeof roleInput>;

/** The agency's own roles by name, with how many people hold each. */
export async function listRoles(tx: Tx, scope: AgencyScope): Promise<(Role & { held: number })[]> {
  return tx
    .select({
      id: roles.id,
      agencyId: roles.agencyId,
      name: roles.name,
      permissions: roles.permissions,
      createdAt: roles.createdAt,
      held: sql<number>`(select count(*)::int from seats s where s.role_id = ${roles.id})`,
    })
    .from(roles)
    .where(eq(roles.agencyId, scope.agencyId))
    .orderBy(asc(sql`lower(${roles.name})`));
}

/** What became of saving or removing a role. */
export type RoleResult = "saved" | "taken" | "missing" | "held" | "beyond your own";

/** Whether rights hold all of these: nobody gives to others what they may not do themselves. */
export const holds = ({ permissions }: Rights, wanted: readonly Permission[]) =>
  wanted.every((permission) => permissions.includes(permission));

/** Saves a role: a new one without `id`. Its holders may do what it says from their next page on. */
export async function saveRole(
  tx: Tx,
  scope: AgencyScope,
  by: { name: string; rights: Rights },
  id: string | null,
  it: RoleInput,
  now: number,
): Promise<RoleResult> {
  const permissions = PERMISSIONS.filter((permission) => it.permissions.includes(permission));
  const before = id ? await findRole(tx, scope, id) : null;
  if (id && !before) return "missing";
  if (!holds(by.rights, permissions) || (before && !holds(by.rights, before.permissions))) return "beyond your own";
  const [other] = await tx
    .select({ id: roles.id })
    .from(roles)
    .where(and(eq(roles.agencyId, scope.agencyId), sql`lower(${roles.name}) = lower(${it.name})`));
  if ((other && other.id !== id) || (STARTER_ROLES as readonly string[]).includes(it.name.toLowerCase()))
    return "taken";
  if (id)
    await tx
      .update(roles)
      .set({ name: it.name, permissions })
      .where(and(eq(roles.agencyId, scope.agencyId), eq(roles.id, id)));
  else
    await tx
      .insert(roles)
      .values({ id: newId(), agencyId: scope.agencyId, name: it.name, permissions, createdAt: now });
  await recordAccountEntry(tx, scope, {
    at: now,
    who: by.name,
    action: id ? "changed" : "made",
    subject: "role",
    name: it.name,
  });
  return "saved";
}

/** Removes a role that nobody holds and nobody is invited to, and that allows no more than one may do oneself. */
export async function removeRole(
  tx: Tx,
  scope: AgencyScope,
  by: { name: string; rights: Rights },
  id: string,
  now: number,
): Promise<RoleResult> {
  const role = await findRole(tx, scope, id);
  if (!role) return "missing";
  if (!holds(by.rights, role.permissions)) return "beyond your own";
  const [held] = await tx.select({ id: seats.id }).from(seats).where(eq(seats.roleId, id)).limit(1);
  const [invited] = await tx
    .select({ id: invitations.id })
    .from(invitations)
    .where(and(eq(invitations.roleId, id), isNull(invitations.endedAt)))
    .limit(1);
  if (held || invited) return "held";
  // What has ended keeps no role from being removed.
  await tx.update(invitations).set({ roleId: null }).where(eq(invitations.roleId, id));
  await tx.delete(roles).where(and(eq(roles.agencyId, scope.agencyId), eq(roles.id, id)));
  await recordAccountEntry(tx, scope, { at: now, who: by.name, action: "removed", subject: "role", name: role.name });
  return "saved";
}

async function findRole(tx: Tx, scope: AgencyScope, id: string): Promise<Role | null> {
  const [role] = await tx
    .select()
    .from(roles)
    .where(and(eq(roles.agencyId, scope.agencyId), eq(roles.id, id)))
    .for("update");
  return role ?? null;
}

/** A role as a form names it: one that every agency has, or the identifier of an own one. */
export const roleChoice = z.union([z.enum(STARTER_ROLES), z.uuid()], { error: "Choose a role." });

export type Given = { role: (typeof STARTER_ROLES)[number]; roleId: string | null; permissions: Permission[] };

/** What a choice of a role gives; null for a role that the agency does not have. */
export async function roleOf(tx: Tx, scope: AgencyScope, choice: string): Promise<Given | null> {
  const starter = STARTER_ROLES.find((role) => role === choice);
  if (starter) return { role: starter, roleId: null, permissions: permissionsOf(starter) };
  const own = await findRole(tx, scope, choice);
  return own && { role: "reader", roleId: own.id, permissions: own.permissions };
}
