"use server";

import { revalidatePath } from "next/cache";
import { redirect } from "next/navigation";
import { z } from "zod";
import { typedLook } from "@/core/words/look";
import { askForSender, mayMail, sendAccountMail } from "@/features/clients";
import { type AgencyAccess, signedIn } from "@/platform/access";
import { action, atAgencyWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { type Tx, withAgency } from "@/platform/database";
import { environment } from "@/platform/environment";
import { beginSeenAs } from "@/platform/seenAs";
import { type ActionResult, formText, formTexts, refusal } from "@/ui/result";
import { agencyInput, saveAgency, saveClientLook } from "./agency";
import { INVITATION_DAYS, invitationInput, invite, renewInvitation, withdrawInvitation } from "./invitations";
import { placeOf, placeValue } from "./places";
import { holds, removeRole, roleChoice, roleInput, roleOf, saveRole } from "./roles";
import { changeSeat, listSeats, removeSeat, type SeatResult } from "./seats";
import { recordAccountEntry } from "./trail";

type Done = Exclude<ActionResult, null>;

const BEYOND: Done = { ok: false, message: "You can only give or remove permissions you have yourself." };
const GONE: Done = { ok: false, message: "That no longer exists. Reload the page." };

const byOf = ({ user, seat }: AgencyAccess) => ({ userId: user.id, name: user.name, rights: seat });

async function inAgency<T>(
  access: AgencyAccess,
  work: (tx: Tx, access: AgencyAccess, now: number) => Promise<T>,
): Promise<T> {
  const now = await clockNow();
  const result = await withAgency(access, (tx) => work(tx, access, now));
  revalidatePath("/", "layout");
  return result;
}

/** Invites somebody by email to a role, for the whole agency or for less of it. */
export const inviteSomebody = action(
  atAgencyWith("manage people"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const parsed = invitationInput.safeParse({
      name: formText(form, "name"),
      email: formText(form, "email"),
      role: formText(form, "role"),
      place: formText(form, "place"),
    });
    if (!parsed.success) return refusal(parsed.error);
    const { email, name } = parsed.data;
    const now = await clockNow();
    const made = await withAgency(access, async (tx) => {
      const given = await roleOf(tx, access, parsed.data.role);
      if (!given) return GONE;
      if (!holds(access.seat, given.permissions)) return BEYOND;
      const place = await placeOf(tx, access, parsed.data.place);
      if (!place) return GONE;
      return { ...(await invite(tx, access, access.user.name, { email, name, place, given }, now)), place };
    });
    if ("ok" in made) return made;
    revalidatePath("/", "layout");
    return mailed(access, { email, name, at: made.place.name }, made.token, now);
  },
);

/** Sends an invitation once more, with a new link; the one sent before leads nowhere from then on. */
export const inviteAgain = action(atAgencyWith("manage people"), [text], async (access, id): Promise<Done> => {
  if (!z.uuid().safeParse(id).success) return GONE;
  const now = await clockNow();
  const again = await withAgency(access, async (tx) => {
    const renewed = await renewInvitation(tx, access, byOf(access), id, now);
    if (!renewed || renewed === "beyond your own") return renewed;
    return { ...renewed, at: (await placeOf(tx, access, placeValue(renewed)))?.name ?? null };
  });
  if (!again) return GONE;
  if (again === "beyond your own") return BEYOND;
  revalidatePath("/", "layout");
  return mailed(access, again, again.token, now);
});

async function mailed(
  access: AgencyAccess,
  to: { email: string; name: string; at: string | null },
  token: string,
  now: number,
): Promise<Done> {
  const { seat, user } = access;
  if (!(await mayMail(access.agencyId, to.email)))
    return {
      ok: false,
      message: "You’ve sent a lot of invitations in the last hour. This one is saved; send it again later.",
    };
  const sent = await sendAccountMail(
    `${token.slice(0, 8)}-${now}`,
    to,
    { name: seat.name, colour: seat.colour, senderEmail: seat.senderEmail },
    { code: "invitation", by: user.name, agency: seat.name, at: to.at, days: INVITATION_DAYS },
    `${environment().APP_URL}/join/${token}`,
  );
  return sent
    ? { ok: true, message: `Sent to ${to.email}.` }
    : {
        ok: false,
        message: "The invitation is saved, but we couldn’t send the email. Try sending it again in a moment.",
      };
}

/** Withdraws an invitation that nobody has taken. */
export const withdraw = action(atAgencyWith("manage people"), [text], async (access, id): Promise<Done> => {
  if (!z.uuid().safeParse(id).success) return GONE;
  const ended = await inAgency(access, (tx, own, now) => withdrawInvitation(tx, own, byOf(own), id, now));
  if (ended === "beyond your own") return BEYOND;
  return ended === "withdrawn" ? { ok: true, message: "Withdrawn. Its link no longer works." } : GONE;
});

const SEAT_WORDS: Record<SeatResult, Done> = {
  saved: { ok: true, message: "Saved." },
  missing: GONE,
  "last one": { ok: false, message: "Then nobody could manage access. Give someone else that role first." },
  "beyond your own": { ok: false, message: "This person can do more than you. Ask someone with the same permissions." },
};

/** Gives a seat another role. */
export const giveRole = action(
  atAgencyWith("manage people"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const role = roleChoice.safeParse(formText(form, "role"));
    if (!role.success) return refusal(role.error);
    if (!z.uuid().safeParse(id).success) return GONE;
    return inAgency(access, async (tx, own, now) => {
      const given = await roleOf(tx, own, role.data);
      return given ? SEAT_WORDS[await changeSeat(tx, own, byOf(own), id, given, now)] : GONE;
    });
  },
);

/** Takes somebody off: they may enter nothing by this seat from their next request on. */
export const takeOff = action(atAgencyWith("manage people"), [text], async (access, id): Promise<Done> => {
  if (!z.uuid().safeParse(id).success) return GONE;
  return inAgency(access, async (tx, own, now) => {
    const result = await removeSeat(tx, own, byOf(own), id, now);
    return result === "saved" ? { ok: true, message: "Removed, and signed out everywhere." } : SEAT_WORDS[result];
  });
});

/**
 * From the next page on, looks as somebody who has a seat here: only what this agency gave them, only to look, for an
 * hour at most. Noted.
 */
export const lookAs = action(atAgencyWith("manage people"), [text], async (access, userId): Promise<Done> => {
  const now = await clockNow();
  const wanted = z.string().max(64).catch("").parse(userId);
  const refused = await withAgency(access, async (tx) => {
    const theirs = (await listSeats(tx, access)).filter((seat) => seat.userId === wanted);
    if (theirs.length === 0 || wanted === access.user.id) return GONE;
    if (!theirs.every(({ permissions }) => holds(access.seat, permissions)))
      return { ok: false as const, message: "This person can do more than you, so you can’t view Estima as them." };
    await recordAccountEntry(tx, access, {
      at: now,
      who: access.user.name,
      action: "looked as",
      subject: "seat",
      name: theirs[0].name,
    });
    return null;
  });
  if (refused) return refused;
  await beginSeenAs(access.user.id, { userId: wanted, agencyId: access.agencyId });
  redirect("/");
});

/** Saves what the agency is called, how it looks to its clients' people, and how its people sign in. */
export const changeAgency = action(
  atAgencyWith("manage people"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const parsed = agencyInput.safeParse({
      name: formText(form, "name"),
      colour: formText(form, "colour"),
      senderEmail: formText(form, "senderEmail"),
      helpEmail: formText(form, "helpEmail").trim(),
      needsTwoSteps: formText(form, "needsTwoSteps") === "yes",
    });
    if (!parsed.success) return refusal(parsed.error);
    if (parsed.data.needsTwoSteps && !(await signedIn())?.twoFactorEnabled) {
      const message = "Turn on two-step sign-in for your own account first, or you’ll lock yourself out.";
      return { ok: false, message, fields: { needsTwoSteps: message } };
    }
    await inAgency(access, (tx, own, now) => saveAgency(tx, own, own.user.name, parsed.data, now));
    const { name, colour } = parsed.data;
    const asked = await askForSender("agency", access.agencyId, access.user.name, {
      id: access.agencyId,
      name,
      colour,
    });
    return {
      ok: true,
      message: asked === "mailed" ? "Saved. We’ve sent a link to that address to confirm it." : "Saved.",
    };
  },
);

/** Mails once more the link that confirms the address the agency's mails come from. */
export const mailAgencySenderLink = action(
  atAgencyWith("manage people"),
  [],
  async ({ agencyId, user, seat }): Promise<Done> => {
    const { name, colour } = seat;
    const asked = await askForSender("agency", agencyId, user.name, { id: agencyId, name, colour });
    revalidatePath("/", "layout");
    if (asked === "mailed") return { ok: true, message: "Sent. The link works for seven days." };
    if (asked === "confirmed") return { ok: true, message: "The address is already confirmed." };
    return { ok: false, message: "We couldn’t send the link just now. Try again later." };
  },
);

/** Saves the look that new clients of the agency begin with. */
export const changeClientLook = action(
  atAgencyWith("manage people"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const parsed = typedLook.safeParse(
      Object.fromEntries(Object.keys(typedLook.shape).map((field) => [field, formText(form, field)])),
    );
    if (!parsed.success) return refusal(parsed.error);
    await inAgency(access, (tx, own, now) => saveClientLook(tx, own, own.user.name, parsed.data, now));
    return { ok: true, message: "Saved. New clients will start with this." };
  },
);

/** Saves a role of the agency's own: a new one without `id`. */
export const saveOwnRole = action(
  atAgencyWith("manage people"),
  [text.nullable(), before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const parsed = roleInput.safeParse({ name: formText(form, "name"), permissions: formTexts(form, "permission") });
    if (!parsed.success) return refusal(parsed.error);
    if (id !== null && !z.uuid().safeParse(id).success) return GONE;
    const result = await inAgency(access, (tx, own, now) =>
      saveRole(tx, own, { name: own.user.name, rights: own.seat }, id, parsed.data, now),
    );
    if (result === "taken")
      return {
        ok: false,
        message: "There’s already a role with this name.",
        fields: { name: "There’s already a role with this name." },
      };
    return result === "saved" ? { ok: true, message: "Saved." } : result === "missing" ? GONE : BEYOND;
  },
);

/** Removes a role that nobody holds. */
export const removeOwnRole = action(atAgencyWith("manage people"), [text], async (access, id): Promise<Done> => {
  if (!z.uuid().safeParse(id).success) return GONE;
  const result = await inAgency(access, (tx, own, now) => removeRole(tx, own, byOf(own), id, now));
  if (result === "beyond your own") return BEYOND;
  if (result === "held") return { ok: false, message: "Someone has this role, or has been invited to it." };
  return result === "saved" ? { ok: true, message: "Removed." } : GONE;
});
