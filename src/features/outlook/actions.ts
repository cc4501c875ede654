"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { PLACES } from "@/core/access/permissions";
import { cleanText } from "@/core/words/clean";
import { groupNamed, listTeam, placeOf, recordAccountEntry } from "@/features/accounts";
import { changeClient } from "@/features/clients";
import { atClient } from "@/platform/access";
import { action, atAgencyWith, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withAgency, withClient } from "@/platform/database";
import { type ActionResult, formText, formTexts, refusal } from "@/ui/result";
import { hasClient } from "./queries";
import { setNeedAside } from "./refresh";
import { setSummaryReader } from "./summary";

const shown = z.array(z.enum(PLACES));

/** Says what a client's own people are shown: all that their roles allow, or only some places. */
export const showPlaces = action(
  atAgencyWith("manage people"),
  [text, before<ActionResult>(), form],
  async (access, clientId, _before, form): Promise<ActionResult> => {
    const places = shown.safeParse(formTexts(form, "place"));
    if (!places.success || !z.uuid().safeParse(clientId).success) return GONE;
    const isAll = formText(form, "all") === "yes" || places.data.length === PLACES.length;
    if (!isAll && places.data.length === 0) {
      const message = "Choose at least one place.";
      return { ok: false, message, fields: { place: message } };
    }
    const now = await clockNow();
    const name = await withAgency(access, async (tx) => {
      const client = (await placeOf(tx, access, `client ${clientId}`))?.name ?? null;
      if (client !== null)
        await recordAccountEntry(tx, access, {
          at: now,
          who: access.user.name,
          action: "changed",
          subject: "client",
          name: client,
          aboutClient: clientId,
        });
      return client;
    });
    if (name === null) return GONE;
    await withClient(atClient(access, clientId), (tx) =>
      changeClient(tx, { clientId }, { shownPlaces: isAll ? null : places.data }),
    );
    revalidatePath("/", "layout");
    return { ok: true, message: "Saved. They’ll see it from the next page they open." };
  },
);

const input = z.object({
  by: z.string().max(64),
  group: z.string().transform(cleanText).pipe(z.string().trim().max(40, "Keep the name under 40 characters.")),
});

const GONE = { ok: false as const, message: "That no longer exists. Reload the page." };

/** Says who of the agency looks after a client, and to which group it belongs; a new name makes a group. */
export const arrangeClient = action(
  atAgencyWith("start clients"),
  [text, before<ActionResult>(), form],
  async (access, clientId, _before, form): Promise<ActionResult> => {
    const parsed = input.safeParse({ by: formText(form, "by"), group: formText(form, "group") });
    if (!parsed.success) return refusal(parsed.error);
    if (!z.uuid().safeParse(clientId).success) return GONE;
    const { by, group } = parsed.data;
    const now = await clockNow();
    const found = await withAgency(access, async (tx) => {
      if (!(await hasClient(tx, access, clientId))) return null;
      const team = await listTeam(tx, access);
      if (by && !team.some(({ userId }) => userId === by)) return null;
      return { groupId: group ? await groupNamed(tx, access, access.user.name, group, now) : null };
    });
    if (!found) return GONE;
    await withClient(atClient(access, clientId), (tx) =>
      changeClient(tx, { clientId }, { lookedAfterBy: by || null, groupId: found.groupId }),
    );
    revalidatePath("/agency", "layout");
    return { ok: true, message: "Saved." };
  },
);

/** From the next morning on, mails the person here how the clients are doing; or no more. */
export const wantSummary = action(
  atAgencyWith(null, "own clients"),
  [z.boolean()],
  async (access, wants): Promise<Exclude<ActionResult, null>> => {
    await withAgency(access, (tx) => setSummaryReader(tx, access, access.user.id, wants === true));
    revalidatePath("/agency", "layout");
    return wants === true
      ? { ok: true, message: "You’ll get it every morning at seven, from tomorrow." }
      : { ok: true, message: "You’ve stopped this email." };
  },
);

/** Sets one of a client's needs aside, with a reason, until it is over. */
export const setAside = action(
  atClientWith("set up", "whole client", "see today"),
  [text, before<ActionResult>(), form],
  async (access, key, _before, form): Promise<ActionResult> => {
    const reason = z.string().trim().min(1, "Give a reason for your team.").max(200, "Keep it under 200 characters.");
    const read = z
      .object({ reason, key: z.string().min(1).max(200) })
      .safeParse({ reason: formText(form, "reason"), key: cleanText(key) });
    if (!read.success) return refusal(read.error);
    const isDone = await setNeedAside(access.clientId, access.user.name, read.data.key, read.data.reason);
    revalidatePath("/agency", "layout");
    if (!isDone) return { ok: false, message: "This is already over. Reload the page." };
    return { ok: true, message: "Set aside. If it happens again, you’ll see it again." };
  },
);

/** Has it back among what needs someone. */
export const takeBack = action(
  atClientWith("set up", "whole client", "see today"),
  [text],
  async (access, key): Promise<ActionResult> => {
    const isDone = await setNeedAside(access.clientId, access.user.name, cleanText(key).slice(0, 200), null);
    revalidatePath("/agency", "layout");
    if (!isDone) return { ok: false, message: "This is no longer set aside. Reload the page." };
    return { ok: true, message: "It’s back on the list." };
  },
);
