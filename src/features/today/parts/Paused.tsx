import { sayWhen } from "@/core/time/say";
import { GoOn } from "@/features/clients/parts/PauseEverything.client";
import type { TodayView } from "../todayView";

/** Said above all else while everything is paused. */
export function Paused({ today }: { today: TodayView }) {
  const { client } = today.setting;
  if (!today.isPaused) return null;
  const until = client.pausedUntil
    ? `until ${sayWhen(today.zone, client.pausedUntil, today.now).replace(/ at 0?0:00$/, "")}`
    : "until someone resumes it";
  return (
    <section
      aria-label="Paused"
      className="bg-ochre-tint text-ochre-deep mt-4 flex flex-wrap items-center justify-between gap-3 rounded-[10px] px-4 py-3"
    >
      <p>
        <b>Everything is paused {until}.</b> {client.pausedBy}: {client.pausedWhy}
      </p>
      {today.mayPause ? <GoOn slug={today.slug} /> : null}
    </section>
  );
}
