import { createHash } from "node:crypto";
import { and, eq, isNull, lt, sql } from "drizzle-orm";
import { DAY } from "@/core/time/zone";
import type { Logo } from "@/core/words/logo";
import { ApartFailed, workApart } from "@/platform/apart";
import { type AgencyScope, rowsOf, type Tx } from "@/platform/database";
import { newId } from "@/schema/columns";
import { type ImageKind, images } from "@/schema/images";
import { type Box, MOST_BYTES, NotAPicture, type Picture } from "./decode";

/**
 * Pictures that people upload. Each is decoded and drawn anew: what else stood in the file (place, camera, script) is
 * gone, and an SVG is only ever pixels.
 */

/** Seconds of processor time that one picture may take: a photo of a phone takes less than one. */
const SECONDS = 12;

/**
 * The picture in a file, decoded and drawn anew in a process of its own ({@link decodePicture}).
 *
 * @param owner whose file it is: pictures of one owner are read one after the other
 * @throws NotAPicture
 */
export async function readPicture(
  owner: string,
  bytes: Uint8Array,
  most: Box,
  as: "webp" | "png" | "jpeg" = "webp",
): Promise<Picture> {
  if (bytes.length > MOST_BYTES) throw new NotAPicture("The picture is bigger than 8 MB.");
  const answer = (await workApart(owner, "picture", { bytes, most, as }, SECONDS).catch((error: unknown) => {
    if (!(error instanceof ApartFailed)) throw error;
    throw new NotAPicture(
      error.why === "not now"
        ? "Many pictures are being read just now. Try again in a minute."
        : "This picture takes too long to read. Save it again as PNG or JPEG, and choose that.",
      error.why === "not now",
    );
  })) as { picture: Picture } | { problem: string };
  if ("problem" in answer) throw new NotAPicture(answer.problem);
  return { ...answer.picture, content: Buffer.from(answer.picture.content) };
}

/** Keeps the agency's logo in place of the one before, or (null) has none. Gives its identifier. */
export async function keepLogo(
  tx: Tx,
  scope: AgencyScope,
  picture: Picture | null,
  now: number,
): Promise<string | null> {
  await tx
    .delete(images)
    .where(and(eq(images.agencyId, scope.agencyId), isNull(images.aboutClient), eq(images.kind, "logo")));
  if (!picture) return null;
  const id = newId();
  const hash = createHash("sha256").update(picture.content).digest("hex");
  await tx.insert(images).values({ id, agencyId: scope.agencyId, kind: "logo", ...picture, hash, createdAt: now });
  return id;
}

/**
 * How pictures of a client are kept, by what they are for: the size in pixels (twice that on a page), whether they are
 * cut to that shape, and as what. A logo keeps its shape and what shines through.
 */
export const BOXES = {
  logo: { box: { width: 360, height: 104, takesSvg: true }, as: "png" },
  header: { box: { width: 1008, height: 336, isCut: true }, as: "jpeg" },
  portrait: { box: { width: 112, height: 112, isCut: true }, as: "jpeg" },
  photo: { box: { width: 1280, height: 1280 }, as: "jpeg" },
} as const satisfies Record<ImageKind, { box: Box; as: "png" | "jpeg" }>;

/** Which client, and which of its branches where it is not the business itself. */
export type PicturedAt = { clientId: string; agencyId: string; branchId: string | null };

/**
 * Keeps a client's logo, header or portrait in place of the one before, or (null) has none. Gives what pages and mails
 * need of it.
 */
export async function keepClientPicture(
  tx: Tx,
  at: PicturedAt,
  kind: Exclude<ImageKind, "photo">,
  picture: Picture | null,
  now: number,
): Promise<Logo | null> {
  await tx
    .delete(images)
    .where(
      and(
        eq(images.aboutClient, at.clientId),
        eq(images.kind, kind),
        at.branchId === null ? isNull(images.aboutBranch) : eq(images.aboutBranch, at.branchId),
      ),
    );
  return picture && addPicture(tx, at, kind, picture, now);
}

/** As many photos of its own a client may have behind words. */
const MOST_PHOTOS = 40;

/**
 * Keeps a photo that words can stand on. Those that no plan shows, and none has shown, go after a day; null where there
 * are too many.
 */
export async function keepPhoto(tx: Tx, at: PicturedAt, picture: Picture, now: number): Promise<Logo | null> {
  const photos = and(eq(images.aboutClient, at.clientId), eq(images.kind, "photo"));
  await tx
    .delete(images)
    .where(
      and(
        photos,
        lt(images.createdAt, now - DAY),
        sql`not exists (select 1 from plan_versions v where v.client_id = ${at.clientId} and v.rules->'picture'->>'photo' = images.id::text)`,
        sql`not exists (select 1 from plans p where p.client_id = ${at.clientId} and p.draft->'picture'->>'photo' = images.id::text)`,
      ),
    );
  if ((await tx.$count(images, photos)) >= MOST_PHOTOS) return null;
  return addPicture(tx, at, "photo", picture, now);
}

/** The photo of this client by its identifier. */
export async function isPhotoOf(tx: Tx, clientId: string, id: string): Promise<boolean> {
  const photo = and(eq(images.id, id), eq(images.aboutClient, clientId), eq(images.kind, "photo"));
  return (await tx.$count(images, photo)) > 0;
}

async function addPicture(tx: Tx, at: PicturedAt, kind: ImageKind, picture: Picture, now: number): Promise<Logo> {
  const id = newId();
  const hash = createHash("sha256").update(picture.content).digest("hex");
  await tx.insert(images).values({
    id,
    agencyId: at.agencyId,
    aboutClient: at.clientId,
    aboutBranch: at.branchId,
    kind,
    ...picture,
    hash,
    createdAt: now,
  });
  return { id, width: picture.width, height: picture.height };
}

/** A picture by its identifier, or null. */
export async function findImage(id: string): Promise<{ type: string; content: Buffer; hash: string } | null> {
  const [row] = await rowsOf<{ type: string; content: Buffer; hash: string }>(sql`select * from estima_image(${id})`);
  return row ?? null;
}
