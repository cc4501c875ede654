import { and, eq } from "drizzle-orm";
import { NOTHING_MORE } from "@/core/plans/planRules";
import { BOXES, MOST_BYTES, NotAPicture, type Picture, readPicture } from "@/features/images";
import { clientAddressOf } from "@/platform/clientAddress";
import { now as clockNow } from "@/platform/clock";
import type { Scope, Tx } from "@/platform/database";
import { readUpload } from "@/platform/hooks";
import { answerPhotos } from "@/schema/answerPhotos";
import { newId } from "@/schema/columns";
import { cleaned } from "./customerHttp";
import { findAnswer, lockedContext, photoWith } from "./service";
import { type Answer, withAsk } from "./view";

/** A photo that a customer sends with an answer: one, for the business alone, and theirs to take back. */

/**
 * What comes with a photo: a picture, or that the one before goes ("wrong" where what was chosen is none that is taken,
 * or while another of the same address is being read), and the other fields of the page.
 */
export type GivenPhoto = { picture: Picture | null | "wrong"; form: URLSearchParams };

/** Addresses whose picture is being read: the next one of the same address waits for nothing, it is refused. */
const reading = new Set<string>();

/** Reads the form of a photo; `mayLook` is false for one that comes too often, whose other fields count all the same. */
export async function readPhoto(request: Request, mayLook: boolean): Promise<GivenPhoto> {
  const address = clientAddressOf(request.headers) ?? "unknown";
  if (reading.has(address)) return { picture: "wrong", form: new URLSearchParams() };
  reading.add(address);
  try {
    const upload = await readUpload(request, MOST_BYTES, "");
    if (upload instanceof Response) return { picture: "wrong", form: new URLSearchParams() };
    const texts = [...upload].flatMap(([name, value]) => (typeof value === "string" ? [[name, value]] : []));
    const form = cleaned(texts as [string, string][]);
    if (form.get("remove") === "1") return { picture: null, form };
    return { picture: mayLook ? await pictureIn(upload.get("photo")) : "wrong", form };
  } finally {
    reading.delete(address);
  }
}

async function pictureIn(file: unknown): Promise<Picture | "wrong"> {
  if (!(file instanceof File) || file.size === 0) return "wrong";
  try {
    const { box, as } = BOXES.photo;
    return await readPicture("customers", new Uint8Array(await file.arrayBuffer()), box, as);
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
