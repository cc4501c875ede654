import type { ReactNode } from "react";
import { type FirstStep, isReady } from "@/core/activity/firstSteps";
import { capital, sayCount } from "@/core/time/say";
import { AskAnybody } from "@/features/asks/parts/AskThisPerson.client";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import type { TodayView } from "../todayView";

type Going = { title: string; says: ReactNode; href: string | null; button: string };

/** What is left before the first ask, in order, each with its button; what is done is folded away. */
export function FirstSteps({ today }: { today: TodayView }) {
  const { first } = today;
  if (!first) return null;
  const left = first.steps.filter(({ isDone }) => !isDone);
  const done = first.steps.filter(({ isDone }) => isDone);
  return (
    <section className="mt-6" aria-label="Before your first ask">
      {left.length > 0 ? (
        <ol className="divide-rule border-rule divide-y border-y">
          {left.map(({ step }, index) => (
            <Step key={step} going={goingOf(step, today)} isNext={index === 0} />
          ))}
        </ol>
      ) : null}
      {isReady(first.steps) && today.mayAsk ? (
        <div className="mt-4">
          <AskAnybody words="Ask someone now" />
        </div>
      ) : null}
      {done.length > 0 ? (
        <details className="mt-3">
          <summary className="text-second text-[14px]">{capital(sayCount(done.length, "step"))} done</summary>
          <ul className="mt-2 space-y-1">
            {done.map(({ step }) => (
              <li key={step} className="text-second text-[14px]">
                ✓ {goingOf(step, today).title}
              </li>
            ))}
          </ul>
        </details>
      ) : null}
    </section>
  );
}

function Step({ going, isNext }: { going: Going; isNext: boolean }) {
  return (
    <li className="flex flex-col gap-x-5 gap-y-3 py-4 sm:flex-row sm:items-center">
      <div className="min-w-0 flex-1">
        <p className="font-semibold">{going.title}</p>
        <p className="text-second text-[14px]">{going.says}</p>
      </div>
      {going.href ? (
        <Link href={going.href} className={isNext ? "button-main self-start" : "button self-start"}>
          {going.button}
        </Link>
      ) : null}
    </li>
  );
}

function goingOf(step: FirstStep, { base, first, team, setting }: TodayView): Going {
  const plan = first?.planId ? `${base}/asking/plans/${first.planId}` : `${base}/asking`;
  switch (step) {
    case "pages":
      return {
        title: "Review pages that open",
        says:
          setting.listings.length === 0
            ? "Add the page on each review site where customers can write."
            : "At least one link hasn’t opened yet. Check the links, or correct them.",
        href: `${base}/set-up/pages`,
        button: setting.listings.length === 0 ? "Add a review page" : "Check the links",
      };
    case "words":
      return {
        title: "See what customers get",
        says: "Read every message and page, and send yourself a sample.",
        href: first?.planId ? `${plan}/words` : plan,
        button: "See the messages",
      };
    case "visits":
      return {
        title: "Bring visits in",
        says: "Import a list, connect your booking software or calendar, or give the front desk a drop-off page.",
        href: `${base}/people/import`,
        button: "Bring visits in",
      };
    case "rehearse":
      return {
        title: "Rehearse the plan",
        says: "See who would be asked, when and why. Nothing is sent.",
        href: first?.planId ? `${plan}/rehearsal` : plan,
        button: "Rehearse it",
      };
    case "start":
      return {
        title: "Start the plan",
        says: "Nothing goes out until you do.",
        href: plan,
        button: "Go to the plan",
      };
    case "team":
      return {
        title: "Invite your team",
        says: "So that concerns and reviews reach the people who can answer them.",
        href: team,
        button: "Invite someone",
      };
  }
}
