"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { cleanText } from "@/core/words/clean";
import { groupNamed, listSeats } from "@/features/accounts";
import { changeClient } from "@/features/clients";
import { requireAgency } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withAgency, withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { hasClient } from "./queries";

const input = z.object({
  by: z.string().max(64),
  group: z.string().transform(cleanText).pipe(z.string().trim().max(40, "Keep the name under 40 characters.")),
});

const GONE = { ok: false as const, message: "That is not there any more. Reload the page." };

/** Says who of the agency looks after a client, and to which group it belongs; a new name makes a group. */
export async function arrangeClient(
  slug: string,
  clientId: string,
  _before: ActionResult,
  form: FormData,
): Promise<ActionResult> {
  const access = await requireAgency(slug, "start clients");
  const parsed = input.safeParse({ by: formText(form, "by"), group: formText(form, "group") });
  if (!parsed.success) return refusal(parsed.error);
  if (!z.uuid().safeParse(clientId).success) return GONE;
  const { by, group } = parsed.data;
  const now = await clockNow();
  const found = await withAgency(access, async (tx) => {
    if (!(await hasClient(tx, access, clientId))) return null;
    const team = (await listSeats(tx, access)).filter(({ client }) => client === null);
    if (by && !team.some(({ userId }) => userId === by)) return null;
    return { groupId: group ? await groupNamed(tx, access, access.user.name, group, now) : null };
  });
  if (!found) return GONE;
  await withClient({ clientId, user: access.user }, (tx) =>
    changeClient(tx, { clientId }, { lookedAfterBy: by || null, groupId: found.groupId }),
  );
  revalidatePath("/agency", "layout");
  return { ok: true, message: "Saved." };
}
