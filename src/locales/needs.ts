import type { Need } from "@/core/activity/needs";
import { capital, sayCount, sayDay, sayRange, sayWhen, WEEKDAYS } from "@/core/time/say";
import { fetchProblemSentence } from "./intake";
import { pauseWords, siteProblemHelp } from "./operations";
import { translate, type Values } from "./translate";

/**
 * Why a client needs somebody: what stands out, what else is to say, and the one thing to do. `zone` and `now` are the
 * client's.
 */
export function needWords(need: Need, zone: string, now: number): { title: string; says: string; button: string } {
  const values: Values = {};
  for (const [name, value] of Object.entries(need))
    if (typeof value === "string" || typeof value === "number") values[name] = value;
  if ("since" in need) values.since = sayWhen(zone, need.since, now).replace(/^today at /, "");
  if (need.code === "feed unreadable") values.why = fetchProblemSentence(need.problem);
  if ("count" in need) values.counted = capital(sayCount(need.count, "", "").trim());
  if ("left" in need) values.counted = capital(sayCount(need.left, "", "").trim());
  if ("until" in need) values.until = need.until === null ? "none" : sayDay(zone, need.until, now);
  if ("why" in need) values.why = capital(pauseWords(need.why));
  if ("usual" in need) {
    values.usual = need.usual ? "known" : "none";
    values.weekday = need.usual ? WEEKDAYS[need.usual.weekday] : "";
    values.range = need.usual ? sayRange(need.usual.low, need.usual.high) : "";
  }
  const title = translate("needTitle", need.code, values);
  if (need.code === "site unreadable") return { title, ...siteProblemHelp(need.problem) };
  return {
    title,
    says: translate("needSays", need.code, values),
    button: translate("needButton", need.code, values),
  };
}

/** The morning's mail around the clients that need somebody: subject, first and last words. */
export function summaryWords(
  clients: readonly { needs: Need[] | null; asked: number | null; newReviews: number | null }[],
): { subject: string; lead: string; rest: string; end: string } {
  const needy = clients.filter(({ needs }) => needs && needs.length > 0).length;
  const total = (what: "asked" | "newReviews") => clients.reduce((sum, client) => sum + (client[what] ?? 0), 0);
  const values: Values = { needy, all: clients.length, asked: total("asked"), reviews: total("newReviews") };
  return {
    subject: translate("summary", "subject", values),
    lead: translate("summary", "lead", values),
    rest: translate("summary", "rest", values),
    end: translate("summary", "end", values),
  };
}
