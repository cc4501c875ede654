/** What the trail of an agency notes: an action, and the kind of thing it was done to. */

export const ACCOUNT_ACTIONS = [
  "began",
  "invited",
  "invited again",
  "withdrew",
  "joined",
  "left",
  "took off",
  "changed",
  "made",
  "removed",
  "started",
] as const;
export type AccountAction = (typeof ACCOUNT_ACTIONS)[number];

export const ACCOUNT_SUBJECTS = ["agency", "invitation", "seat", "role", "group", "client"] as const;
export type AccountSubject = (typeof ACCOUNT_SUBJECTS)[number];
