"use server";

import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { begin, beginInput, isUnbegun } from "@/features/accounts";
import { askForSender } from "@/features/clients";
import { action, anyone, before, form } from "@/platform/action";
import { auth } from "@/platform/auth";
import { clientAddressOf } from "@/platform/clientAddress";
import { now as clockNow } from "@/platform/clock";
import { isWelcome } from "@/platform/publicLimit";
import { type ActionResult, formText, refusal } from "@/ui/result";

/** Makes the first account of this installation; whoever comes later is refused. */
export const beginHere = action(
  anyone,
  [before<ActionResult>(), form],
  async (_nobody, _before, form): Promise<ActionResult> => {
    const own = await headers();
    if (!(await isWelcome(`begin ${clientAddressOf(own) ?? "unknown"}`, 20, 600)))
      return { ok: false, message: "Too many attempts. Wait ten minutes, then try again." };
    const begun = {
      ok: false as const,
      message: "Someone has already set this up. Sign in, or ask them to invite you.",
    };
    if (!(await isUnbegun())) return begun;
    const parsed = beginInput.safeParse(
      Object.fromEntries(Object.keys(beginInput.shape).map((name) => [name, formText(form, name)])),
    );
    if (!parsed.success) return refusal(parsed.error);
    const { email, password } = parsed.data;
    const made = await begin(parsed.data, await clockNow());
    if (!made) return begun;
    await (await auth()).api.signInEmail({ body: { email, password }, headers: own });
    await askForSender("agency", made.agencyId, parsed.data.name, {
      id: made.agencyId,
      name: parsed.data.agency,
      colour: "#6A2156",
    });
    redirect(`/agency/${made.slug}`);
  },
);
