"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { normaliseEmail } from "@/core/contacts/email";
import { normalisePhone } from "@/core/contacts/phone";
import { asideUntil } from "@/core/conversations/aside";
import { AWAY_WORD } from "@/core/conversations/automatic";
import { dayText } from "@/core/time/range";
import { cleanText } from "@/core/words/clean";
import { LANGUAGES } from "@/core/words/languages";
import { loadSetting, officeCalendarOf, setAwayWord } from "@/features/clients";
import { nameOf, Refused, savePerson, searchPeople } from "@/features/people";
import type { Access } from "@/platform/access";
import { action, atClientWith, before, form, readAction, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { type Tx, withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { answerConversation, conversationAnswerInput } from "./letters";
import { assignConversation, identify, markConversation, type Refusal, setConversationAside, settle } from "./service";

async function withConversation(
  access: Access,
  id: string,
  work: (tx: Tx, access: Access, now: number) => Promise<Refusal | null>,
  done: string,
): Promise<ActionResult> {
  if (!z.uuid().safeParse(id).success) return { ok: false, message: "This conversation doesn’t exist." };
  const now = await clockNow();
  try {
    const refused = await withClient(access, (tx) => work(tx, access, now));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return refused ? { ok: false, message: refused.refused } : { ok: true, message: done };
  } catch (error) {
    if (error instanceof Refused) return { ok: false, message: error.message };
    throw error;
  }
}

/** Answers in a conversation. */
export const answerIn = action(
  atClientWith("answer concerns"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const values = conversationAnswerInput.safeParse({
      channel: formText(form, "channel"),
      words: formText(form, "words"),
      requestKey: formText(form, "requestKey"),
      seenAt: formText(form, "seenAt") || "0",
    });
    if (!values.success) return refusal(values.error);
    return withConversation(
      access,
      id,
      (tx, access, now) => answerConversation(tx, access, access.user.name, id, values.data, now),
      "Your answer is on its way.",
    );
  },
);

/** Takes a conversation off the list of those that wait: nothing needs to be said. */
export const settleConversation = action(
  atClientWith("answer concerns"),
  [text],
  async (access, id): Promise<ActionResult> =>
    withConversation(
      access,
      id,
      (tx, access, now) => settle(tx, access, access.user.name, id, now),
      "Marked as needing no answer.",
    ),
);

/** Sets a conversation aside until a time, or takes it back. */
export const setAside = action(
  atClientWith("answer concerns"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const read = z
      .object({
        until: z.enum(["now", "hour", "tomorrow", "week", "day"], "Choose until when."),
        day: dayText.nullable(),
      })
      .refine(({ until, day }) => until !== "day" || day !== null, { path: ["day"], message: "Choose the day." })
      .safeParse({ until: formText(form, "until"), day: formText(form, "day") || null });
    if (!read.success) return refusal(read.error);
    const { until, day } = read.data;
    return withConversation(
      access,
      id,
      async (tx, access, now) => {
        if (until === "now") return setConversationAside(tx, access, id, null);
        const setting = await loadSetting(tx);
        const at = asideUntil(until === "day" ? { day: day ?? "" } : until, officeCalendarOf(setting, null, now), now);
        if (at <= now) return { refused: "That day has passed. Choose a later one." };
        return setConversationAside(tx, access, id, at);
      },
      until === "now" ? "Back in the waiting list." : "Set aside.",
    );
  },
);

/** Gives a conversation to one of the staff, or to nobody. */
export const assign = action(
  atClientWith("answer concerns"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const userId = z.string().max(64).safeParse(formText(form, "userId"));
    if (!userId.success) return { ok: false, message: "Choose who’ll handle it." };
    return withConversation(
      access,
      id,
      (tx, access) => assignConversation(tx, access, id, userId.data || null),
      "Done.",
    );
  },
);

/** Notes that a conversation was read, or that it is to count as unread. */
export const markRead = action(
  atClientWith("answer concerns"),
  [text, z.boolean()],
  async (access, id, isUnread): Promise<void> => {
    if (!z.uuid().safeParse(id).success) return;
    await withClient(access, (tx) => markConversation(tx, access, id, isUnread));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
  },
);

/** Marks a conversation as unread, by its button. */
export const markUnread = action(atClientWith("answer concerns"), [text], async (access, id): Promise<ActionResult> => {
  return withConversation(access, id, (tx, access) => markConversation(tx, access, id, true), "Marked as unread.");
});

export type FoundPerson = { id: string; name: string; reach: string };

/** People by name or address, of whom one may be the unknown writer. */
export const findPeople = readAction(
  atClientWith("answer concerns"),
  [text],
  async (access, typed): Promise<FoundPerson[]> => {
    const query = z.string().max(100).transform(cleanText).catch("").parse(typed).trim();
    if (!query) return [];
    return withClient(access, async (tx) =>
      (await searchPeople(tx, query, 8)).map((person) => ({
        id: person.id,
        name: nameOf(person),
        reach: person.phone ?? person.email ?? "",
      })),
    );
  },
  [],
);

/** Says who an unknown number or mailbox is: somebody who is known, or somebody new. */
export const sayWho = action(
  atClientWith("answer concerns"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const read = z
      .object({
        personId: z.uuid("Choose someone.").or(z.literal("new")),
        given: z.string().trim().max(80),
        family: z.string().trim().max(80),
        address: z.string().max(254),
      })
      .refine(({ personId, given, family }) => personId !== "new" || given !== "" || family !== "", {
        path: ["given"],
        message: "Enter their name.",
      })
      .safeParse({
        personId: formText(form, "personId"),
        given: formText(form, "given"),
        family: formText(form, "family"),
        address: formText(form, "address"),
      });
    if (!read.success) return refusal(read.error);
    const { personId, given, family, address } = read.data;
    return withConversation(
      access,
      id,
      async (tx, _, now) => {
        if (personId !== "new") return identify(tx, access, access.user.name, id, personId, now);
        const { client } = await loadSetting(tx);
        const phone = address.includes("@") ? null : normalisePhone(address, client.country);
        const email = address.includes("@") ? normaliseEmail(address) : null;
        const { person } = await savePerson(tx, access, { given, family, email, phone, note: "", doNotAsk: null }, now);
        return identify(tx, access, access.user.name, id, person.id, now);
      },
      "Saved. This is now their conversation.",
    );
  },
);

/** Changes what people get who write while nobody is there. */
export const changeAwayWord = action(
  atClientWith("set up", "whole client", "see heard"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const words = Object.fromEntries(
      LANGUAGES.flatMap((language) => {
        const written = formText(form, `words.${language}`).trim();
        return written ? [[language, written]] : [];
      }),
    );
    const read = AWAY_WORD.safeParse({ isOn: formText(form, "isOn") !== "no", words });
    if (!read.success) return { ok: false, message: "Keep each under 600 characters." };
    const now = await clockNow();
    await withClient(access, (tx) => setAwayWord(tx, access, access.user.name, read.data, now));
    revalidatePath(`/c/${access.seat.slug}/heard`, "layout");
    return { ok: true, message: "Saved." };
  },
);
