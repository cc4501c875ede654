import { randomUUID } from "node:crypto";
import { type ServerType, serve } from "@hono/node-server";
import { Hono } from "hono";
import { html } from "hono/html";
import { z } from "zod";
import { Album } from "./album";
import { Faults, faultRoutes } from "./faults";
import { HookSender } from "./hooks";
import { Journal } from "./journal";
import { linkify } from "./mail";
import { townPage, townTime } from "./page";
import type { TownClock } from "./townClock";

export type Text = {
  id: string;
  key: string;
  from: string;
  to: string;
  body: string;
  /** The address of the picture that came with it; null where it came without, or the phone takes none. */
  media?: string | null;
  /** The addresses of the pictures that the phone's owner sent with it. */
  pictures?: string[];
  at: number;
  direction: "out" | "in";
};
type TextEvent = { kind: "text"; text: Text } | { kind: "repeat"; key: string };

const outgoing = z.object({
  from: z.string().min(3).max(20),
  to: z.string().regex(/^\+[1-9]\d{6,14}$/, "to must be an E.164 number"),
  body: z.string().min(1).max(1600),
  reference: z.string().min(1).max(100),
  media: z
    .url({ protocol: /^https?$/, error: "media must be an address" })
    .max(1000)
    .optional(),
});

/** The largest picture that phones take. */
const MOST_MEDIA_BYTES = 600_000;

/** Whether a picture can be fetched from where a message says it is. */
async function canFetch(address: string): Promise<boolean> {
  try {
    const response = await fetch(address, { signal: AbortSignal.timeout(5_000), redirect: "error" });
    const isPicture = response.ok && /^image\/(?:jpeg|png|gif)$/.test(response.headers.get("content-type") ?? "");
    return (await response.arrayBuffer()).byteLength <= MOST_MEDIA_BYTES && isPicture;
  } catch {
    return false;
  }
}

export type TextOptions = {
  port: number;
  key: string;
  townUrl: string;
  clock: TownClock;
  journal: string | null;
  hook: { address: string; secret: string } | null;
  onText?: (text: Text) => void;
};

/**
 * The text gateway of the town, and the phones it reaches. It honours idempotency keys and reports by signed webhook.
 */
export class TextStandIn {
  readonly faults = new Faults();
  /** Numbers that belong to other customers of the gateway. */
  readonly numbersOfOthers = new Set<string>();
  readonly texts = new Map<string, Text>();
  repeats = 0;
  private readonly byPhone = new Map<string, Text[]>();
  private readonly journal: Journal<TextEvent>;
  readonly hooks: HookSender | null;
  readonly album: Album;
  private http: ServerType | null = null;

  constructor(private readonly options: TextOptions) {
    this.album = new Album(`http://127.0.0.1:${options.port}`);
    this.journal = new Journal(options.journal);
    this.journal.replay((event) => (event.kind === "text" ? this.keep(event.text) : this.repeats++));
    this.hooks = options.hook ? new HookSender(options.hook.address, options.hook.secret) : null;
  }

  private keep(text: Text): void {
    this.texts.set(text.key, text);
    const phone = text.direction === "out" ? text.to : text.from;
    const list = this.byPhone.get(phone) ?? [];
    list.push(text);
    this.byPhone.set(phone, list);
  }

  /** Everything on one phone, oldest first. */
  phone(number: string): Text[] {
    return this.byPhone.get(number) ?? [];
  }

  /** The owner of a phone writes to a number. */
  async write(from: string, to: string, body: string, pictures: string[] = []): Promise<void> {
    const text: Text = {
      id: randomUUID(),
      key: randomUUID(),
      from,
      to,
      body,
      ...(pictures.length > 0 ? { pictures } : {}),
      at: this.options.clock.now(),
      direction: "in",
    };
    this.keep(text);
    this.journal.append({ kind: "text", text });
    await this.hooks?.send("text.received", { id: text.id, from, to, body, pictures });
  }

  private app(): Hono {
    const app = new Hono();
    const { townUrl, clock, key } = this.options;
    const page = (title: string, body: ReturnType<typeof html>) =>
      townPage(title, townUrl, townTime(clock.now()), body);
    // Which numbers the gateway sends from. It has every number but those that belong to others.
    app.get("/numbers/:number", (c) => {
      if (c.req.header("authorization") !== `Bearer ${key}`) return c.json({ error: "The key is not known" }, 401);
      const number = c.req.param("number");
      if (!/^\+[1-9]\d{6,14}$/.test(number) || this.numbersOfOthers.has(number))
        return c.json({ error: "This number is not yours" }, 404);
      return c.json({ number });
    });
    app.post("/messages", async (c) => {
      if (c.req.header("authorization") !== `Bearer ${key}`) return c.json({ error: "The key is not known" }, 401);
      const parsed = outgoing.safeParse(await c.req.json().catch(() => null));
      if (!parsed.success) return c.json({ error: parsed.error.issues[0].message }, 400);
      const { to, reference, media } = parsed.data;
      // A phone without pictures, or a picture that cannot be fetched: the words go alone. Fetched before it is known
      // whether the message is a repeat: two of one key must not both be taken meanwhile.
      const takesPicture = media !== undefined && (await canFetch(media)) && !this.faults.take(to, ["no pictures"]);
      const idempotency = c.req.header("idempotency-key") ?? reference;
      const known = this.texts.get(idempotency);
      if (known) {
        this.repeats += 1;
        this.journal.append({ kind: "repeat", key: idempotency });
        return c.json({ id: known.id, repeated: true });
      }
      const fault = this.faults.take(to, ["bounce", "too many", "error", "down", "time out"]);
      if (fault === "bounce") return c.json({ error: "No phone has this number" }, 422);
      if (fault === "too many") return c.json({ error: "Too many messages at once" }, 429);
      if (fault === "error" || fault === "down") return c.json({ error: "Out of order" }, 500);
      const text: Text = {
        id: randomUUID(),
        key: idempotency,
        ...(media === undefined ? {} : { media: takesPicture ? media : null }),
        at: clock.now(),
        direction: "out",
        from: parsed.data.from,
        to,
        body: parsed.data.body,
      };
      this.keep(text);
      this.journal.append({ kind: "text", text });
      // Taken, but the answer never comes: the caller has to try again with the same key.
      if (fault === "time out") return new Promise<Response>(() => {});
      if (this.faults.take(to, ["late bounce"]))
        this.hooks?.send("text.undelivered", { reference, reason: "The phone could not be reached" });
      else {
        if (!this.faults.take(to, ["drop receipt"]))
          this.hooks?.send("text.delivered", {
            reference,
            at: new Date(this.options.clock.now()).toISOString(),
            ...(media === undefined ? {} : { media: takesPicture ? "delivered" : "left out" }),
          });
        this.options.onText?.(text);
      }
      return c.json({ id: text.id }, 202);
    });
    app.get("/", (c) => {
      const wanted = (c.req.query("q") ?? "").replace(/[^\d]/g, "");
      const phones = [...this.byPhone.entries()]
        .filter(([number]) => number.includes(wanted))
        .sort((a, b) => (b[1].at(-1)?.at ?? 0) - (a[1].at(-1)?.at ?? 0));
      return c.html(
        page(
          "Phones",
          html`<form><label>Number contains <input name="q" value="${wanted}"></label> <button>Find</button></form>
        <p>${phones.length} phones, ${this.texts.size} texts.</p><table><tr><th>Phone</th><th>Texts</th><th>Last</th></tr>
        ${phones.slice(0, 100).map(([number, texts]) => html`<tr><td><a href="/phone/${encodeURIComponent(number)}">${number}</a></td><td>${texts.length}</td><td>${townTime(texts.at(-1)?.at ?? 0)}</td></tr>`)}</table>
        <h2>Write from any phone</h2><form class="card" method="post" action="/write" enctype="multipart/form-data"><p><label>From <input name="from" placeholder="+447700900123" required></label> <label>to <input name="to" placeholder="+441632960100" required></label></p><label>Words<br><textarea name="body"></textarea></label>${this.album.fields}<button>Send</button></form>`,
        ),
      );
    });
    app.get("/phone/:number", (c) => {
      const number = c.req.param("number");
      const texts = this.phone(number);
      const partners = [
        ...new Set(texts.map(({ direction, from, to }) => (direction === "out" ? from : to))),
      ].reverse();
      return c.html(
        page(
          `Phone ${number}`,
          html`${texts.map((text) => html`<div class="bubble ${text.direction === "out" ? "in" : "out"}"><small>${text.direction === "out" ? `from ${text.from}` : `to ${text.to}`} · ${townTime(text.at)}</small><br>${[text.media, ...(text.pictures ?? [])].map((picture) => (picture ? html`<img src="${picture}" alt="The picture of this message" width="240"><br>` : ""))}${linkify(text.body)}</div>`)}
        <form class="card" method="post" enctype="multipart/form-data"><p><label>Write to <select name="to">${partners.map((partner) => html`<option>${partner}</option>`)}</select></label></p><label>Words<br><textarea name="body"></textarea></label>${this.album.fields}<button>Send</button></form>`,
        ),
      );
    });
    const writeFrom = async (number: string, form: Record<string, unknown>) => {
      const [to, body] = [String(form.to ?? "").trim(), String(form.body ?? "").trim()];
      const pictures = await this.album.chosen(form);
      if (to && number && (body || pictures.length > 0)) await this.write(number, to, body, pictures);
    };
    app.post("/phone/:number", async (c) => {
      const number = c.req.param("number");
      await writeFrom(number, await c.req.parseBody());
      return c.redirect(`/phone/${encodeURIComponent(number)}`, 303);
    });
    app.post("/write", async (c) => {
      const form = await c.req.parseBody();
      const number = String(form.from ?? "").trim();
      await writeFrom(number, form);
      return c.redirect(number ? `/phone/${encodeURIComponent(number)}` : "/", 303);
    });
    this.album.serveOn(app);
    app.get("/report", (c) => c.json({ distinct: this.texts.size, repeats: this.repeats }));
    app.route("/", faultRoutes(this.faults));
    return app;
  }

  async start(): Promise<void> {
    this.http = serve({ fetch: this.app().fetch, port: this.options.port, hostname: "127.0.0.1" });
  }

  async stop(): Promise<void> {
    this.http?.close();
    await this.journal.close();
  }
}
