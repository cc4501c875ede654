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
  "looked as",
  "archived",
  "took back",
  "began deleting",
  "deleted",
  "offered",
  "took the offer back of",
  "declined",
  "handed over",
  "took over",
  "sent a link for",
  "took over what was filled in for",
] as const;
export type AccountAction = (typeof ACCOUNT_ACTIONS)[number];

export const ACCOUNT_SUBJECTS = ["agency", "invitation", "seat", "role", "group", "client", "words"] as const;
export type AccountSubject = (typeof ACCOUNT_SUBJECTS)[number];
