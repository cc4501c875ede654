"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { type AgencyAccess, requireAgency } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { type Tx, withAgency } from "@/platform/database";
import { environment } from "@/platform/environment";
import { type ActionResult, formText, formTexts, refusal } from "@/ui/result";
import { INVITATION_DAYS, invitationInput, invite, renewInvitation, withdrawInvitation } from "./invitations";
import { sendAccountMail } from "./mail";
import { holds, removeRole, roleChoice, roleInput, roleOf, saveRole } from "./roles";
import { changeSeat, clientNameOf, removeSeat, type SeatResult } from "./seats";

type Done = Exclude<ActionResult, null>;

const BEYOND: Done = { ok: false, message: "You can only give what you may do yourself." };
const GONE: Done = { ok: false, message: "That is not there any more. Reload the page." };

const byOf = ({ user, seat }: AgencyAccess) => ({ userId: user.id, name: user.name, rights: seat });

async function inAgency<T>(slug: string, work: (tx: Tx, access: AgencyAccess, now: number) => Promise<T>): Promise<T> {
  const access = await requireAgency(slug, "manage people");
  const now = await clockNow();
  const result = await withAgency(access, (tx) => work(tx, access, now));
  revalidatePath("/", "layout");
  return result;
}

/** Invites somebody by email to a role, for the whole agency or for one of its clients. */
export async function inviteSomebody(slug: string, _before: ActionResult, form: FormData): Promise<ActionResult> {
  const access = await requireAgency(slug, "manage people");
  const parsed = invitationInput.safeParse({
    name: formText(form, "name"),
    email: formText(form, "email"),
    role: formText(form, "role"),
    onlyClient: formText(form, "client") || null,
  });
  if (!parsed.success) return refusal(parsed.error);
  const { onlyClient, email, name } = parsed.data;
  const now = await clockNow();
  const made = await withAgency(access, async (tx) => {
    const given = await roleOf(tx, access, parsed.data.role);
    if (!given) return GONE;
    if (!holds(access.seat, given.permissions)) return BEYOND;
    const client = onlyClient ? await clientNameOf(tx, access, onlyClient) : null;
    if (onlyClient && client === null) return GONE;
    return { ...(await invite(tx, access, access.user.name, { email, name, onlyClient, given }, now)), client };
  });
  if ("ok" in made) return made;
  revalidatePath("/", "layout");
  return mailed(access, { email, name, client: made.client }, made.token, now);
}

/** Sends an invitation once more, with a new link; the one sent before leads nowhere from then on. */
export async function inviteAgain(slug: string, id: string): Promise<Done> {
  const access = await requireAgency(slug, "manage people");
  if (!z.uuid().safeParse(id).success) return GONE;
  const now = await clockNow();
  const again = await withAgency(access, async (tx) => {
    const renewed = await renewInvitation(tx, access, access.user.name, id, now);
    const client = renewed?.onlyClient ? await clientNameOf(tx, access, renewed.onlyClient) : null;
    return renewed && { ...renewed, client };
  });
  if (!again) return GONE;
  revalidatePath("/", "layout");
  return mailed(access, again, again.token, now);
}

async function mailed(
  access: AgencyAccess,
  to: { email: string; name: string; client: string | null },
  token: string,
  now: number,
): Promise<Done> {
  const { seat, user } = access;
  const sent = await sendAccountMail(
    `${token.slice(0, 8)}-${now}`,
    to,
    { name: seat.name, colour: seat.colour, senderEmail: seat.senderEmail },
    { code: "invitation", by: user.name, agency: seat.name, client: to.client, days: INVITATION_DAYS },
    `${environment().APP_URL}/join/${token}`,
  );
  return sent
    ? { ok: true, message: `Sent to ${to.email}.` }
    : { ok: false, message: "The invitation is saved, but its mail could not be sent. Send it again in a moment." };
}

/** Withdraws an invitation that nobody has taken. */
export async function withdraw(slug: string, id: string): Promise<Done> {
  if (!z.uuid().safeParse(id).success) return (await requireAgency(slug, "manage people")) && GONE;
  const ended = await inAgency(slug, (tx, access, now) => withdrawInvitation(tx, access, access.user.name, id, now));
  return ended ? { ok: true, message: "Withdrawn. Its link leads nowhere any more." } : GONE;
}

const SEAT_WORDS: Record<SeatResult, Done> = {
  saved: { ok: true, message: "Saved." },
  missing: GONE,
  "last one": { ok: false, message: "Nobody else could manage people then. Give somebody else that role first." },
  "beyond your own": { ok: false, message: "This seat may do more than yours. Ask somebody whose seat may, too." },
};

/** Gives a seat another role. */
export async function giveRole(slug: string, id: string, _before: ActionResult, form: FormData): Promise<ActionResult> {
  const access = await requireAgency(slug, "manage people");
  const role = roleChoice.safeParse(formText(form, "role"));
  if (!role.success) return refusal(role.error);
  if (!z.uuid().safeParse(id).success) return GONE;
  return inAgency(access.seat.slug, async (tx, own, now) => {
    const given = await roleOf(tx, own, role.data);
    return given ? SEAT_WORDS[await changeSeat(tx, own, byOf(own), id, given, now)] : GONE;
  });
}

/** Takes somebody off: they may enter nothing by this seat from their next request on. */
export async function takeOff(slug: string, id: string): Promise<Done> {
  const access = await requireAgency(slug, "manage people");
  if (!z.uuid().safeParse(id).success) return GONE;
  return inAgency(access.seat.slug, async (tx, own, now) => {
    const result = await removeSeat(tx, own, byOf(own), id, now);
    return result === "saved" ? { ok: true, message: "Taken off, at once and everywhere." } : SEAT_WORDS[result];
  });
}

/** Saves a role of the agency's own: a new one without `id`. */
export async function saveOwnRole(
  slug: string,
  id: string | null,
  _before: ActionResult,
  form: FormData,
): Promise<ActionResult> {
  const access = await requireAgency(slug, "manage people");
  const parsed = roleInput.safeParse({ name: formText(form, "name"), permissions: formTexts(form, "permission") });
  if (!parsed.success) return refusal(parsed.error);
  if (id !== null && !z.uuid().safeParse(id).success) return GONE;
  const result = await inAgency(access.seat.slug, (tx, own, now) =>
    saveRole(tx, own, { name: own.user.name, rights: own.seat }, id, parsed.data, now),
  );
  if (result === "taken")
    return { ok: false, message: "Another role has this name.", fields: { name: "Another role has this name." } };
  return result === "saved" ? { ok: true, message: "Saved." } : result === "missing" ? GONE : BEYOND;
}

/** Removes a role that nobody holds. */
export async function removeOwnRole(slug: string, id: string): Promise<Done> {
  const access = await requireAgency(slug, "manage people");
  if (!z.uuid().safeParse(id).success) return GONE;
  const result = await inAgency(access.seat.slug, (tx, own, now) => removeRole(tx, own, own.user.name, id, now));
  if (result === "held") return { ok: false, message: "Somebody holds this role, or is invited to it." };
  return result === "saved" ? { ok: true, message: "Removed." } : GONE;
}
