import type { AuditAction, AuditSubject } from "@/core/audit/actions";
import type { ConcernOutcome } from "@/core/concerns/outcomes";
import type { NoticeContent } from "@/core/notices/notice";
import type { PauseReason } from "@/core/plans/pauseReason";
import type { HiddenReason } from "@/core/reviews/ownReviews";
import { remedyOf, type SiteProblem } from "@/core/reviews/siteProblems";
import { capital, sayDay } from "@/core/time/say";
import { translate, type Values } from "./translate";

/** Words of what a client's people are told: notices, pauses, sites that fail, and who changed what. */

/** Why a plan paused by itself, as half a sentence. */
export function pauseWords(reason: PauseReason): string {
  return translate("pause", reason.code, reason);
}

/** What stands between us and a review site, as half a sentence. */
export function siteProblemWords(problem: SiteProblem): string {
  return translate("siteProblem", problem.code, {
    ...problem,
    ...(problem.code === "asks for patience" ? { until: problem.until ?? "none" } : {}),
    ...(problem.code === "not taken" ? { why: problem.why || "it doesn’t say why" } : {}),
  });
}

/** What ends a problem, as a sentence. */
export function siteRemedySentence(problem: SiteProblem): string {
  return `${translate("siteRemedy", remedyOf(problem))}.`;
}

/** A problem and what ends it, as two sentences, with the words of the button that leads there. */
export function siteProblemHelp(problem: SiteProblem): { says: string; button: string } {
  return {
    says: `${capital(siteProblemWords(problem))}. ${siteRemedySentence(problem)}`,
    button: translate("siteRemedyButton", remedyOf(problem)),
  };
}

/** A notice as mail: its subject, and its words, which the address of its page follows. */
export function noticeMail(
  notice: NoticeContent,
  client: { name: string; zone: string },
  now: number,
): { subject: string; words: string } {
  const values: Values = { client: client.name };
  if (notice.code === "plan paused") Object.assign(values, { plan: notice.plan, why: pauseWords(notice.why) });
  if (notice.code === "allowance used up")
    Object.assign(values, {
      channel: notice.channel,
      most: notice.most,
      renewed: sayDay(client.zone, notice.renewedAt, now),
      leavesOut: notice.leavesOut ? "yes" : "no",
    });
  return {
    subject: translate("noticeSubject", notice.code, values),
    words: translate("notice", notice.code, values),
  };
}

/** What came of a concern: "couldn’t reach them". */
export function concernOutcomeWords(outcome: ConcernOutcome): string {
  return translate("concernOutcome", outcome);
}

/** Why an own review is hidden: "private details". */
export function hiddenReasonWords(why: HiddenReason): string {
  return translate("hiddenReason", why);
}

/** Stands for the name of what a sentence is about, until it is cut there. */
const NAME = "\uE000";

/** A sentence cut at the name in it, so that a page can link the name; all of it before where it has none. */
export type AroundName = { before: string; name: string; after: string };

/**
 * What somebody did, from the verb on: "picked up the concern from ", "Odette Marsh", "". `name` is what the thing is
 * called, null where it isn't known; `count` how many people it was done to.
 */
export function auditSentence(entry: {
  action: AuditAction;
  subject: AuditSubject;
  name: string | null;
  count: number;
}): AroundName {
  const { action, subject, name, count } = entry;
  const named = name ? "yes" : "no";
  const what = translate("auditSubject", subject, { named, count, name: NAME, kind: name ?? "" });
  const on = subject.replaceAll(/[^a-z]/gi, "");
  const [before, after] = translate("auditAction", action, { what, on, named, name: NAME }).split(NAME);
  return { before, name: after === undefined ? "" : (name ?? ""), after: after ?? "" };
}
