import { and, eq, sql } from "drizzle-orm";
import { recordAudit } from "@/features/audit";
import type { Scope, Tx } from "@/platform/database";
import { services, type TagEffect, tags, teamMembers } from "@/schema/clients";
import { newId } from "@/schema/columns";

/**
 * What became of keeping something by name: another has the name, or what was to be changed is not there (any more).
 */
export type Kept = "kept" | "taken" | "missing";

/** What a client offers, who does it, and the tags people are marked with. A name stands once. */

/** Keeps a service: a new one without `id`. Says when another has this name. */
export async function keepService(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string | null,
  it: { name: string; neverAsk: boolean; retired: boolean },
  now: number,
): Promise<Kept> {
  const [other] = await tx
    .select({ id: services.id })
    .from(services)
    .where(and(eq(services.clientId, scope.clientId), sql`lower(${services.name}) = lower(${it.name})`));
  if (other && other.id !== id) return "taken";
  const key = id ?? newId();
  if (id) {
    const changed = await tx
      .update(services)
      .set(it)
      .where(and(eq(services.clientId, scope.clientId), eq(services.id, id)));
    if (!changed.rowCount) return "missing";
  } else await tx.insert(services).values({ id: key, clientId: scope.clientId, ...it });
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: id ? "changed" : "added",
    subject: "service",
    subjectId: key,
    details: it,
  });
  return "kept";
}

/** Keeps a team member: a new one without `id`. Says when another has this name. */
export async function keepTeamMember(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string | null,
  it: { name: string; retired: boolean },
  now: number,
): Promise<Kept> {
  const [other] = await tx
    .select({ id: teamMembers.id })
    .from(teamMembers)
    .where(and(eq(teamMembers.clientId, scope.clientId), sql`lower(${teamMembers.name}) = lower(${it.name})`));
  if (other && other.id !== id) return "taken";
  const key = id ?? newId();
  if (id) {
    const changed = await tx
      .update(teamMembers)
      .set(it)
      .where(and(eq(teamMembers.clientId, scope.clientId), eq(teamMembers.id, id)));
    if (!changed.rowCount) return "missing";
  } else await tx.insert(teamMembers).values({ id: key, clientId: scope.clientId, ...it });
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: id ? "changed" : "added",
    subject: "team member",
    subjectId: key,
    details: it,
  });
  return "kept";
}

/**
 * Keeps a tag: a new one without `id`. A new name is written wherever the old one stood. Says when another has this
 * name.
 */
export async function keepTag(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string | null,
  it: { name: string; effect: TagEffect },
  now: number,
): Promise<Kept> {
  const own = eq(tags.clientId, scope.clientId);
  const [other] = await tx
    .select({ id: tags.id })
    .from(tags)
    .where(and(own, sql`lower(${tags.name}) = lower(${it.name})`));
  if (other && other.id !== id) return "taken";
  const key = id ?? newId();
  if (id) {
    const [before] = await tx
      .select()
      .from(tags)
      .where(and(own, eq(tags.id, id)));
    if (!before) return "missing";
    await tx.update(tags).set(it).where(eq(tags.id, id));
    if (before.name !== it.name) {
      for (const table of ["people", "visits"] as const)
        await tx.execute(
          sql`update ${sql.identifier(table)} set tags = array_replace(tags, ${before.name}, ${it.name}) where client_id = ${scope.clientId} and tags @> array[${before.name}]`,
        );
      await renameInPlans(tx, scope, before.name, it.name);
    }
  } else await tx.insert(tags).values({ id: key, clientId: scope.clientId, ...it });
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: id ? "changed" : "added",
    subject: "tag",
    subjectId: key,
    details: it,
  });
  return "kept";
}

/** Writes a tag's new name wherever a plan, its changes or an older version of it names the old one. */
async function renameInPlans(tx: Tx, scope: Scope, before: string, after: string): Promise<void> {
  for (const [table, column] of [
    ["plans", "rules"],
    ["plans", "draft"],
    ["plan_versions", "rules"],
  ]) {
    const [rows, rules] = [sql.identifier(table), sql.identifier(column)];
    for (const field of ["excludeTags", "onlyTags"])
      await tx.execute(sql`
        update ${rows} set ${rules} = jsonb_set(${rules}, array[${field}::text], (select coalesce(jsonb_agg(case when t = ${before} then ${after} else t end), '[]') from jsonb_array_elements_text(${rules} -> ${field}::text) t))
        where client_id = ${scope.clientId} and ${rules} -> ${field}::text ? ${before}`);
    await tx.execute(
      sql`update ${rows} set ${rules} = jsonb_set(${rules}, '{begins,tag}', to_jsonb(${after}::text)) where client_id = ${scope.clientId} and ${rules} -> 'begins' ->> 'tag' = ${before}`,
    );
  }
}

/** Removes a tag from everybody and from the list. False when it is not there. */
export async function dropTag(tx: Tx, scope: Scope, who: string, id: string, now: number): Promise<boolean> {
  const [tag] = await tx
    .select()
    .from(tags)
    .where(and(eq(tags.clientId, scope.clientId), eq(tags.id, id)));
  if (!tag) return false;
  for (const table of ["people", "visits"] as const)
    await tx.execute(
      sql`update ${sql.identifier(table)} set tags = array_remove(tags, ${tag.name}) where client_id = ${scope.clientId} and tags @> array[${tag.name}]`,
    );
  await tx.delete(tags).where(eq(tags.id, id));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "removed",
    subject: "tag",
    subjectId: id,
    details: { name: tag.name },
  });
  return true;
}
