import { createHmac, randomUUID } from "node:crypto";
import { type ServerType, serve } from "@hono/node-server";
import { Hono } from "hono";
import { html } from "hono/html";
import { z } from "zod";
import { Faults, faultRoutes, givenUp } from "./faults";
import { HookSender } from "./hooks";
import { Journal } from "./journal";
import { townPage, townTime } from "./page";
import { addressOf, type Place, searchPlaces } from "./places";
import type { TownClock } from "./townClock";

export type SiteReview = {
  id: string;
  place: string;
  author: string;
  stars: number;
  words: string;
  at: number;
  changedAt: number;
  change: number;
  deleted: boolean;
  reply: { words: string; at: number } | null;
  /** Somebody reported it: it stays until the site has looked. */
  reported?: boolean;
};
type SiteEvent = { kind: "review"; review: SiteReview } | { kind: "hook"; slug: string; hook: Hook | null };

/** Where a place's owner is told of new reviews. */
type Hook = { address: string; secret: string };
const hookInput = z.object({ address: z.url(), secret: z.string().min(24) });

const written = z.object({
  author: z.string().trim().min(1, "A name is needed").max(80),
  stars: z.coerce.number().int().min(1, "Choose one to five stars").max(5, "Choose one to five stars"),
  words: z.string().trim().max(5000).default(""),
});

export type WaypostOptions = {
  port: number;
  secret: string;
  townUrl: string;
  clock: TownClock;
  journal: string | null;
  places: Place[];
};

/** The key with which a business reaches its own place, derived so that every start of the town agrees. */
export function placeKey(secret: string, slug: string): string {
  return createHmac("sha256", secret).update(slug).digest("base64url");
}

/** Waypost: a review site with one to five stars and one reply of the business to each review. */
export class WaypostStandIn {
  readonly faults = new Faults();
  readonly reviews = new Map<string, SiteReview>();
  private changes = 0;
  private readonly journal: Journal<SiteEvent>;
  private readonly hooks = new Map<string, HookSender>();
  private http: ServerType | null = null;

  constructor(private readonly options: WaypostOptions) {
    this.journal = new Journal(options.journal);
    this.journal.replay((event) => {
      if (event.kind === "hook") this.setHook(event.slug, event.hook);
      else {
        this.reviews.set(event.review.id, event.review);
        this.changes = Math.max(this.changes, event.review.change);
      }
    });
  }

  private setHook(slug: string, hook: Hook | null): void {
    if (hook) this.hooks.set(slug, new HookSender(hook.address, hook.secret));
    else this.hooks.delete(slug);
  }

  /** Resolves when nobody is on the way to be told any more. */
  async settled(): Promise<void> {
    await Promise.all([...this.hooks.values()].map((hook) => hook.settled()));
  }

  /** Writes a review as somebody at the page would; `at` may lie in the past. */
  write(place: string, it: { author: string; stars: number; words: string }, at: number): SiteReview {
    const review = this.put({
      ...it,
      id: `wp-${randomUUID()}`,
      place,
      at,
      changedAt: at,
      deleted: false,
      reply: null,
    });
    void this.hooks.get(place)?.send("review.written", { place, review: review.id }, 3);
    return review;
  }

  /** Keeps a review as it stands now. */
  put(review: Omit<SiteReview, "change">): SiteReview {
    this.changes += 1;
    const kept = { ...review, change: this.changes };
    this.reviews.set(kept.id, kept);
    this.journal.append({ kind: "review", review: kept });
    return kept;
  }

  private of(place: string): SiteReview[] {
    return [...this.reviews.values()]
      .filter((review) => review.place === place && !review.deleted)
      .sort((a, b) => b.at - a.at);
  }

  private app(): Hono {
    const app = new Hono();
    const { townUrl, clock, secret, places } = this.options;
    const page = (title: string, body: ReturnType<typeof html>) =>
      townPage(title, townUrl, townTime(clock.now()), body);
    const nameOf = (slug: string) => places.find((place) => place.slug === slug)?.name;
    app.get("/", (c) =>
      c.html(
        page(
          "Waypost",
          html`<p>What people in Merrow Bay say.</p>${places.map(({ slug, name }) => html`<article><a href="/places/${slug}">${name}</a> · ${average(this.of(slug))}</article>`)}`,
        ),
      ),
    );
    app.get("/places/:slug", (c) => {
      const slug = c.req.param("slug");
      const name = nameOf(slug);
      if (!name) return c.notFound();
      const list = this.of(slug);
      return c.html(
        page(
          `${name} on Waypost`,
          html`<p>${average(list)}</p>
        <form class="card" method="post"><h2>Write a review</h2>
        <p><label>Your name<br><input name="author" required maxlength="80"></label></p>
        <p><label>Stars <select name="stars" required><option value="">Choose</option>${[5, 4, 3, 2, 1].map((n) => html`<option value="${n}">${n}</option>`)}</select></label></p>
        <p><label>Your words<br><textarea name="words" maxlength="5000"></textarea></label></p><button>Publish</button></form>
        ${list.slice(0, 60).map(
          (
            review,
          ) => html`<article id="${review.id}"><b>${review.author}</b> · ${"★".repeat(review.stars)}${"☆".repeat(5 - review.stars)} · <small>${townTime(review.at)}</small>
          <div>${review.words}</div>${review.reply ? html`<blockquote><small>The owner replied, ${townTime(review.reply.at)}</small><br>${review.reply.words}</blockquote>` : ""}</article>`,
        )}`,
        ),
      );
    });
    app.post("/places/:slug", async (c) => {
      const slug = c.req.param("slug");
      if (!nameOf(slug)) return c.notFound();
      const parsed = written.safeParse(await c.req.parseBody());
      if (!parsed.success)
        return c.html(page("That did not work", html`<p>${parsed.error.issues[0].message}.</p>`), 422);
      const review = this.write(slug, parsed.data, clock.now());
      return c.redirect(`/places/${slug}#${review.id}`, 303);
    });

    app.get("/places/:slug/owner", (c) => {
      const slug = c.req.param("slug");
      const name = nameOf(slug);
      if (!name) return c.notFound();
      return c.html(
        page(
          `For the owner of ${name}`,
          html`<p>With this key a program reads the reviews of this place and replies in its name.</p><article><code id="key">${placeKey(secret, slug)}</code></article>`,
        ),
      );
    });
    app.get("/api/search", (c) =>
      c.json({
        places: searchPlaces(places, c.req.query("name") ?? "", c.req.query("town") ?? "").map((place) => {
          const own = this.of(place.slug);
          return {
            id: place.slug,
            name: place.name,
            address: addressOf(place),
            stars: own.length === 0 ? null : own.reduce((sum, { stars }) => sum + stars, 0) / own.length,
            reviews: own.length,
            url: `http://127.0.0.1:${this.options.port}/places/${place.slug}`,
          };
        }),
      }),
    );
    const owner = (slug: string, header: string | undefined) =>
      !!nameOf(slug) && header === `Bearer ${placeKey(secret, slug)}`;
    app.get("/api/places/:slug/reviews", async (c) => {
      const slug = c.req.param("slug");
      if (!owner(slug, c.req.header("authorization")))
        return c.json({ error: "The key does not open this place" }, 401);
      const fault = this.faults.take(slug, ["too many", "error", "down", "time out", "half a page", "repeat"]);
      if (fault === "time out") await givenUp(c.req.raw);
      if (fault === "too many") return c.json({ error: "Too many requests" }, 429, { "retry-after": "90" });
      if (fault === "error" || fault === "down") return c.json({ error: "Out of order" }, 500);
      const since = Number(c.req.query("since") || 0);
      if (!Number.isInteger(since) || since < 0) return c.json({ error: "since is not a cursor" }, 400);
      const found = [...this.reviews.values()]
        .filter((review) => review.place === slug && review.change > since)
        .sort((a, b) => a.change - b.change);
      const part = found.slice(0, 100);
      const shown = fault === "repeat" ? [...part, ...part.slice(0, 2)] : part;
      const body = JSON.stringify({
        reviews: shown.map((review) => ({
          id: review.id,
          author: review.author,
          stars: review.stars,
          words: review.words,
          writtenAt: new Date(review.at).toISOString(),
          changedAt: new Date(review.changedAt).toISOString(),
          deleted: review.deleted,
          reported: review.reported ?? false,
          reply: review.reply && { words: review.reply.words, at: new Date(review.reply.at).toISOString() },
        })),
        cursor: String(part.at(-1)?.change ?? since),
        more: found.length > part.length,
      });
      return c.body(fault === "half a page" ? body.slice(0, body.length / 2) : body, 200, {
        "content-type": "application/json",
      });
    });
    app.put("/api/places/:slug/hook", async (c) => {
      const slug = c.req.param("slug");
      if (!owner(slug, c.req.header("authorization")))
        return c.json({ error: "The key does not open this place" }, 401);
      const hook = hookInput.safeParse(await c.req.json().catch(() => null));
      if (!hook.success) return c.json({ error: hook.error.issues[0].message }, 400);
      this.setHook(slug, hook.data);
      this.journal.append({ kind: "hook", slug, hook: hook.data });
      return c.json({ ok: true });
    });
    app.put("/api/places/:slug/reviews/:id/reply", async (c) => {
      const slug = c.req.param("slug");
      if (!owner(slug, c.req.header("authorization")))
        return c.json({ error: "The key does not open this place" }, 401);
      const fault = this.faults.take(slug, ["too many", "error", "down", "taken"]);
      if (fault === "too many") return c.json({ error: "Too many requests" }, 429, { "retry-after": "90" });
      if (fault && fault !== "taken") return c.json({ error: "Out of order" }, 500);
      const body = z
        .object({ words: z.string().trim().min(1).max(4000) })
        .safeParse(await c.req.json().catch(() => null));
      if (!body.success) return c.json({ error: "words must hold 1 to 4,000 characters" }, 400);
      const review = this.reviews.get(c.req.param("id"));
      if (!review || review.place !== slug || review.deleted) return c.json({ error: "No such review" }, 404);
      const at = clock.now();
      this.put({ ...review, changedAt: at, reply: { words: body.data.words, at } });
      // Kept, and nobody told: the line broke before the receipt.
      return fault === "taken" ? c.json({ error: "Out of order" }, 500) : c.json({ ok: true });
    });
    app.delete("/api/places/:slug/reviews/:id/reply", (c) => {
      const slug = c.req.param("slug");
      if (!owner(slug, c.req.header("authorization")))
        return c.json({ error: "The key does not open this place" }, 401);
      const review = this.reviews.get(c.req.param("id"));
      if (!review || review.place !== slug || review.deleted) return c.json({ error: "No such review" }, 404);
      this.put({ ...review, changedAt: clock.now(), reply: null });
      return c.json({ ok: true });
    });
    // The author's own doings, for the demo and the tests.
    app.patch("/api/reviews/:id", async (c) => {
      const review = this.reviews.get(c.req.param("id"));
      const body = written
        .partial()
        .extend({ reported: z.boolean().optional() })
        .safeParse(await c.req.json().catch(() => null));
      if (!review || !body.success) return c.json({ error: "No such review, or nonsense" }, 404);
      return c.json(this.put({ ...review, ...body.data, changedAt: clock.now() + 1 }));
    });
    app.delete("/api/reviews/:id", (c) => {
      const review = this.reviews.get(c.req.param("id"));
      if (!review) return c.json({ error: "No such review" }, 404);
      return c.json(this.put({ ...review, deleted: true, changedAt: clock.now() }));
    });
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

function average(list: SiteReview[]): string {
  if (list.length === 0) return "no reviews yet";
  const mean = list.reduce((sum, { stars }) => sum + stars, 0) / list.length;
  return `${mean.toFixed(1)} of 5 from ${list.length} ${list.length === 1 ? "review" : "reviews"}`;
}
