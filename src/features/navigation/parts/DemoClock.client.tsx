"use client";

import { ChevronDown } from "lucide-react";
import { useRouter } from "next/navigation";
import { DropdownMenu } from "radix-ui";
import { startTransition, useActionState, useEffect, useState } from "react";
import { toast } from "sonner";
import { readClock, skipClock } from "../actions";

type State = { now: number; skippingTo: number | null; skipFrom: number | null };

/**
 * The demo clock in the masthead: shows the time of Merrow Bay and skips ahead. While it skips it says how far it is.
 */
export function DemoClock({ words, state, townUrl }: { words: string; state: State; townUrl: string | null }) {
  const router = useRouter();
  const [result, act, pending] = useActionState(skipClock, null);
  const [live, setLive] = useState(state);
  useEffect(() => setLive(state), [state]);
  useEffect(() => {
    if (result && !result.ok) toast(result.message);
    if (result?.ok) router.refresh();
  }, [result, router]);
  const skipping = live.skippingTo !== null;
  useEffect(() => {
    if (!skipping) return;
    const timer = setInterval(async () => {
      const next = await readClock().catch(() => null);
      if (!next || "ok" in next) return;
      setLive(next);
      if (next.skippingTo === null) router.refresh();
    }, 400);
    return () => clearInterval(timer);
  }, [skipping, router]);

  if (skipping) {
    const { now, skippingTo, skipFrom } = live;
    const share = Math.round((100 * (now - (skipFrom ?? now))) / Math.max(1, (skippingTo ?? now) - (skipFrom ?? now)));
    return (
      <span role="status" className="text-second flex flex-col text-[13px] leading-tight">
        <span>Time is passing in Merrow Bay: {share}%</span>
        <progress max={100} value={share} className="h-1.5 w-full" />
      </span>
    );
  }
  const item =
    "hover:bg-mulberry-tint focus:bg-mulberry-tint flex min-h-[40px] w-full cursor-pointer items-center rounded-[7px] px-3 text-left outline-none";
  const skip = (by: string) => {
    const form = new FormData();
    form.set("by", by);
    startTransition(() => act(form));
  };
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        disabled={pending}
        className="text-second hover:text-ink inline-flex min-h-[36px] items-center gap-1 rounded-[8px] px-1.5 text-[14px]"
        title="Demo clock"
      >
        <span>{words}</span>
        <ChevronDown size={14} aria-hidden="true" />
        <span className="sr-only">, demo clock: skip ahead</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          className="border-rule bg-sheet text-ink z-50 w-[270px] rounded-[10px] border p-1.5"
        >
          <DropdownMenu.Label className="text-second px-3 py-1.5 text-[13px]">
            The demo clock. Everything due along the way really happens.
          </DropdownMenu.Label>
          <DropdownMenu.Item className={item} onSelect={() => skip("message")}>
            Skip to the next message
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={() => skip("hour")}>
            Skip an hour
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={() => skip("morning")}>
            Skip to tomorrow, 9:00
          </DropdownMenu.Item>
          {townUrl ? (
            <DropdownMenu.Item asChild className={item}>
              <a href={townUrl} target="_blank" rel="noopener">
                Visit the simulated town
              </a>
            </DropdownMenu.Item>
          ) : null}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
