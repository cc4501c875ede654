import { STARTERS } from "@/core/plans/starters";
import { StartFrom } from "./PlanList.client";

/** The plans one can start from. */
export function StartPlan({ slug }: { slug: string }) {
  return (
    <section className="mt-8" aria-label="Start another plan">
      <h2 className="text-[19px] font-semibold">Start another plan</h2>
      <ul className="divide-rule border-rule mt-2 divide-y border-y">
        {STARTERS.map((starter) => (
          <li key={starter.key} className="flex flex-wrap items-center justify-between gap-3 py-2.5">
            <div className="min-w-0 flex-1 basis-[300px]">
              <b>{starter.name}</b>
              <p className="text-second">{starter.says}</p>
            </div>
            <StartFrom slug={slug} from={starter.key}>
              Use this <span className="sr-only">: {starter.name}</span>
            </StartFrom>
          </li>
        ))}
        <li className="flex flex-wrap items-center justify-between gap-3 py-2.5">
          <div className="min-w-0 flex-1 basis-[300px]">
            <b>Start from scratch</b>
            <p className="text-second">Just one message. You set up the rest.</p>
          </div>
          <StartFrom slug={slug} from="nothing">
            Start from scratch
          </StartFrom>
        </li>
      </ul>
    </section>
  );
}
