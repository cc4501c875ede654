import { createHash } from "node:crypto";
import { and, desc, eq, gt, isNull, sql } from "drizzle-orm";
import { DAY } from "@/core/time/zone";
import type { WalkChoice } from "@/core/words/walk";
import { recordAudit } from "@/features/audit";
import { senderOf } from "@/features/clients";
import { customerWords } from "@/locales/customer";
import { rowsOf, type Scope, type Tx, workFor } from "@/platform/database";
import { type Handed, handOverMail } from "@/platform/mail";
import { newToken } from "@/platform/secrets";
import { handOverText } from "@/platform/texts";
import { newId } from "@/schema/columns";
import { previewLinks } from "@/schema/words";
import { type Walk, walkMail, walkMessage } from "./walk";
import { walkPicture } from "./walkPicture";

/** Looking at a customer's way from outside: samples that are sent, and links that show the whole of it. */

/** For how long a link shows the way to somebody outside, and a sample's link its page. */
export const WAY_DAYS = 14;
const SAMPLE_DAYS = 7;

/** No link of a customer begins so: the letters of theirs have no 1. */
export const isSampleToken = (token: string) => token.startsWith("1");

const hashOf = (token: string) => createHash("sha256").update(token).digest("hex");

async function makePreview(
  tx: Tx,
  scope: Scope,
  who: string,
  it: { planId: string; sample: WalkChoice | null; days: number; now: number },
): Promise<string> {
  // As long as a customer's link, so that a sample of a text takes as many parts.
  const token = it.sample ? `1${newToken(13)}` : newToken(20);
  await tx.insert(previewLinks).values({
    id: newId(),
    clientId: scope.clientId,
    planId: it.planId,
    sample: it.sample,
    tokenHash: hashOf(token),
    by: who,
    createdAt: it.now,
    expiresAt: it.now + it.days * DAY,
  });
  return token;
}

/** A link that shows a plan's whole way to somebody outside, read-only. It is shown once. */
export async function makeWayLink(tx: Tx, scope: Scope, who: string, planId: string, now: number): Promise<string> {
  const token = await makePreview(tx, scope, who, { planId, sample: null, days: WAY_DAYS, now });
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "added",
    subject: "words",
    subjectId: planId,
    details: { link: "way" },
  });
  return token;
}

/** How many links show a plan's way outside, and until when the last of them does. */
export async function openWayLinks(tx: Tx, scope: Scope, planId: string, now: number) {
  return tx
    .select({ id: previewLinks.id, by: previewLinks.by, expiresAt: previewLinks.expiresAt })
    .from(previewLinks)
    .where(
      and(
        eq(previewLinks.clientId, scope.clientId),
        eq(previewLinks.planId, planId),
        isNull(previewLinks.sample),
        gt(previewLinks.expiresAt, now),
      ),
    )
    .orderBy(desc(previewLinks.expiresAt));
}

/** Ends every link that shows a plan's way outside. */
export async function endWayLinks(tx: Tx, scope: Scope, planId: string, now: number): Promise<void> {
  await tx
    .update(previewLinks)
    .set({ expiresAt: now })
    .where(
      and(
        eq(previewLinks.clientId, scope.clientId),
        eq(previewLinks.planId, planId),
        isNull(previewLinks.sample),
        gt(previewLinks.expiresAt, now),
      ),
    );
}

export type Preview = { scope: Scope; planId: string; sample: WalkChoice | null; expiresAt: number };

/** What a link from outside shows; null for one that leads nowhere or has expired. */
export async function previewBehind(token: string, now: number): Promise<Preview | null> {
  const [row] = await rowsOf<{ client_id: string; plan_id: string; expires_at: string; sample: WalkChoice | null }>(
    sql`select * from estima_preview_link(${hashOf(token)})`,
  );
  const expiresAt = row ? new Date(row.expires_at).getTime() : 0;
  if (!row || expiresAt <= now) return null;
  return { scope: workFor(row.client_id), planId: row.plan_id, sample: row.sample, expiresAt };
}

/** Makes the link that a sample of the way will lead to. It works once this is committed. */
export function makeSampleLink(tx: Tx, scope: Scope, who: string, walk: Walk): Promise<string> {
  const { plan, choice, now } = walk;
  return makePreview(tx, scope, who, { planId: plan.id, sample: choice, days: SAMPLE_DAYS, now });
}

/**
 * Sends a message of the way as a customer would get it, marked as a sample in its subject. It is no row, and counted
 * nowhere; its link shows the page and keeps no answer. Outside a transaction: the gateway fetches its picture through
 * that link.
 */
export async function sendSample(
  walk: Walk,
  step: number,
  token: string,
  to: { kind: "email" | "text"; address: string },
): Promise<Handed> {
  const { client } = walk.setting;
  if (to.kind === "text") {
    const { body, picture } = walkMessage(walk, step, "text", token);
    const media = picture === null ? null : walkPicture(walk, step, token);
    return handOverText({ id: newId(), from: client.textNumber, to: to.address, body, media });
  }
  const { subject, text, html } = await walkMail(walk, step, token);
  return handOverMail({
    id: newId(),
    from: { name: client.name, address: senderOf(walk.setting).address },
    to: to.address,
    replyTo: client.senderEmail,
    subject: customerWords(walk.language)("mail.sample", { subject: subject }),
    text,
    html,
  });
}
