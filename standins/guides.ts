import { createHash, createHmac, randomUUID } from "node:crypto";
import { type Context, Hono } from "hono";
import { html } from "hono/html";
import { z } from "zod";
import { Faults, faultRoutes, givenUp } from "./faults";
import { townPage, townTime } from "./page";
import { addressOf, type Place, searchPlaces } from "./places";
import { type BookEntry, SiteBook } from "./siteBook";
import type { TownClock } from "./townClock";
import { pastOf } from "./townsfolk/past";

export type GuideEntry = BookEntry & {
  guide: string;
  author: string;
  words: string;
  likes: boolean;
  /** Reported ones are looked into, and stay; removed ones are gone. */
  state: "shown" | "reported" | "removed";
  answer: { words: string; at: number } | null;
};

const written = z.object({
  author: z.string().trim().min(1, "A name is needed").max(80),
  likes: z.enum(["yes", "no"], "Say whether you recommend it").transform((answer) => answer === "yes"),
  words: z.string().trim().max(20_000).default(""),
});

/** Guides of the town: recommend or not. The Pawprint Guide has pages only; Commons has an interface as well. */
export const GUIDES = { commons: "Commons", pawprint: "Pawprint Guide" } as const;

const HOUR = 3_600_000;
const CODE_LIVES = 600_000;
const ANSWER_MOST = 1000;
const PAGE = 100;

export type GuideOptions = {
  townUrl: string;
  clock: TownClock;
  journal: string | null;
  places: Place[];
  seed: number;
  /** How many entries a page of Commons has from before anybody looked. */
  history: number;
  /** Signs the tokens of Commons; the application's own secret is derived from it. */
  secret: string;
};

/** The secret by which Commons knows Estima. */
export function commonsSecret(secret: string): string {
  return createHmac("sha256", secret).update("commons application").digest("base64url");
}
export const COMMONS_CLIENT = "estima";

type Grant = { account: string; refresh: string; access: string; until: number };
type Code = { account: string; redirect: string; challenge: string; until: number };

/** The business that looks after a place: its name before the branch. */
const accountOf = (place: Place) => place.name.split(",")[0].trim();

export class GuideStandIn {
  readonly book: SiteBook<GuideEntry>;
  readonly faults = new Faults();
  private readonly codes = new Map<string, Code>();
  private readonly grants = new Set<Grant>();
  /** Keys of answers that were posted, with what was answered to them. */
  private readonly posted = new Map<string, string>();

  constructor(private readonly options: GuideOptions) {
    this.book = new SiteBook(options.journal, (raw) => ({
      ...raw,
      changedAt: raw.changedAt ?? raw.at,
      state: raw.state ?? "shown",
      answer: raw.answer ?? null,
    }));
  }

  /** What people wrote at a page of Commons before anybody looked. */
  private remember(place: string): void {
    const { history, seed, clock } = this.options;
    if (history === 0 || this.book.of(place).some(({ guide }) => guide === "commons")) return;
    for (const { author, isHappy, words, at } of pastOf(seed, `commons ${place}`, history, clock.now()))
      this.write("commons", place, { author, likes: isHappy, words }, at);
  }

  private of(guide: string, place: string): GuideEntry[] {
    if (guide === "commons") this.remember(place);
    return this.book.of(place).filter((entry) => entry.guide === guide && entry.state !== "removed");
  }

  /** Writes an entry as somebody at the page would. */
  write(guide: string, place: string, it: { author: string; words: string; likes: boolean }, at: number): GuideEntry {
    return this.book.put({
      ...it,
      id: `g-${randomUUID()}`,
      guide,
      place,
      at,
      changedAt: this.options.clock.now(),
      state: "shown",
      answer: null,
    });
  }

  private page(title: string, body: ReturnType<typeof html>) {
    const { townUrl, clock } = this.options;
    return townPage(title, townUrl, townTime(clock.now()), body);
  }

  /** Pages under `/guides/<guide>/<place>`. */
  routes(): Hono {
    const app = new Hono();
    const find = (guide: string, slug: string) => {
      const name = this.options.places.find((place) => place.slug === slug)?.name;
      return guide in GUIDES && name ? { guide: GUIDES[guide as keyof typeof GUIDES], name } : null;
    };
    app.get("/:guide/:place", (c) => {
      const { guide, place } = c.req.param();
      const found = find(guide, place);
      if (!found) return c.notFound();
      return c.html(
        this.page(
          `${found.name} in ${found.guide}`,
          html`<form class="card" method="post"><h2>Tell others</h2><p><label>Your name<br><input name="author" required maxlength="80"></label></p>
          <p><label>Do you recommend it? <select name="likes" required><option value="">Choose</option><option value="yes">Yes</option><option value="no">No</option></select></label></p>
          <p><label>Your words<br><textarea name="words" maxlength="5000"></textarea></label></p><button>Publish</button></form>
          ${this.of(guide, place)
            .slice(0, 60)
            .map(
              ({ id, author, likes, words, at, answer }) =>
                html`<article id="${id}"><b>${author}</b> ${likes ? "recommends it" : "does not recommend it"} · <small>${townTime(at)}</small><div>${words}</div>${answer ? html`<blockquote><small>From the business, ${townTime(answer.at)}</small><br>${answer.words}</blockquote>` : ""}</article>`,
            )}`,
        ),
      );
    });
    app.post("/:guide/:place", async (c) => {
      const { guide, place } = c.req.param();
      if (!find(guide, place)) return c.notFound();
      const body = await c.req.parseBody();
      // The townsfolk speak in stars everywhere; here that is a yes or a no.
      const parsed = written.safeParse(body.stars ? { ...body, likes: Number(body.stars) >= 4 ? "yes" : "no" } : body);
      if (!parsed.success)
        return c.html(this.page("That did not work", html`<p>${parsed.error.issues[0].message}.</p>`), 422);
      const entry = this.write(guide, place, parsed.data, this.options.clock.now());
      return c.redirect(`/guides/${guide}/${place}#${entry.id}`, 303);
    });
    return app;
  }

  /** Ends every sign-in of an account, as its owner may at Commons. */
  withdraw(account: string): void {
    for (const grant of this.grants) if (grant.account === account) this.grants.delete(grant);
  }

  /** The account that a request's token opens, if it still does. */
  private signedIn(c: Context): string | null {
    const token = c.req.header("authorization")?.replace(/^Bearer /, "");
    for (const grant of this.grants)
      if (grant.access === token && grant.until > this.options.clock.now()) return grant.account;
    return null;
  }

  private grant(account: string): Response {
    const grant = { account, refresh: randomUUID(), access: randomUUID(), until: this.options.clock.now() + HOUR };
    this.grants.add(grant);
    return Response.json({
      access_token: grant.access,
      token_type: "Bearer",
      expires_in: HOUR / 1000,
      refresh_token: grant.refresh,
      account,
    });
  }

  /** The interface of Commons, under `/commons`: OAuth 2 with PKCE (RFC 6749, RFC 7636), entries by change, answers. */
  commons(): Hono {
    const app = new Hono();
    const { clock, places } = this.options;
    const accounts = [...new Set(places.map(accountOf))];
    const asked = z.object({
      response_type: z.literal("code"),
      client_id: z.literal(COMMONS_CLIENT),
      redirect_uri: z.url(),
      state: z.string().min(8),
      code_challenge: z.string().min(43).max(128),
      code_challenge_method: z.literal("S256"),
    });
    app.get("/authorize", (c) => {
      const read = asked.safeParse(c.req.query());
      if (!read.success)
        return c.html(this.page("Commons cannot do that", html`<p>${read.error.issues[0].message}</p>`), 400);
      const fields = Object.entries(read.data).map(
        ([name, value]) => html`<input type="hidden" name="${name}" value="${value}">`,
      );
      return c.html(
        this.page(
          "Sign in to Commons",
          html`<form class="card" method="post"><p>Estima asks to read what people write about your pages, and to answer in your name.</p>${fields}
          <p><label>You look after <select name="account">${accounts.map((name) => html`<option>${name}</option>`)}</select></label></p>
          <button name="say" value="allow">Allow</button> <button name="say" value="deny">Do not allow</button></form>`,
        ),
      );
    });
    app.post("/authorize", async (c) => {
      const body = await c.req.parseBody();
      const read = asked.safeParse(body);
      const account = String(body.account ?? "");
      if (!read.success) return c.json({ error: "invalid_request" }, 400);
      const back = new URL(read.data.redirect_uri);
      back.searchParams.set("state", read.data.state);
      if (body.say !== "allow" || !accounts.includes(account)) back.searchParams.set("error", "access_denied");
      else {
        const code = randomUUID();
        this.codes.set(code, {
          account,
          redirect: read.data.redirect_uri,
          challenge: read.data.code_challenge,
          until: Date.now() + CODE_LIVES,
        });
        back.searchParams.set("code", code);
      }
      return c.redirect(back.href, 303);
    });
    app.post("/token", async (c) => {
      const fault = this.faults.take("token", ["error", "down"]);
      if (fault) return c.json({ error: "server_error" }, 500);
      const body = Object.fromEntries(Object.entries(await c.req.parseBody()).map(([key, value]) => [key, `${value}`]));
      if (body.client_id !== COMMONS_CLIENT || body.client_secret !== commonsSecret(this.options.secret))
        return c.json({ error: "invalid_client" }, 401);
      if (body.grant_type === "authorization_code") {
        const code = this.codes.get(body.code ?? "");
        this.codes.delete(body.code ?? "");
        const challenge = createHash("sha256")
          .update(body.code_verifier ?? "")
          .digest("base64url");
        if (!code || code.until < Date.now() || code.redirect !== body.redirect_uri || code.challenge !== challenge)
          return c.json({ error: "invalid_grant" }, 400);
        return this.grant(code.account);
      }
      const grant = [...this.grants].find(({ refresh }) => refresh === body.refresh_token);
      if (body.grant_type !== "refresh_token" || !grant) return c.json({ error: "invalid_grant" }, 400);
      // Each refreshing gives new tokens and ends the old ones.
      this.grants.delete(grant);
      return this.grant(grant.account);
    });
    app.get("/api/search", (c) =>
      c.json({
        pages: searchPlaces(places, c.req.query("name") ?? "", c.req.query("town") ?? "").map((place) => {
          const own = this.of("commons", place.slug);
          return {
            id: place.slug,
            title: place.name,
            address: addressOf(place),
            recommended: own.filter(({ likes }) => likes).length,
            entries: own.length,
            link: `${this.options.townUrl}/guides/commons/${place.slug}`,
          };
        }),
      }),
    );
    const opened = (c: Context, slug: string): Response | null => {
      if (this.faults.take(slug, ["withdrawn"])) this.withdraw(this.signedIn(c) ?? "");
      const account = this.signedIn(c);
      if (!account) return c.json({ error: "invalid_token" }, 401);
      const place = places.find((each) => each.slug === slug);
      if (!place) return c.json({ error: "There is no such page" }, 404);
      if (accountOf(place) !== account) return c.json({ error: "This account does not look after that page" }, 403);
      return null;
    };
    app.get("/api/pages/:slug/entries", async (c) => {
      const slug = c.req.param("slug");
      const refused = opened(c, slug);
      if (refused) return refused;
      const fault = this.faults.take(slug, ["too many", "error", "down", "time out", "half a page", "repeat"]);
      if (fault === "time out") await givenUp(c.req.raw);
      if (fault === "too many") return c.json({ error: "Slow down" }, 429, { "retry-after": "90" });
      if (fault === "error" || fault === "down") return c.json({ error: "Out of order" }, 500);
      const since = Number(c.req.query("after") || 0);
      if (!Number.isInteger(since) || since < 0) return c.json({ error: "after is no cursor" }, 400);
      this.remember(slug);
      const found = this.book.since(slug, since).filter(({ guide }) => guide === "commons");
      const part = found.slice(0, PAGE);
      // A page may hold what another held before it.
      const shown = fault === "repeat" ? [...this.book.since(slug, 0).slice(0, 3), ...part, ...part.slice(0, 1)] : part;
      const body = JSON.stringify({
        entries: shown.map((entry) => ({
          id: entry.id,
          by: entry.author,
          recommends: entry.likes,
          text: entry.words,
          posted: new Date(entry.at).toISOString(),
          changed: new Date(entry.changedAt).toISOString(),
          state: entry.state,
          answer: entry.answer && { text: entry.answer.words, posted: new Date(entry.answer.at).toISOString() },
        })),
        after: String(part.at(-1)?.change ?? since),
        more: found.length > part.length,
      });
      return c.body(fault === "half a page" ? body.slice(0, body.length / 2) : body, 200, {
        "content-type": "application/json",
      });
    });
    const entryOf = (c: Context): GuideEntry | Response => {
      const entry = this.book.entries.get(c.req.param("id") ?? "");
      if (entry?.guide !== "commons" || entry.state === "removed")
        return c.json({ error: "There is no such entry" }, 404);
      return opened(c, entry.place) ?? entry;
    };
    const answerBody = z.object({ text: z.string().trim().min(1).max(ANSWER_MOST) });
    app.post("/api/pages/:slug/entries/:id/answer", async (c) => {
      const entry = entryOf(c);
      if (entry instanceof Response) return entry;
      const fault = this.faults.take(entry.place, ["too many", "error", "taken"]);
      if (fault === "too many") return c.json({ error: "Slow down" }, 429, { "retry-after": "90" });
      if (fault === "error") return c.json({ error: "Out of order" }, 500);
      const body = answerBody.safeParse(await c.req.json().catch(() => null));
      if (!body.success) return c.json({ error: `text must hold 1 to ${ANSWER_MOST} characters` }, 422);
      const key = c.req.header("idempotency-key") ?? "";
      if (key && this.posted.get(key) === body.data.text) return c.json({ ok: true });
      if (entry.answer) return c.json({ error: "There is an answer already" }, 409);
      this.posted.set(key, body.data.text);
      this.book.put({ ...entry, changedAt: clock.now(), answer: { words: body.data.text, at: clock.now() } });
      // Kept, and nobody told: the line broke before the receipt.
      return fault === "taken" ? c.json({ error: "Out of order" }, 500) : c.json({ ok: true }, 201);
    });
    app.patch("/api/pages/:slug/entries/:id/answer", async (c) => {
      const entry = entryOf(c);
      if (entry instanceof Response) return entry;
      const body = answerBody.safeParse(await c.req.json().catch(() => null));
      if (!body.success) return c.json({ error: `text must hold 1 to ${ANSWER_MOST} characters` }, 422);
      if (!entry.answer) return c.json({ error: "There is no answer yet" }, 404);
      this.book.put({ ...entry, changedAt: clock.now(), answer: { words: body.data.text, at: clock.now() } });
      return c.json({ ok: true });
    });
    app.delete("/api/pages/:slug/entries/:id/answer", (c) => {
      const entry = entryOf(c);
      if (entry instanceof Response) return entry;
      this.book.put({ ...entry, changedAt: clock.now(), answer: null });
      return c.json({ ok: true });
    });
    app.route("/", faultRoutes(this.faults));
    return app;
  }

  close(): Promise<void> {
    return this.book.close();
  }
}
