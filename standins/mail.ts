import { randomUUID } from "node:crypto";
import { type ServerType, serve } from "@hono/node-server";
import { Hono } from "hono";
import { html } from "hono/html";
import { SMTPServer } from "smtp-server";
import { Album } from "./album";
import { Faults, faultRoutes } from "./faults";
import { HookSender } from "./hooks";
import { Journal } from "./journal";
import { townPage, townTime } from "./page";
import type { TownClock } from "./townClock";

export type Mail = { messageId: string; from: string; to: string; at: number; raw: string };
type MailEvent = { kind: "mail"; mail: Mail } | { kind: "repeat"; messageId: string };

export type MailOptions = {
  smtpPort: number;
  httpPort: number;
  townUrl: string;
  clock: TownClock;
  journal: string | null;
  hook: { address: string; secret: string } | null;
  /** Called for each mail that arrived for the first time. */
  onMail?: (mail: Mail) => void;
};

/**
 * The mail server of the town: SMTP in, mailboxes to look at, bounces and receipts out as signed webhooks. A mail whose
 * Message-ID it has seen is taken and not kept again.
 */
/** A mail taken apart. The reader of mails is loaded at the first one. */
export async function readMail(raw: Mail["raw"]) {
  return (await import("mailparser")).simpleParser(raw);
}

export class MailStandIn {
  readonly faults = new Faults();
  readonly mails = new Map<string, Mail>();
  repeats = 0;
  private readonly byAddress = new Map<string, Mail[]>();
  private readonly journal: Journal<MailEvent>;
  private readonly smtp: SMTPServer;
  readonly hooks: HookSender | null;
  readonly album: Album;
  private http: ServerType | null = null;

  constructor(private readonly options: MailOptions) {
    this.album = new Album(`http://127.0.0.1:${options.httpPort}`);
    this.journal = new Journal(options.journal);
    this.journal.replay((event) => (event.kind === "mail" ? this.keep(event.mail) : this.repeats++));
    this.hooks = options.hook ? new HookSender(options.hook.address, options.hook.secret) : null;
    this.smtp = new SMTPServer({
      authOptional: true,
      disabledCommands: ["STARTTLS", "AUTH"],
      disableReverseLookup: true,
      logger: false,
      onConnect: (_session, done) => done(this.faults.take("*", ["down"]) ? refuse(421, "Closed for now") : undefined),
      onRcptTo: ({ address }, _session, done) => {
        const fault = this.faults.take(address, ["bounce", "defer", "error"]);
        if (fault === "bounce") return done(refuse(550, "No such mailbox here"));
        if (fault) return done(refuse(451, "Try again later"));
        done();
      },
      onData: (stream, session, done) => {
        const chunks: Buffer[] = [];
        stream.on("data", (chunk: Buffer) => chunks.push(chunk));
        stream.on("end", () => {
          const raw = Buffer.concat(chunks).toString("utf8");
          const to = session.envelope.rcptTo.map(({ address }) => address.toLowerCase()).join(", ");
          const fault = this.faults.take(to, ["time out"]);
          this.accept({ raw, to, from: session.envelope.mailFrom ? session.envelope.mailFrom.address : "" });
          if (fault !== "time out") done(null, "Taken");
        });
      },
    });
    this.smtp.on("error", () => {});
  }

  private keep(mail: Mail): void {
    this.mails.set(mail.messageId, mail);
    const box = this.byAddress.get(mail.to) ?? [];
    box.push(mail);
    this.byAddress.set(mail.to, box);
  }

  private accept({ raw, to, from }: { raw: string; to: string; from: string }): void {
    const messageId = /^message-id:\s*<([^>]+)>/im.exec(raw)?.[1] ?? `none-${this.mails.size}@town`;
    if (this.mails.has(messageId)) {
      this.repeats += 1;
      this.journal.append({ kind: "repeat", messageId });
      return;
    }
    const mail = { messageId, from, to, at: this.options.clock.now(), raw };
    this.keep(mail);
    this.journal.append({ kind: "mail", mail });
    const reference = messageId.slice(0, messageId.indexOf("@"));
    if (this.faults.take(to, ["late bounce"])) {
      this.hooks?.send("mail.bounced", { reference, reason: "550 The mailbox is full and was given up" });
      return;
    }
    if (!this.faults.take(to, ["drop receipt"]))
      this.hooks?.send("mail.delivered", { reference, at: new Date(mail.at).toISOString() });
    this.options.onMail?.(mail);
  }

  /** What arrived for an address, oldest first. */
  mailbox(address: string): Mail[] {
    return this.byAddress.get(address.toLowerCase()) ?? [];
  }

  private pages(): Hono {
    const app = new Hono();
    const { townUrl, clock } = this.options;
    const page = (title: string, body: ReturnType<typeof html>) =>
      townPage(title, townUrl, townTime(clock.now()), body);
    app.get("/", (c) => {
      const wanted = (c.req.query("q") ?? "").toLowerCase();
      const boxes = [...this.byAddress.entries()]
        .filter(([address]) => address.includes(wanted))
        .sort((a, b) => (b[1].at(-1)?.at ?? 0) - (a[1].at(-1)?.at ?? 0));
      return c.html(
        page(
          "Mailboxes",
          html`<form><label>Address contains <input name="q" value="${wanted}"></label> <button>Find</button></form>
        <p>${boxes.length} mailboxes, ${this.mails.size} mails.</p><table><tr><th>Mailbox</th><th>Mails</th><th>Last</th></tr>
        ${boxes.slice(0, 100).map(([address, mails]) => html`<tr><td><a href="/box/${encodeURIComponent(address)}">${address}</a></td><td>${mails.length}</td><td>${townTime(mails.at(-1)?.at ?? 0)}</td></tr>`)}</table>`,
        ),
      );
    });
    app.get("/box/:address", async (c) => {
      const address = c.req.param("address");
      const mails = await Promise.all(
        this.mailbox(address).map(async (mail) => ({ mail, read: await readMail(mail.raw) })),
      );
      return c.html(
        page(
          `Mailbox of ${address}`,
          html`${mails.reverse().map(
            ({
              mail,
              read,
            }) => html`<article><b>${read.subject}</b><br><small>from ${read.from?.text} · ${townTime(mail.at)}</small>
          <p><a href="/mail/${encodeURIComponent(mail.messageId)}">Open</a></p></article>`,
          )}
        <h2>Write a mail</h2><form class="card" method="post" enctype="multipart/form-data"><p><label>To <input name="to" required></label> <label>Subject <input name="subject"></label></p><label>Words<br><textarea name="text"></textarea></label>${this.album.fields}<button>Send</button></form>`,
        ),
      );
    });
    app.post("/box/:address", async (c) => {
      const address = c.req.param("address");
      const form = await c.req.parseBody();
      const [to, subject, text] = [form.to, form.subject, form.text].map((value) => String(value ?? "").trim());
      await this.write(address, to, subject, text, await this.album.chosen(form));
      return c.redirect(`/box/${encodeURIComponent(address)}`, 303);
    });
    app.get("/mail/:id", async (c) => {
      const mail = this.mails.get(c.req.param("id"));
      if (!mail) return c.notFound();
      const read = await readMail(mail.raw);
      const unsubscribe = unsubscribeOf(mail.raw);
      return c.html(
        page(
          read.subject ?? "(no subject)",
          html`<p><small>from ${read.from?.text} to ${mail.to} · ${townTime(mail.at)}</small></p>
        <iframe title="The mail" sandbox="allow-popups allow-popups-to-escape-sandbox" srcdoc="${(read.html || "").replaceAll("<a ", '<a target="_blank" ')}"></iframe>
        <h2>As plain text</h2><article style="white-space:pre-wrap">${linkify(read.text ?? "")}</article>
        ${unsubscribe ? html`<form class="card" method="post" action="/mail/${encodeURIComponent(mail.messageId)}/unsubscribe"><button>Unsubscribe</button> <small>one click, as a mail program offers it</small></form>` : ""}
        <form class="card" method="post" action="/mail/${encodeURIComponent(mail.messageId)}/reply" enctype="multipart/form-data"><label>Write back<br><textarea name="text" required></textarea></label>${this.album.fields}<p><label><input type="checkbox" name="automatic" value="yes"> written by the mail program itself: the owner is away</label></p><button>Send reply</button></form>`,
        ),
      );
    });
    app.post("/mail/:id/unsubscribe", async (c) => {
      const mail = this.mails.get(c.req.param("id"));
      if (!mail) return c.notFound();
      return c.html(page("Unsubscribe", html`<p>The sender answered ${await this.unsubscribe(mail)}.</p>`));
    });
    app.post("/mail/:id/reply", async (c) => {
      const mail = this.mails.get(c.req.param("id"));
      const form = await c.req.parseBody();
      if (!mail) return c.notFound();
      await this.reply(mail, String(form.text ?? ""), await this.album.chosen(form), form.automatic === "yes");
      return c.html(
        page(
          "Sent",
          html`<p>Your reply is on its way.</p><p><a href="/box/${encodeURIComponent(mail.to)}">Back to the mailbox</a></p>`,
        ),
      );
    });
    this.album.serveOn(app);
    app.get("/report", (c) =>
      c.json({
        distinct: this.mails.size,
        repeats: this.repeats,
        ids: c.req.query("ids") ? [...this.mails.keys()] : undefined,
      }),
    );
    app.route("/", faultRoutes(this.faults));
    return app;
  }

  /** The one-click unsubscribe of RFC 8058, as a mail program does it; gives the sender's status. */
  async unsubscribe(mail: Mail): Promise<number> {
    const address = unsubscribeOf(mail.raw);
    if (!address) return 0;
    const response = await fetch(address, {
      method: "POST",
      headers: { "content-type": "application/x-www-form-urlencoded" },
      body: "List-Unsubscribe=One-Click",
    });
    await response.arrayBuffer();
    return response.status;
  }

  /** The owner of the mailbox writes back; `automatic` where their mail program does it by itself. */
  async reply(mail: Mail, text: string, pictures: string[] = [], automatic = false): Promise<void> {
    const read = await readMail(mail.raw);
    const to = read.replyTo?.value[0]?.address ?? mail.from;
    await this.hooks?.send("mail.received", {
      id: `reply-${mail.messageId}-${Buffer.from(text).toString("base64url").slice(0, 40)}`,
      from: mail.to,
      to,
      subject: `Re: ${read.subject ?? ""}`,
      text,
      pictures,
      automatic,
    });
  }

  /** The owner of a mailbox writes to somebody unasked. */
  async write(from: string, to: string, subject: string, text: string, pictures: string[] = []): Promise<void> {
    await this.hooks?.send("mail.received", { id: `new-${randomUUID()}@town`, from, to, subject, text, pictures });
  }

  async start(): Promise<void> {
    await new Promise<void>((done, fail) => {
      this.smtp.once("error", fail);
      this.smtp.listen(this.options.smtpPort, "127.0.0.1", () => done());
    });
    this.http = serve({ fetch: this.pages().fetch, port: this.options.httpPort, hostname: "127.0.0.1" });
  }

  async stop(): Promise<void> {
    this.http?.close();
    await new Promise<void>((done) => this.smtp.close(() => done()));
    await this.journal.close();
  }
}

function refuse(code: number, message: string): Error {
  return Object.assign(new Error(message), { responseCode: code });
}

function unsubscribeOf(raw: string): string | null {
  const header = /^list-unsubscribe:((?:.*\r?\n[ \t])*.*)$/im.exec(raw)?.[1] ?? "";
  return /<\s*(https?:[^>\s]+)\s*>/.exec(header.replace(/\r?\n[ \t]+/g, ""))?.[1] ?? null;
}

/** The links of a plain text made to be followed. */
export function linkify(text: string) {
  const parts = text.split(/(https?:\/\/[^\s]+)/g);
  return html`${parts.map((part) => (/^https?:/.test(part) ? html`<a href="${part}" target="_blank" rel="noopener">${part}</a>` : part))}`;
}
