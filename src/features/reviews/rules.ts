import { and, asc, desc, eq, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import { refusedOf } from "@/core/replies/draft";
import type { Refusal } from "@/core/replies/guards";
import {
  type Decision,
  decideReply,
  type KeptRule,
  nextInTurn,
  postAt,
  REPLY_RULE,
  type ReplyRule,
  type ReplyWhy,
  type ReviewFacts,
} from "@/core/replies/rules";
import { sayRule } from "@/core/replies/sayRule";
import { DAY } from "@/core/time/zone";
import { recordAudit } from "@/features/audit";
import { calendarOf, type Listing, loadSetting, type Setting } from "@/features/clients";
import type { Scope, Tx } from "@/platform/database";
import { newId } from "@/schema/columns";
import { replyRules } from "@/schema/replyRules";
import { reviews } from "@/schema/reviews";
import { type DraftDesk, draftedOf, draftInput, gravityFor, likeliestLanguage, openDesk } from "./drafts";
import { isPlanned } from "./queries";
import { readingOf } from "./readings";
import { tellOfApproval } from "./replies";
import { repliesAt } from "./repliesAt";
import { countUse, fillerOf, listSaved, type SavedReply } from "./saved";
import type { Review } from "./service";

/** Rules for replying: kept in their order, applied to what comes in, and rehearsed on what came in lately. */

export type Rule = typeof replyRules.$inferSelect;

/** What came in longer ago is left to people: a first reading brings years of reviews. */
const FRESH = 14 * DAY;

export async function listRules(tx: Tx, scope: Scope): Promise<Rule[]> {
  return tx
    .select()
    .from(replyRules)
    .where(eq(replyRules.clientId, scope.clientId))
    .orderBy(asc(replyRules.position), asc(replyRules.id));
}

/** A rule as it counts: what an older one lacks is filled. */
export const keptRule = ({ id, rule }: Pick<Rule, "id" | "rule">): KeptRule => ({ ...REPLY_RULE.parse(rule), id });

export function namesOf(setting: Setting, saved: readonly SavedReply[]) {
  return { branches: setting.branches, saved };
}

function factsOf(review: Review, site: string, desk: DraftDesk): ReviewFacts {
  const { language, isLanguageSure } = readingOf(review.words, likeliestLanguage(desk, review), review.rating);
  return {
    site,
    scale: review.scale,
    value: review.ownRating,
    rating: review.rating,
    hasWords: review.words.trim() !== "",
    branchId: review.branchId,
    language,
    isLanguageSure,
    gravity: gravityFor(desk, review),
  };
}

export type Written = { words: string | null; savedReplyId: string | null; refused: Refusal[] };

/**
 * What a rule writes to a review: the next of its saved replies that the guards let pass, or a draft where it has none,
 * or all of them were used lately.
 */
function writeBy(
  rule: KeptRule,
  desk: DraftDesk,
  review: Review,
  saved: readonly SavedReply[],
  longest: number,
): Written {
  const draftWith = (refused: Refusal[]): Written => {
    const { draft } = draftedOf(desk, review);
    return { words: draft && draft.text.length <= longest ? draft.text : null, savedReplyId: null, refused };
  };
  if (rule.savedReplyIds.length === 0) return draftWith([]);
  const input = draftInput(desk, review, 0);
  const fill = fillerOf(desk, review);
  const inTurn = nextInTurn(saved, rule.savedReplyIds);
  const own = inTurn.filter(({ language }) => language === input.review.language);
  const refused: Refusal[] = [];
  for (const { id, words } of own.length > 0 ? own : inTurn) {
    const filled = fill(words);
    const against = refusedOf(filled, input);
    if (against.length === 0 && filled.length <= longest) return { words: filled, savedReplyId: id, refused: [] };
    refused.push(...against);
  }
  return draftWith(refused);
}

/** Who signs what no person writes. */
const signatureOf = (setting: Setting) => setting.client.name;

const longestOf = (listing: Listing | undefined) =>
  listing?.connector ? (repliesAt(listing.connector)?.longest ?? 0) : 0;

/**
 * Lets the rules decide about reviews that nothing was decided about: what they write waits for its time, or for
 * somebody. What was written more than two weeks ago is left to people.
 */
export async function applyRules(tx: Tx, scope: Scope, ids: readonly string[], now: number): Promise<void> {
  if (ids.length === 0) return;
  const kept = (await listRules(tx, scope)).filter(({ isOn }) => isOn).map(keptRule);
  if (kept.length === 0) return;
  const list = await tx
    .select()
    .from(reviews)
    .where(and(eq(reviews.clientId, scope.clientId), inArray(reviews.id, [...ids])))
    .orderBy(asc(reviews.writtenAt), asc(reviews.id));
  const fresh = list.filter(({ writtenAt }) => writtenAt > now - FRESH);
  if (fresh.length === 0) return;
  // One at a time for each client: whoever plans sees what others have planned, and keeps to the most a day.
  await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`reply rules ${scope.clientId}`}, 0))`);
  const setting = await loadSetting(tx);
  const saved = await listSaved(tx, scope, null);
  const desk = await openDesk(tx, scope, setting, fresh, signatureOf(setting));
  const names = namesOf(setting, saved);
  for (const review of fresh) {
    const listing = setting.listings.find(({ id }) => id === review.listingId);
    const longest = longestOf(listing);
    if (!listing || longest === 0) continue;
    const decision = decideReply(kept, factsOf(review, listing.site, desk));
    if (!decision) continue;
    await carryOut(tx, scope, { review, decision, desk, saved, longest, why: sayRule(decision.rule, names) }, now);
  }
}

type Decided = {
  review: Review;
  decision: Decision;
  desk: DraftDesk;
  saved: SavedReply[];
  longest: number;
  why: string;
};

async function carryOut(tx: Tx, scope: Scope, it: Decided, now: number): Promise<void> {
  const { review, decision, desk, saved, longest } = it;
  const { rule, deed, heldBack, isUnsure } = decision;
  const why: ReplyWhy = { rule: it.why, heldBack, isUnsure, refused: [] };
  const note = (change: Partial<typeof reviews.$inferInsert>) =>
    tx
      .update(reviews)
      .set({ replyRuleId: rule.id, replyWhy: why, ...change })
      .where(eq(reviews.id, review.id));
  if (deed === "nothing" || deed === "suggest") return void (await note({}));
  const written = writeBy(rule, desk, review, saved, longest);
  if (written.words === null) {
    why.refused = written.refused.slice(0, 5);
    return void (await note({}));
  }
  const at =
    deed === "post"
      ? postAt(rule, now, calendarOf(desk.setting, review.branchId, now), await plannedBy(tx, scope, rule.id, now))
      : null;
  await note(
    at === null
      ? { reply: written.words, replyState: "awaits approval", replyBy: null, replyDraftedBy: null }
      : { reply: written.words, replyState: "planned", replyBy: null, replyDraftedBy: null, replyDueAt: at },
  );
  if (at === null) await tellOfApproval(tx, scope, review, now);
  // The next draft of this batch is to be unlike this one too.
  noteRecent(desk, review, written.words);
  if (!written.savedReplyId) return;
  const used = saved.find(({ id }) => id === written.savedReplyId);
  if (used) used.uses += 1;
  await countUse(tx, scope, null, written.savedReplyId, now);
}

/** The instants of a rule's replies, posted lately or planned. */
async function plannedBy(tx: Tx, scope: Scope, ruleId: string, now: number): Promise<number[]> {
  const rows = await tx
    .select({ dueAt: reviews.replyDueAt, repliedAt: reviews.repliedAt })
    .from(reviews)
    .where(
      and(
        eq(reviews.clientId, scope.clientId),
        eq(reviews.replyRuleId, ruleId),
        sql`(${reviews.replyDueAt} is not null or ${reviews.repliedAt} > ${new Date(now - 2 * DAY).toISOString()})`,
      ),
    );
  return rows.flatMap(({ dueAt, repliedAt }) => repliedAt ?? dueAt ?? []);
}

/** How many replies are planned. */
export async function countPlanned(tx: Tx, scope: Scope): Promise<number> {
  return tx.$count(reviews, and(eq(reviews.clientId, scope.clientId), isPlanned));
}

/** What the rules would do about a review. */
export type Rehearsed = {
  review: Review;
  site: string;
  /** How many rules come before the one that decides; null where none fits. */
  rule: number | null;
  decision: Decision | null;
  written: Written | null;
  takesReplies: boolean;
};

export const REHEARSED = 100;

/** Notes what was just written, so that the next is unlike it. */
const noteRecent = (desk: DraftDesk, { id, listingId }: Review, reply: string) =>
  desk.recent.set(listingId, [{ reviewId: id, reply }, ...(desk.recent.get(listingId) ?? [])].slice(0, 30));

/** What these rules would have said to the last reviews, the latest first; nothing is kept. */
export async function rehearseRules(tx: Tx, scope: Scope, rules: readonly KeptRule[]): Promise<Rehearsed[]> {
  const setting = await loadSetting(tx);
  const saved = await listSaved(tx, scope, null);
  const list = await tx
    .select()
    .from(reviews)
    .where(and(eq(reviews.clientId, scope.clientId), isNull(reviews.deletedAt)))
    .orderBy(desc(reviews.writtenAt), desc(reviews.id))
    .limit(REHEARSED);
  // Each as it came in, the earliest first: what was replied since does not make its own draft a repetition.
  const desk = await openDesk(tx, scope, setting, list, signatureOf(setting), true);
  const rehearsed = list.toReversed().map((review): Rehearsed => {
    const listing = setting.listings.find(({ id }) => id === review.listingId);
    const longest = longestOf(listing);
    const decision = decideReply(rules, factsOf(review, listing?.site ?? "", desk));
    const writes = decision && decision.deed !== "nothing" && longest > 0;
    // What the rule has planned or posted is what it writes: the rehearsal shows no other words for it.
    const isDone =
      review.replyRuleId === decision?.rule.id && ["planned", "posting", "posted"].includes(review.replyState);
    const own = isDone && review.replyBy === null && review.reply ? review.reply : null;
    const would = writes ? writeBy(decision.rule, desk, review, saved, longest) : null;
    const written = would && own ? { ...would, words: own } : would;
    if (written?.words) noteRecent(desk, review, written.words);
    return {
      review,
      site: listing?.site ?? "",
      rule: decision ? rules.findIndex(({ id }) => id === decision.rule.id) : null,
      decision,
      written,
      takesReplies: longest > 0,
    };
  });
  return rehearsed.toReversed();
}

/** Adds a rule, the last of all; new ones only suggest. */
export async function addRule(tx: Tx, scope: Scope, who: string, now: number): Promise<string | null> {
  const rules = await listRules(tx, scope);
  if (rules.length >= 30) return null;
  const id = newId();
  await tx.insert(replyRules).values({
    id,
    clientId: scope.clientId,
    position: (rules.at(-1)?.position ?? 0) + 1,
    rule: REPLY_RULE.parse({}),
    changedBy: who,
    changedAt: now,
  });
  await noteRule(tx, scope, who, "added", id, now);
  return id;
}

async function noteRule(
  tx: Tx,
  scope: Scope,
  who: string,
  action: "added" | "changed" | "removed" | "ordered",
  id: string,
  now: number,
) {
  await recordAudit(tx, { clientId: scope.clientId, at: now, who, action, subject: "reply rule", subjectId: id });
}

export type RuleChange = Partial<ReplyRule> & { isOn?: boolean };

/** Changes parts of a rule. What it has planned is let go: the rules decide about these reviews anew. */
export async function changeRule(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  change: RuleChange,
  now: number,
): Promise<boolean> {
  const [found] = await tx
    .select()
    .from(replyRules)
    .where(and(eq(replyRules.clientId, scope.clientId), eq(replyRules.id, id)))
    .for("update");
  if (!found) return false;
  const { isOn = found.isOn, ...parts } = change;
  const rule = REPLY_RULE.parse({ ...found.rule, ...parts });
  await tx.update(replyRules).set({ rule, isOn, changedBy: who, changedAt: now }).where(eq(replyRules.id, id));
  await noteRule(tx, scope, who, "changed", id, now);
  await decideAnew(tx, scope, now);
  return true;
}

export async function removeRule(tx: Tx, scope: Scope, who: string, id: string, now: number): Promise<boolean> {
  const gone = await tx.delete(replyRules).where(and(eq(replyRules.clientId, scope.clientId), eq(replyRules.id, id)));
  if (!gone.rowCount) return false;
  await noteRule(tx, scope, who, "removed", id, now);
  await decideAnew(tx, scope, now);
  return true;
}

/** Puts a rule one place earlier or later. */
export async function moveRule(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  by: -1 | 1,
  now: number,
): Promise<boolean> {
  const rules = await listRules(tx, scope);
  const at = rules.findIndex((rule) => rule.id === id);
  if (at < 0 || !rules[at + by]) return false;
  const order = [...rules];
  [order[at], order[at + by]] = [order[at + by], order[at]];
  for (const [position, rule] of order.entries())
    await tx.update(replyRules).set({ position }).where(eq(replyRules.id, rule.id));
  await noteRule(tx, scope, who, "ordered", id, now);
  await decideAnew(tx, scope, now);
  return true;
}

/** Takes back what rules have decided and nobody has acted on, and lets them decide again. */
async function decideAnew(tx: Tx, scope: Scope, now: number): Promise<void> {
  const open = await tx
    .update(reviews)
    .set({ replyState: "none", reply: null, replyDueAt: null, replyRuleId: null, replyWhy: null })
    .where(
      and(
        eq(reviews.clientId, scope.clientId),
        isNotNull(reviews.replyRuleId),
        inArray(reviews.replyState, ["planned", "awaits approval", "none"]),
      ),
    )
    .returning({ id: reviews.id });
  const waiting = await tx
    .select({ id: reviews.id })
    .from(reviews)
    .where(
      and(
        eq(reviews.clientId, scope.clientId),
        eq(reviews.replyState, "none"),
        isNull(reviews.deletedAt),
        sql`${reviews.writtenAt} > ${new Date(now - FRESH).toISOString()}`,
      ),
    )
    .limit(500);
  await applyRules(tx, scope, [...new Set([...open, ...waiting].map(({ id }) => id))], now);
}
