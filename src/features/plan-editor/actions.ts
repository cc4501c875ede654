"use server";

import { revalidatePath } from "next/cache";
import { redirect } from "next/navigation";
import { z } from "zod";
import { STARTERS } from "@/core/plans/starters";
import { enforce, releaseWaiting, replanAll } from "@/features/asks";
import { loadSetting, setAccountDomains } from "@/features/clients";
import { isPhotoOf } from "@/features/images";
import {
  addPlan,
  changeRules,
  dropDraft,
  findPlan,
  orderPlans,
  type Plan,
  renamePlan,
  setPlanState,
} from "@/features/plans";
import { ownLanguage, withAgencyWords } from "@/features/words";
import type { Access } from "@/platform/access";
import { action, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { type Tx, withClient } from "@/platform/database";
import { type ActionResult, formText } from "@/ui/result";
import { changedRules, emptyRules, PARTS } from "./changes";
import { findingsOf, lookAtLinks } from "./checks";

const trimmed = (form: FormData, name: string) => formText(form, name).trim();
const GONE = { ok: false as const, message: "This plan no longer exists." };
const CHANGED = {
  ok: false as const,
  message: "Someone else has just changed this plan. Close this, check the plan, then try again.",
};

/** A plan and its client, for somebody who may change plans. */
async function withPlan(
  access: Access,
  planId: string,
  work: (it: { tx: Tx; access: Access; plan: Plan; now: number }) => Promise<ActionResult>,
): Promise<ActionResult> {
  if (!z.uuid().safeParse(planId).success) return GONE;
  const now = await clockNow();
  const result = await withClient(access, async (tx) => {
    const plan = await findPlan(tx, access, planId);
    return plan ? work({ tx, access, plan, now }) : GONE;
  });
  revalidatePath(`/c/${access.seat.slug}`, "layout");
  return result;
}

/** Changes one sentence of a plan: at once where it never ran, else as a draft that waits until it is put in force. */
export const changePlan = action(
  atClientWith("change plans"),
  [text, z.number(), before<ActionResult>(), form],
  async (access, planId, revision, _before, form): Promise<ActionResult> => {
    const which = z.enum(PARTS).safeParse(formText(form, "part"));
    if (!which.success) return { ok: false, message: "That setting doesn’t exist." };
    return withPlan(access, planId, async ({ tx, access, plan, now }) => {
      const wanted = changedRules(plan.draft ?? plan.rules, which.data, form);
      if ("message" in wanted) return { ok: false, ...wanted };
      const photo = wanted.rules.picture?.photo ?? null;
      if (which.data === "picture design" && photo !== null && !(await isPhotoOf(tx, access.clientId, photo)))
        return { ok: false, message: "This photo has been removed. Choose another." };
      if (which.data === "sites") {
        const wrong = await keepAccounts(tx, access, wanted.rules.sites.order, form);
        if (wrong) return { ok: false, message: wrong, fields: { accounts: wrong } };
      }
      const kept = await changeRules(tx, access, access.user.name, planId, revision, wanted.rules, now);
      if (!kept) return CHANGED;
      return {
        ok: true,
        message:
          plan.state === "draft"
            ? "Saved."
            : kept.draft
              ? "Saved. The change isn’t live until you apply it."
              : "Saved. It’s now the same as the live plan.",
      };
    });
  },
);

/** Keeps which mail domains are accounts of which site, for all branches' pages there. Gives what was wrong. */
async function keepAccounts(tx: Tx, access: Access, sites: readonly string[], form: FormData): Promise<string | null> {
  for (const site of sites) {
    if (!form.has(`accounts ${site}`)) continue;
    const domains = [
      ...new Set(
        trimmed(form, `accounts ${site}`)
          .toLowerCase()
          .split(/[\s,;]+/)
          .filter(Boolean),
      ),
    ];
    const wrong = domains.find((domain) => !/^[a-z0-9-]+(\.[a-z0-9-]+)+$/.test(domain) || domain.length > 200);
    if (wrong || domains.length > 30)
      return wrong
        ? `${wrong} isn’t an email domain. Use domains like waypost-mail.example.`
        : "No more than 30 domains per site.";
    await setAccountDomains(tx, access, site, domains);
  }
  return null;
}

/** Names a plan. */
export const namePlan = action(
  atClientWith("change plans"),
  [text, before<ActionResult>(), form],
  async (access, planId, _before, form): Promise<ActionResult> => {
    const name = z
      .string()
      .min(1, "Give it a name.")
      .max(60, "Keep the name under 60 characters.")
      .safeParse(trimmed(form, "name"));
    if (!name.success)
      return { ok: false, message: name.error.issues[0].message, fields: { name: name.error.issues[0].message } };
    return withPlan(access, planId, async ({ tx, access, now }) => {
      await renamePlan(tx, access, access.user.name, planId, name.data, now);
      return { ok: true, message: "Renamed." };
    });
  },
);

/** Puts the changes of a plan in force, for new asks or also for those under way. */
export const putChangesInForce = action(
  atClientWith("change plans"),
  [text, z.number(), before<ActionResult>(), form],
  async (access, planId, revision, _before, form): Promise<ActionResult> => {
    const whom = z.enum(["new asks", "asks under way too"]).safeParse(formText(form, "for"));
    if (!whom.success)
      return { ok: false, message: "Choose who they apply to.", fields: { for: "Choose who they apply to." } };
    return withPlan(access, planId, async ({ tx, access, plan, now }) => {
      if (!plan.draft) return { ok: false, message: "There’s nothing to apply." };
      const stops = findingsOf(await loadSetting(tx), plan.draft).filter(({ level }) => level === "error");
      if (stops.length > 0) return { ok: false, message: `The plan can’t run like this: ${stops[0].says}` };
      const done = await enforce(tx, access, access.user.name, {
        planId,
        revision,
        rules: plan.draft,
        for: whom.data,
        now,
      });
      if (!done) return CHANGED;
      return {
        ok: true,
        message:
          whom.data === "new asks"
            ? "Applied to all new asks."
            : `Applied, including to ${done.moved} ${done.moved === 1 ? "ask" : "asks"} under way.`,
      };
    });
  },
);

/** Throws the changes of a plan away. */
export const dropChanges = action(
  atClientWith("change plans"),
  [text],
  async (access, planId): Promise<ActionResult> => {
    return withPlan(access, planId, async ({ tx, access, now }) => {
      await dropDraft(tx, access, access.user.name, planId, now);
      return { ok: true, message: "Changes discarded. The plan is back to its live version." };
    });
  },
);

const STATE_SAYS = {
  running: "Running.",
  paused: "Paused. Planned messages are on hold.",
  archived: "Archived. It won’t start any new asks; those under way will finish.",
};

/** Runs, pauses, resumes or archives a plan. A plan that has never run is checked first. */
export const switchPlan = action(
  atClientWith("change plans"),
  [text, before<ActionResult>(), form],
  async (access, planId, _before, form): Promise<ActionResult> => {
    const state = z.enum(["running", "paused", "archived"]).safeParse(formText(form, "state"));
    if (!state.success) return { ok: false, message: "That state doesn’t exist." };
    if (state.data === "running") await lookAtLinks(access);
    return withPlan(access, planId, async ({ tx, plan, now }) => {
      const who = access.user.name;
      if (state.data === "running") {
        const stops = findingsOf(await loadSetting(tx), plan.rules).filter(({ level }) => level === "error");
        if (stops.length > 0) return { ok: false, message: `The plan can’t run like this: ${stops[0].says}` };
        // A draft's rules become its first version in force the day it runs.
        if (
          plan.state === "draft" &&
          !(await enforce(tx, access, who, {
            planId,
            revision: plan.revision,
            rules: plan.rules,
            for: "new asks",
            now,
          }))
        )
          return CHANGED;
      }
      await setPlanState(tx, access, who, planId, state.data, now);
      if (state.data === "archived") await releaseWaiting(tx, access, planId, now);
      await replanAll(tx, access, await loadSetting(tx), now, planId);
      return { ok: true, message: STATE_SAYS[state.data] };
    });
  },
);

/** Makes a plan: from a starter, from nothing, or like another one. It runs only once somebody lets it. */
export const newPlan = action(
  atClientWith("change plans"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const from = trimmed(form, "from");
    const now = await clockNow();
    const made = await withClient(access, async (tx): Promise<Plan | null> => {
      const setting = await loadSetting(tx);
      const tags = setting.tags.filter(({ effect }) => effect === "do not ask").map(({ name }) => name);
      const starter = STARTERS.find(({ key }) => key === from);
      if (starter) {
        const { language } = setting.client;
        const rules = await withAgencyWords(tx, starter.rules(tags, ownLanguage(language)), language);
        return addPlan(tx, access, access.user.name, starter.name, rules, now);
      }
      if (from === "nothing") return addPlan(tx, access, access.user.name, "New plan", emptyRules(tags), now);
      const like = z.uuid().safeParse(from).success ? await findPlan(tx, access, from) : null;
      return like && addPlan(tx, access, access.user.name, `${like.name} (copy)`, like.draft ?? like.rules, now);
    });
    if (!made) return { ok: false, message: "Choose what to start from." };
    revalidatePath(`/c/${access.seat.slug}/asking`);
    redirect(`/c/${access.seat.slug}/asking/plans/${made.id}`);
  },
);

/** Sets which plan takes a visit first. */
export const setPlanOrder = action(
  atClientWith("change plans"),
  [z.array(text)],
  async (access, ids): Promise<Exclude<ActionResult, null>> => {
    const read = z.array(z.uuid()).max(200).safeParse(ids);
    if (!read.success) return { ok: false, message: "These aren’t plans." };
    const now = await clockNow();
    const kept = await withClient(access, (tx) => orderPlans(tx, access, access.user.name, read.data, now));
    if (!kept) return { ok: false, message: "One of these plans no longer exists. Reload the page." };
    revalidatePath(`/c/${access.seat.slug}/asking`);
    return { ok: true, message: "Order saved." };
  },
);

/** Follows the review links again. */
export const lookAgain = action(atClientWith("change plans"), [], async (access): Promise<ActionResult> => {
  await lookAtLinks(access, true);
  revalidatePath(`/c/${access.seat.slug}`, "layout");
  return { ok: true, message: "Links checked." };
});
