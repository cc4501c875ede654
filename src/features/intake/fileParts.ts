import { eq } from "drizzle-orm";
import { headerKey } from "@/core/intake/fields";
import type { ClientFile } from "@/core/onboarding/clientFile";
import type { IdsByName, Setting } from "@/features/clients";
import type { Scope, Tx } from "@/platform/database";
import { newId } from "@/schema/columns";
import { feeds } from "@/schema/feeds";
import { readings, seenNames } from "@/schema/intake";
import { addFeed, changeFeed, listFeeds } from "./feeds";

/** What of intake stands in a client's file: feeds without their secrets, what names mean, how lists are read. */

type Parts = Pick<ClientFile, "feeds" | "names" | "readings">;

/** Writes these parts of a file; identifiers become names. */
export async function intakeParts(tx: Tx, scope: Scope, setting: Setting): Promise<Parts> {
  const nameIn = (list: readonly { id: string; name: string }[]) => {
    const names = new Map(list.map(({ id, name }) => [id, name]));
    return (id: string | null | undefined) => (id ? (names.get(id) ?? null) : null);
  };
  const [branch, service] = [nameIn(setting.branches), nameIn(setting.services)];
  const meanings = { branch, service, team: nameIn(setting.team), tag: nameIn(setting.tags) };
  const own = await listFeeds(tx, scope);
  const known = await tx.select().from(seenNames).where(eq(seenNames.clientId, scope.clientId)).orderBy(seenNames.key);
  const read = await tx.select().from(readings).where(eq(readings.clientId, scope.clientId)).orderBy(readings.shape);
  return {
    feeds: own.map((feed) => ({
      kind: feed.kind,
      name: feed.name,
      state: feed.state,
      branch: branch(feed.branchId),
      service: service(feed.serviceId),
      mapping: feed.mapping,
      rules: feed.rules?.map(({ serviceId, ...rule }) => ({ ...rule, service: service(serviceId) })) ?? null,
      // Whoever has a calendar's address reads it: it is a secret, and is written in again where the file is used.
      url: null,
      pollMinutes: feed.pollMinutes,
    })),
    names: known.flatMap(({ kind, name, targetId, ignored }) => {
      const means = meanings[kind](targetId);
      return means !== null || ignored ? { kind, name, means } : [];
    }),
    readings: read.map(({ shape, choice: { serviceId, branchId, ...choice } }) => ({
      shape,
      choice: { ...choice, service: service(serviceId), branch: branch(branchId) },
    })),
  };
}

/** Brings these parts of a file in. Feeds get secrets and links of their own. */
export async function installIntakeParts(
  tx: Tx,
  scope: Scope,
  who: string,
  file: Parts,
  ids: IdsByName,
  now: number,
): Promise<void> {
  const { clientId } = scope;
  const idOf = (kind: keyof IdsByName, name: string | null) => (name === null ? null : (ids[kind].get(name) ?? null));
  for (const [at, { kind, name, state, mapping, rules, url, pollMinutes, ...it }] of file.feeds.entries()) {
    const serviceId = idOf("service", it.service);
    const values = { kind, name, url: url ?? "", branchId: idOf("branch", it.branch), serviceId };
    // In the order of the file, also where they are made in one moment.
    const feed = await addFeed(tx, scope, who, values, now + at);
    const own = rules?.map(({ service, ...rule }) => ({ ...rule, serviceId: idOf("service", service) })) ?? null;
    await changeFeed(tx, scope, who, feed, { state, mapping, rules: own }, now);
    await tx.update(feeds).set({ pollMinutes }).where(eq(feeds.id, feed.id));
  }
  if (file.names.length > 0)
    await tx
      .insert(seenNames)
      .values(
        file.names.map(({ kind, name, means }) => ({
          id: newId(),
          clientId,
          kind,
          key: headerKey(name),
          name,
          targetId: idOf(kind, means),
          ignored: means === null,
          firstSeenAt: now,
        })),
      )
      .onConflictDoNothing();
  if (file.readings.length > 0)
    await tx
      .insert(readings)
      .values(
        file.readings.map(({ shape, choice: { service, branch, ...choice } }) => ({
          clientId,
          shape,
          choice: { ...choice, serviceId: idOf("service", service), branchId: idOf("branch", branch) },
          at: now,
        })),
      )
      .onConflictDoNothing();
}
