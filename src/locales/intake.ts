import { sayPhone } from "@/core/contacts/phone";
import type { EventResult, FetchProblem, FetchReport } from "@/core/intake/feedReports";
import type { FileProblem } from "@/core/intake/fileProblems";
import type { ForecastVerdict } from "@/core/intake/forecast";
import type { Remark } from "@/core/intake/remarks";
import type { HouseholdSign, LikenessSigns } from "@/core/people/likeness";
import { capital, sayWhen, sayWhichDay } from "@/core/time/say";
import { outcomeWords, reasonWords } from "./asking";
import { listAnd, translate } from "./translate";

/** Words of what came in: by lists, by feeds, and about people who may be one. */

/** What is wrong with a field, or worth a look. */
export function remarkSentence(remark: Remark): string {
  switch (remark.code) {
    case "phone abroad":
      return translate("remark", remark.code, { text: remark.text, suggested: sayPhone(remark.suggested) });
    case "not a date":
      return translate("remark", remark.code, {
        text: remark.text,
        order: remark.order === "day first" ? "day" : "month",
      });
    default:
      return translate("remark", remark.code, remark);
  }
}

/** All remarks, one sentence after the other. */
export function remarkSentences(remarks: readonly Remark[]): string {
  return remarks.map(remarkSentence).join(" ");
}

/** Why a list cannot be read, and what to do. */
export function fileSentence(problem: FileProblem): string {
  return translate("file", problem.code, problem);
}

const quoted = new Intl.ListFormat("en-GB", { type: "conjunction" });

/** What the last fetch of a feed brought. */
export function fetchSentence(report: FetchReport): string {
  if (report.code !== "calendar read") return translate("fetched", report.code, report);
  const { events, added, changed, gone, nobody, unreadable, zones = [], isWhole } = report;
  const parts = [
    translate("fetched", "calendar read", { events }),
    translate("fetched", "added", { count: added }),
    translate("fetched", "changed", { count: changed }),
  ];
  for (const [code, count] of Object.entries({ gone, nobody, unreadable }))
    if (count > 0) parts.push(translate("fetched", code, { count }));
  if (zones.length > 0)
    parts.push(translate("fetched", "zones", { names: quoted.format(zones.map((one) => `“${one}”`)) }));
  if (!isWhole) parts.push(translate("fetched", "not whole"));
  return `${capital(parts.join(", "))}.`;
}

/** Why a feed could not be fetched. */
export function fetchProblemSentence(problem: FetchProblem): string {
  return problem.code === "file" ? fileSentence(problem.problem) : translate("fetchProblem", problem.code, problem);
}

/** What a delivery did; moments in the client's zone. */
export function eventSentence(result: EventResult, zone: string, now: number): string {
  if (result.code === "unusable") return remarkSentences(result.remarks);
  if (result.code !== "taken in") return translate("event", result.code, result);
  const { name, isNew, visit, remark } = result;
  const known = name || translate("event", name === null ? "nobody" : "nameless");
  const who = isNew ? translate("event", "is new", { who: known }) : known;
  if (!visit) return translate("event", "no visit", { who });
  const did = translate("event", visit.change, {
    who,
    when: sayWhen(zone, visit.endsAt, now),
    outcome: outcomeWords(visit.outcome),
  });
  return remark ? `${did} ${remarkSentence(remark)}` : did;
}

/** What plans would do with a visit of a list; moments in the client's zone. */
export function forecastWords(verdict: ForecastVerdict, zone: string, now: number): string {
  if (verdict.code === "left out") return translate("forecast", "left out", { reason: reasonWords(verdict.reason) });
  if (verdict.code !== "asked") return translate("forecast", verdict.code);
  return verdict.at <= now
    ? translate("forecast", "asked at once")
    : // Within its day a list is spread: the minute is nobody's to promise.
      translate("forecast", "asked", { when: sayWhichDay(zone, verdict.at, now) });
}

/** What speaks for two records being one person. */
export function likenessWords({ names, by }: LikenessSigns): string {
  return `${translate("likeness", names)}, ${translate("likenessBy", by)}`;
}

/** What speaks for people being of one household. */
export function householdWords(signs: readonly HouseholdSign[]): string {
  return listAnd(signs.map((sign) => translate("householdSign", sign)));
}
