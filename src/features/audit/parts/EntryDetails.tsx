import { z } from "zod";
import { OUTCOMES } from "@/core/asks/findings";
import type { AuditAction, AuditSubject } from "@/core/audit/actions";
import { PAUSE_REASON } from "@/core/plans/pauseReason";
import { sayCount } from "@/core/time/say";
import { outcomeWords } from "@/locales/asking";
import { auditSentence, pauseWords } from "@/locales/operations";
import { pieceWords } from "@/locales/pieces";

const VISIT_OUTCOME = z.enum(OUTCOMES);

/** What more an entry tells, where it is a word or a few. */
export function detailWords({ subject, details }: { subject: AuditSubject; details: unknown }): string {
  const { name, version, format, reason, why, tag, count, channel, scopes, outcome } = recordOf(details);
  const paused = PAUSE_REASON.safeParse(why).data;
  const became = VISIT_OUTCOME.safeParse(outcome).data;
  const words = [
    subject === "words" && typeof name === "string" ? pieceWords(name) : null,
    typeof version === "number" ? `version ${version}` : null,
    typeof format === "string" ? `as ${format}` : null,
    typeof tag === "string" ? `“${tag}”` : null,
    typeof reason === "string" && reason ? reason : null,
    paused ? pauseWords(paused) : null,
    became ? outcomeWords(became) : null,
    typeof channel === "string" ? channel : null,
    typeof count === "number" && subject !== "people" ? sayCount(count, "row") : null,
    Array.isArray(scopes) ? scopes.join(", ") : null,
  ].filter(Boolean);
  return words.join(", ");
}

/** What somebody did, where the trail says no names: "picked up a concern". */
export function deedWords(entry: { action: AuditAction; subject: AuditSubject; details: unknown }): string {
  const { count } = recordOf(entry.details);
  return auditSentence({ ...entry, name: null, count: typeof count === "number" ? count : 0 }).before;
}

export function EntryDetails({ entry }: { entry: { subject: AuditSubject; details: unknown } }) {
  const words = detailWords(entry);
  return words ? <span className="text-second">: {words}</span> : null;
}

/** What an entry holds beside its words. */
export const recordOf = (details: unknown): Record<string, unknown> =>
  details && typeof details === "object" && !Array.isArray(details) ? (details as Record<string, unknown>) : {};
