import { sayDay, sayWhen } from "@/core/time/say";
import { DAY } from "@/core/time/zone";
import { loadSetting } from "@/features/clients";
import { findPlan } from "@/features/plans";
import { reasonWords } from "@/locales/asking";
import type { Access } from "@/platform/access";
import { withClient } from "@/platform/database";
import { runRehearsal, sumUp } from "../rehearsal";
import { stageRehearsal } from "../rehearsalStage";

/** The plan, with its changes, rehearsed on the last seven days. Takes its time: the page around it need not wait. */
export async function LastWeek({ access, planId, now }: { access: Access; planId: string; now: number }) {
  const { zone } = access.seat;
  const sum = await withClient(access, async (tx) => {
    const plan = await findPlan(tx, access, planId);
    if (!plan) return null;
    const rules = plan.draft ?? plan.rules;
    const stage = await stageRehearsal(
      tx,
      access,
      await loadSetting(tx),
      rules,
      { kind: "past", from: now - 7 * DAY, to: now },
      now,
    );
    return stage && sumUp(stage, plan.id, runRehearsal(stage, plan.id, rules), (at) => sayDay(zone, at));
  });
  if (!sum) return null;
  return (
    <>
      <p>
        Of <b>{sum.visits}</b> {sum.visits === 1 ? "visit" : "visits"}, <b>{sum.asked}</b> would have been asked, with{" "}
        <b>{sum.messages}</b> {sum.messages === 1 ? "message" : "messages"}.
        {sum.lastAt ? ` The last would go out ${sayWhen(zone, sum.lastAt, now)}.` : ""}
      </p>
      {sum.leftOut.length > 0 ? (
        <p>
          <b>{sum.leftOut.reduce((all, { count }) => all + count, 0)}</b> left out:{" "}
          {sum.leftOut.map(({ reason, count }) => `${count} ${reasonWords(reason)}`).join(", ")}.
        </p>
      ) : null}
    </>
  );
}
