import type { Stop } from "./nextStep";

/** What can happen to an ask and its messages. */
export const ASK_EVENT_KINDS = [
  "planned",
  "sent",
  "delivered",
  "bounced",
  "opened",
  "followed",
  "answered",
  "site opened",
  "reviewed",
  "opted out",
  "stopped",
  "ended",
] as const;
export type AskEventKind = (typeof ASK_EVENT_KINDS)[number];

/** Who or what it came from. "machine": link scanners, previews and mail proxies, which count nowhere. */
export const ASK_EVENT_SOURCES = ["person", "machine", "staff", "plan", "gateway"] as const;
export type AskEventSource = (typeof ASK_EVENT_SOURCES)[number];

/** Who stopped an ask that was stopped for this reason. */
export function sourceOfStop(stop: Stop): AskEventSource {
  if (stop === "cancelled by hand" || stop === "visit cancelled") return "staff";
  return stop === "not to be asked" ? "plan" : "person";
}
