import { createHash } from "node:crypto";
import { readFile } from "node:fs/promises";
import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { LRUCache } from "lru-cache";
import type { Typeface } from "@/core/words/look";
import { PICTURE, type PictureDesign, placeWords, turnedBox } from "@/core/words/namedPicture";
import { DRAWN } from "./backgrounds";
import { findImage } from "./service";

/** Pictures with a name: drawn when somebody looks at one, and kept for a while for who looks again. */

/** As many bytes as a picture may have: mail programs and phones load it at once. */
export const MOST_PICTURE_BYTES = 60_000;

const { width, height } = PICTURE;

/** JPEGs by what they show. */
const drawn = new LRUCache<string, Buffer>({ max: 400, maxSize: 20_000_000, sizeCalculation: ({ length }) => length });

/** Backgrounds as pixels (RGB), with the quality at which they weigh little enough. */
type Ground = { pixels: Buffer; quality: number };
const grounds = new LRUCache<string, Ground>({ max: 24 });

/** A file of a typeface, under a name of its own: where the first lacks a letter, the next one is asked. */
type Font = { name: string; data: Buffer; weight: 600; style: "normal" };
const fonts = new Map<Typeface, Promise<Font[]>>();
const FILES: Record<Exclude<Typeface, "system">, string> = {
  hanken: "hanken-grotesk",
  bricolage: "bricolage-grotesque",
  newsreader: "newsreader",
};

const PARTS = ["latin", "latin-ext"];

/** The bold cut of a typeface, Western letters first, then the others. */
function fontsOf(typeface: Typeface): Promise<Font[]> {
  let loaded = fonts.get(typeface);
  if (!loaded) {
    const name = FILES[typeface === "system" ? "hanken" : typeface];
    const folder = join(
      dirname(createRequire(join(process.cwd(), "package.json")).resolve(`@fontsource/${name}/package.json`)),
      "files",
    );
    loaded = Promise.all(
      PARTS.map(async (part) => ({
        name: part,
        data: await readFile(join(folder, `${name}-${part}-600-normal.woff`)),
        weight: 600 as const,
        style: "normal" as const,
      })),
    );
    fonts.set(typeface, loaded);
    loaded.catch(() => fonts.delete(typeface));
  }
  return loaded;
}

const RAW = { raw: { width, height, channels: 3 as const } };
const QUALITIES = [82, 74, 66, 56, 46, 36, 26, 16];

async function groundOf({ photo, background }: PictureDesign): Promise<Ground> {
  const key = photo ?? background;
  const known = grounds.get(key);
  if (known) return known;
  const kept = photo ? await findImage(photo) : null;
  // A photo that is gone leaves the background that was chosen before it.
  const source = kept ? kept.content : Buffer.from(DRAWN[background]);
  const { default: sharp } = await import("sharp");
  const pixels = await sharp(source)
    .resize({ width, height, fit: "cover" })
    .flatten({ background: "#FFFFFF" })
    .toColourspace("srgb")
    .removeAlpha()
    .raw()
    .toBuffer();
  let quality = QUALITIES[QUALITIES.length - 1];
  for (const tried of QUALITIES) {
    const { length } = await sharp(pixels, RAW).jpeg({ quality: tried }).toBuffer();
    // Words are drawn over it yet.
    if (length > MOST_PICTURE_BYTES * 0.85) continue;
    quality = tried;
    break;
  }
  const ground = { pixels, quality };
  if (kept || !photo) grounds.set(key, ground);
  return ground;
}

/** The words alone, as SVG no larger than they are, and where it stands in the picture, in pixels. */
async function drawWords(words: string, design: PictureDesign, typeface: Typeface) {
  const placed = placeWords(words, design);
  const { across, down } = turnedBox(placed);
  const [left, top] = [Math.floor(placed.x - across / 2), Math.floor(placed.y - down / 2)];
  const size = { width: Math.ceil(across) + 1, height: Math.ceil(down) + 1 };
  const box = {
    position: "absolute" as const,
    display: "flex",
    flexDirection: "column" as const,
    alignItems: "center",
    left: placed.x - left - placed.width / 2,
    top: placed.y - top - placed.height / 2,
    width: placed.width,
    height: placed.height,
    fontSize: placed.size,
    color: design.colour,
    ...(placed.angle === 0 ? {} : { transform: `rotate(${placed.angle}deg)` }),
  };
  const line = { display: "flex", whiteSpace: "pre" as const, lineHeight: placed.lineHeight / placed.size };
  const { default: satori } = await import("satori");
  const svg = await satori(
    <div style={{ display: "flex", ...size, fontFamily: PARTS.join(","), fontWeight: 600 }}>
      <div style={box}>
        {placed.lines.map((said, index) => (
          <div key={index} style={line}>
            {said}
          </div>
        ))}
      </div>
    </div>,
    { ...size, fonts: await fontsOf(typeface) },
  );
  return { input: Buffer.from(svg), left, top };
}

/** A picture of a design with these words, as JPEG of less than 60 KB. Without words it is the background alone. */
export async function drawPicture(words: string, design: PictureDesign, typeface: Typeface): Promise<Buffer> {
  const { background, photo, x, y, size, angle, colour } = design;
  const key = createHash("sha256")
    .update(JSON.stringify([words, typeface, photo ?? background, x, y, size, angle, colour]))
    .digest("base64");
  const known = drawn.get(key);
  if (known) return known;
  const ground = await groundOf(design);
  const { default: sharp } = await import("sharp");
  const flat = sharp(ground.pixels, RAW);
  const pixels = words === "" ? flat : flat.composite([await drawWords(words, design, typeface)]).removeAlpha();
  let jpeg = await pixels.jpeg({ quality: ground.quality }).toBuffer();
  for (const quality of QUALITIES) {
    if (jpeg.length < MOST_PICTURE_BYTES) break;
    if (quality < ground.quality) jpeg = await pixels.clone().jpeg({ quality }).toBuffer();
  }
  drawn.set(key, jpeg);
  return jpeg;
}
