import type { PlanRules } from "@/core/plans/planRules";

/** What a plan counts its first delay from: its short name on the ruler, and how a sentence goes on after "after". */
export const ANCHOR_WORDS: Record<PlanRules["begins"]["kind"], { name: string; says: string }> = {
  visit: { name: "visit", says: "the visit ends" },
  invoice: { name: "invoice", says: "the invoice is paid" },
  tag: { name: "tag", says: "they get the tag" },
  customer: { name: "anniversary", says: "that day" },
  "put right": { name: "put right", says: "the concern is put right" },
  list: { name: "list", says: "the list comes in" },
  "by hand": { name: "asked", says: "someone asks" },
};
