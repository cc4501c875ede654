/** What a visit can be. */
export const VISIT_KINDS = ["appointment", "job", "invoice", "order", "stay"] as const;
export type VisitKind = (typeof VISIT_KINDS)[number];
