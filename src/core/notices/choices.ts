import { z } from "zod";
import { may, type Permission, type Rights } from "../access/permissions";
import { dayNumber, fromLocal, HOUR, MINUTE, timeOfDay, toLocal } from "../time/zone";

/** What somebody is told at a client, of which branches, how, and when: each chooses for themselves. */

/** How somebody is told beside the list in the application itself. */
export const TOLD_WAYS = ["email", "text", "browser"] as const;
export type ToldWay = (typeof TOLD_WAYS)[number];

const minute = z
  .int()
  .min(0)
  .max(24 * 60 - 1);

export const TOLD_CHOICE = z.object({
  /** Private notes of unhappy customers. */
  concerns: z.boolean(),
  /** Private notes of happy customers. */
  notes: z.boolean().default(false),
  /** Public reviews up to this rating; 0 for none, 5 for all. */
  reviewsUpTo: z.int().min(0).max(5),
  /** What people write by text or email. */
  conversations: z.boolean(),
  /** Replies that wait for approval. */
  approvals: z.boolean(),
  /** Sites that cannot be read any more. */
  sites: z.boolean(),
  /** None for every branch that one may see. */
  branchIds: z.array(z.uuid()).max(200),
  ways: z.array(z.enum(TOLD_WAYS)).max(TOLD_WAYS.length),
  when: z.enum(["at once", "hourly", "daily"]),
  /** Minutes after local midnight, for the summary of a day. */
  dailyAt: minute,
  /** Minutes after local midnight between which nobody is disturbed; null for never. */
  quiet: z.object({ from: minute, to: minute }).nullable(),
});
export type ToldChoice = z.infer<typeof TOLD_CHOICE>;

/**
 * What one begins with: whoever sets up is told by email at once, the desk sees it in the application, an agency's people
 * once a day of each client.
 */
export function startChoice(rights: Rights, isOfAgency: boolean): ToldChoice {
  const isKeeper = may(rights, "set up") && !isOfAgency;
  return {
    concerns: may(rights, "answer concerns") && !isOfAgency,
    notes: false,
    conversations: may(rights, "answer concerns") && !isOfAgency,
    reviewsUpTo: may(rights, "reply in public") && !isOfAgency ? 3 : 0,
    approvals: may(rights, "reply in public") && !isOfAgency,
    sites: may(rights, "set up"),
    branchIds: [],
    ways: isKeeper || isOfAgency ? ["email"] : [],
    when: isOfAgency ? "daily" : "at once",
    dailyAt: 8 * 60,
    quiet: { from: 21 * 60, to: 7 * 60 },
  };
}

/** What there is to tell, and what of it a choice goes by. */
export type Matter =
  | { kind: "concern"; branchId: string; isUrgent?: boolean }
  /** A happy customer wrote to the business alone. */
  | { kind: "note"; branchId: string }
  | { kind: "review"; branchId: string; rating: number; isUrgent?: boolean }
  | { kind: "approval"; branchId: string }
  | { kind: "site"; branchId: string }
  /** Somebody wrote; of no branch where nobody knows who they are. */
  | { kind: "conversation"; branchId: string | null }
  /** A concern that nobody has answered for too long: whoever it is meant for is told, whatever they chose. */
  | { kind: "reminder"; branchId: string; stage: ReminderStage };

/** What one must be allowed to do for a matter to be one's own. */
const NEEDED: Record<Matter["kind"], Permission> = {
  concern: "answer concerns",
  note: "see heard",
  review: "see heard",
  approval: "reply in public",
  site: "set up",
  conversation: "answer concerns",
  reminder: "answer concerns",
};

/**
 * Whether a matter cannot wait for what people chose: a serious allegation. Everyone who may answer it is notified,
 * straight away and by email at least.
 */
export function isUrgent(matter: Matter): boolean {
  return "isUrgent" in matter && matter.isUrgent === true;
}

/** Whether somebody is told of a matter: only what they may see, and what they have chosen. */
export function isTold(choice: ToldChoice, rights: Rights, matter: Matter): boolean {
  if (!may(rights, NEEDED[matter.kind])) return false;
  if (matter.kind === "reminder" || isUrgent(matter)) return true;
  const { branchId } = matter;
  if (choice.branchIds.length > 0 && branchId !== null && !choice.branchIds.includes(branchId)) return false;
  if (matter.kind === "concern") return choice.concerns;
  if (matter.kind === "note") return choice.notes;
  if (matter.kind === "approval") return choice.approvals;
  if (matter.kind === "site") return choice.sites;
  if (matter.kind === "conversation") return choice.conversations;
  return matter.rating <= choice.reviewsUpTo;
}

/** The first instant at or after `at` outside somebody's quiet hours. */
export function outsideQuiet(choice: ToldChoice, zone: string, at: number): number {
  const { quiet } = choice;
  if (!quiet || quiet.from === quiet.to) return at;
  const local = toLocal(zone, at);
  const now = timeOfDay(local);
  const [from, to] = [quiet.from * MINUTE, quiet.to * MINUTE];
  const isQuiet = from < to ? now >= from && now < to : now >= from || now < to;
  if (!isQuiet) return at;
  const day = dayNumber(local) + (now >= to ? 1 : 0);
  return Math.max(at, fromLocal(zone, day * 24 * HOUR + to));
}

/** When somebody is told of what happens at `at`. */
export function toldAt(choice: ToldChoice, zone: string, at: number): number {
  if (choice.when === "at once") return outsideQuiet(choice, zone, at);
  const local = toLocal(zone, at);
  if (choice.when === "hourly") {
    const next = fromLocal(zone, Math.floor(local / HOUR) * HOUR + HOUR);
    return outsideQuiet(choice, zone, Math.max(next, at));
  }
  const today = fromLocal(zone, dayNumber(local) * 24 * HOUR + choice.dailyAt * MINUTE);
  return today >= at ? today : fromLocal(zone, (dayNumber(local) + 1) * 24 * HOUR + choice.dailyAt * MINUTE);
}

/** It was handed over to someone; half of the time to answer is over; all of it is; it has been for a day. */
export const REMINDER_STAGES = ["handed over", "half", "due", "late"] as const;
export type ReminderStage = (typeof REMINDER_STAGES)[number];

/** How far a concern has come of which somebody is reminded; its first reminder is due at half of its office time. */
export function reminderStage(answerBy: number, now: number): Exclude<ReminderStage, "handed over"> {
  if (now >= answerBy + 24 * HOUR) return "late";
  return now >= answerBy ? "due" : "half";
}

/**
 * Whom a stage is meant for: the person it was handed over to, who has taken it (or all who may answer, where nobody
 * has), the manager, the agency.
 */
export function isRemindedAt(
  stage: ReminderStage,
  who: { isOwner: boolean; hasOwner: boolean; isOfAgency: boolean; rights: Rights },
): boolean {
  if (stage === "handed over") return who.isOwner;
  if (stage === "half") return who.hasOwner ? who.isOwner : !who.isOfAgency && may(who.rights, "answer concerns");
  if (stage === "due") return !who.isOfAgency && may(who.rights, "set up");
  return who.isOfAgency && may(who.rights, "answer concerns");
}
