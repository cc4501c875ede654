import { createHash } from "node:crypto";
import { and, eq, isNull, sql } from "drizzle-orm";
import sharp from "sharp";
import type { Logo } from "@/core/words/logo";
import { type AgencyScope, rowsOf, type Tx } from "@/platform/database";
import { newId } from "@/schema/columns";
import { images } from "@/schema/images";

/**
 * Pictures that people upload. Each is decoded and drawn anew: what else stood in the file (place, camera, script) is
 * gone, and an SVG is only ever pixels.
 */

/** As large as an uploaded file may be. */
export const MOST_BYTES = 8 * 1024 * 1024;

/** As many pixels as are decoded: more is a bomb, or nobody's logo. */
const MOST_PIXELS = 40_000_000;

const FORMATS = new Set(["png", "jpeg", "webp", "heif", "svg"]);

export type Picture = { content: Buffer; type: string; width: number; height: number };

/** A file that is no picture, or none that is taken; in words for whoever chose it. */
export class NotAPicture extends Error {
  override readonly name = "NotAPicture";
}

/**
 * The picture in a file (PNG, JPEG, WebP, AVIF or SVG), no larger than this many pixels each way, as WebP; as PNG where
 * it goes into mails, too, whose programs do not all know WebP.
 *
 * @throws NotAPicture
 */
export async function readPicture(
  bytes: Uint8Array,
  most: { width: number; height: number },
  as: "webp" | "png" = "webp",
): Promise<Picture> {
  if (bytes.length > MOST_BYTES) throw new NotAPicture("The picture is larger than 8 MB.");
  try {
    const read = () =>
      sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: "error", pages: 1 }).timeout({ seconds: 10 });
    const { format, compression } = await read().metadata();
    if (!format || !FORMATS.has(format) || (format === "heif" && compression !== "av1"))
      throw new NotAPicture("Choose a PNG, JPEG, WebP, AVIF or SVG.");
    const drawn = read()
      // As its camera meant it to be seen; what says so goes with the rest of what stood in the file.
      .rotate()
      .resize({ ...most, fit: "inside", withoutEnlargement: format !== "svg" })
      .toColourspace("srgb");
    const written =
      as === "webp" ? drawn.webp({ quality: 88, alphaQuality: 100 }) : drawn.png({ palette: true, effort: 8 });
    const { data, info } = await written.toBuffer({ resolveWithObject: true });
    return { content: data, type: `image/${as}`, width: info.width, height: info.height };
  } catch (error) {
    if (error instanceof NotAPicture) throw error;
    throw new NotAPicture("This picture cannot be read. Save it anew, as PNG or JPEG, and try that.");
  }
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

/** As large as a client's logo is drawn: half of it on a page, for screens with twice as many dots. */
export const LOGO_BOX = { width: 360, height: 104 };

/** Keeps a client's logo in place of the one before, or (null) has none. Gives what pages and mails need of it. */
export async function keepClientLogo(
  tx: Tx,
  { clientId, agencyId }: { clientId: string; agencyId: string },
  picture: Picture | null,
  now: number,
): Promise<Logo | null> {
  await tx.delete(images).where(and(eq(images.aboutClient, clientId), eq(images.kind, "logo")));
  if (!picture) return null;
  const id = newId();
  const hash = createHash("sha256").update(picture.content).digest("hex");
  await tx
    .insert(images)
    .values({ id, agencyId, aboutClient: clientId, kind: "logo", ...picture, hash, createdAt: now });
  return { id, width: picture.width, height: picture.height };
}

/** A picture by its identifier, or null. */
export async function findImage(id: string): Promise<{ type: string; content: Buffer; hash: string } | null> {
  const [row] = await rowsOf<{ type: string; content: Buffer; hash: string }>(sql`select * from estima_image(${id})`);
  return row ?? null;
}
