import { and, eq } from "drizzle-orm";
import { NOTHING_MORE } from "@/core/plans/planRules";
import { BOXES, MOST_BYTES, NotAPicture, type Picture, readPicture } from "@/features/images";
import { clientAddressOf } from "@/platform/clientAddress";
import { now as clockNow } from "@/platform/clock";
import type { Scope, Tx } from "@/platform/database";
import { readUpload } from "@/platform/hooks";
import { answerPhotos } from "@/schema/answerPhotos";
import { newId } from "@/schema/columns";
import { findAnswer, lockedContext, photoWith } from "./service";
import { type Answer, withAsk } from "./view";

/** A photo that a customer sends with an answer: one, for the business alone, and theirs to take back. */

/** What the form of a photo brings: a picture, or that the one before goes; with the language chosen on the page. */
export type GivenPhoto = { picture: Picture | null; language: string | null };

/** Addresses whose picture is being read: the next one of the same address waits for nothing, it is refused. */
const reading = new Set<string>();

/**
 * Reads the form; "wrong" where what was chosen is no picture that is taken, or while another of the same address is
 * being read.
 */
export async function readPhoto(request: Request): Promise<GivenPhoto | "wrong"> {
  const address = clientAddressOf(request.headers) ?? "unknown";
  if (reading.has(address)) return "wrong";
  reading.add(address);
  try {
    return await readPhotoForm(request);
  } finally {
    reading.delete(address);
  }
}

async function readPhotoForm(request: Request): Promise<GivenPhoto | "wrong"> {
  const form = await readUpload(request, MOST_BYTES, "");
  if (form instanceof Response) return "wrong";
  const [file, lang] = [form.get("photo"), form.get("lang")];
  const language = typeof lang === "string" ? lang : null;
  if (form.get("remove") === "1") return { picture: null, language };
  if (!(file instanceof File) || file.size === 0) return "wrong";
  try {
    const { box, as } = BOXES.photo;
    return { picture: await readPicture("customers", new Uint8Array(await file.arrayBuffer()), box, as), language };
  } catch (error) {
    if (error instanceof NotAPicture) return "wrong";
    throw error;
  }
}

/** Keeps the photo of an answer in place of the one before, or none any more. */
export async function keepAnswerPhoto(tx: Tx, scope: Scope, answer: Answer, picture: Picture | null, now: number) {
  const { id: answerId, branchId } = answer;
  await tx.delete(answerPhotos).where(photoWith(scope, answerId));
  if (picture)
    await tx
      .insert(answerPhotos)
      .values({ id: newId(), clientId: scope.clientId, answerId, branchId, ...picture, createdAt: now });
}

/** Keeps a photo at somebody's link, where its plan asks for one and they have answered; else nothing changes. */
export async function keepPhotoBehind(token: string, picture: Picture | null): Promise<boolean> {
  const done = await withAsk(token, async (tx, scope, askId) => {
    const { plan } = await lockedContext(tx, scope, askId);
    const answer = await findAnswer(tx, scope, askId);
    const { photo } = plan.rules.more ?? NOTHING_MORE;
    if (answer && (photo || picture === null)) await keepAnswerPhoto(tx, scope, answer, picture, await clockNow());
    return true;
  });
  return done ?? false;
}

/** Whether a photo was sent with an answer: its identifier, or null. */
export async function photoOf(tx: Tx, scope: Scope, answerId: string): Promise<string | null> {
  const [photo] = await tx.select({ id: answerPhotos.id }).from(answerPhotos).where(photoWith(scope, answerId));
  return photo?.id ?? null;
}

/** A photo as it is kept, for the client's people; null where there is none of this identifier. */
export async function loadPhoto(tx: Tx, scope: Scope, id: string): Promise<{ type: string; content: Buffer } | null> {
  const [photo] = await tx
    .select({ type: answerPhotos.type, content: answerPhotos.content })
    .from(answerPhotos)
    .where(and(eq(answerPhotos.clientId, scope.clientId), eq(answerPhotos.id, id)));
  return photo ?? null;
}
