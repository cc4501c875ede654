import { createHash } from "node:crypto";
import { and, eq, isNull, lt, sql } from "drizzle-orm";
import { DAY } from "@/core/time/zone";
import type { Logo } from "@/core/words/logo";
import { type AgencyScope, rowsOf, type Tx } from "@/platform/database";
import { newId } from "@/schema/columns";
import { type ImageKind, images } from "@/schema/images";
import { drawSvg } from "./drawSvg";
import { plainSvg } from "./plainSvg";

/**
 * Pictures that people upload. Each is decoded and drawn anew: what else stood in the file (place, camera, script) is
 * gone, and an SVG is only ever pixels.
 */

/** As large as an uploaded file may be. */
export const MOST_BYTES = 8 * 1024 * 1024;

/** As many pixels as are decoded: more is a bomb, or nobody's logo. */
const MOST_PIXELS = 52_000_000;

/** What a file is by its first bytes: nothing else of it reaches the library that decodes it. */
const BEGINNINGS: readonly [kind: string, at: number, bytes: string][] = [
  ["png", 0, "\x89PNG\r\n\x1a\n"],
  ["jpeg", 0, "\xff\xd8\xff"],
  ["webp", 8, "WEBP"],
  ["avif", 4, "ftypavif"],
  ["avif", 4, "ftypavis"],
  ["avif", 4, "ftypmif1"],
  ["heic", 4, "ftyp"],
];

function kindOf(bytes: Uint8Array): string | null {
  const start = Buffer.from(bytes.subarray(0, 512)).toString("latin1");
  const found = BEGINNINGS.find(([, at, wanted]) => start.startsWith(wanted, at));
  if (found) return found[0];
  return /^(?:\xef\xbb\xbf)?\s*<(?:\?xml|!--|svg|svg:svg)/i.test(start) ? "svg" : null;
}

export type Picture = { content: Buffer; type: string; width: number; height: number };

/** A file that is no picture, or none that is taken; in words for whoever chose it. */
export class NotAPicture extends Error {
  override readonly name = "NotAPicture";
}

/**
 * The picture in a file (PNG, JPEG, WebP or AVIF; an SVG where a logo is wanted), no larger than this many pixels each
 * way, as WebP; as PNG or (a photo) JPEG where it goes into mails, too, whose programs do not all know WebP. With a shape
 * it is cut to it around its middle.
 *
 * @throws NotAPicture
 */
export async function readPicture(
  bytes: Uint8Array,
  most: { width: number; height: number; isCut?: boolean; takesSvg?: boolean },
  as: "webp" | "png" | "jpeg" = "webp",
): Promise<Picture> {
  if (bytes.length > MOST_BYTES) throw new NotAPicture("The picture is larger than 8 MB.");
  const { width, height, isCut, takesSvg } = most;
  const kind = kindOf(bytes);
  if (kind === "heic")
    throw new NotAPicture("This is a HEIC picture, which most programs can’t show. Save it as JPEG and choose that.");
  if (kind === null || (kind === "svg" && !takesSvg))
    throw new NotAPicture(`Choose a PNG, JPEG, WebP${takesSvg ? ", AVIF or SVG." : " or AVIF."}`);
  const drawable = kind === "svg" ? await shapesOf(bytes, most) : bytes;
  const { default: sharp } = await import("sharp");
  try {
    const read = () =>
      sharp(drawable, { limitInputPixels: MOST_PIXELS, failOn: "error", pages: 1 }).timeout({ seconds: 10 });
    const { format, compression } = await read().metadata();
    if (!format || (format === "heif" && compression !== "av1"))
      throw new NotAPicture("This picture can’t be read. Save it as JPEG and choose that.");
    const drawn = read()
      // As its camera meant it to be seen; what says so goes with the rest of what stood in the file.
      .rotate()
      .resize({ width, height, fit: isCut ? "cover" : "inside", withoutEnlargement: !isCut })
      .toColourspace("srgb");
    const written =
      as === "webp"
        ? drawn.webp({ quality: 88, alphaQuality: 100 })
        : as === "png"
          ? drawn.png({ palette: true, effort: 8 })
          : drawn.flatten({ background: "#FFFFFF" }).jpeg({ quality: 80, mozjpeg: true });
    const { data, info } = await written.toBuffer({ resolveWithObject: true });
    return { content: data, type: `image/${as}`, width: info.width, height: info.height };
  } catch (error) {
    if (error instanceof NotAPicture) throw error;
    throw new NotAPicture("This picture can’t be read. Save it again as PNG or JPEG, and choose that.");
  }
}

/** The shapes of an SVG as a PNG. */
async function shapesOf(bytes: Uint8Array, box: { width: number; height: number }): Promise<Buffer> {
  const svg = plainSvg(new TextDecoder().decode(bytes));
  const png = svg === null ? null : await drawSvg(svg, box);
  if (!png) throw new NotAPicture("This SVG can’t be drawn. Save it again as PNG, and choose that.");
  return png;
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
} as const satisfies Record<ImageKind, { box: Parameters<typeof readPicture>[1]; as: "png" | "jpeg" }>;

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
