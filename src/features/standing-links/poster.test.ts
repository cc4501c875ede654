import sharp from "sharp";
import { LANGUAGES } from "@/core/words/languages";
import { customerWords } from "@/locales/customer";
import { drawPdf, readCode } from "../../../tests/support/codes";
import { POSTER_FORMATS, type Poster, renderPoster } from "./posterKinds";

/** What is printed leads where it should: the codes are read back from the very files. */

const LINK = "https://ask.example/s/k7q2m9wx4tzr";
const poster = (change: Partial<Poster>): Poster => ({
  format: "a4",
  language: "en",
  link: LINK,
  business: "Bramble Lane Vets",
  colour: "#2F5D50",
  logo: null,
  title: "How was it?",
  says: "Point your phone’s camera here. It only takes one tap.",
  typed: "No camera? Type ask.example/s/k7q2m9wx4tzr",
  ...change,
});

test.each(POSTER_FORMATS)(
  "the code on %s leads to the link, in each language, on one page",
  async (format) => {
    for (const language of LANGUAGES) {
      const say = customerWords(language);
      const said = {
        title: say("poster.title"),
        says: say("poster.says"),
        typed: say("poster.address", { address: "x" }),
      };
      const pages = await drawPdf(await renderPoster(poster({ format, language, ...said })));
      expect(pages).toHaveLength(1);
      const [{ pixels, width, height, words }] = pages;
      expect(words.replace(/\s+/g, "")).toContain(said.title.replace(/\s+/g, ""));
      if (format !== "cards") expect(readCode(pixels, width, height)).toBe(LINK);
    }
  },
  60_000,
);

test("each of ten cards has a code of its own that leads there", async () => {
  const scale = 6;
  const [{ pixels, width, height }] = await drawPdf(await renderPoster(poster({ format: "cards" })), scale);
  const whole = sharp(Buffer.from(pixels), {
    raw: { width: width, height: height, channels: 4 },
  });
  const mm = (length: number) => Math.round((length * 72 * scale) / 25.4);
  for (let card = 0; card < 10; card++) {
    const box = {
      left: mm(20 + 85 * (card % 2)),
      top: mm(13.5 + 54 * Math.floor(card / 2)),
      width: mm(85),
      height: mm(54),
    };
    const { data, info } = await whole.clone().extract(box).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    expect([card, readCode(new Uint8ClampedArray(data), info.width, info.height)]).toEqual([card, LINK]);
  }
});

test("long words of one's own, a long name and a logo stay on one page, and the code readable", async () => {
  const png = await sharp({ create: { width: 360, height: 90, channels: 4, background: "#2F5D50" } })
    .png()
    .toBuffer();
  for (const format of POSTER_FORMATS)
    for (const logo of [null, { png, width: 360, height: 90 }]) {
      const it = poster({
        format,
        logo,
        title: "W".repeat(20).concat(" ", "Żółć łąka ".repeat(7)).slice(0, 90),
        says: "słowo ".repeat(26),
        business: "Szczęsny, Wójcik i Wspólnicy ".repeat(2),
      });
      const pages = await drawPdf(await renderPoster(it));
      expect([format, pages.length]).toEqual([format, 1]);
      if (format !== "cards") expect(readCode(pages[0].pixels, pages[0].width, pages[0].height)).toBe(LINK);
    }
}, 60_000);
