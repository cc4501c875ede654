import { and, eq, inArray, isNull } from "drizzle-orm";
import { examineByHand, type Verdict } from "@/core/asks/eligibility";
import { planByHand } from "@/core/plans/takes";
import { loadSetting, type Setting } from "@/features/clients";
import type { Person } from "@/features/people";
import { listPlans, type Plan } from "@/features/plans";
import type { Visit } from "@/features/visits";
import { setDecisions } from "@/features/visits";
import { acrossBranches, type Scope, type Tx } from "@/platform/database";
import { asks } from "@/schema/asks";
import { newId } from "@/schema/columns";
import { concerns } from "@/schema/concerns";
import { people } from "@/schema/people";
import { isUnsent, loadContexts, openAsksOf } from "./contexts";
import { beginAsks, beginningOf } from "./decide";
import { EligibilityFacts, lockHomes } from "./eligibilityFacts";
import { planNext } from "./schedule";

/** Asking one person by hand. */

type AskedVisit = Pick<Visit, "outcome" | "endsAt" | "serviceId" | "branchId" | "kind" | "source" | "tags">;

/**
 * What would happen if this person were asked by hand now, by the plan somebody chose or else the one that is made
 * for it.
 */
export async function considerByHand(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  visit: AskedVisit,
  person: Person,
  now: number,
  planId: string | null = null,
) {
  // Whether somebody may be asked does not end at a branch.
  const { facts, open } = await acrossBranches(tx, async () => ({
    facts: await EligibilityFacts.load(tx, scope, setting, [person], [visit], now),
    open: await openAsksOf(tx, scope, [person.id]),
  }));
  const all = await listPlans(tx, scope);
  const able = all.filter(({ state }) => state === "running" || state === "paused");
  const unsent = open.find(isUnsent) ?? null;
  const [context] = unsent ? await loadContexts(tx, scope, [unsent.id]) : [];
  const chosen = able.find(({ id }) => id === planId) ?? planByHand(all, beginningOf(visit));
  const plan: Plan | null = context?.plan ?? chosen;
  const it = facts.forVisit(
    plan,
    [],
    visit,
    person,
    open.some((ask) => !isUnsent(ask)),
  );
  const hasOpenConcern = await acrossBranches(tx, () => waitsForAnswer(tx, scope, person.id));
  return {
    plan,
    /** Plans that could ask, when nothing is planned yet. */
    choice: unsent ? [] : able,
    unsent,
    guardian: facts.guardianOf(person),
    verdict: examineByHand({ ...it, person: { ...it.person, hasOpenConcern } }),
  };
}

/** Whether a private note of theirs waits for an answer. */
async function waitsForAnswer(tx: Tx, scope: Scope, personId: string): Promise<boolean> {
  const [open] = await tx
    .select({ id: concerns.id })
    .from(concerns)
    .where(
      and(
        eq(concerns.clientId, scope.clientId),
        eq(concerns.personId, personId),
        inArray(concerns.state, ["new", "taken"]),
        isNull(concerns.answeredAt),
      ),
    )
    .limit(1);
  return open !== undefined;
}

/**
 * Asks one person by hand about `visit`; an ask that is planned for later leaves now instead. The request key makes a
 * double click one ask; a second tab meets the open ask and gets its refusal.
 */
export async function askByHand(
  tx: Tx,
  scope: Scope,
  it: { visit: Visit; channel: "text" | "email"; who: string; requestKey: string; planId?: string | null; now: number },
): Promise<{ askId: string } | { refused: Exclude<Verdict, { asked: true }> }> {
  const own = and(eq(people.clientId, scope.clientId), eq(people.id, it.visit.personId));
  await lockHomes(tx, scope, await tx.select().from(people).where(own));
  const [person] = await tx.select().from(people).where(own);
  const [known] = await tx
    .select()
    .from(asks)
    .where(and(eq(asks.clientId, scope.clientId), eq(asks.requestKey, it.requestKey)));
  if (known) return { askId: known.id };
  const setting = await loadSetting(tx);
  const { plan, unsent, verdict } = await considerByHand(
    tx,
    scope,
    setting,
    it.visit,
    person,
    it.now,
    it.planId ?? null,
  );
  if (!verdict.asked) return { refused: verdict };
  if (!plan) throw new Error("You need a plan before you can ask.");
  const askId = unsent?.id ?? newId();
  const byHand = { byHand: true, askedBy: it.who, chosenChannel: it.channel, requestKey: it.requestKey };
  if (unsent) {
    await tx
      .update(asks)
      .set({
        ...byHand,
        anchorAt: it.now,
        heldBy: null,
        heldAt: null,
        sendNow: null,
        visitId: it.visit.id,
        branchId: it.visit.branchId,
        trace: verdict.trace,
      })
      .where(eq(asks.id, unsent.id));
  } else
    await beginAsks(tx, scope, setting, [
      {
        id: askId,
        plan,
        visit: it.visit,
        person,
        trace: verdict.trace,
        anchorAt: it.now,
        createdAt: it.now,
        ...byHand,
      },
    ]);
  const { id, outcome } = it.visit;
  await setDecisions(
    tx,
    scope,
    [{ id, outcome, decision: "asked", reason: null, trace: verdict.trace, ask: askId }],
    it.now,
  );
  await planNext(tx, scope, setting, await loadContexts(tx, scope, [askId], true), it.now);
  return { askId };
}
