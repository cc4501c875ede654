import type { SiteReason } from "@/core/answers/siteMix";
import type { Finding, Reason, TraceLine, VisitOutcome } from "@/core/asks/findings";
import type { MessageReason, Scheduled } from "@/core/asks/messageReasons";
import type { AskEnd, Stop } from "@/core/asks/nextStep";
import type { AskStage } from "@/core/asks/stages";
import type { GatewayReply } from "@/core/contacts/gatewayReply";
import type { OptOutWay } from "@/core/contacts/optOut";
import { clockTime, type Delay } from "@/core/time/delay";
import { capital } from "@/core/time/say";
import { listAnd, listOr, translate } from "./translate";

/** Words of why somebody is asked or not, and of what became of messages and asks. */

/** Why a visit was left out, as half a sentence: "resting". */
export function reasonWords(reason: Reason): string {
  return translate("reason", reason);
}

/** What would have to change for a rule not to object. */
export function remedySentence(reason: Reason): string {
  return translate("remedy", reason);
}

/** What became of a visit. */
export function outcomeWords(outcome: VisitOutcome): string {
  return translate("outcome", outcome);
}

/** The value that decided a rule, as half a sentence. */
export function findingWords(finding: Finding): string {
  const { code } = finding;
  switch (code) {
    case "outcome":
      return translate("finding", code, { outcome: outcomeWords(finding.outcome) });
    case "plan takes it":
      return translate("finding", code, {
        plan: finding.plan,
        count: finding.before.length,
        before: listAnd(finding.before.map((name) => `“${name}”`)),
      });
    case "tagged":
      return translate("finding", code, { whose: finding.whose, tags: listAnd(finding.tags) });
    case "not tagged":
      return translate("finding", code, { tags: listOr(finding.tags) });
    case "opted out":
      return translate("finding", code, { channels: listAnd(finding.channels) });
    case "consent":
      return translate("finding", code, {
        whose: finding.whose,
        given: finding.given === null ? "unknown" : finding.given ? "yes" : "no",
      });
    case "rest":
      return translate("finding", code, { ...finding, everywhere: finding.everywhere ? "yes" : "no" });
    default:
      return translate("finding", code, finding);
  }
}

/** Findings that say nothing beyond the sentence of a rule that passed. */
const SAYS_NO_MORE: readonly Finding["code"][] = [
  "no concern waits",
  "outcome",
  "not marked",
  "plan running",
  "no excluding tag",
  "no tag needed",
  "never opted out",
  "address works",
  "no ask open",
  "household not asked",
  "may ask again",
  "never asked by plan",
  "allowance left",
  "not recorded",
];

/** One line of a trace as a sentence, with the value that decided. */
export function traceSentence({ rule, objects, finding, overruled }: TraceLine): string {
  const words = overruled ? `${findingWords(finding)}; ${translate("overruled", null)}` : findingWords(finding);
  if (objects) return `${capital(reasonWords(rule))}: ${words}.`;
  const passed = translate("passed", rule);
  return SAYS_NO_MORE.includes(finding.code) && !overruled ? `${passed}.` : `${passed} (${words}).`;
}

/** What decided, as a sentence: the last line of a trace. */
export function lastTraceSentence(trace: readonly TraceLine[]): string {
  const last = trace.at(-1);
  return last ? traceSentence(last) : "";
}

/** The order in which what moved a message is told. */
const TOLD = [
  "spread",
  "ceiling",
  "allowance",
  "gap",
  "retry",
  "late",
  "closed day",
  "hours",
  "recipient hours",
  "other channel",
] as const;

/** Whether a message is wanted at a set time of day. */
const isTimed = ({ unit, at }: Delay) => (unit === "days" || unit === "weeks") && at !== undefined && at !== null;

/** Why a message leaves when it does: "2 hours after the visit ended; the hours open at 9:00." */
export function scheduleSentence({ moves, after, begun, delay, channel, opens }: Scheduled): string {
  const of = begun?.replace(" ", "") ?? "visit";
  const start = moves.includes("sendNow")
    ? translate("schedule", "sendNow")
    : moves.includes("at once")
      ? translate("schedule", "at once")
      : delay.amount === 0
        ? translate("schedule", `soon after ${after}`, { of })
        : translate("schedule", `after ${after}`, {
            of,
            delay: capital(translate("delay", delay.unit, { amount: delay.amount })),
            timed: isTimed(delay) ? "yes" : "no",
            time: clockTime(delay.at ?? 0),
          });
  const moved = TOLD.filter((move) => moves.includes(move)).map((move) =>
    translate("moved", move, { channel, time: clockTime(opens ?? 0) }),
  );
  return `${[start, ...moved].join("; ")}.`;
}

/** What a gateway answered: "the mailbox is full (552, 5.2.2)". */
export function gatewayWords({ code, status, enhanced }: GatewayReply): string {
  const numbers = [status, enhanced].filter((one) => one !== undefined).join(", ");
  return numbers ? `${translate("gateway", code)} (${numbers})` : translate("gateway", code);
}

/** Why a message is in its state, or leaves when it does. Empty where nothing is noted. */
export function messageSentence(reason: MessageReason | null): string {
  if (reason === null) return "";
  switch (reason.code) {
    case "scheduled":
      return scheduleSentence(reason);
    case "ask ended":
      return endSentence(reason.ended);
    case "ask stopped":
      return stopSentence(reason.stop);
    case "tried again":
    case "refused":
    case "came back":
      return translate("message", reason.code, { reply: gatewayWords(reason.reply) });
    case "given up":
      return translate("message", reason.code, { attempts: reason.attempts, reply: gatewayWords(reason.reply) });
    default:
      return translate("message", reason.code, reason);
  }
}

/** What an ask's end says about its messages. */
export function endSentence(end: AskEnd): string {
  return translate("ended", end);
}

/** How far an ask came: "went to a review site". */
export function stageWords(stage: AskStage): string {
  return translate("stage", stage);
}

/** What stopping says about a message. */
export function stopSentence(stop: Stop): string {
  return translate("stopped", stop);
}

/** By which way somebody opted out. */
export function optOutWords(way: OptOutWay): string {
  return translate("optOut", way.code, way);
}

/** Why a site comes first for somebody. */
export function siteWords(reason: SiteReason): string {
  const why = translate("site", reason.code, "site" in reason ? { site: reason.site } : {});
  if (reason.code === "not recorded" || reason.reviewed.length === 0) return why;
  return translate("site", "passed over", { why, reviewed: listAnd(reason.reviewed) });
}
