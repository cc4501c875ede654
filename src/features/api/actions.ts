"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { action, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { type ActionResult, formText, formTexts } from "@/ui/result";
import { endKey, makeKey, SCOPES, scopesFor } from "./keys";

/** Makes a key and shows it, this once. */
export const createKey = action(
  atClientWith("set up"),
  [before<unknown>(), form],
  async (access, _before, form): Promise<{ ok: true; key: string } | { ok: false; message: string }> => {
    const values = z
      .object({
        name: z.string().trim().min(1, "Say what the key is for.").max(80, "Keep the name under 80 characters."),
        scopes: z.array(z.enum(SCOPES)).min(1, "Choose at least one thing it can do."),
      })
      .safeParse({ name: formText(form, "name"), scopes: formTexts(form, "scope") });
    if (!values.success) return { ok: false, message: values.error.issues[0].message };
    const own = scopesFor(access.seat);
    const beyond = values.data.scopes.find((scope) => !own.includes(scope));
    if (beyond)
      return {
        ok: false,
        message: `You don’t have all of these permissions yourself (${beyond}), so your key can’t either.`,
      };
    const now = await clockNow();
    const { name, scopes } = values.data;
    const isOfClient = access.seat.kind === "client" || access.seat.kind === "branch";
    const { key } = await withClient(access, (tx) =>
      makeKey(tx, access, access.user.name, name, scopes, now, isOfClient),
    );
    revalidatePath(`/c/${access.seat.slug}/set-up/keys`);
    return { ok: true, key };
  },
);

/** Ends a key. */
export const revokeKey = action(
  atClientWith("set up"),
  [text],
  async (access, id): Promise<Exclude<ActionResult, null>> => {
    if (!z.uuid().safeParse(id).success) return { ok: false, message: "This key doesn’t exist." };
    const now = await clockNow();
    const ended = await withClient(access, (tx) => endKey(tx, access, access.user.name, id, now));
    if (!ended) return { ok: false, message: "This key doesn’t exist or has already been revoked." };
    revalidatePath(`/c/${access.seat.slug}/set-up/keys`);
    return { ok: true, message: "Revoked. Anything using this key will be refused from now on." };
  },
);
