"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { dayText } from "@/core/time/range";
import { loadSetting } from "@/features/clients";
import { staffOf } from "@/features/notices";
import type { Access } from "@/platform/access";
import { action, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { type Tx, withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { mayAnswer, setAbsence, setOwner } from "./owners";
import {
  addTeamNote,
  answerConcern,
  closeConcern,
  concernAnswerInput,
  concernCloseInput,
  handOverConcern,
  type Refusal,
  reopenConcern,
  takeConcern,
  teamNoteInput,
} from "./service";

async function withConcern(
  access: Access,
  id: string,
  work: (tx: Tx, access: Access, now: number) => Promise<Refusal | null>,
  done: string,
): Promise<ActionResult> {
  if (!z.uuid().safeParse(id).success) return { ok: false, message: "This concern doesn’t exist." };
  const now = await clockNow();
  const refused = await withClient(access, (tx) => work(tx, access, now));
  revalidatePath(`/c/${access.seat.slug}`, "layout");
  return refused ? { ok: false, message: refused.refused } : { ok: true, message: done };
}

export const take = action(atClientWith("answer concerns"), [text], async (access, id): Promise<ActionResult> => {
  return withConcern(
    access,
    id,
    (tx, access, now) => takeConcern(tx, access, access.user.name, id, now),
    "You’ve picked this up.",
  );
});

export const answer = action(
  atClientWith("answer concerns"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const values = concernAnswerInput.safeParse({
      channel: formText(form, "channel"),
      words: formText(form, "words"),
      requestKey: formText(form, "requestKey"),
      seenAt: formText(form, "seenAt") || undefined,
    });
    if (!values.success) return refusal(values.error);
    return withConcern(
      access,
      id,
      (tx, access, now) => answerConcern(tx, access, access.user.name, id, values.data, now),
      "Your answer is on its way.",
    );
  },
);

export const close = action(
  atClientWith("answer concerns"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const values = concernCloseInput.safeParse({ outcome: formText(form, "outcome"), note: formText(form, "note") });
    if (!values.success) return refusal(values.error);
    return withConcern(
      access,
      id,
      (tx, access, now) => closeConcern(tx, access, access.user.name, id, values.data, now),
      "Closed.",
    );
  },
);

export const reopen = action(
  atClientWith("answer concerns"),
  [text],
  async (access, id): Promise<ActionResult> =>
    withConcern(access, id, (tx, access, now) => reopenConcern(tx, access, access.user.name, id, now), "Reopened."),
);

/** Writes to the team about a concern; its customer never sees it. */
export const noteForTeam = action(
  atClientWith("answer concerns"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const values = teamNoteInput.safeParse({ words: formText(form, "words") });
    if (!values.success) return refusal(values.error);
    return withConcern(
      access,
      id,
      (tx, access, now) => addTeamNote(tx, access, access.user.name, id, values.data.words, now),
      "Note added.",
    );
  },
);

/** Hands a concern over to somebody else. */
export const handOver = action(
  atClientWith("answer concerns"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const userId = z.string().min(1).max(64).safeParse(formText(form, "userId"));
    if (!userId.success) return { ok: false, message: "Choose someone." };
    return withConcern(
      access,
      id,
      (tx, access, now) => handOverConcern(tx, access, access.user.name, id, userId.data, now),
      "Handed over.",
    );
  },
);

const owned = z.object({
  branchId: z.uuid().nullable(),
  teamMemberId: z.uuid().nullable(),
  userId: z.string().max(64).nullable(),
});

/** Sets whose concerns are: of a branch, of a team member, or all others. */
export const changeOwner = action(
  atClientWith("set up"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const read = owned.safeParse({
      branchId: formText(form, "branchId") || null,
      teamMemberId: formText(form, "teamMemberId") || null,
      userId: formText(form, "userId") || null,
    });
    if (!read.success) return { ok: false, message: "Choose who handles them." };
    const { branchId, teamMemberId, userId } = read.data;
    const now = await clockNow();
    const refused = await withClient(access, async (tx) => {
      const { branches, team } = await loadSetting(tx);
      if (branchId && !branches.some(({ id }) => id === branchId)) return "This branch has been removed.";
      if (teamMemberId && !team.some(({ id }) => id === teamMemberId)) return "This team member has been removed.";
      const staff = await staffOf(tx);
      const isAble = (at: string) => userId === null || mayAnswer(staff, userId, at);
      if (!(branchId ? isAble(branchId) : branches.some(({ id }) => isAble(id))))
        return "This person isn’t allowed to answer concerns there.";
      await setOwner(tx, access, access.user.name, read.data, now);
      return null;
    });
    revalidatePath(`/c/${access.seat.slug}/set-up/answering`);
    return refused ? { ok: false, message: refused } : { ok: true, message: "Saved. It applies from now on." };
  },
);

/** Notes until when somebody is away and who stands in for them, or that they are back. */
export const changeAbsence = action(
  atClientWith("set up"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const read = z
      .object({
        userId: z.string().min(1).max(64),
        until: z.string().min(1, "Choose the last day.").pipe(dayText).nullable(),
        standInId: z.string().max(64).nullable(),
      })
      .refine(({ userId, standInId }) => userId !== standInId, {
        path: ["standInId"],
        message: "Someone can’t cover for themselves.",
      })
      .safeParse({
        userId: formText(form, "userId"),
        until: formText(form, "isAway") === "no" ? null : formText(form, "until"),
        standInId: formText(form, "standInId") || null,
      });
    if (!read.success) return refusal(read.error);
    const now = await clockNow();
    const isKnown = await withClient(access, async (tx) => {
      const staff = await staffOf(tx);
      const { userId, standInId } = read.data;
      const known = [userId, ...(standInId ? [standInId] : [])].every((id) => staff.some((one) => one.id === id));
      if (known) await setAbsence(tx, access, access.user.name, read.data, now);
      return known;
    });
    revalidatePath(`/c/${access.seat.slug}/set-up/answering`);
    return isKnown ? { ok: true, message: "Saved." } : { ok: false, message: "This person no longer has access." };
  },
);
