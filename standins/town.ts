import { join } from "node:path";
import { type ServerType, serve } from "@hono/node-server";
import { Hono } from "hono";
import { html } from "hono/html";
import { z } from "zod";
import { DaybookStandIn } from "./daybook";
import { GuideStandIn } from "./guides";
import { MailStandIn } from "./mail";
import { townPage, townTime } from "./page";
import type { Place } from "./places";
import { resolve } from "./resolver";
import { TenfoldStandIn } from "./tenfold";
import { TEXT_SERVICE_KEY, TextServiceStandIn } from "./textService";
import { TextStandIn } from "./texts";
import { TownClock } from "./townClock";
import { Townsfolk } from "./townsfolk/townsfolk";
import type { Trade } from "./townsfolk/words";
import { WaypostStandIn } from "./waypost";

/** Where the parts of the town listen, counted from one base port. */
export function townPorts(base: number) {
  return { town: base, mail: base + 1, texts: base + 2, waypost: base + 3, daybook: base + 4, smtp: base + 5 };
}

export type TownOptions = {
  basePort: number;
  /** Folder in which the town remembers; null to forget. */
  folder: string | null;
  seed: number;
  estimaUrl: string | null;
  secrets: { mailHook: string; textHook: string; textKey: string; waypost: string };
  places: Place[];
  /** How many reviews each place has on Commons and Tenfold from before anybody looked. */
  siteHistory?: number;
  /** Calls that Tenfold answers in a minute; 120 where nothing is said. */
  tenfoldCalls?: number;
  senders: { match: string; trade: Trade }[];
};

const clockInput = z.object({ now: z.number().int(), stands: z.boolean().default(false) });

/** The simulated town: its servers, its people and its clock, started and stopped together. */
export class Town {
  readonly clock = new TownClock();
  readonly mail: MailStandIn;
  readonly texts: TextStandIn;
  readonly waypost: WaypostStandIn;
  readonly daybook: DaybookStandIn;
  readonly guides: GuideStandIn;
  readonly tenfold: TenfoldStandIn;
  readonly textService = new TextServiceStandIn();
  readonly folk: Townsfolk;
  readonly url: string;
  private http: ServerType | null = null;

  constructor(private readonly options: TownOptions) {
    const ports = townPorts(options.basePort);
    const at = (port: number) => `http://127.0.0.1:${port}`;
    this.url = at(ports.town);
    const file = (name: string) => options.folder && join(options.folder, `${name}.jsonl`);
    const hook = (path: string, secret: string) =>
      options.estimaUrl && { address: `${options.estimaUrl}${path}`, secret };
    const shared = { townUrl: this.url, clock: this.clock };
    this.folk = new Townsfolk({
      seed: options.seed,
      clock: this.clock,
      journal: file("townsfolk"),
      senders: options.senders,
    });
    this.mail = new MailStandIn({
      ...shared,
      smtpPort: ports.smtp,
      httpPort: ports.mail,
      journal: file("mail"),
      hook: hook("/hooks/mail", options.secrets.mailHook) || null,
      onMail: (mail) => this.folk.hearMail(mail),
    });
    this.texts = new TextStandIn({
      ...shared,
      port: ports.texts,
      key: options.secrets.textKey,
      journal: file("texts"),
      hook: hook("/hooks/texts", options.secrets.textHook) || null,
      onText: (text) => this.folk.hearText(text),
    });
    this.waypost = new WaypostStandIn({
      ...shared,
      port: ports.waypost,
      secret: options.secrets.waypost,
      journal: file("waypost"),
      places: options.places,
    });
    this.daybook = new DaybookStandIn({ ...shared, port: ports.daybook, seed: options.seed, journal: file("daybook") });
    this.guides = new GuideStandIn({
      ...shared,
      journal: file("guides"),
      places: options.places,
      secret: options.secrets.waypost,
      seed: options.seed,
      history: options.siteHistory ?? 0,
    });
    this.tenfold = new TenfoldStandIn({
      ...shared,
      journal: file("tenfold"),
      places: options.places,
      seed: options.seed,
      history: options.siteHistory ?? 0,
      callsAMinute: options.tenfoldCalls ?? 120,
    });
    this.folk.mail = this.mail;
    this.folk.texts = this.texts;
  }

  /** Sets the town's time and lets everybody do what is due; gives when the next deed is. */
  async advance(now: number, stands = false): Promise<{ next: number | null; acted: number }> {
    this.clock.set(now, stands);
    await this.settled();
    const acted = (await this.folk.actUntil(now)) + this.daybook.actUntil(now);
    await this.settled();
    const [folk, book] = [this.folk.next(), this.daybook.next()];
    return { next: folk === null ? book : book === null ? folk : Math.min(folk, book), acted };
  }

  /**
   * Resolves when no bounce or incoming message is on its way to Estima any more; with `receipts`, no receipt either.
   */
  async settled(receipts = false): Promise<void> {
    await Promise.all([
      this.mail.hooks?.settled(receipts),
      this.texts.hooks?.settled(receipts),
      this.daybook.settled(),
      this.waypost.settled(),
    ]);
  }

  private app(): Hono {
    const ports = townPorts(this.options.basePort);
    const app = new Hono();
    app.get("/", (c) => {
      const place = (port: number, name: string, what: string) =>
        html`<article><a href="http://127.0.0.1:${port}/"><b>${name}</b></a><br>${what}</article>`;
      return c.html(
        townPage(
          "Merrow Bay",
          this.url,
          townTime(this.clock.now()),
          html`<p>The outside world that Estima speaks to in the demo. Nothing here leaves this machine.</p>
          ${place(ports.mail, "Mailboxes", `Every mail that arrived: ${this.mail.mails.size}. Open them, follow their links, write back, unsubscribe.`)}
          ${place(ports.texts, "Phones", `Every text that arrived: ${this.texts.texts.size}. Read them, answer, send STOP.`)}
          ${place(ports.daybook, "Daybook", "The appointment books of the businesses. Finish, cancel or miss an appointment, or book one.")}
          ${place(ports.waypost, "Waypost", `The review site of the town: ${this.waypost.reviews.size} reviews so far.`)}
          <article><b>Commons, Tenfold and the Pawprint Guide</b><br>Where people recommend a business or not, give it points, or are only led to. Their pages are those of the businesses' own lists of review pages.</article>
          <article><b>A text service</b><br>Writes drafts of replies for whoever sets it up under Heard, Rules: its address is ${this.url}/text-service/drafts, its key ${TEXT_SERVICE_KEY}.</article>
          <h2>Townsfolk</h2><p>${this.folk.planned} people are about to do something about a message they got. They act as the demo clock moves.</p>`,
        ),
      );
    });
    app.get("/health", (c) => c.json({ ok: true }));
    app.route("/guides", this.guides.routes());
    app.route("/commons", this.guides.commons());
    app.route("/tenfold", this.tenfold.routes());
    app.route("/text-service", this.textService.routes());
    app.get("/resolve", (c) => c.json(resolve(c.req.query("name") ?? "")));
    app.post("/clock", async (c) => {
      const parsed = clockInput.safeParse(await c.req.json().catch(() => null));
      if (!parsed.success) return c.json({ error: parsed.error.issues[0].message }, 422);
      return c.json(await this.advance(parsed.data.now, parsed.data.stands));
    });
    return app;
  }

  async start(): Promise<void> {
    await this.mail.start();
    await this.texts.start();
    await this.waypost.start();
    await this.daybook.start();
    this.http = serve({ fetch: this.app().fetch, port: this.options.basePort, hostname: "127.0.0.1" });
  }

  async stop(): Promise<void> {
    await this.settled(true);
    this.http?.close();
    await Promise.all([
      this.mail.stop(),
      this.texts.stop(),
      this.waypost.stop(),
      this.daybook.stop(),
      this.folk.close(),
      this.guides.close(),
      this.tenfold.close(),
    ]);
  }
}
