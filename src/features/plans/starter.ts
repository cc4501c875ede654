import type { PlanRules } from "@/core/plans/planRules";

/**
 * The standing plan a client starts with: a text two hours after the visit, an email two days later if nobody answered.
 * `about` is how the business speaks of what the visit was for.
 */
export function starterRules(excludeTags: string[] = ["do-not-ask"]): PlanRules {
  return {
    steps: [
      {
        name: "First ask",
        channel: "text",
        delay: { amount: 2, unit: "hours" },
        text: "Hi {first name|there}, how was {about|your} {service|visit} at {business} today? Tell us in one tap: {link} Reply STOP to opt out.",
        subject: "How did it go at {business}?",
        email:
          "Hi {first name|there},\n\nthank you for coming to {business} in {branch}. How did {about|your} {service|visit} go?\n\n{link}\n\nIt takes one tap, and we read every answer.\n\n{team member|All of us} at {business}",
      },
      {
        name: "Second ask",
        channel: "email",
        delay: { amount: 2, unit: "days", at: 600 },
        text: "Hi {first name|there}, {business} would still love to hear how it went: {link} Reply STOP to opt out.",
        subject: "A word about your visit, {first name|if you like}?",
        email:
          "Hi {first name|there},\n\na few days ago you were with us in {branch}. If you have a moment, tell us how {about|your} {service|visit} went, good or bad:\n\n{link}\n\nWe will not write about this visit again.\n\n{business}",
      },
    ],
    restDays: 180,
    freshDays: 7,
    excludeTags,
    doors: { mode: "listen first", threshold: 3, acknowledgedBy: null },
  };
}
