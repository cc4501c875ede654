import sharp from "sharp";
import { starterRules } from "@/core/plans/starters";
import { composeAsk } from "@/core/words/compose";
import { PICTURE, PLAIN_PICTURE } from "@/core/words/namedPicture";
import { messageWords } from "@/core/words/planWords";
import { drawPicture } from "@/features/images";
import { emailPage, mailWords } from "../../src/ui/emailPage";
import { end, freePort, start, untilReady } from "../local";
import type { Pair } from "./pages";

/**
 * What customers get: composing emails beside filling a plain string, the answer page beside a bare page, a picture with
 * a name beside a plain one.
 */

const MAILS = 10_000;
const PEOPLE = Array.from({ length: 100 }, (_, n) => ({ given: `Odette${n}`, family: `Marsh${n}` }));

const middle = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

async function timeOf(turns: number, work: () => Promise<unknown>): Promise<number> {
  const times: number[] = [];
  for (let turn = -1; turn < turns; turn++) {
    const began = performance.now();
    await work();
    if (turn >= 0) times.push(performance.now() - began);
  }
  return middle(times);
}

/** Ten thousand emails with their words chosen, filled in and laid out, beside a string of as many marks. */
export async function composingBesidePlain(): Promise<Pair> {
  const rules = starterRules();
  const [step] = rules.steps;
  const frame = {
    business: "Bench Vets",
    colour: "#2F5D50",
    postalAddress: "1 Lane",
    asksRating: true,
    words: mailWords("en", "Bench Vets"),
    language: "en" as const,
  };
  const compose = async (n: number) => {
    const link = `https://ask.example/a/k7q2m9wx4tzr3n.${n % 10}`;
    const found = messageWords(rules, step, step, { language: "en", own: "en", serviceId: null });
    const words = { text: found.text.words, subject: found.subject.words, email: found.email.words };
    const { body } = composeAsk(
      words,
      "email",
      {
        person: PEOPLE[n % 100],
        business: "Bench Vets",
        branch: "Fenwick",
        service: "Check-up",
        about: "Biscuit",
        teamMember: "Dr Hale",
      },
      link,
    );
    return emailPage(body, {
      ...frame,
      link,
      optOut: `https://ask.example/u/${n}`,
      picture: `https://ask.example/o/${n}.gif`,
    });
  };
  const { html, text } = await compose(7);
  // The same letter with its parts marked, as the plainest program would fill it.
  const marks: [string, (n: number) => string][] = [
    ["Odette7", (n) => PEOPLE[n % 100].given],
    ["https://ask.example/a/k7q2m9wx4tzr3n.7", (n) => `https://ask.example/a/k7q2m9wx4tzr3n.${n % 10}`],
    ["https://ask.example/u/7", (n) => `https://ask.example/u/${n}`],
    ["https://ask.example/o/7.gif", (n) => `https://ask.example/o/${n}.gif`],
    ["Biscuit", () => "Biscuit"],
    ["check-up", () => "check-up"],
    ["Fenwick", () => "Fenwick"],
    ["Dr Hale", () => "Dr Hale"],
  ];
  const fill = (template: string, n: number) =>
    marks.reduce((filled, [mark, value]) => filled.replaceAll(mark, value(n)), template);
  let bytes = 0;
  const ours = await timeOf(5, async () => {
    for (let n = 0; n < MAILS; n++) bytes += (await compose(n)).html.length;
  });
  const plain = await timeOf(5, async () => {
    for (let n = 0; n < MAILS; n++) bytes += fill(html, n).length + fill(text, n).length;
  });
  if (bytes === 0) throw new Error("Nothing was composed.");
  return { name: "10,000 emails", ours, plain };
}

/**
 * Customers' pages, each opened once, beside bare pages of the same bytes, which look their link up in the same database
 * and are served by the plainest server. Each server is a process, and each page is asked of both in turn, so that what
 * else the machine does meets both. The first half warms them up.
 */
export async function answerPageBesidePlain(
  appUrl: string,
  databaseUrl: string,
  tokens: readonly string[],
): Promise<Pair> {
  const port = await freePort();
  const bare = `http://127.0.0.1:${port}`;
  // The same headers too: what a public page has to say to browsers is no part of making it.
  const own = new Set(["date", "connection", "keep-alive", "content-length", "transfer-encoding"]);
  const headers = [...(await fetch(`${appUrl}/a/${tokens[0]}`)).headers].filter(([name]) => !own.has(name));
  const server = start(
    "node",
    [
      "--import",
      "tsx",
      "scripts/bench/barePage.ts",
      String(port),
      databaseUrl,
      JSON.stringify(Object.fromEntries(headers)),
    ],
    {},
  );
  const timed = async (address: string) => {
    const began = performance.now();
    const response = await fetch(address);
    const page = await response.text();
    const took = performance.now() - began;
    if (response.status !== 200) throw new Error(`A customer's page answered ${response.status}.`);
    return { took, bytes: Buffer.byteLength(page) };
  };
  const [ours, plain]: number[][] = [[], []];
  try {
    await untilReady(bare);
    for (const token of tokens) {
      const page = await timed(`${appUrl}/a/${token}`);
      const beside = await timed(`${bare}/a/${token}?bytes=${page.bytes}`);
      if (beside.bytes !== page.bytes) throw new Error("The bare page is shorter.");
      ours.push(page.took);
      plain.push(beside.took);
    }
    const half = tokens.length / 2;
    return { name: "the answer page", ours: middle(ours.slice(half)), plain: middle(plain.slice(half)) };
  } finally {
    await end(server);
  }
}

/** Pictures with a name, each another one, beside writing as large a picture as JPEG. */
export async function pictureBesideJpeg(): Promise<Pair> {
  const size = { width: PICTURE.width, height: PICTURE.height };
  const design = { ...PLAIN_PICTURE, background: "window" as const };
  const shown = await drawPicture("Thank you, Odette!", design, "hanken");
  const pixels = await sharp(shown).raw().toBuffer();
  const raw = { raw: { ...size, channels: 3 as const } };
  // None of them was drawn before, whatever is kept.
  let drawn = Math.floor(performance.now());
  const ours = await timeOf(5, async () => {
    for (let n = 0; n < 40; n++) await drawPicture(`Thank you, Odette${drawn++}!`, design, "hanken");
  });
  const plain = await timeOf(5, async () => {
    for (let n = 0; n < 40; n++) await sharp(pixels, raw).jpeg({ quality: 82 }).toBuffer();
  });
  return { name: "40 pictures with a name", ours, plain };
}
