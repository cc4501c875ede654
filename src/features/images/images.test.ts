import sharp from "sharp";
import { NotAPicture } from "./decode";
import { plainSvg } from "./plainSvg";
import { readPicture } from "./service";

/** Awkward pictures give a picture or a clear refusal, never anything else. */

const BOX = { width: 480, height: 120, takesSvg: true };
const plain = () => sharp({ create: { width: 900, height: 300, channels: 4, background: "#6a2156" } });
const text = (svg: string) => new TextEncoder().encode(svg);

const outcome = async (bytes: Uint8Array) =>
  readPicture("tests", bytes, BOX).then(
    ({ type, width, height }) => `${type} ${width <= 480 && height <= 120}`,
    (error: unknown) => {
      if (error instanceof NotAPicture) return `refused: ${error.message.length > 20}`;
      throw error;
    },
  );

test("each kind that is taken is drawn anew, in its box, with nothing else of the file", async () => {
  for (const bytes of [
    await plain().png().toBuffer(),
    await plain()
      .jpeg()
      .withExif({ IFD0: { Copyright: "somewhere private" } })
      .toBuffer(),
    await plain().webp().toBuffer(),
    await plain().avif().toBuffer(),
    await plain().toColourspace("cmyk").jpeg().toBuffer(),
    await plain().jpeg().withMetadata({ orientation: 6 }).toBuffer(),
    text(
      '<svg xmlns="http://www.w3.org/2000/svg" width="20" height="5"><rect width="20" height="5" fill="red"/></svg>',
    ),
  ]) {
    const picture = await readPicture("tests", bytes, BOX);
    expect([picture.type, picture.width <= 480, picture.height <= 120]).toEqual(["image/webp", true, true]);
    const { exif, format } = await sharp(picture.content).metadata();
    expect([format, exif]).toEqual(["webp", undefined]);
    expect(picture.content.toString("latin1")).not.toContain("somewhere private");
  }
});

test("what cannot be one is refused in words", async () => {
  const png = await plain().png().toBuffer();
  const bomb = text(
    '<svg xmlns="http://www.w3.org/2000/svg" width="60000" height="60000"><rect width="9" height="9"/></svg>',
  );
  for (const bytes of [
    new Uint8Array(),
    text("not a picture"),
    png.subarray(0, png.length / 2),
    png.subarray(8),
    await plain().gif().toBuffer(),
    await plain().tiff().toBuffer(),
    bomb,
    new Uint8Array(8 * 1024 * 1024 + 1),
    text("<svg"),
    text('<!DOCTYPE svg [<!ENTITY a SYSTEM "file:///etc/passwd">]><svg xmlns="http://www.w3.org/2000/svg">&a;'),
  ])
    expect(await outcome(bytes)).toBe("refused: true");
});

test("an SVG fetches nothing and runs nothing: it is pixels", async () => {
  const svg = text(
    '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="40" height="10"><script>alert(1)</script><image xlink:href="http://127.0.0.1:1/x.png" width="9" height="9"/><image xlink:href="file:///etc/hostname" width="9" height="9"/><rect width="40" height="10" fill="blue"/></svg>',
  );
  const picture = await readPicture("tests", svg, BOX);
  expect(picture.content.toString("latin1")).not.toMatch(/script|alert|http:/);
});

test("two hundred pictures, cut off, twisted or overwritten anywhere, are drawn or refused, in little memory", async () => {
  const sources = [
    await plain().png().toBuffer(),
    await plain().jpeg().toBuffer(),
    await plain().webp().toBuffer(),
    await plain().avif().toBuffer(),
    await plain().toColourspace("cmyk").jpeg().toBuffer(),
  ];
  const outcomes = new Set<string>();
  const before = process.memoryUsage().rss;
  let most = before;
  for (const source of sources)
    for (let turn = 0; turn < 40; turn++) {
      most = Math.max(most, process.memoryUsage().rss);
      const bytes = Uint8Array.from(source);
      const at = (turn * 7919) % bytes.length;
      if (turn % 3 === 0) outcomes.add(await outcome(bytes.subarray(0, at)));
      else {
        bytes[at] ^= 0xff;
        bytes[(at * 31) % bytes.length] = turn;
        outcomes.add(await outcome(bytes));
      }
    }
  expect([...outcomes].sort()).toEqual(["image/webp true", "refused: true"]);
  expect((most - before) / 1024 / 1024).toBeLessThan(300);
});

test("for mails a picture is a PNG", async () => {
  const picture = await readPicture("tests", await plain().jpeg().toBuffer(), BOX, "png");
  expect([picture.type, (await sharp(picture.content).metadata()).format]).toEqual(["image/png", "png"]);
});

test("an SVG is a logo or nothing: from anybody else, and with anything but shapes in it, it is left out", async () => {
  const svg = text('<svg xmlns="http://www.w3.org/2000/svg" width="20" height="5"><rect width="20" height="5"/></svg>');
  await expect(readPicture("tests", svg, { width: 100, height: 100 })).rejects.toThrow(
    "Choose a PNG, JPEG, WebP or AVIF.",
  );
  const blurs = Array.from({ length: 12 }, () => '<feGaussianBlur stdDeviation="400"/>').join("");
  const slow = `<svg xmlns="http://www.w3.org/2000/svg" width="4000" height="4000"><filter id="f" x="-9" y="-9" width="99" height="99">${blurs}</filter><g filter="url(#f)"><rect width="4000" height="4000" style="filter:url(#f);fill:#6a2156"/></g></svg>`;
  const reduced = plainSvg(slow) ?? "";
  expect(reduced).not.toMatch(/filter|blur/i);
  expect(reduced).toContain('fill="#6a2156"');
  expect((await readPicture("tests", text(slow), BOX)).type).toBe("image/webp");
});

test("what an SVG is reduced to names nothing from elsewhere, runs nothing, and is bounded", () => {
  for (const hostile of [
    '<svg><image href="http://127.0.0.1/x"/><use href="#a"/><script>1</script><foreignObject><b/></foreignObject></svg>',
    '<svg><rect fill="url(http://127.0.0.1/x)" style="stroke:url(//x);fill:red" onclick="1"/></svg>',
    "<svg><style>rect{fill:url(http://x)}</style><text>a</text><mask id='m'/><pattern id='p'/></svg>",
  ]) {
    const reduced = plainSvg(hostile) ?? "";
    expect(reduced.startsWith("<svg")).toBe(true);
    expect(reduced).not.toMatch(
      /http:\/\/(?!www\.w3\.org\/2000\/svg)|image|use|script|foreign|onclick|style|text|mask|pattern|\/\/x/,
    );
  }
  expect(plainSvg(`<svg>${"<g>".repeat(5000)}${"</g>".repeat(5000)}</svg>`)).toBeNull();
  expect(plainSvg(`<svg>${"<rect/>".repeat(20_000)}</svg>`)).toBeNull();
  expect(plainSvg('<!DOCTYPE svg [<!ENTITY a "b">]><svg>&a;</svg>')).toBeNull();
});

test("a HEIC picture is refused with what to do", async () => {
  const heic = Buffer.concat([Buffer.from([0, 0, 0, 24]), Buffer.from("ftypheic"), Buffer.alloc(200)]);
  await expect(readPicture("tests", heic, BOX)).rejects.toThrow("Save it as JPEG");
});
