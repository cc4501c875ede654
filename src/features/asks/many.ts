import { and, desc, eq, inArray, lte } from "drizzle-orm";
import { examineByHand, type Reason, sayReason } from "@/core/asks/examine";
import { sayPhone } from "@/core/contacts/phone";
import { planByHand } from "@/core/plans/takes";
import { sayWhen } from "@/core/time/say";
import { anyOf, type Scope, type Tx } from "@/platform/database";
import { loadSetting } from "../clients";
import { answerLink, composeAsk } from "../messages";
import { nameOf, people } from "../people";
import { listPlans } from "../plans";
import { type Visit, visits } from "../visits";
import { askByHand } from "./byHand";
import { Circumstances } from "./circumstances";
import { nextOf, openAsksOf, wordingFacts, wouldBeAsk, writtenTo } from "./contexts";
import { beginningOf } from "./decide";

/** Asking many at once: whom a plan would leave out is left out here too, save for visits that are long over. */

export const MOST_AT_ONCE = 500;

export type WouldAsk = { personId: string; name: string; to: string; channel: "text" | "email"; subject: string | null; body: string; leaves: string };
export type WouldLeaveOut = { personId: string; name: string; why: string };

type Candidate = { would: WouldAsk; visit: Visit; channel: "text" | "email" };

/** What would be sent to each of these people, word for word, and who would be left out and why. */
export async function considerMany(tx: Tx, scope: Scope, ids: readonly string[], now: number): Promise<{ asked: Candidate[]; leftOut: WouldLeaveOut[] }> {
  const setting = await loadSetting(tx);
  const plans = await listPlans(tx, scope);
  const persons = await tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), anyOf(people.id, ids.slice(0, MOST_AT_ONCE))))
    .orderBy(people.family, people.given, people.id);
  const personIds = persons.map(({ id }) => id);
  const open = new Set((await openAsksOf(tx, scope, personIds)).map(({ personId }) => personId));
  const last = await tx
    .selectDistinctOn([visits.personId])
    .from(visits)
    .where(and(eq(visits.clientId, scope.clientId), anyOf(visits.personId, personIds), lte(visits.endsAt, now), inArray(visits.outcome, ["finished", "booked"])))
    .orderBy(visits.personId, desc(visits.endsAt));
  const visitOf = new Map(last.map((visit) => [visit.personId, visit]));
  const known = await Circumstances.load(tx, scope, setting, persons, last, now);
  const asked: Candidate[] = [];
  const leftOut: WouldLeaveOut[] = [];
  for (const person of persons) {
    const leave = (why: string) => leftOut.push({ personId: person.id, name: nameOf(person), why });
    const found = visitOf.get(person.id);
    if (!found) {
      leave("has not been here yet");
      continue;
    }
    const visit: Visit = { ...found, outcome: "finished" };
    const guardian = known.guardianOf(person);
    const plan = planByHand(plans, beginningOf(visit));
    const verdict = examineByHand(known.facts(plan, [], visit, person, open.has(person.id)));
    const advice = verdict.advice.find(({ rule }) => rule !== "too late");
    if (!verdict.asked || advice || !plan) {
      leave(sayReason(verdict.asked ? ((advice?.rule ?? "no plan") as Reason) : verdict.reason));
      continue;
    }
    const context = { ask: { ...wouldBeAsk(visit, plan, now), anchorAt: now, byHand: true }, plan, person, visit, guardian, along: [] };
    const next = nextOf(context, setting, now);
    if (next.kind !== "send") {
      leave(next.kind === "held" ? "the plan is paused" : "the send hours never open");
      continue;
    }
    const words = composeAsk(plan.rules.steps[0], next.channel, wordingFacts(context, setting, now), answerLink("xxxxxxxxxxxxxx", 0));
    const to = writtenTo(context, setting, now);
    const zone = setting.branches.find(({ id }) => id === visit.branchId)?.zone ?? setting.client.zone;
    asked.push({
      visit,
      channel: next.channel,
      would: {
        personId: person.id,
        name: nameOf(person),
        to: next.channel === "email" ? (to.email ?? "") : sayPhone(to.phone ?? ""),
        channel: next.channel,
        subject: words.subject,
        body: words.body,
        leaves: next.at <= now ? "now" : sayWhen(zone, next.at, now),
      },
    });
  }
  return { asked, leftOut };
}

/** Asks these people, each at most once for a request key. Whoever was asked meanwhile is left out. */
export async function askMany(tx: Tx, scope: Scope, it: { ids: readonly string[]; who: string; requestKey: string; now: number }): Promise<{ asked: number; leftOut: number }> {
  const { asked, leftOut } = await considerMany(tx, scope, it.ids, it.now);
  let begun = 0;
  for (const { visit, channel, would } of asked) {
    const result = await askByHand(tx, scope, { visit, channel, who: it.who, requestKey: `${it.requestKey} ${would.personId}`, now: it.now });
    if ("askId" in result) begun += 1;
  }
  return { asked: begun, leftOut: leftOut.length + asked.length - begun };
}
