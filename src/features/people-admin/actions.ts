"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { capital, sayCount } from "@/core/time/say";
import { DAY, fromLocal, HOUR, parseDay } from "@/core/time/zone";
import { cleanText } from "@/core/words/clean";
import { askMany, foretellMany, MOST_AT_ONCE, type WouldAsk, type WouldLeaveOut } from "@/features/asks";
import { loadSetting } from "@/features/clients";
import { deleteView, directoryQuery, findPerson, saveView } from "@/features/people";
import { type Access, requireAccess } from "@/platform/access";
import { action, atClientWith, before, form, given, readAction, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { acrossBranches, type Tx, withClient } from "@/platform/database";
import { type ActionResult, formText } from "@/ui/result";
import { dismissMatch } from "./duplicates";
import { erasePeople } from "./erase";
import { leaveHousehold, makeHousehold } from "./households";
import { correctAddress } from "./invalidAddresses";
import { excludeMany, restMany, tagMany } from "./many";
import { mergePeople, undoMerge } from "./merge";
import { type Selection, selectedIds, selection } from "./selection";

const nobody = { ok: false as const, message: "Nobody’s selected. Tick some people first." };

/** What asking these people would send, and whom it would leave out. Nothing is kept. */
export const previewMany = readAction(
  atClientWith("ask many"),
  [given<Selection>()],
  async (
    access,
    chosen,
  ): Promise<
    { ok: true; asked: WouldAsk[]; leftOut: WouldLeaveOut[]; more: number } | { ok: false; message: string }
  > => {
    const wanted = selection.safeParse(chosen);
    if (!wanted.success) return nobody;
    const now = await clockNow();
    return withClient(access, async (tx) => {
      const ids = await selectedIds(tx, access, wanted.data, now, 5000);
      return {
        ok: true as const,
        ...(await foretellMany(tx, access, ids, now)),
        more: Math.max(0, ids.length - MOST_AT_ONCE),
      };
    });
  },
);

/** Asks those whom the preview showed. The same request key asks once. */
export const confirmMany = action(
  atClientWith("ask many"),
  [z.array(text), text],
  async (access, ids, requestKey): Promise<Exclude<ActionResult, null>> => {
    const wanted = z
      .object({ ids: z.array(z.uuid()).min(1).max(MOST_AT_ONCE), requestKey: z.uuid() })
      .safeParse({ ids, requestKey });
    if (!wanted.success) return nobody;
    const now = await clockNow();
    const { asked, leftOut } = await withClient(access, (tx) =>
      askMany(tx, access, { ...wanted.data, who: access.user.name, now }),
    );
    if (asked + leftOut === 0) return { ok: false, message: "They no longer exist." };
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return { ok: true, message: `${asked} will be asked${leftOut > 0 ? `, ${leftOut} left out` : ""}.` };
  },
);

const manyAction = z.discriminatedUnion("action", [
  z.object({ action: z.literal("tag"), tag: z.string().min(1).max(60), gives: z.boolean() }),
  z.object({
    action: z.literal("rest"),
    days: z.number().int().min(0).max(3650),
    reason: z.string().max(200).transform(cleanText),
  }),
  z.object({ action: z.literal("exclude"), reason: z.string().max(200).transform(cleanText).nullable() }),
  z.object({ action: z.literal("erase"), sure: z.literal("erase") }),
]);
export type ManyAction = z.input<typeof manyAction>;

/** Tags, rests, excludes or erases everybody chosen. */
export const changeMany = action(
  atClientWith("edit people"),
  [given<Selection>(), given<ManyAction>()],
  async (access, chosen, what): Promise<Exclude<ActionResult, null>> => {
    const wanted = selection.safeParse(chosen);
    if (!wanted.success) return nobody;
    const wantedAction = manyAction.safeParse(what);
    if (!wantedAction.success) return { ok: false, message: "That isn’t possible with people." };
    // Erasing needs a permission of its own, at the branches where the seat has that.
    const scope = wantedAction.data.action === "erase" ? await requireAccess(access.seat.slug, "erase people") : access;
    const now = await clockNow();
    const message = await withClient(scope, async (tx) => {
      const ids = await selectedIds(tx, scope, wanted.data, now, 20_000);
      if (ids.length === 0) return undefined;
      // What they are planned at other branches follows.
      return acrossBranches(tx, () => change(tx, scope, ids, wantedAction.data, now));
    });
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    if (message === undefined) return nobody;
    return message ? { ok: true, message } : { ok: false, message: "This tag has been removed." };
  },
);

/** What was done, in words; null for a tag that the client does not have. */
async function change(
  tx: Tx,
  access: Access,
  ids: string[],
  it: z.output<typeof manyAction>,
  now: number,
): Promise<string | null> {
  const who = access.user.name;
  if (it.action === "tag") {
    const { tags } = await loadSetting(tx);
    if (it.gives && !tags.some(({ name }) => name === it.tag)) return null;
    return `${people(await tagMany(tx, access, ids, it.tag, it.gives, who, now))} ${it.gives ? "tagged" : "untagged"}.`;
  }
  if (it.action === "rest")
    return `${people(await restMany(tx, access, ids, it.days === 0 ? null : now + it.days * DAY, it.reason, who, now))} ${it.days === 0 ? "can be asked again" : "set to rest"}.`;
  if (it.action === "exclude")
    return `${people(await excludeMany(tx, access, ids, it.reason, who, now))} ${it.reason === null ? "can be asked again" : "will never be asked"}.`;
  return `${people(await erasePeople(tx, access, ids, who, now))} erased.`;
}

const people = (count: number) => capital(sayCount(count, "person", "people"));

/** Keeps the filters under a name. */
export const saveNamedView = action(
  atClientWith("edit people", "whole client"),
  [text, before<ActionResult>(), form],
  async (access, shown, _before, form): Promise<ActionResult> => {
    const name = formText(form, "name").trim();
    if (!name || name.length > 60)
      return {
        ok: false,
        message: "Give it a name under 60 characters.",
        fields: { name: "Give it a name under 60 characters." },
      };
    const wanted = directoryQuery.parse({
      q: "",
      ...Object.fromEntries(new URLSearchParams(z.string().catch("").parse(shown).slice(0, 1000))),
    });
    await withClient(access, (tx) => saveView(tx, access, access.user.name, name, wanted));
    revalidatePath(`/c/${access.seat.slug}/people`);
    return { ok: true, message: "Saved as a view." };
  },
);

/** Forgets a named view. */
export const deleteNamedView = action(
  atClientWith("edit people", "whole client"),
  [text],
  async (access, id): Promise<void> => {
    if (z.uuid().safeParse(id).success) await withClient(access, (tx) => deleteView(tx, access, id));
    revalidatePath(`/c/${access.seat.slug}/people`);
  },
);

/** Gives somebody a right address in place of one that came back. */
export const correct = action(
  atClientWith("edit people"),
  [text, z.enum(["email", "text"]), before<ActionResult>(), form],
  async (access, id, channel, _before, form): Promise<ActionResult> => {
    if (!z.object({ id: z.uuid(), channel: z.enum(["email", "text"]) }).safeParse({ id, channel }).success)
      return { ok: false, message: "This person doesn’t exist." };
    const now = await clockNow();
    const result = await withClient(access, async (tx) =>
      (await findPerson(tx, access, id))
        ? acrossBranches(tx, () =>
            correctAddress(tx, access, id, channel, formText(form, "address").slice(0, 254), access.user.name, now),
          )
        : { ok: false as const, message: "This person doesn’t exist." },
    );
    if (!result.ok) return { ok: false, message: result.message, fields: { address: result.message } };
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return { ok: true, message: result.goesOn > 0 ? "Fixed. Their ask carries on." : "Fixed." };
  },
);

const pair = z.object({ a: z.uuid(), b: z.uuid() }).refine(({ a, b }) => a !== b);

/** Makes two records one. */
export const mergePair = action(
  atClientWith("edit people", "whole client"),
  [text, text],
  async (access, a, b): Promise<Exclude<ActionResult, null> & { mergeId?: string }> => {
    const ids = pair.safeParse({ a, b });
    if (!ids.success) return { ok: false, message: "Choose two records." };
    const now = await clockNow();
    const merge = await withClient(access, (tx) =>
      mergePeople(tx, access, ids.data.a, ids.data.b, access.user.name, now),
    );
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return merge
      ? { ok: true, message: "Merged. Both histories are kept.", mergeId: merge.id }
      : { ok: false, message: "One of them no longer exists." };
  },
);

/** Takes a merge back. */
export const undoMergeOf = action(
  atClientWith("edit people", "whole client"),
  [text],
  async (access, mergeId): Promise<Exclude<ActionResult, null>> => {
    if (!z.uuid().safeParse(mergeId).success) return { ok: false, message: "There’s nothing to undo." };
    const now = await clockNow();
    const done = await withClient(access, (tx) => undoMerge(tx, access, mergeId, access.user.name, now));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return done
      ? { ok: true, message: "Split back into two." }
      : { ok: false, message: "This can no longer be undone." };
  },
);

const group = z.array(z.uuid()).min(2).max(20);

/** Remembers that these are not one person, or not one household. */
export const dismissMatchOf = action(
  atClientWith("edit people", "whole client"),
  [z.enum(["duplicates", "household"]), z.array(text)],
  async (access, kind, ids): Promise<Exclude<ActionResult, null>> => {
    const wanted = z.object({ kind: z.enum(["duplicates", "household"]), ids: group }).safeParse({ kind, ids });
    if (!wanted.success) return { ok: false, message: "Choose people." };
    const now = await clockNow();
    const kept = await withClient(access, (tx) =>
      dismissMatch(tx, access, wanted.data.kind, wanted.data.ids, access.user.name, now),
    );
    if (!kept) return { ok: false, message: "Some of them no longer exist." };
    revalidatePath(`/c/${access.seat.slug}/people/duplicates`);
    return { ok: true, message: kind === "duplicates" ? "Marked as two different people." : "Not a household." };
  },
);

/** Makes these people one household. */
export const confirmHousehold = action(
  atClientWith("edit people", "whole client"),
  [z.array(text)],
  async (access, ids): Promise<Exclude<ActionResult, null>> => {
    const wanted = group.safeParse(ids);
    if (!wanted.success) return { ok: false, message: "A household needs at least two people." };
    const now = await clockNow();
    const home = await withClient(access, (tx) => makeHousehold(tx, access, wanted.data, access.user.name, now));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return home
      ? { ok: true, message: "Made into a household." }
      : { ok: false, message: "Some of them no longer exist." };
  },
);

/** Takes somebody out of their household. */
export const quitHousehold = action(
  atClientWith("edit people", "whole client"),
  [text],
  async (access, id): Promise<Exclude<ActionResult, null>> => {
    if (!z.uuid().safeParse(id).success) return { ok: false, message: "This person doesn’t exist." };
    const now = await clockNow();
    const left = await withClient(access, (tx) => leaveHousehold(tx, access, id, access.user.name, now));
    if (!left) return { ok: false, message: "They aren’t in a household." };
    revalidatePath(`/c/${access.seat.slug}/people/${id}`);
    return { ok: true, message: "Removed from the household." };
  },
);

/** Lets one person rest until a day. */
export const restUntil = action(
  atClientWith("edit people"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    if (!z.uuid().safeParse(id).success) return { ok: false, message: "This person doesn’t exist." };
    const now = await clockNow();
    const day = formText(form, "day");
    let until: number | null = null;
    try {
      if (day) until = fromLocal(access.seat.zone, parseDay(day) * DAY + 9 * HOUR);
    } catch {
      return { ok: false, message: "Enter a date.", fields: { day: "Enter a date like 2027-01-31." } };
    }
    if (until !== null && (until <= now || until > now + 3650 * DAY))
      return {
        ok: false,
        message: "Choose a date in the future.",
        fields: { day: "Choose a date within the next ten years." },
      };
    const changed = await withClient(access, async (tx) =>
      (await findPerson(tx, access, id))
        ? acrossBranches(tx, () =>
            restMany(tx, access, [id], until, formText(form, "reason").slice(0, 200), access.user.name, now),
          )
        : 0,
    );
    if (changed === 0) return { ok: false, message: "This person doesn’t exist." };
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return { ok: true, message: until === null ? "They can be asked again." : "They’ll rest until then." };
  },
);
