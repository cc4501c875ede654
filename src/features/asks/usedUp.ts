import { sayDay } from "@/core/time/say";
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
  const what = channel === "text" ? "texts" : "emails";
  const many = `${most.toLocaleString("en-GB")} ${channel === "text" ? (most === 1 ? "part of a text" : "parts of texts") : most === 1 ? "email" : "emails"}`;
  const renewed = sayDay(client.zone, nextMonth(client.zone, now), now);
  const goesOn = client.leavesOutWhenUsedUp
    ? `What was planned already waits for ${renewed}; once both allowances are used up, whoever comes in until then is left out, with that reason.`
    : `Nothing is lost: what falls due until then waits for ${renewed}.`;
  await enqueueNotice(
    tx,
    scope,
    {
      about: `${allowanceNoticeKey(setting, now)}${channel} ${most}`,
      subject: `${client.name}: this month’s ${what} are used up`,
      words: `${client.name} has used up its allowance of ${many} for this month. ${goesOn}\n\nRaise the allowance, and what waits leaves at once:`,
      path: "/asking",
    },
    now,
  );
}

/** How notices about this month's allowances begin. */
export function allowanceNoticeKey(setting: Setting, now: number): string {
  return `allowance ${monthOf(setting, now)} `;
}
