"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { REPLY_DEEDS } from "@/core/replies/rules";
import { REPLY_PLACES, unknownPlaces } from "@/core/replies/saved";
import { LANGUAGES } from "@/core/words/languages";
import { typedText } from "@/core/words/typed";
import { loadSetting } from "@/features/clients";
import type { Access } from "@/platform/access";
import { action, atAgencyWith, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withAgency, withClient } from "@/platform/database";
import { SAVED_USES } from "@/schema/replyRules";
import { type ActionResult, formText, formTexts, refusal } from "@/ui/result";
import { addRule, changeRule, moveRule, type RuleChange, removeRule } from "./rules";
import { keepAgencySaved, keepSaved, listSaved, removeAgencySaved, removeSaved } from "./saved";

const NO_RULE: ActionResult = { ok: false, message: "This rule no longer exists." };
const isKey = (id: string) => z.uuid().safeParse(id).success;
const shown = (slug: string) => revalidatePath(`/c/${slug}/heard`, "layout");

/** Adds a rule that suggests drafts to the happy. */
export const newRule = action(
  atClientWith("set up", "whole client", "see heard"),
  [],
  async (access): Promise<ActionResult> => {
    const now = await clockNow();
    const id = await withClient(access, (tx) => addRule(tx, access, access.user.name, now));
    shown(access.seat.slug);
    return id
      ? { ok: true, message: "Rule added. It only suggests replies until you let it do more." }
      : { ok: false, message: "You can have up to 30 rules. Remove one first." };
  },
);

/** The parts of a rule's sentence, each as its form gives it. */
const PARTS = {
  sites: (form: FormData) =>
    z.object({ sites: z.array(z.string().max(60)) }).safeParse({ sites: formTexts(form, "sites") }),
  ratings: (form: FormData) =>
    z
      .object({ ratings: z.array(z.coerce.number().int().min(1).max(5)), recommends: z.array(z.enum(["yes", "no"])) })
      .refine(({ ratings, recommends }) => ratings.length + recommends.length > 0, {
        path: ["ratings"],
        message: "Choose at least one.",
      })
      .transform((it) => ({ ratings: it.ratings, recommends: it.recommends.map((one) => one === "yes") }))
      .safeParse({ ratings: formTexts(form, "ratings"), recommends: formTexts(form, "recommends") }),
  words: (form: FormData) =>
    z.object({ words: z.enum(["either", "with", "without"]) }).safeParse({ words: formText(form, "words") }),
  branches: (form: FormData) =>
    z.object({ branchIds: z.array(z.uuid()) }).safeParse({ branchIds: formTexts(form, "branchIds") }),
  languages: (form: FormData) =>
    z.object({ languages: z.array(z.enum(LANGUAGES)) }).safeParse({ languages: formTexts(form, "languages") }),
  deed: (form: FormData) =>
    z
      .object({ deed: z.enum(REPLY_DEEDS, "Choose what it does."), agreed: z.boolean() })
      .safeParse({ deed: formText(form, "deed"), agreed: formText(form, "agreed") === "yes" }),
  texts: (form: FormData) =>
    z
      .object({ savedReplyIds: z.array(z.uuid()).max(50) })
      .safeParse({ savedReplyIds: formTexts(form, "savedReplyIds") }),
  when: (form: FormData) =>
    z
      .object({
        afterHours: z.coerce
          .number("Enter a number of hours.")
          .min(0, "Enter 0 or more.")
          .max(168, "No more than a week."),
        hours: z.enum(["office", "any"]),
      })
      .safeParse({ afterHours: formText(form, "afterHours"), hours: formText(form, "hours") }),
  most: (form: FormData) =>
    z
      .object({
        mostPerDay: z.coerce.number("Enter a number.").int().min(1, "Enter 1 or more.").max(200, "200 at most."),
      })
      .safeParse({ mostPerDay: formText(form, "mostPerDay") }),
  on: (form: FormData) => z.object({ isOn: z.boolean() }).safeParse({ isOn: formText(form, "isOn") === "yes" }),
} as const;

/** Changes one part of a rule's sentence. */
export const changeRulePart = action(
  atClientWith("set up", "whole client", "see heard"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const part = z.enum(Object.keys(PARTS) as (keyof typeof PARTS)[]).safeParse(formText(form, "part"));
    if (!isKey(id) || !part.success) return NO_RULE;
    const read = PARTS[part.data](form);
    if (!read.success) return refusal(read.error);
    const { agreed, ...values } = read.data as { agreed?: boolean } & RuleChange;
    const change: RuleChange = {
      ...values,
      ...(agreed === undefined ? {} : { agreedBy: agreed && values.deed === "post" ? access.user.name : null }),
    };
    const now = await clockNow();
    const isDone = await withClient(access, async (tx) => {
      const setting = await loadSetting(tx);
      const saved = await listSaved(tx, access, null);
      // Only what is the client's own.
      const branchIds = change.branchIds?.filter((one) => setting.branches.some((branch) => branch.id === one));
      const savedReplyIds = change.savedReplyIds?.filter((one) => saved.some((reply) => reply.id === one));
      return changeRule(
        tx,
        access,
        access.user.name,
        id,
        { ...change, ...(branchIds ? { branchIds } : {}), ...(savedReplyIds ? { savedReplyIds } : {}) },
        now,
      );
    });
    shown(access.seat.slug);
    return isDone ? { ok: true, message: "Saved. It now applies to reviews that are waiting." } : NO_RULE;
  },
);

/** Puts a rule one place earlier or later. */
export const reorderRule = action(
  atClientWith("set up", "whole client", "see heard"),
  [text, z.number()],
  async (access, id, by): Promise<ActionResult> => {
    if (!isKey(id) || (by !== -1 && by !== 1)) return NO_RULE;
    const now = await clockNow();
    const isDone = await withClient(access, (tx) => moveRule(tx, access, access.user.name, id, by, now));
    shown(access.seat.slug);
    return isDone ? { ok: true, message: "Moved." } : NO_RULE;
  },
);

export const dropRule = action(
  atClientWith("set up", "whole client", "see heard"),
  [text],
  async (access, id): Promise<ActionResult> => {
    if (!isKey(id)) return NO_RULE;
    const now = await clockNow();
    const isDone = await withClient(access, (tx) => removeRule(tx, access, access.user.name, id, now));
    shown(access.seat.slug);
    return isDone ? { ok: true, message: "Removed. Its scheduled replies won’t be posted." } : NO_RULE;
  },
);

const savedInput = z.object({
  use: z.enum(SAVED_USES, "Choose where to offer it."),
  purpose: typedText(60, "Say what it’s for."),
  language: z.enum(LANGUAGES, "Choose its language."),
  words: z
    .string()
    .trim()
    .min(1, "Write the reply.")
    .max(4000, "No site takes more than 4,000 characters.")
    .refine((words) => unknownPlaces(words).length === 0, {
      error: ({ input }) =>
        `“{${unknownPlaces(String(input))[0]}}” can’t be filled in. You can use ${REPLY_PLACES.map((place) => `{${place}}`).join(", ")}.`,
    }),
  isOwn: z.boolean(),
});

const readSaved = (form: FormData) =>
  savedInput.safeParse({
    use: formText(form, "use"),
    purpose: formText(form, "purpose"),
    language: formText(form, "language"),
    words: formText(form, "words"),
    isOwn: formText(form, "isOwn") === "yes",
  });

const keeperOf = ({ user, branches }: Access) => ({ name: user.name, id: user.id, isBound: branches !== null });

/** Keeps a saved reply: a new one without an identifier. Everybody's need the right to set up; one's own do not. */
export const saveReply = action(
  atClientWith("draft replies"),
  [text.nullable(), before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const values = readSaved(form);
    if (!values.success) return refusal(values.error);
    if (id !== null && !isKey(id)) return { ok: false, message: "It no longer exists." };
    if (!values.data.isOwn && access.branches)
      return {
        ok: false,
        message: "Only people who look after the whole business can save replies for everyone. Save it as your own.",
      };
    const now = await clockNow();
    const isDone = await withClient(access, (tx) =>
      keepSaved(tx, access, keeperOf(access), { id, ...values.data }, now),
    );
    shown(access.seat.slug);
    return isDone ? { ok: true, message: "Saved." } : { ok: false, message: "It no longer exists." };
  },
);

export const dropSaved = action(atClientWith("draft replies"), [text], async (access, id): Promise<ActionResult> => {
  const isDone = isKey(id) && (await withClient(access, (tx) => removeSaved(tx, access, keeperOf(access), id)));
  shown(access.seat.slug);
  return isDone ? { ok: true, message: "Removed." } : { ok: false, message: "It no longer exists." };
});

/** Keeps a saved reply of the agency, for all its clients. */
export const saveAgencyReply = action(
  atAgencyWith("change words"),
  [text.nullable(), before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const values = readSaved(form);
    if (!values.success) return refusal(values.error);
    if (id !== null && !isKey(id)) return { ok: false, message: "It no longer exists." };
    const now = await clockNow();
    const { isOwn: _, ...words } = values.data;
    const isDone = await withAgency(access, (tx) => keepAgencySaved(tx, access, access.user.name, id, words, now));
    revalidatePath(`/agency/${access.seat.slug}/replies`);
    return isDone ? { ok: true, message: "Saved." } : { ok: false, message: "It no longer exists." };
  },
);

export const dropAgencyReply = action(
  atAgencyWith("change words"),
  [text],
  async (access, id): Promise<ActionResult> => {
    const isDone = isKey(id) && (await withAgency(access, (tx) => removeAgencySaved(tx, access, id)));
    revalidatePath(`/agency/${access.seat.slug}/replies`);
    return isDone ? { ok: true, message: "Removed." } : { ok: false, message: "It no longer exists." };
  },
);
