/** Which events of a calendar count as visits: sentences that are tried in order; the first that fits decides. */

export type EventRule = {
  /** Where to look. */
  where: "title" | "category" | "place" | "anything";
  /** The word to look for; empty fits every event. */
  word: string;
  counts: boolean;
  /** Which service such a visit is; null to take the event's title as its words. */
  serviceId: string | null;
};

export type EventText = { title: string; categories: string[]; place: string; description: string };

const fold = (text: string) => text.normalize("NFKD").replace(/\p{M}/gu, "").toLowerCase();

/** Whether an event counts, and as which service. Without a rule that fits it does not. */
export function judgeEvent(
  event: EventText,
  rules: readonly EventRule[],
): { counts: boolean; serviceId: string | null; rule: number | null } {
  for (const [index, rule] of rules.entries()) {
    const texts = {
      title: event.title,
      category: event.categories.join("\n"),
      place: event.place,
      anything: [event.title, ...event.categories, event.place, event.description].join("\n"),
    };
    if (rule.word && !fold(texts[rule.where]).includes(fold(rule.word.trim()))) continue;
    return { counts: rule.counts, serviceId: rule.serviceId, rule: index };
  }
  return { counts: false, serviceId: null, rule: null };
}

/** A rule as a sentence. */
export function sayRule(rule: EventRule, serviceName: string | null): string {
  const which = rule.word
    ? `Events with “${rule.word}” in ${rule.where === "anything" ? "anything" : `the ${rule.where}`}`
    : "All other events";
  return `${which} ${rule.counts ? `are visits: ${serviceName ?? "are visits, with the service in the title"}` : "aren’t visits"}.`;
}
