import type { Channel } from "@/core/time/sendHours";
import { nextMonth } from "@/core/time/zone";
import { allowanceOf, monthOf, type Setting } from "@/features/clients";
import { enqueueNotice } from "@/features/notices";
import type { Scope, Tx } from "@/platform/database";

/** Told once for each month, channel and size of the allowance: raised and used up again, it is told again. */
export async function noticeAllowanceUsedUp(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  channel: Channel,
  now: number,
): Promise<void> {
  const { client } = setting;
  const most = allowanceOf(setting, channel);
  if (most === null) return;
  await enqueueNotice(
    tx,
    scope,
    `${allowanceNoticeKey(setting, now)}${channel} ${most}`,
    {
      code: "allowance used up",
      channel,
      most,
      renewedAt: nextMonth(client.zone, now),
      leavesOut: client.leavesOutWhenUsedUp,
    },
    now,
  );
}

/** How notices about this month's allowances begin. */
export function allowanceNoticeKey(setting: Setting, now: number): string {
  return `allowance ${monthOf(setting, now)} `;
}
