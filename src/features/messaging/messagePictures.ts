import { and, eq, sql } from "drizzle-orm";
import { backoff } from "@/core/asks/nextStep";
import { MOST_PICTURES, type PictureRefusal } from "@/core/conversations/pictures";
import { MINUTE } from "@/core/time/zone";
import { BOXES, MOST_BYTES, NotAPicture, readPicture } from "@/features/images";
import { now as clockNow } from "@/platform/clock";
import { rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { readBytes } from "@/platform/hooks";
import { describeError, log } from "@/platform/log";
import { callOutside } from "@/platform/outbound";
import { messagePictures } from "@/schema/messagePictures";

/** Pictures that came with a message: noted with it, fetched from the gateway by the worker, and drawn anew by us. */

/** How often a picture is tried; the gateway keeps it for a while only. */
const MOST_TRIES = 6;

/** Notes where the pictures of a message are. */
export async function keepPictures(
  tx: Tx,
  scope: Scope,
  messageId: string,
  addresses: readonly string[],
  now: number,
): Promise<void> {
  if (addresses.length === 0) return;
  await tx.insert(messagePictures).values(
    addresses.slice(0, MOST_PICTURES).map((address, position) => ({
      clientId: scope.clientId,
      messageId,
      position,
      address,
      fetchAt: now,
      createdAt: now,
    })),
  );
}

export type PictureClaim = { clientId: string; pictureId: string };

/** Claims pictures that are to be fetched at `at`; another worker may take them five minutes later. */
export async function claimPictures(at: number): Promise<PictureClaim[]> {
  const rows = await rowsOf<{ client_id: string; picture_id: string }>(
    sql`select * from estima_claim_pictures(${new Date(at).toISOString()}, ${new Date(at + 5 * MINUTE).toISOString()}, 50)`,
  );
  return rows.map((row) => ({ clientId: row.client_id, pictureId: row.picture_id }));
}

/** Fetches one picture. What is no picture, or too large, is refused and said so; what cannot be had is tried again. */
export async function fetchPicture({ clientId, pictureId }: PictureClaim): Promise<void> {
  const scope = workFor(clientId);
  const mine = and(eq(messagePictures.clientId, clientId), eq(messagePictures.id, pictureId));
  const [row] = await withClient(scope, (tx) => tx.select().from(messagePictures).where(mine));
  if (!row?.address || row.fetchAt === null) return;
  const got = await download(scope.clientId, row.address);
  const now = await clockNow();
  const attempts = row.attempts + 1;
  const set =
    typeof got !== "string"
      ? { ...got, address: null, fetchAt: null, refusal: null }
      : got !== "not now"
        ? { address: null, fetchAt: null, refusal: got }
        : attempts >= MOST_TRIES
          ? { address: null, fetchAt: null, refusal: "not there" as const }
          : { fetchAt: now + backoff(attempts, Math.random()) };
  await withClient(scope, (tx) =>
    tx
      .update(messagePictures)
      .set({ ...set, attempts })
      .where(mine),
  );
}

async function download(
  owner: string,
  address: string,
): Promise<Awaited<ReturnType<typeof readPicture>> | PictureRefusal | "not now"> {
  try {
    const response = await callOutside(address);
    if (response.status === 404 || response.status === 410) return "not there";
    if (!response.ok) return "not now";
    const bytes = await readBytes(response, MOST_BYTES);
    if (bytes === null) return "too large";
    const { box, as } = BOXES.photo;
    return await readPicture(owner, bytes, box, as);
  } catch (error) {
    if (error instanceof NotAPicture && !error.isPassing) return "not a picture";
    log.warn(describeError(error), "picture of a message not fetched");
    return "not now";
  }
}

/** A picture as it is kept, for the client's people; null where there is none of this identifier. */
export async function loadMessagePicture(
  tx: Tx,
  scope: Scope,
  id: string,
): Promise<{ type: string; content: Buffer } | null> {
  const [picture] = await tx
    .select({ type: messagePictures.type, content: messagePictures.content })
    .from(messagePictures)
    .where(and(eq(messagePictures.clientId, scope.clientId), eq(messagePictures.id, id)));
  return picture?.type && picture.content ? { type: picture.type, content: picture.content } : null;
}
