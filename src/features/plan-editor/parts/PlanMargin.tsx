import { Suspense } from "react";
import type { Access } from "@/platform/access";
import { Note } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import type { PlanView } from "../planView";
import { Findings } from "./Findings";
import { LastWeek } from "./LastWeek";
import { LookAgain } from "./PlanButtons.client";

/** What must be right before a plan can run, and what it would have done last week. Both take their time. */
export function PlanMargin({ access, view }: { access: Access; view: PlanView }) {
  const { ref, plan, rules, base, now, stepHref } = view;
  return (
    <>
      <Note title="Before it can run">
        <Suspense fallback={<p className="text-second">Checking the review links…</p>}>
          <Findings access={access} planId={plan.id} looks={ref.mayChange} stepHref={stepHref} />
        </Suspense>
        {ref.mayChange ? <LookAgain slug={ref.slug} /> : null}
      </Note>
      {rules.begins.kind === "by hand" ? null : (
        <Note title="If it had run last week">
          <Suspense fallback={<p className="text-second">Rehearsing the last seven days…</p>}>
            <LastWeek access={access} planId={plan.id} now={now} />
          </Suspense>
          <p>
            <Link href={`${base}/rehearsal`}>Rehearse it on other dates</Link>
          </p>
        </Note>
      )}
      <Note title="What stops an ask">
        <p>
          Remaining messages are dropped as soon as the person answers, goes to a review site, writes back, opts out or
          leaves a review, or if their visit is cancelled.
        </p>
      </Note>
    </>
  );
}
