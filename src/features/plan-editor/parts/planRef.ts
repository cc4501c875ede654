import type { ActionResult } from "@/ui/result";
import { changePlan } from "../actions";

/** Which plan a sentence belongs to, and which revision of it was looked at. */
export type PlanRef = { slug: string; planId: string; revision: number; mayChange: boolean };

export type FormAction = (before: ActionResult, form: FormData) => Promise<ActionResult>;

/** What keeps a changed sentence; null where it may not be changed. */
export const actionOf = ({ slug, planId, revision, mayChange }: PlanRef) =>
  mayChange ? changePlan.bind(null, slug, planId, revision) : null;
