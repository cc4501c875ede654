import { eq } from "drizzle-orm";
import { askTextService } from "@/connectors/text-service/client";
import type { Refusal } from "@/core/replies/guards";
import { type OutsideProblem, type OutsideRequest, outsideRequest } from "@/core/replies/outsideDraft";
import { cleanText } from "@/core/words/clean";
import { recordAudit } from "@/features/audit";
import { changeClient, loadSetting } from "@/features/clients";
import type { Access } from "@/platform/access";
import { type Scope, type Tx, withClient } from "@/platform/database";
import { decrypt, encrypt } from "@/platform/secrets";
import { clients } from "@/schema/clients";
import { lookedOver, MOST_REPLY, openDesk, ownLanguage } from "./drafts";
import { readingOf } from "./readings";
import { repliesAt } from "./repliesAt";
import { findReview } from "./service";

/** Drafts from an outside text service, for whoever has set one up: by the same guards as any other. */

/** What would be sent for a review, for somebody to look at first; null where there is no such review. */
export function outsideRequestFor(access: Access, reviewId: string): Promise<OutsideRequest | null> {
  return withClient(access, async (tx) => {
    const review = await findReview(tx, access, reviewId);
    if (!review) return null;
    const setting = await loadSetting(tx);
    const connector = setting.listings.find(({ id }) => id === review.listingId)?.connector;
    const { language } = readingOf(review.words, ownLanguage(setting));
    return outsideRequest(
      { words: review.words, rating: review.rating, language },
      {
        tone: setting.client.replyTone,
        longest: Math.min(MOST_REPLY, connector ? (repliesAt(connector)?.longest ?? MOST_REPLY) : MOST_REPLY),
        business: setting.client.name,
      },
    );
  });
}

export type OutsideDraft = { text: string } | { problem: OutsideProblem } | { refused: Refusal[] };

/** Asks for a draft of a review, and gives it where no guard refuses it. */
export async function draftFromOutside(access: Access, reviewId: string): Promise<OutsideDraft> {
  const request = await outsideRequestFor(access, reviewId);
  const service = await withClient(access, async (tx) => (await loadSetting(tx)).client.textService);
  if (!request || !service) return { problem: "not set up" };
  const got = await askTextService({ address: service.address, key: decrypt(service.key) }, request);
  if ("problem" in got) return got;
  const text = cleanText(got.text).trim().slice(0, request.reply.longest);
  return withClient(access, async (tx): Promise<OutsideDraft> => {
    const review = await findReview(tx, access, reviewId);
    if (!review || text === "") return { problem: "not readable" };
    const desk = await openDesk(tx, access, await loadSetting(tx), [review], access.user.signature ?? "");
    const { refusals } = lookedOver(desk, review, text);
    return refusals.length > 0 ? { refused: refusals } : { text };
  });
}

/** Sets where a text service answers, and its key; null switches it off. An empty key keeps the one before. */
export async function setTextService(
  tx: Tx,
  scope: Scope,
  who: string,
  service: { address: string; key: string } | null,
  now: number,
): Promise<boolean> {
  const [{ before }] = await tx
    .select({ before: clients.textService })
    .from(clients)
    .where(eq(clients.id, scope.clientId));
  if (service && service.key === "" && (!before || before.address !== service.address)) return false;
  await changeClient(tx, scope, {
    textService: service && {
      address: service.address,
      key: service.key ? encrypt(service.key) : (before?.key ?? ""),
    },
  });
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: service ? "connected" : "disconnected",
    subject: "client",
    subjectId: scope.clientId,
    details: { name: "text service", address: service?.address ?? null },
  });
  return true;
}
