import { randomUUID } from "node:crypto";
import { Hono } from "hono";
import { html } from "hono/html";
import { z } from "zod";
import { Faults, faultRoutes, givenUp } from "./faults";
import { townPage, townTime } from "./page";
import { addressOf, type Place, searchPlaces } from "./places";
import { type BookEntry, SiteBook } from "./siteBook";
import type { TownClock } from "./townClock";
import { pastOf } from "./townsfolk/past";

export type TenfoldReview = BookEntry & { author: string; points: number; words: string; deleted: boolean };

const written = z.object({
  author: z.string().trim().min(1, "A name is needed").max(80),
  points: z.coerce
    .number("Give points")
    .min(1, "Points run from 1")
    .max(10, "Points run to 10")
    .transform((points) => Math.round(points * 10) / 10),
  words: z.string().trim().max(20_000).default(""),
});

const PAGE = 50;

/** Tenfold: points from 1 to 10 in tenths, no replies; read by pages of 50 with an ETag, so many calls a minute. */
export class TenfoldStandIn {
  readonly book: SiteBook<TenfoldReview>;
  readonly faults = new Faults();
  /** Calls that are still allowed in this minute. */
  private calls = { minute: 0, left: 0 };

  constructor(
    private readonly options: {
      townUrl: string;
      clock: TownClock;
      journal: string | null;
      places: Place[];
      seed: number;
      /** How many reviews a place has from before anybody looked. */
      history: number;
      /** Calls that it answers in a minute of real time. */
      callsAMinute: number;
    },
  ) {
    this.book = new SiteBook(options.journal);
  }

  write(place: string, it: { author: string; points: number; words: string }, at: number): TenfoldReview {
    return this.book.put({
      ...it,
      id: `t-${randomUUID()}`,
      place,
      at,
      changedAt: this.options.clock.now(),
      deleted: false,
    });
  }

  /** What people wrote in the two years before anybody looked. */
  private remember(place: string): void {
    const { history, seed, clock } = this.options;
    if (history === 0 || [...this.book.entries.values()].some((entry) => entry.place === place)) return;
    for (const { author, isHappy, much, words, at } of pastOf(seed, `tenfold ${place}`, history, clock.now()))
      this.write(
        place,
        { author, points: Math.round((isHappy ? 7.5 + much * 2.5 : 1.5 + much * 5) * 10) / 10, words },
        at,
      );
  }

  private of(place: string): TenfoldReview[] {
    this.remember(place);
    return this.book.of(place).filter(({ deleted }) => !deleted);
  }

  routes(): Hono {
    const app = new Hono();
    const { townUrl, clock, places } = this.options;
    const page = (title: string, body: ReturnType<typeof html>) =>
      townPage(title, townUrl, townTime(clock.now()), body);
    const nameOf = (slug: string) => places.find((place) => place.slug === slug)?.name;
    const average = (list: TenfoldReview[]) =>
      list.length === 0
        ? null
        : Math.round((10 * list.reduce((sum, { points }) => sum + points, 0)) / list.length) / 10;
    app.get("/places/:slug", (c) => {
      const slug = c.req.param("slug");
      const name = nameOf(slug);
      if (!name) return c.notFound();
      const list = this.of(slug);
      return c.html(
        page(
          `${name} on Tenfold`,
          html`<p>${average(list) ?? "no points yet"}${list.length > 0 ? ` of 10 from ${list.length} people` : ""}</p>
          <form class="card" method="post"><h2>Give points</h2><p><label>Your name<br><input name="author" required maxlength="80"></label></p>
          <p><label>Points, 1 to 10 <input name="points" type="number" min="1" max="10" step="0.1" required></label></p>
          <p><label>Your words<br><textarea name="words" maxlength="5000"></textarea></label></p><button>Publish</button></form>
          ${list.slice(0, 60).map(({ id, author, points, words, at }) => html`<article id="${id}"><b>${author}</b> ${points.toFixed(1)} · <small>${townTime(at)}</small><div>${words}</div></article>`)}`,
        ),
      );
    });
    app.post("/places/:slug", async (c) => {
      const slug = c.req.param("slug");
      if (!nameOf(slug)) return c.notFound();
      const body = await c.req.parseBody();
      const parsed = written.safeParse(body.stars ? { ...body, points: Number(body.stars) * 2 } : body);
      if (!parsed.success)
        return c.html(page("That did not work", html`<p>${parsed.error.issues[0].message}.</p>`), 422);
      const review = this.write(slug, parsed.data, clock.now());
      return c.redirect(`/tenfold/places/${slug}#${review.id}`, 303);
    });
    app.get("/api/search", (c) =>
      c.json({
        results: searchPlaces(places, c.req.query("q") ?? "", c.req.query("town") ?? "").map((place) => {
          const own = this.of(place.slug);
          return {
            place: place.slug,
            name: place.name,
            address: addressOf(place),
            points: average(own),
            reviews: own.length,
            page: `${townUrl}/tenfold/places/${place.slug}`,
          };
        }),
      }),
    );
    app.get("/api/places/:slug/reviews", async (c) => {
      const slug = c.req.param("slug");
      if (!nameOf(slug)) return c.json({ error: "no such place" }, 404);
      const minute = Math.floor(Date.now() / 60_000);
      if (this.calls.minute !== minute) this.calls = { minute, left: this.options.callsAMinute };
      const reset = 60 - Math.floor((Date.now() % 60_000) / 1000);
      const limits = (left: number) => ({
        "x-ratelimit-limit": String(this.options.callsAMinute),
        "x-ratelimit-remaining": String(left),
        "x-ratelimit-reset": String(reset),
      });
      const fault = this.faults.take(slug, ["too many", "error", "down", "time out", "half a page", "repeat"]);
      if (fault === "time out") await givenUp(c.req.raw);
      if (fault === "error" || fault === "down") return c.json({ error: "out of order" }, 500);
      if (fault === "too many" || this.calls.left <= 0)
        return c.json({ error: "too many calls" }, 429, { ...limits(0), "retry-after": String(reset) });
      this.calls.left -= 1;
      const number = Number(c.req.query("page") ?? 1);
      if (!Number.isInteger(number) || number < 1) return c.json({ error: "page is no number" }, 400);
      const list = this.of(slug);
      const etag = `"${slug}-${this.book.since(slug, 0).at(-1)?.change ?? 0}"`;
      if (c.req.header("if-none-match") === etag) return c.body(null, 304, { etag, ...limits(this.calls.left) });
      const part = list.slice((number - 1) * PAGE, number * PAGE);
      const shown = fault === "repeat" ? [...part, ...list.slice(0, 2)] : part;
      const body = JSON.stringify({
        reviews: shown.map(({ id, author, points, words, at, changedAt }) => ({
          id,
          name: author,
          points,
          comment: words,
          date: Math.floor(at / 1000),
          updated: Math.floor(changedAt / 1000),
        })),
        pages: Math.ceil(list.length / PAGE),
        total: list.length,
      });
      return c.body(fault === "half a page" ? body.slice(0, body.length / 2) : body, 200, {
        "content-type": "application/json",
        etag,
        ...limits(this.calls.left),
      });
    });
    app.route("/", faultRoutes(this.faults));
    return app;
  }

  close(): Promise<void> {
    return this.book.close();
  }
}
