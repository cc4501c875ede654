"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { may } from "@/core/access/permissions";
import { capital, sayCount } from "@/core/time/say";
import { cleanText } from "@/core/words/clean";
import { readKey } from "@/core/words/pieces";
import { type WalkChoice, walkChoice } from "@/core/words/walk";
import { loadProfile } from "@/features/accounts";
import { changeRules, findPlan } from "@/features/plans";
import { action, atAgencyWith, atClientWith, before, form, given, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withAgency, withClient, workFor } from "@/platform/database";
import { environment } from "@/platform/environment";
import { type ActionResult, formText, formTexts } from "@/ui/result";
import { ownsClient, saveAgencyPiece, takeOffer } from "./agencyWords";
import { readWordsFile, withWordsRows } from "./files";
import { saveLinkPiece } from "./linkPieces";
import { changedPiece } from "./pieces";
import { endWayLinks, makeSampleLink, makeWayLink, sendSample } from "./samples";
import { loadWalk } from "./walk";

const GONE = { ok: false as const, message: "This plan no longer exists." };
const CHANGED = {
  ok: false as const,
  message: "Someone else has just changed this plan. Copy your words, reload the page, then save them again.",
};
const isId = (id: string) => z.uuid().safeParse(id).success;

/** Changes one text of a plan, or takes the change back: kept as its draft. */
export const changePiece = action(
  atClientWith("change words"),
  [text, z.number(), text, text.nullable()],
  async (access, planId, revision, key, words): Promise<Exclude<ActionResult, null>> => {
    if (!isId(planId) || typeof key !== "string" || (words !== null && typeof words !== "string")) return GONE;
    const now = await clockNow();
    const result = await withClient(access, async (tx) => {
      const plan = await findPlan(tx, access, planId);
      if (!plan) return GONE;
      const changed = await changedPiece(tx, plan.draft ?? plan.rules, key, words === null ? null : cleanText(words));
      if ("wrong" in changed) return { ok: false as const, message: changed.wrong };
      const kept = await changeRules(tx, access, access.user.name, planId, revision, changed.rules, now);
      return kept ? { ok: true as const, message: words === null ? "Undone." : "Saved." } : CHANGED;
    });
    revalidatePath(`/c/${access.seat.slug}/asking`, "layout");
    return result;
  },
);

/** Changes one text of the pages of standing links, or takes the change back. It is in force at once. */
export const changeLinkPiece = action(
  atClientWith("change words"),
  [text, text.nullable()],
  async (access, key, words): Promise<Exclude<ActionResult, null>> => {
    if (typeof key !== "string" || (words !== null && typeof words !== "string"))
      return { ok: false, message: "This passage doesn’t exist." };
    const now = await clockNow();
    const wrong = await withClient(access, (tx) =>
      saveLinkPiece(tx, access, access.user.name, key, words === null ? null : cleanText(words), now),
    );
    revalidatePath(`/c/${access.seat.slug}/asking`, "layout");
    return wrong ? { ok: false, message: wrong } : { ok: true, message: words === null ? "Undone." : "Saved." };
  },
);

/** Sends the message that is shown to whoever asks for it, as a customer would get it. */
export const sendMeSample = action(
  atClientWith("change words"),
  [text, given<WalkChoice>(), z.enum(["email", "text"])],
  async (access, planId, typed, kind): Promise<Exclude<ActionResult, null>> => {
    if (!isId(planId)) return GONE;
    const choice = walkChoice.parse(typed);
    const now = await clockNow();
    const profile = await loadProfile(access.user.id);
    const address = kind === "email" ? profile?.email : profile?.phone;
    if (!address)
      return {
        ok: false,
        message: "There’s no mobile number in your account yet. Add it under “Your account”, then try again.",
      };
    const sample = await withClient(access, async (tx) => {
      const walk = await loadWalk(tx, access, planId, choice, now);
      return walk && { walk, token: await makeSampleLink(tx, access, access.user.name, walk) };
    });
    if (!sample) return GONE;
    const { walk, token } = sample;
    const step = walk.stop.kind === "message" ? walk.stop.step : 0;
    const handed = await sendSample(walk, step, token, { kind: kind === "text" ? "text" : "email", address });
    return handed.kind === "sent"
      ? { ok: true, message: `Sent to ${address}.` }
      : { ok: false, message: "We couldn’t send it just now. Try again in a minute." };
  },
);

/** Makes a link by which somebody outside looks at the whole way. It is shown once. */
export const shareWay = action(
  atClientWith("change words"),
  [text],
  async (access, planId): Promise<{ link: string } | { message: string }> => {
    if (!isId(planId)) return { message: GONE.message };
    const now = await clockNow();
    const token = await withClient(access, async (tx) =>
      (await findPlan(tx, access, planId)) ? makeWayLink(tx, access, access.user.name, planId, now) : null,
    );
    revalidatePath(`/c/${access.seat.slug}/asking`, "layout");
    return token ? { link: `${environment().APP_URL}/way/${token}` } : { message: GONE.message };
  },
);

/** Ends the links by which somebody outside looks at the way. */
export const endWay = action(
  atClientWith("change words"),
  [text],
  async (access, planId): Promise<Exclude<ActionResult, null>> => {
    if (!isId(planId)) return GONE;
    const now = await clockNow();
    const isEnded = await withClient(access, async (tx) => {
      if (!(await findPlan(tx, access, planId))) return false;
      await endWayLinks(tx, access, planId, now);
      return true;
    });
    revalidatePath(`/c/${access.seat.slug}/asking`, "layout");
    return isEnded ? { ok: true, message: "Ended. The link no longer works." } : GONE;
  },
);

/** Takes the words of a file into a plan: kept as its draft. */
export const bringWords = action(
  atClientWith("change words"),
  [text, z.number(), before<ActionResult>(), form],
  async (access, planId, revision, _before, form): Promise<ActionResult> => {
    if (!isId(planId)) return GONE;
    const file = form.get("file");
    if (!(file instanceof File) || file.size === 0) return { ok: false, message: "Choose a file." };
    if (file.size > 2 * 1024 * 1024) return { ok: false, message: "The file is bigger than 2 MB." };
    const rows = await readWordsFile(access.clientId, cleanText(await file.text()));
    const now = await clockNow();
    const result: Exclude<ActionResult, null> = await withClient(access, async (tx) => {
      const plan = await findPlan(tx, access, planId);
      if (!plan) return GONE;
      const read = await withWordsRows(tx, plan.draft ?? plan.rules, rows);
      if ("wrong" in read) return { ok: false, message: read.wrong };
      if (read.changed === 0) return { ok: true, message: "It’s the same as what you have." };
      const kept = await changeRules(tx, access, access.user.name, planId, revision, read.rules, now);
      return kept
        ? { ok: true, message: `${capital(sayCount(read.changed, "passage"))} changed, saved but not live yet.` }
        : CHANGED;
    });
    revalidatePath(`/c/${access.seat.slug}/asking`, "layout");
    return result;
  },
);

/** Changes one text of an agency, or takes the change back. Clients that follow it are offered it. */
export const changeAgencyPiece = action(
  atAgencyWith("change words"),
  [text, text.nullable()],
  async (access, key, words): Promise<Exclude<ActionResult, null>> => {
    const now = await clockNow();
    const wrong = await withAgency(access, (tx) =>
      saveAgencyPiece(tx, access, access.user.name, key, words === null ? null : cleanText(words), now),
    );
    revalidatePath(`/agency/${access.seat.slug}/words`);
    return wrong ? { ok: false, message: wrong } : { ok: true, message: words === null ? "Undone." : "Saved." };
  },
);

/** Puts the agency's words in force in the plans that are ticked. */
export const putWordsInForce = action(
  atAgencyWith("change words", "own clients"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    if (!may(access.seat, "change plans")) return { ok: false, message: "Your role doesn’t let you apply changes." };
    const ticked = formTexts(form, "plan").filter((each) => /^[0-9a-f-]{36}:[0-9a-f-]{36}$/.test(each));
    if (ticked.length === 0) return { ok: false, message: "Tick the plans to apply them to." };
    const only = formText(form, "piece");
    const now = await clockNow();
    let plans = 0;
    for (const each of ticked) {
      const [clientId, planId] = each.split(":");
      // Of this agency, and not another's: what is ticked comes from the browser.
      const isOwn = await withAgency(access, async (tx) => ownsClient(tx, clientId));
      if (!isOwn) continue;
      const changed = await takeOffer(workFor(clientId), access.user.name, planId, readKey(only) ? [only] : null, now);
      if (changed > 0) plans += 1;
    }
    revalidatePath(`/agency/${access.seat.slug}/words`);
    return { ok: true, message: plans === 1 ? "Applied to one plan." : `Applied to ${plans} plans.` };
  },
);
