import { createHash, randomUUID } from "node:crypto";
import { type ServerType, serve } from "@hono/node-server";
import { Hono } from "hono";
import { html } from "hono/html";
import { z } from "zod";
import { HookSender } from "./hooks";
import { Journal } from "./journal";
import { townPage, townTime } from "./page";
import type { TownClock } from "./townClock";
import { chanceFor, pick } from "./townsfolk/chance";

/**
 * The job software of the town: an appointment book for each business. It delivers events by signed webhook, offers a
 * calendar (RFC 5545) and a file at the end of each day, and has pages on which one can finish, cancel, miss and book
 * appointments. As the clock moves, its staff finish what is over and townsfolk book.
 */

export type Customer = {
  id: string;
  name: string;
  phone: string | null;
  email: string | null;
  birthDate?: string | null;
  guardian?: { name: string; phone: string | null; email: string | null } | null;
};
export type Status = "booked" | "finished" | "cancelled" | "missed";
export type Appointment = {
  id: string;
  book: string;
  customer: Customer;
  service: string;
  branch: string;
  staff: string;
  about: string | null;
  startsAt: number;
  endsAt: number;
  status: Status;
  changedAt: number;
};
export type Book = {
  slug: string;
  name: string;
  services: string[];
  branches: string[];
  staff: string[];
  about: string[] | null;
};

type BookEvent =
  | { kind: "book"; book: Book }
  | { kind: "appointment"; appointment: Appointment }
  | { kind: "connected"; slug: string; address: string; secret: string };

export type DaybookOptions = { port: number; townUrl: string; clock: TownClock; journal: string | null; seed: number };

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;

const connectInput = z.object({ address: z.url(), secret: z.string().min(10) });
const bookingInput = z.object({
  name: z.string().trim().min(1).max(80),
  reach: z.string().trim().min(3).max(120),
  service: z.string().min(1),
  minutes: z.coerce
    .number()
    .int()
    .min(-600)
    .max(14 * 24 * 60),
});

export class DaybookStandIn {
  readonly books = new Map<string, Book>();
  readonly appointments = new Map<string, Appointment>();
  private readonly senders = new Map<string, HookSender>();
  private readonly journal: Journal<BookEvent>;
  private http: ServerType | null = null;
  /** Which hours townsfolk have already thought about booking in. */
  private bookedUntil = 0;
  delivered = 0;

  constructor(private readonly options: DaybookOptions) {
    this.journal = new Journal(options.journal);
    this.journal.replay((event) => {
      if (event.kind === "book") this.books.set(event.book.slug, event.book);
      else if (event.kind === "connected") this.senders.set(event.slug, new HookSender(event.address, event.secret));
      else {
        this.appointments.set(event.appointment.id, event.appointment);
        this.bookedUntil = Math.max(this.bookedUntil, event.appointment.changedAt);
      }
    });
  }

  /** Opens a book. */
  open(book: Book): void {
    this.books.set(book.slug, book);
    this.journal.append({ kind: "book", book });
  }

  /** From now on, events of a book are delivered there. */
  connect(slug: string, address: string, secret: string): void {
    this.senders.set(slug, new HookSender(address, secret));
    this.journal.append({ kind: "connected", slug, address, secret });
  }

  /** Writes appointments in without telling anybody. */
  load(list: Appointment[]): void {
    for (const appointment of list) this.keep(appointment);
  }

  private keep(appointment: Appointment): void {
    this.appointments.set(appointment.id, appointment);
    this.journal.append({ kind: "appointment", appointment });
  }

  /** Changes an appointment and tells whoever is connected. */
  change(id: string, status: Status, at = this.options.clock.now()): Appointment | null {
    const before = this.appointments.get(id);
    if (!before) return null;
    // Who finishes early was finished early.
    const appointment = {
      ...before,
      status,
      changedAt: at,
      endsAt: status === "finished" ? Math.min(before.endsAt, at) : before.endsAt,
    };
    this.keep(appointment);
    this.tell(
      appointment,
      { booked: "visit.booked", finished: "visit.finished", cancelled: "visit.cancelled", missed: "visit.no_show" }[
        status
      ],
    );
    return appointment;
  }

  /** Books an appointment and tells whoever is connected. */
  book(appointment: Omit<Appointment, "id" | "status" | "changedAt">, at = this.options.clock.now()): Appointment {
    const fresh: Appointment = {
      ...appointment,
      id: `${appointment.book.slice(0, 2).toUpperCase()}-${randomUUID().slice(0, 8)}`,
      status: "booked",
      changedAt: at,
    };
    this.keep(fresh);
    this.tell(fresh, "visit.booked");
    return fresh;
  }

  private tell(it: Appointment, type: string): void {
    const { customer } = it;
    const data = {
      visit: {
        id: it.id,
        service: it.service,
        branch: it.branch,
        team_member: it.staff,
        about: it.about,
        ends_at: new Date(it.endsAt).toISOString(),
      },
      person: {
        id: customer.id,
        name: customer.name,
        phone: customer.phone,
        email: customer.email,
        birth_date: customer.birthDate ?? null,
        ...(customer.guardian ? { guardian: customer.guardian } : {}),
      },
    };
    void this.senders.get(it.book)?.send(type, data, 5, new Date(it.changedAt).toISOString());
    if (this.senders.has(it.book)) this.delivered += 1;
  }

  /** When something happens by itself next, or null. */
  next(): number | null {
    let next: number | null = null;
    for (const { status, endsAt } of this.appointments.values())
      if (status === "booked" && (next === null || endsAt < next)) next = endsAt;
    return next;
  }

  /**
   * Does what is due: what is over is finished or was missed, and somebody books for the days ahead. Gives how many
   * deeds.
   */
  actUntil(now: number): number {
    let acted = 0;
    const over = [...this.appointments.values()]
      .filter(({ status, endsAt }) => status === "booked" && endsAt <= now)
      .sort((a, b) => a.endsAt - b.endsAt);
    for (const appointment of over) {
      const chance = chanceFor(this.options.seed, `over ${appointment.id}`)();
      // Who is written in after the fact is finished after that.
      this.change(
        appointment.id,
        chance < 0.03 ? "missed" : "finished",
        Math.max(appointment.endsAt, appointment.changedAt + 1000),
      );
      acted += 1;
    }
    const from = this.bookedUntil === 0 ? now : this.bookedUntil;
    for (let hour = Math.floor(from / HOUR) + 1; hour * HOUR <= now && hour * HOUR > now - 2 * DAY; hour++)
      acted += this.somebodyBooks(hour * HOUR);
    this.bookedUntil = Math.max(this.bookedUntil, now);
    return acted;
  }

  /** In a waking hour, in each book, perhaps one of its customers books again. */
  private somebodyBooks(at: number): number {
    if (new Date(at).getUTCHours() < 8 || new Date(at).getUTCHours() > 20) return 0;
    let booked = 0;
    for (const book of this.books.values()) {
      const chance = chanceFor(this.options.seed, `books ${book.slug} ${at}`);
      if (chance() > 0.35) continue;
      const known = [...this.appointments.values()].filter((each) => each.book === book.slug);
      if (known.length === 0) continue;
      const like = pick(known, chance);
      const day = Math.floor(at / DAY) + 1 + Math.floor(chance() * 6);
      const startsAt = day * DAY + 9 * HOUR + Math.floor(chance() * 28) * 15 * MINUTE;
      this.book(
        {
          book: book.slug,
          customer: like.customer,
          service: pick(book.services, chance),
          branch: like.branch,
          staff: pick(book.staff, chance),
          about: like.about,
          startsAt,
          endsAt: startsAt + 30 * MINUTE,
        },
        at,
      );
      booked += 1;
    }
    return booked;
  }

  /** Resolves when nothing is on its way to Estima. */
  async settled(): Promise<void> {
    for (const sender of this.senders.values()) await sender.settled(true);
  }

  /** A book as a calendar. Cancelled appointments say so. */
  calendar(slug: string): string {
    const stamp = (at: number) => `${new Date(at).toISOString().replace(/[-:]/g, "").slice(0, 15)}Z`;
    const text = (value: string) => value.replace(/[\\;,]/g, "\\$&").replace(/\n/g, "\\n");
    const since = this.options.clock.now() - 7 * DAY;
    const events = [...this.appointments.values()]
      .filter((each) => each.book === slug && each.endsAt > since)
      .sort((a, b) => a.startsAt - b.startsAt)
      .map((each) =>
        [
          "BEGIN:VEVENT",
          `UID:${each.id}`,
          `DTSTAMP:${stamp(each.changedAt)}`,
          `DTSTART:${stamp(each.startsAt)}`,
          `DTEND:${stamp(each.endsAt)}`,
          `SUMMARY:${text(`${each.service}: ${each.customer.name}`)}`,
          `DESCRIPTION:${text([each.customer.phone ? `Phone: ${each.customer.phone}` : "", each.customer.email ? `Email: ${each.customer.email}` : ""].filter(Boolean).join("\n"))}`,
          `LOCATION:${text(each.branch)}`,
          `STATUS:${each.status === "cancelled" || each.status === "missed" ? "CANCELLED" : "CONFIRMED"}`,
          "END:VEVENT",
        ].join("\r\n"),
      );
    return ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//Merrow Bay//Daybook//EN", ...events, "END:VCALENDAR", ""].join(
      "\r\n",
    );
  }

  /** What ended in the last 24 hours, as the file that the program writes every evening: its own columns, day first. */
  endOfDay(slug: string): string {
    const now = this.options.clock.now();
    const local = (at: number, options: Intl.DateTimeFormatOptions) =>
      new Intl.DateTimeFormat("en-GB", { timeZone: "Europe/London", ...options }).format(at);
    const cell = (value: string) => (/[",\n]/.test(value) ? `"${value.replaceAll('"', '""')}"` : value);
    const rows = [...this.appointments.values()]
      .filter((each) => each.book === slug && each.endsAt <= now && each.endsAt > now - DAY)
      .sort((a, b) => a.endsAt - b.endsAt)
      .map((each) => [
        each.id,
        each.customer.name,
        each.customer.phone?.replace("+44", "0") ?? "",
        each.customer.email ?? "",
        local(each.endsAt, { day: "2-digit", month: "2-digit", year: "numeric" }),
        local(each.endsAt, { hour: "2-digit", minute: "2-digit" }),
        each.service,
        each.staff,
        { booked: "open", finished: "done", cancelled: "cancelled", missed: "no show" }[each.status],
      ]);
    return [
      ["Job no", "Customer", "Telephone", "E-mail", "Job date", "Finish time", "Job type", "Technician", "Job status"],
      ...rows,
    ]
      .map((row) => row.map(cell).join(","))
      .join("\r\n");
  }

  private app(): Hono {
    const app = new Hono();
    const { townUrl, clock } = this.options;
    const page = (title: string, body: ReturnType<typeof html>) =>
      townPage(title, townUrl, townTime(clock.now()), body);
    app.get("/", (c) =>
      c.html(
        page(
          "Daybook",
          html`<p>The appointment books of the town’s businesses. Finish, cancel or book something and watch it arrive in Estima.</p>
          ${[...this.books.values()].map((book) => html`<article><a href="/book/${book.slug}"><b>${book.name}</b></a><br>${[...this.appointments.values()].filter((each) => each.book === book.slug && each.status === "booked").length} booked${this.senders.has(book.slug) ? ", tells Estima at once" : ""}</article>`)}`,
        ),
      ),
    );
    app.get("/book/:slug", (c) => {
      const book = this.books.get(c.req.param("slug"));
      if (!book) return c.text("There is no such book.", 404);
      const now = clock.now();
      const from = Number(c.req.query("from") ?? "") || now - 3 * HOUR;
      const list = [...this.appointments.values()]
        .filter((each) => each.book === book.slug && each.endsAt >= from)
        .sort((a, b) => a.endsAt - b.endsAt);
      const act = (id: string, status: Status, words: string) =>
        html`<form method="post" action="/book/${book.slug}/${id}/${status}" style="display:inline"><button>${words}</button></form> `;
      return c.html(
        page(
          book.name,
          html`<p><a href="/book/${book.slug}/calendar.ics">calendar.ics</a> · <a href="/book/${book.slug}/end-of-day.csv">end-of-day.csv</a></p>
          <table><tr><th>Ends</th><th>Who</th><th>What</th><th></th></tr>
          ${list.slice(0, 40).map(
            (
              each,
            ) => html`<tr><td>${townTime(each.endsAt)}</td><td>${each.customer.name}<br><small>${each.customer.phone ?? each.customer.email ?? ""}</small></td><td>${each.about ? `${each.about}, ` : ""}${each.service}<br><small>${each.branch}, ${each.staff}</small></td>
            <td>${each.status === "booked" ? html`${act(each.id, "finished", "Finish")}${act(each.id, "cancelled", "Cancel")}${act(each.id, "missed", "No-show")}` : each.status}</td></tr>`,
          )}</table>
          <h2>Book</h2><form class="card" method="post" action="/book/${book.slug}">
            <p><label>Name<br><input name="name" required></label></p><p><label>Mobile or email<br><input name="reach" required></label></p>
            <p><label>Service<br><select name="service">${book.services.map((service) => html`<option>${service}</option>`)}</select></label></p>
            <p><label>Ends in how many minutes<br><input name="minutes" type="number" value="60" required></label></p><button>Book</button></form>`,
        ),
      );
    });
    app.post("/book/:slug", async (c) => {
      const book = this.books.get(c.req.param("slug"));
      const form = bookingInput.safeParse(await c.req.parseBody());
      if (!book) return c.text("There is no such book.", 404);
      if (!form.success) return c.text(form.error.issues[0].message, 422);
      const { name, reach, service, minutes } = form.data;
      const endsAt = clock.now() + minutes * MINUTE;
      const customer = {
        id: `walk-in ${reach}`,
        name,
        phone: reach.includes("@") ? null : reach,
        email: reach.includes("@") ? reach : null,
      };
      this.book({
        book: book.slug,
        customer,
        service,
        branch: book.branches[0],
        staff: book.staff[0],
        about: null,
        startsAt: endsAt - 30 * MINUTE,
        endsAt,
      });
      return c.redirect(`/book/${book.slug}`, 303);
    });
    app.post("/book/:slug/connect", async (c) => {
      const wanted = connectInput.safeParse(await c.req.json().catch(() => null));
      if (!wanted.success || !this.books.has(c.req.param("slug")))
        return c.json({ error: "Give address and secret of a feed, and a book that there is" }, 422);
      this.connect(c.req.param("slug"), wanted.data.address, wanted.data.secret);
      return c.json({ connected: true });
    });
    app.post("/book/:slug/:id/:status", (c) => {
      const status = z.enum(["booked", "finished", "cancelled", "missed"]).safeParse(c.req.param("status"));
      if (!status.success || !this.change(c.req.param("id"), status.data))
        return c.text("There is no such appointment.", 404);
      return c.redirect(`/book/${c.req.param("slug")}`, 303);
    });
    const conditional =
      (type: string, make: (slug: string) => string) => (slug: string, wanted: string | undefined) => {
        const body = make(slug);
        const etag = `"${createHash("sha256").update(body).digest("hex").slice(0, 20)}"`;
        if (wanted === etag) return new Response(null, { status: 304, headers: { etag } });
        return new Response(body, { headers: { "content-type": type, etag } });
      };
    const calendar = conditional("text/calendar; charset=utf-8", (slug) => this.calendar(slug));
    const endOfDay = conditional("text/csv; charset=utf-8", (slug) => this.endOfDay(slug));
    app.get("/book/:slug/calendar.ics", (c) => calendar(c.req.param("slug"), c.req.header("if-none-match")));
    app.get("/book/:slug/end-of-day.csv", (c) => endOfDay(c.req.param("slug"), c.req.header("if-none-match")));
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
