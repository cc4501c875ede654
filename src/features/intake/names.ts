import { and, asc, eq, isNull, type SQL, sql } from "drizzle-orm";
import { headerKey } from "@/core/intake/fields";
import { recordAudit } from "@/features/audit";
import type { Setting } from "@/features/clients";
import { addBranch, addByName } from "@/features/clients";
import { replaceTag } from "@/features/people";
import { settleWords } from "@/features/visits";
import type { Scope, Tx } from "@/platform/database";
import { newId } from "@/schema/columns";
import { seenNames } from "@/schema/intake";

/**
 * Names in lists and feeds, and what they stand for. Each unknown one is shown and assigned once; then it is known
 * for ever.
 */

export type NameKind = "service" | "branch" | "team" | "tag";
export type SeenName = typeof seenNames.$inferSelect;

/** What a name stands for: something of the client's, nothing, or not known yet. */
export type Meaning = { id: string } | "nothing" | "unknown";

/**
 * Looks names up: the client's own first (spelling of capitals, accents and spaces does not matter), then what was
 * assigned before.
 */
export class Names {
  private readonly own = new Map<string, string>();
  private readonly seen: Map<string, SeenName>;
  private readonly met = new Map<string, { kind: NameKind; key: string; name: string; times: number }>();

  constructor(setting: Pick<Setting, "services" | "branches" | "team" | "tags">, seen: readonly SeenName[]) {
    const add = (kind: NameKind, list: readonly { id: string; name: string }[]) => {
      for (const { id, name } of list) this.own.set(`${kind} ${headerKey(name)}`, id);
    };
    add("service", setting.services);
    add("branch", setting.branches);
    add("team", setting.team);
    add("tag", setting.tags);
    this.seen = new Map(seen.map((one) => [`${one.kind} ${one.key}`, one]));
  }

  private readonly quick = new Map<string, { id: string }>();

  /** What `name` stands for; an unknown one is remembered until `unknown` is asked. */
  look(kind: NameKind, name: string): Meaning {
    const written = `${kind} ${name}`;
    const known = this.quick.get(written);
    if (known) return known;
    const meaning = this.lookUp(kind, name);
    if (typeof meaning === "object" && this.quick.size < 10_000) this.quick.set(written, meaning);
    return meaning;
  }

  private lookUp(kind: NameKind, name: string): Meaning {
    const key = `${kind} ${headerKey(name)}`;
    const own = this.own.get(key);
    if (own) return { id: own };
    const seen = this.seen.get(key);
    if (seen?.ignored) return "nothing";
    if (seen?.targetId) return { id: seen.targetId };
    const met = this.met.get(key);
    if (met) met.times += 1;
    else this.met.set(key, { kind, key: headerKey(name), name, times: 1 });
    return "unknown";
  }

  /** The name as it is first written, which is how waiting visits keep it. */
  spelling(kind: NameKind, name: string): string {
    const key = `${kind} ${headerKey(name)}`;
    return this.seen.get(key)?.name ?? this.met.get(key)?.name ?? name;
  }

  unknown(): { kind: NameKind; key: string; name: string; times: number }[] {
    return [...this.met.values()];
  }
}

/** Loads what is known of names. */
export async function loadNames(tx: Tx, scope: Scope, setting: Setting): Promise<Names> {
  return new Names(setting, await tx.select().from(seenNames).where(eq(seenNames.clientId, scope.clientId)));
}

/** Writes the unknown names down, to be assigned. */
export async function saveUnknownNames(tx: Tx, scope: Scope, names: Names, now: number): Promise<void> {
  const met = names.unknown();
  if (met.length === 0) return;
  await tx
    .insert(seenNames)
    .values(met.map((one) => ({ ...one, id: newId(), clientId: scope.clientId, firstSeenAt: now })))
    .onConflictDoUpdate({
      target: [seenNames.clientId, seenNames.kind, seenNames.key],
      set: { times: sql`${seenNames.times} + excluded.times` },
    });
}

/** Names that nobody has assigned yet, oldest first. */
export function openNames(tx: Tx, scope: Scope): Promise<SeenName[]> {
  return tx
    .select()
    .from(seenNames)
    .where(and(eq(seenNames.clientId, scope.clientId), isNull(seenNames.targetId), eq(seenNames.ignored, false)))
    .orderBy(asc(seenNames.kind), asc(seenNames.firstSeenAt))
    .limit(200);
}

/** How many of them there are. */
export const openNamesCount = (scope: Scope): SQL<{ count: number }> =>
  sql`select count(*)::int as count from (select 1 from ${seenNames}
    where ${seenNames.clientId} = ${scope.clientId} and ${seenNames.targetId} is null and not ${seenNames.ignored} limit 200) t`;

/** Names that were assigned, so that an assignment can be seen and taken back. */
export function assignedNames(tx: Tx, scope: Scope): Promise<SeenName[]> {
  return tx
    .select()
    .from(seenNames)
    .where(
      and(eq(seenNames.clientId, scope.clientId), sql`(${seenNames.targetId} is not null or ${seenNames.ignored})`),
    )
    .orderBy(asc(seenNames.kind), asc(seenNames.name))
    .limit(500);
}

/**
 * Says what a name stands for: one of the client's, a new one of that name, or nothing. Visits that waited for it are
 * looked at by plans. Gives how many visits that concerns, or null when the name or its target is not there.
 */
export async function assignName(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  who: string,
  id: string,
  to: { id: string } | "new" | "nothing",
  now: number,
): Promise<number | null> {
  const [seen] = await tx
    .select()
    .from(seenNames)
    .where(and(eq(seenNames.clientId, scope.clientId), eq(seenNames.id, id)))
    .for("update");
  if (!seen) return null;
  const list = { service: setting.services, branch: setting.branches, team: setting.team, tag: setting.tags }[
    seen.kind
  ];
  if (typeof to === "object" && !list.some((one) => one.id === to.id)) return null;
  const targetId = typeof to === "object" ? to.id : to === "new" ? await addNamed(tx, scope, setting, seen) : null;
  await tx
    .update(seenNames)
    .set({ targetId, ignored: to === "nothing" })
    .where(eq(seenNames.id, id));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: to === "nothing" ? "ignored name" : "assigned name",
    subject: `${seen.kind} name`,
    subjectId: id,
    details: { name: seen.name, targetId },
  });
  if (seen.kind === "tag") {
    await tagWaiting(
      tx,
      scope,
      seen.name,
      targetId ? (list.find((one) => one.id === targetId)?.name ?? seen.name) : null,
    );
    return 0;
  }
  return settleWords(tx, scope, seen.kind, seen.name, targetId, now);
}

async function addNamed(tx: Tx, scope: Scope, setting: Setting, seen: SeenName): Promise<string> {
  if (seen.kind === "branch") return addBranch(tx, scope, setting, seen.name);
  return addByName(tx, scope, seen.kind, seen.name);
}

/** People that came with a tag nobody knew carry its words with a question mark until it is assigned. */
async function tagWaiting(tx: Tx, scope: Scope, name: string, tag: string | null): Promise<void> {
  await replaceTag(tx, scope, `${name} ?`, tag);
}
