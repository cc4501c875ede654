"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { readHours } from "@/core/time/sayHours";
import type { WeekHours } from "@/core/time/sendHours";
import { webAddress } from "@/core/web/address";
import { LANGUAGES } from "@/core/words/languages";
import type { requireAccess } from "@/platform/access";
import { action, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { codeOf, type Tx, withClient } from "@/platform/database";
import { mayTextFrom } from "@/platform/texts";
import { TAG_EFFECTS } from "@/schema/clients";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { setAnswerTimes, setOfficeHours } from "./answering";
import { branchInput, businessInput, keepBranch, saveBusiness } from "./business";
import { branchLookInput, lookInput, pagesInput, saveBranchLook, saveLook, savePages } from "./customerSide";
import { dropTag, type Kept, keepService, keepTag, keepTeamMember } from "./named";
import { keepListing, keepPostalAddress } from "./pages";
import { loadSetting } from "./queries";
import { askForSender, type SenderAsked } from "./senders";
import { numberRefusal } from "./textNumber";

const name = z.string().trim().min(1, "Give it a name.").max(60, "Keep the name under 60 characters.");
const taken: ActionResult = {
  ok: false,
  message: "That name is already in use.",
  fields: { name: "That name is already in use." },
};

const missing: ActionResult = { ok: false, message: "This no longer exists. Reload the page." };

type Access = Awaited<ReturnType<typeof requireAccess>>;

async function keepNamed(
  access: Access,
  id: string,
  form: FormData,
  keep: (tx: Tx, access: Access, id: string | null, name: string, now: number) => Promise<Kept>,
): Promise<ActionResult> {
  const values = z
    .object({ id: z.union([z.literal(""), z.uuid()]), name })
    .safeParse({ id, name: formText(form, "name") });
  if (!values.success)
    return { ok: false, message: values.error.issues[0].message, fields: { name: values.error.issues[0].message } };
  const now = await clockNow();
  const kept = await withClient(access, (tx) => keep(tx, access, values.data.id || null, values.data.name, now));
  revalidatePath(`/c/${access.seat.slug}`, "layout");
  return kept === "kept" ? { ok: true, message: "Saved." } : kept === "taken" ? taken : missing;
}

/** Adds a service (with an empty `id`) or changes one. */
export const saveService = action(
  atClientWith("set up"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    return keepNamed(access, id, form, (tx, access, key, text, now) =>
      keepService(
        tx,
        access,
        access.user.name,
        key,
        { name: text, neverAsk: formText(form, "neverAsk") === "yes", retired: formText(form, "retired") === "yes" },
        now,
      ),
    );
  },
);

/** Adds a team member or changes one. */
export const saveTeamMember = action(
  atClientWith("set up"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    return keepNamed(access, id, form, (tx, access, key, text, now) =>
      keepTeamMember(
        tx,
        access,
        access.user.name,
        key,
        { name: text, retired: formText(form, "retired") === "yes" },
        now,
      ),
    );
  },
);

/** Adds a tag or changes one. */
export const saveTag = action(
  atClientWith("set up"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const effect = z.enum(TAG_EFFECTS).safeParse(formText(form, "effect"));
    if (!effect.success)
      return { ok: false, message: "Choose what the tag does.", fields: { effect: "Choose what the tag does." } };
    return keepNamed(access, id, form, (tx, access, key, text, now) =>
      keepTag(tx, access, access.user.name, key, { name: text, effect: effect.data }, now),
    );
  },
);

/** Removes a tag everywhere. */
export const removeTag = action(
  atClientWith("set up"),
  [text],
  async (access, id): Promise<Exclude<ActionResult, null>> => {
    if (!z.uuid().safeParse(id).success) return { ok: false, message: "This tag doesn’t exist." };
    const now = await clockNow();
    const isGone = await withClient(access, (tx) => dropTag(tx, access, access.user.name, id, now));
    if (!isGone) return { ok: false, message: "This tag doesn’t exist." };
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return { ok: true, message: "Removed from everyone." };
  },
);

const listingInput = z.object({
  id: z.union([z.literal(""), z.uuid()]),
  branchId: z.uuid("Choose the branch."),
  site: z.string().trim().min(1, "Enter the name of the site.").max(60, "Keep the name under 60 characters."),
  url: z
    .string()
    .trim()
    .max(500, "That’s too long for an address.")
    .transform((text, context) => {
      const address = webAddress(text);
      if (!address)
        context.addIssue({ code: "custom", message: "Enter the full address, like https://site.example/your-page." });
      return address ?? "";
    }),
});

/** Adds a branch's page on a review site (with an empty `id`) or changes its address. */
export const saveListing = action(
  atClientWith("set up"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const read = listingInput.safeParse({
      id,
      branchId: formText(form, "branchId"),
      site: formText(form, "site"),
      url: formText(form, "url"),
    });
    if (!read.success) return refusal(read.error);
    const now = await clockNow();
    const { id: key, ...it } = read.data;
    const kept = await withClient(access, (tx) => keepListing(tx, access, access.user.name, key || null, it, now));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    if (kept === "kept") return { ok: true, message: "Saved. We’ll check its link next time." };
    if (kept === "missing") return missing;
    return {
      ok: false,
      message: "This branch already has a page on that site.",
      fields: { site: "This branch already has a page on that site." },
    };
  },
);

const fieldsOf = (form: FormData, names: readonly string[]) =>
  Object.fromEntries(names.map((name) => [name, formText(form, name)]));

/** Sets the postal address that stands under every email. */
export const savePostalAddress = action(
  atClientWith("set up"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const read = z
      .object({
        postalAddress: z.string().trim().min(5, "Enter the full address.").max(300, "Keep it under 300 characters."),
      })
      .safeParse({ postalAddress: formText(form, "postalAddress") });
    if (!read.success) return refusal(read.error);
    const now = await clockNow();
    await withClient(access, (tx) => keepPostalAddress(tx, access, access.user.name, read.data.postalAddress, now));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return { ok: true, message: "Saved." };
  },
);

const askAt = ({ clientId, user, seat }: Access) =>
  askForSender("client", clientId, user.name, { id: seat.agencyId, name: seat.agency, colour: seat.agencyColour });

const saidOfSender = (asked: SenderAsked): string =>
  ({
    confirmed: "Saved.",
    mailed: "Saved. We’ve sent a link to that address to confirm it.",
    "too many": "Saved. We’ve sent too many links to this address; try again in an hour.",
    "not sent": "Saved, but we couldn’t send the link to confirm the address. Send it again in a moment.",
  })[asked];

/** Mails once more the link that confirms the address emails go out from. */
export const mailSenderLink = action(
  atClientWith("set up"),
  [],
  async (access): Promise<Exclude<ActionResult, null>> => {
    const asked = await askAt(access);
    revalidatePath(`/c/${access.seat.slug}/set-up/business`);
    if (asked === "mailed") return { ok: true, message: "Sent. The link works for seven days." };
    if (asked === "confirmed") return { ok: true, message: "The address is already confirmed." };
    return {
      ok: false,
      message:
        asked === "too many"
          ? "We’ve sent too many links to this address. Try again in an hour."
          : "We couldn’t send the link. Try again in a moment.",
    };
  },
);

/** Saves what holds for the whole business. */
export const changeBusiness = action(
  atClientWith("set up"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const { client } = await withClient(access, loadSetting);
    const values = businessInput(client.country).safeParse(
      fieldsOf(form, ["name", "colour", "zone", "senderEmail", "textNumber"]),
    );
    if (!values.success) return refusal(values.error);
    const refusedNumber = (message: string): ActionResult => ({ ok: false, message, fields: { textNumber: message } });
    if (values.data.textNumber !== client.textNumber) {
      const refused = numberRefusal(await mayTextFrom(values.data.textNumber));
      if (refused) return refusedNumber(refused);
    }
    const now = await clockNow();
    try {
      await withClient(access, (tx) => saveBusiness(tx, access, access.user.name, values.data, now));
    } catch (error) {
      if (codeOf(error) !== "23P01") throw error;
      return refusedNumber("A client of another agency already texts from this number.");
    }
    revalidatePath("/", "layout");
    return { ok: true, message: saidOfSender(await askAt(access)) };
  },
);

/** Saves how what customers get looks: language, typeface, signature, links. */
export const changeLook = action(
  atClientWith("set up"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const read = lookInput.safeParse(fieldsOf(form, ["language", "keepsMarks", ...LOOK_FIELDS]));
    if (!read.success) return refusal(read.error);
    const now = await clockNow();
    await withClient(access, (tx) => saveLook(tx, access, access.user.name, read.data, now));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return { ok: true, message: "Saved." };
  },
);

const LOOK_FIELDS = ["typeface", "replyTo", "senderName", "signature", "links"] as const;

/** Saves how one branch looks where it differs from the business. */
export const changeBranchLook = action(
  atClientWith("set up"),
  [text, before<ActionResult>(), form],
  async (access, branchId, _before, form): Promise<ActionResult> => {
    if (!z.uuid().safeParse(branchId).success) return missing;
    const isOwn = formText(form, "own") === "yes";
    const read = branchLookInput.safeParse(fieldsOf(form, ["colour", ...LOOK_FIELDS]));
    if (isOwn && !read.success) return refusal(read.error);
    const now = await clockNow();
    const kept = await withClient(access, (tx) =>
      saveBranchLook(tx, access, access.user.name, branchId, isOwn && read.success ? read.data : null, now),
    );
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return kept ? { ok: true, message: "Saved." } : missing;
  },
);

/** Saves how long links work, where the own reviews stand, and the privacy note. */
export const changeCustomerPages = action(
  atClientWith("set up"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const read = pagesInput.safeParse({
      ...fieldsOf(form, ["linkDays", "reviewsAddress"]),
      privacyNote: Object.fromEntries(
        LANGUAGES.map((language) => [language, formText(form, `privacyNote.${language}`)]),
      ),
    });
    if (!read.success) return refusal(read.error);
    const now = await clockNow();
    try {
      await withClient(access, (tx) => savePages(tx, access, access.user.name, read.data, now));
      revalidatePath(`/c/${access.seat.slug}`, "layout");
      return { ok: true, message: "Saved." };
    } catch (error) {
      if (codeOf(error) !== "23505") throw error;
      const message = "Another business already uses this address.";
      return { ok: false, message, fields: { reviewsAddress: message } };
    }
  },
);

/** Adds a branch (with an empty `id`) or changes one. */
export const saveBranch = action(
  atClientWith("set up"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const key = z.union([z.literal(""), z.uuid()]).safeParse(id);
    if (!key.success) return missing;
    const values = branchInput.safeParse(fieldsOf(form, ["name", "address", "zone", "phone"]));
    if (!values.success) return refusal(values.error);
    const now = await clockNow();
    const kept = await withClient(access, (tx) =>
      keepBranch(tx, access, access.user.name, key.data || null, values.data, now),
    );
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return kept === "kept" ? { ok: true, message: "Saved." } : kept === "taken" ? taken : missing;
  },
);

const answerTimes = z
  .object({
    answerWithinHours: z.coerce
      .number("Enter a number of hours.")
      .int("Whole hours only.")
      .min(1, "At least one hour.")
      .max(10_000, "That’s more than a year."),
    urgentWithinHours: z.coerce
      .number("Enter a number of hours.")
      .int("Whole hours only.")
      .min(1, "At least one hour.")
      .max(10_000, "That’s more than a year.")
      .nullable(),
  })
  .refine(({ answerWithinHours: all, urgentWithinHours: urgent }) => urgent === null || urgent <= all, {
    path: ["urgentWithinHours"],
    message: "The time for 1 of 5 can’t be longer than for everyone else.",
  });

/** Saves within how many office hours whoever is unhappy is answered. */
export const changeAnswerTimes = action(
  atClientWith("set up"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const read = answerTimes.safeParse({
      answerWithinHours: formText(form, "answerWithinHours"),
      urgentWithinHours: formText(form, "urgentWithinHours") || null,
    });
    if (!read.success) return refusal(read.error);
    const now = await clockNow();
    await withClient(access, (tx) => setAnswerTimes(tx, access, access.user.name, read.data, now));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return { ok: true, message: "Saved. It applies from now on." };
  },
);

/** Saves when somebody is there to answer at a branch. */
export const changeOfficeHours = action(
  atClientWith("set up"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const branchId = formText(form, "branchId");
    const fields: Record<string, string> = {};
    const week: WeekHours = Array.from({ length: 7 }, (_, day) => {
      const read = readHours(formText(form, `day-${day}`));
      if ("hours" in read) return read.hours;
      fields[`day-${day}`] = `${read.wrong}.`;
      return [];
    });
    if (Object.keys(fields).length > 0) return { ok: false, message: "Check the days below.", fields };
    const now = await clockNow();
    const isDone =
      z.uuid().safeParse(branchId).success &&
      (await withClient(access, (tx) => setOfficeHours(tx, access, access.user.name, branchId, week, now)));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return isDone
      ? { ok: true, message: "Saved. It applies from now on." }
      : { ok: false, message: "This branch has been removed." };
  },
);
