"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { OUTCOMES } from "@/core/asks/findings";
import { parseClockTime } from "@/core/time/delay";
import { DAY, fromLocal, MINUTE, parseDay } from "@/core/time/zone";
import { decideVisits, stopAsksOfVisits } from "@/features/asks";
import { loadSetting, zoneOf } from "@/features/clients";
import { findPerson } from "@/features/people";
import { recordVisit, setOutcome, visitInput } from "@/features/visits";
import { action, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";

/** Records a visit of a person. One that is over is decided about at once. */
export const addVisit = action(
  atClientWith("edit people"),
  [text, before<ActionResult>(), form],
  async (access, personId, _before, form): Promise<ActionResult> => {
    const now = await clockNow();
    const text = (name: string) => formText(form, name);
    const result = await withClient(access, async (tx): Promise<ActionResult> => {
      const setting = await loadSetting(tx);
      const zone = zoneOf(setting, text("branchId"));
      const endsAt = readMoment(text("day"), text("time"), zone);
      if (endsAt === null)
        return { ok: false, message: "When did it end?", fields: { time: "Enter a date, and a time like 14:05." } };
      if (endsAt < now - 730 * DAY || endsAt > now + 730 * DAY)
        return {
          ok: false,
          message: "That’s too far away.",
          fields: { time: "That’s more than two years from today." },
        };
      const values = visitInput.safeParse({
        personId,
        serviceId: text("serviceId"),
        branchId: text("branchId"),
        teamMemberId: text("teamMemberId"),
        about: text("about"),
        endsAt,
        outcome: endsAt > now ? "booked" : text("outcome"),
        requestKey: text("requestKey"),
      });
      if (!values.success) return refusal(values.error);
      const known = (list: { id: string }[], id: string | null | undefined) => !id || list.some((one) => one.id === id);
      if (
        !known(setting.services, values.data.serviceId) ||
        !known(setting.branches, values.data.branchId) ||
        !known(setting.team, values.data.teamMemberId)
      ) {
        return {
          ok: false,
          message: "This service, branch or team member has been removed. Close this and open it again.",
        };
      }
      if (!(await findPerson(tx, access, personId))) return { ok: false, message: "This person no longer exists." };
      const visit = await recordVisit(tx, access, access.user.name, values.data, now);
      if (visit.endsAt > now) return { ok: true, message: "Booked. We’ll decide when it’s over." };
      const { asked } = await decideVisits(tx, access, [visit.id], now);
      return {
        ok: true,
        message: asked > 0 ? "Recorded. They’ll be asked." : "Recorded. They’re left out; their story says why.",
      };
    });
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return result;
  },
);

/** Sets what became of a visit. Cancelling one stops its ask at once. */
export const changeOutcome = action(
  atClientWith("edit people"),
  [text, before<ActionResult>(), form],
  async (access, visitId, _before, form): Promise<ActionResult> => {
    const values = z
      .object({ id: z.uuid(), outcome: z.enum(OUTCOMES) })
      .safeParse({ id: visitId, outcome: formText(form, "outcome") });
    if (!values.success) return { ok: false, message: "Choose what happened." };
    const now = await clockNow();
    const result = await withClient(access, async (tx): Promise<ActionResult> => {
      const visit = await setOutcome(tx, access, access.user.name, values.data.id, values.data.outcome, now);
      if (!visit) return { ok: false, message: "This visit no longer exists." };
      if (values.data.outcome === "cancelled" || values.data.outcome === "no-show") {
        await stopAsksOfVisits(tx, access, [visit.id], now);
      }
      if (visit.examineAt !== null && visit.examineAt <= now) await decideVisits(tx, access, [visit.id], now);
      return { ok: true, message: "Saved." };
    });
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return result;
  },
);

function readMoment(day: string, time: string, zone: string): number | null {
  const minutes = parseClockTime(time);
  if (minutes === null) return null;
  try {
    return fromLocal(zone, parseDay(day) * DAY + minutes * MINUTE);
  } catch {
    return null;
  }
}
