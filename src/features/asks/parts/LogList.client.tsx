"use client";

import { type ReactNode, useState, useTransition } from "react";
import { toast } from "sonner";
import { Dialog } from "@/ui/Dialog.client";
import { lost } from "@/ui/lost.client";
import type { Steer } from "../steer";
import { lookAtHours, steerAsks } from "../steerActions";

export type LogRow = {
  id: string;
  askId: string | null;
  name: string;
  canSteer: boolean;
  isLost: boolean;
  isHeld: boolean;
  content: ReactNode;
};

/** Rows of the log that can be picked, and what can be done with the asks behind them. */
export function LogList({ slug, rows, maySteer }: { slug: string; rows: LogRow[]; maySteer: boolean }) {
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const [outside, setOutside] = useState<{ ids: string[]; outside: number; asks: number } | null>(null);
  const [pending, start] = useTransition();
  const able = rows.filter(({ askId, canSteer, isLost }) => askId && (canSteer || isLost));
  const chosen = rows.filter(({ id }) => picked.has(id));
  const ids = [...new Set(chosen.flatMap(({ askId }) => askId ?? []))];
  const pick = (id: string, on: boolean) => {
    const next = new Set(picked);
    if (on) next.add(id);
    else next.delete(id);
    setPicked(next);
  };
  const run = (action: Steer, of: string[]) =>
    start(async () => {
      const result = await steerAsks(slug, action, of).catch(
        lost({
          ok: false as const,
          message: "The connection dropped and nothing was changed. Try again.",
        }),
      );
      toast(result.message ?? "Done.");
      setOutside(null);
      if (result.ok) setPicked(new Set());
    });
  const sendNow = (of: string[]) =>
    start(async () => {
      const seen = await lookAtHours(slug, of).catch(lost(null));
      if (seen && seen.outside > 0) setOutside({ ids: of, ...seen });
      else run("send now", of);
    });
  return (
    <>
      {maySteer && able.length > 0 ? (
        <div
          className="border-rule bg-paper sticky top-0 z-10 flex min-h-[52px] flex-wrap items-center gap-2 border-b py-1.5"
          aria-live="polite"
        >
          <label className="flex min-h-[32px] items-center gap-2 pr-2 text-[14px]">
            <input
              type="checkbox"
              className="size-[17px]"
              checked={picked.size > 0 && able.every(({ id }) => picked.has(id))}
              onChange={(event) => setPicked(event.target.checked ? new Set(able.map(({ id }) => id)) : new Set())}
            />
            {picked.size === 0
              ? "Select everything on this page that’s under way"
              : `${ids.length} ${ids.length === 1 ? "ask" : "asks"} selected`}
          </label>
          {picked.size > 0 ? (
            <SteerButtons
              chosen={chosen}
              count={ids.length}
              pending={pending}
              run={(action) => run(action, ids)}
              sendNow={() => sendNow(ids)}
            />
          ) : null}
        </div>
      ) : null}
      <ul className="divide-rule border-rule divide-y border-b">
        {rows.map((row) => (
          <li key={row.id} className={`flex gap-3 py-2.5 ${picked.has(row.id) ? "bg-mulberry-tint/50" : ""}`}>
            {maySteer && able.length > 0 ? (
              able.includes(row) ? (
                <input
                  type="checkbox"
                  aria-label={`Select the message to ${row.name}`}
                  className="mt-1 size-[17px] shrink-0"
                  checked={picked.has(row.id)}
                  onChange={(event) => pick(row.id, event.target.checked)}
                />
              ) : (
                <span className="w-[17px] shrink-0" />
              )
            ) : null}
            <div className="min-w-0 flex-1">{row.content}</div>
          </li>
        ))}
      </ul>
      <OutsideHours outside={outside} pending={pending} run={run} close={() => setOutside(null)} />
    </>
  );
}

/** What can be done with the chosen asks, as far as it fits them. */
function SteerButtons({
  chosen,
  count,
  pending,
  run,
  sendNow,
}: {
  chosen: LogRow[];
  count: number;
  pending: boolean;
  run: (action: Steer) => void;
  sendNow: () => void;
}) {
  const actions: [Steer, string, boolean][] = [
    ["hold", "Hold", chosen.some(({ canSteer, isHeld }) => canSteer && !isHeld)],
    ["release", "Release", chosen.some(({ isHeld }) => isHeld)],
    ["send again", "Send again", chosen.some(({ isLost }) => isLost)],
    ["cancel", "Cancel", chosen.some(({ canSteer }) => canSteer)],
  ];
  return (
    <>
      {chosen.some(({ canSteer }) => canSteer) ? (
        <button type="button" className="button" disabled={pending} onClick={() => sendNow()}>
          Send now
        </button>
      ) : null}
      {actions
        .filter(([, , fits]) => fits)
        .map(([action, says]) => (
          <button
            key={action}
            type="button"
            className="button"
            disabled={pending}
            onClick={() =>
              (action !== "cancel" ||
                confirm(`Cancel ${count === 1 ? "this ask" : `these ${count} asks`}? Nothing more will go out.`)) &&
              run(action)
            }
          >
            {says}
          </button>
        ))}
    </>
  );
}

/** Asks before messages leave at an hour at which the client does not send. */
function OutsideHours({
  outside,
  pending,
  run,
  close,
}: {
  outside: { ids: string[]; outside: number; asks: number } | null;
  pending: boolean;
  run: (action: Steer, of: string[]) => void;
  close: () => void;
}) {
  return (
    <Dialog
      open={outside !== null}
      onOpenChange={(open) => !open && close()}
      title={
        outside && outside.asks === 1
          ? "That’s outside the send hours."
          : `${outside?.outside} of ${outside?.asks} are outside the send hours.`
      }
      lead="People don’t like messages at odd hours. The legal hours for texts apply whatever you choose."
    >
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className="button-main"
          disabled={pending}
          onClick={() => outside && run("send now", outside.ids)}
        >
          Send in the next send hours
        </button>
        <button
          type="button"
          className="button"
          disabled={pending}
          onClick={() => outside && run("send now at any hour", outside.ids)}
        >
          Send now anyway
        </button>
        <button type="button" className="button-quiet" onClick={() => close()}>
          Keep the planned time
        </button>
      </div>
    </Dialog>
  );
}
