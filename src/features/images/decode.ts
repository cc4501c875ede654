import { plainSvg } from "./plainSvg";

/**
 * Decodes a picture from outside and draws it anew: what else stood in the file (place, camera, script) is gone. Only
 * for the process that works on files from outside (`src/apart`): no library can be told to stop in time.
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

/** How large a picture is made, whether it is cut to that shape, and whether it may be an SVG. */
export type Box = { width: number; height: number; isCut?: boolean; takesSvg?: boolean };

/** A file that is no picture, or none that is taken; in words for whoever chose it. */
export class NotAPicture extends Error {
  override readonly name = "NotAPicture";
  /** @param isPassing the file may be fine: it could not be read just now */
  constructor(
    message: string,
    readonly isPassing = false,
  ) {
    super(message);
  }
}

/**
 * The picture in a file (PNG, JPEG, WebP or AVIF; an SVG where a logo is wanted), no larger than this many pixels each
 * way, as WebP; as PNG or (a photo) JPEG where it goes into mails, too, whose programs do not all know WebP. With a shape
 * it is cut to it around its middle.
 *
 * @throws NotAPicture
 */
export async function decodePicture(
  bytes: Uint8Array,
  most: Box,
  as: "webp" | "png" | "jpeg" = "webp",
): Promise<Picture> {
  if (bytes.length > MOST_BYTES) throw new NotAPicture("The picture is larger than 8 MB.");
  const { width, height, isCut, takesSvg } = most;
  const kind = kindOf(bytes);
  if (kind === "heic")
    throw new NotAPicture("This is a HEIC picture, which most programs can’t show. Save it as JPEG and choose that.");
  if (kind === null || (kind === "svg" && !takesSvg))
    throw new NotAPicture(`Choose a PNG, JPEG, WebP${takesSvg ? ", AVIF or SVG." : " or AVIF."}`);
  const { default: sharp } = await import("sharp");
  const drawable = kind === "svg" ? await shapesOf(sharp, bytes, most) : bytes;
  try {
    const read = () => sharp(drawable, { limitInputPixels: MOST_PIXELS, failOn: "error", pages: 1 });
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
async function shapesOf(
  sharp: typeof import("sharp")["default"],
  bytes: Uint8Array,
  { width, height }: { width: number; height: number },
): Promise<Buffer> {
  const svg = plainSvg(new TextDecoder().decode(bytes));
  const refused = new NotAPicture("We can’t draw this SVG. Save it as PNG and choose that.");
  if (svg === null) throw refused;
  try {
    return await sharp(Buffer.from(svg), { limitInputPixels: 40e6, failOn: "error" })
      .resize({ width, height, fit: "inside" })
      .png()
      .toBuffer();
  } catch {
    throw refused;
  }
}
