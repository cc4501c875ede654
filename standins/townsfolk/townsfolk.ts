import { Journal } from "../journal";
import { type Mail, type MailStandIn, readMail } from "../mail";
import type { Text, TextStandIn } from "../texts";
import type { TownClock } from "../townClock";
import { chanceFor } from "./chance";
import { type Act, decide } from "./decide";
import type { Trade } from "./words";

/** People read with browsers, which say so. */
const BROWSER = {
  "user-agent":
    "Mozilla/5.0 (Linux; Android 15; Mobile) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0.0.0 Mobile Safari/537.36",
  accept: "text/html,application/xhtml+xml,*/*;q=0.8",
  "accept-language": "en-GB,en;q=0.8",
};

type Planned = {
  id: number;
  address: string;
  channel: "text" | "email";
  link: string;
  messageKey: string;
  partner: string;
} & { act: Act };
type FolkEvent =
  | { kind: "census"; address: string; name: string }
  | { kind: "planned"; planned: Planned }
  | { kind: "done"; id: number };

export type TownsfolkOptions = {
  seed: number;
  clock: TownClock;
  journal: string | null;
  /** Who writes to people: a sender's address or number, and its trade. */
  senders: { match: string; trade: Trade }[];
};

/**
 * The people of Merrow Bay. They get mails and texts like anybody, and act on them through the very pages and addresses
 * that the messages hold. They know nothing of Estima but what a customer knows.
 */
export class Townsfolk {
  mail: MailStandIn | null = null;
  texts: TextStandIn | null = null;
  asleep = false;
  private readonly census = new Map<string, string>();
  private readonly plans = new Map<number, Planned>();
  private readonly journal: Journal<FolkEvent>;
  private count = 0;
  acted = 0;

  constructor(private readonly options: TownsfolkOptions) {
    this.journal = new Journal(options.journal);
    this.journal.replay((event) => {
      if (event.kind === "census") this.census.set(event.address, event.name);
      else if (event.kind === "planned") {
        this.plans.set(event.planned.id, event.planned);
        this.count = Math.max(this.count, event.planned.id);
      } else this.plans.delete(event.id);
    });
  }

  /**
   * Makes known who has an address. Only people in the census act; everybody else waits for a human at the keyboard.
   */
  settle(people: { address: string; name: string }[]): void {
    for (const { address, name } of people) {
      this.census.set(address, name);
      this.journal.append({ kind: "census", address, name });
    }
  }

  hearText(text: Text): void {
    this.hear("text", text.to, text.from, text.body, text.key, text.at);
  }

  hearMail(mail: Mail): void {
    // The plain part comes first; quoted-printable would cut a link in two.
    const plain = mail.raw
      .replace(/=\r?\n/g, "")
      .replaceAll("=3D", "=")
      .replaceAll("=E2=80=99", "’");
    this.hear("email", mail.to, mail.from, plain, mail.messageId, mail.at);
  }

  private hear(
    channel: "text" | "email",
    address: string,
    partner: string,
    body: string,
    messageKey: string,
    at: number,
  ): void {
    if (this.asleep || !this.census.has(address)) return;
    const link = /https?:\/\/[^\s"<>]+\/a\/[0-9A-Za-z]+\.\d+/.exec(body)?.[0];
    if (!link) return;
    const trade = this.options.senders.find(({ match }) => partner.includes(match))?.trade ?? "stove";
    const it = /how (?:was|did) ([\p{Lu}][\p{L}]+?)['’]s? /u.exec(body)?.[1] ?? null;
    for (const act of decide({ seed: this.options.seed, channel, address, link, at, trade, it })) {
      this.count += 1;
      const planned: Planned = { id: this.count, address, channel, link, messageKey, partner, act };
      this.plans.set(planned.id, planned);
      this.journal.append({ kind: "planned", planned });
    }
  }

  /** When the next deed is due, or null. */
  next(): number | null {
    let next: number | null = null;
    for (const { act } of this.plans.values()) if (next === null || act.at < next) next = act.at;
    return next;
  }

  get planned(): number {
    return this.plans.size;
  }

  /** Does everything that is due by now, in order. */
  async actUntil(now: number): Promise<number> {
    const due = [...this.plans.values()].filter(({ act }) => act.at <= now).sort((a, b) => a.act.at - b.act.at);
    for (const planned of due) {
      this.plans.delete(planned.id);
      this.journal.append({ kind: "done", id: planned.id });
      try {
        await this.perform(planned);
        this.acted += 1;
      } catch {
        // A page that cannot be reached is a shrug: people do not try twice.
      }
    }
    return due.length;
  }

  private async perform(planned: Planned): Promise<void> {
    const { act, link, channel, address } = planned;
    if (act.kind === "stop") await this.texts?.write(address, planned.partner, "STOP");
    else if (act.kind === "write back") {
      const mail = this.mail?.mails.get(planned.messageKey);
      if (channel === "text") await this.texts?.write(address, planned.partner, act.words);
      else if (mail) await this.mail?.reply(mail, act.words);
    } else if (act.kind === "unsubscribe") {
      const mail = this.mail?.mails.get(planned.messageKey);
      if (mail) await this.mail?.unsubscribe(mail);
    } else if (act.kind === "open") await this.look(planned);
    else await this.answer(act, link, address);
  }

  /** Opening a mail loads its pictures. */
  private async look({ messageKey }: Planned): Promise<void> {
    const mail = this.mail?.mails.get(messageKey);
    if (!mail) return;
    const read = await readMail(mail.raw);
    const picture = /<img src="([^"]+)"/.exec(read.html || "")?.[1];
    if (picture) await (await fetch(picture, { headers: BROWSER })).arrayBuffer();
  }

  private async answer(act: Extract<Act, { kind: "answer" }>, link: string, address: string): Promise<void> {
    const origin = new URL(link).origin;
    const form = async (action: string, fields: Record<string, string>) =>
      fetch(new URL(action, origin), {
        method: "POST",
        headers: BROWSER,
        body: new URLSearchParams(fields),
        redirect: "manual",
      });
    const page = await (await fetch(link, { headers: BROWSER })).text();
    const rate = /action="([^"]+\/rate)"/.exec(page)?.[1];
    // Where there are two answers only, four and five mean yes.
    const rating = page.includes('value="3"') ? act.rating : act.rating >= 4 ? 5 : 1;
    const rated = rate ? await form(rate, { rating: String(rating) }) : null;
    // Asked again after they have answered, they see the sites at once.
    const answered = rated
      ? await (await fetch(new URL(rated.headers.get("location") ?? link, origin), { headers: BROWSER })).text()
      : page;
    const chance = chanceFor(this.options.seed, `more ${address}`);
    const more = /action="([^"]+\/more)"/.exec(answered)?.[1];
    if (rated && more) for (const fields of moreOf(answered, act.rating, chance)) await form(more, fields);
    const words = /action="([^"]+\/words)"/.exec(answered)?.[1];
    if (rated && act.words && words) {
      const agrees = answered.includes('name="show"') && chance() < (act.rating >= 4 ? 0.8 : 0.3);
      await (
        await form(words, { words: act.words, "asked-show": "1", ...(agrees ? { show: "1" } : {}) })
      ).arrayBuffer();
    }
    const site = /action="([^"]+\/site\/[^"]+)"/.exec(answered)?.[1];
    if (!act.looksAtSite || !site) return;
    const place = (await form(site, {})).headers.get("location");
    if (!place || !act.review) return;
    await (
      await fetch(place, {
        method: "POST",
        redirect: "manual",
        body: new URLSearchParams({ author: this.signature(address), stars: String(act.rating), words: act.review }),
      })
    ).arrayBuffer();
  }

  /** How people sign a review: "Odette M." */
  private signature(address: string): string {
    const [given, ...rest] = (this.census.get(address) ?? "A visitor").split(" ");
    const family = rest.at(-1);
    return family ? `${given} ${family.charAt(0)}.` : given;
  }

  async close(): Promise<void> {
    await this.journal.close();
  }
}

/** What somebody taps of the questions beyond the rating: a side of the visit differs from it by one at most. */
function moreOf(page: string, rating: number, chance: () => number): Record<string, string>[] {
  const near = () => Math.min(5, Math.max(1, rating + Math.floor(chance() * 3) - 1));
  const aspects = new Set([...page.matchAll(/name="aspect" value="(\d):/g)].map(([, index]) => index));
  const taps = [...aspects].filter(() => chance() < 0.7).map((index) => ({ aspect: `${index}:${near()}` }));
  return page.includes('name="recommend"') && chance() < 0.7
    ? [...taps, { recommend: String(Math.min(10, near() * 2)) }]
    : taps;
}
