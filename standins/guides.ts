import { randomUUID } from "node:crypto";
import { Hono } from "hono";
import { html } from "hono/html";
import { z } from "zod";
import { Journal } from "./journal";
import { townPage, townTime } from "./page";
import type { TownClock } from "./townClock";

type Entry = { id: string; guide: string; place: string; author: string; words: string; likes: boolean; at: number };

const written = z.object({
  author: z.string().trim().min(1, "A name is needed").max(80),
  likes: z.enum(["yes", "no"], "Say whether you recommend it").transform((answer) => answer === "yes"),
  words: z.string().trim().max(5000).default(""),
});

/** Guides of the town that a business has only a link to: nothing can be collected from them, nothing answered. */
export const GUIDES = { commons: "Commons", pawprint: "Pawprint Guide" } as const;

export class GuideStandIn {
  readonly entries: Entry[] = [];
  private readonly journal: Journal<Entry>;

  constructor(
    private readonly options: {
      townUrl: string;
      clock: TownClock;
      journal: string | null;
      places: { slug: string; name: string }[];
    },
  ) {
    this.journal = new Journal(options.journal);
    this.journal.replay((entry) => this.entries.push(entry));
  }

  /** Pages under `/guides/<guide>/<place>`. */
  routes(): Hono {
    const app = new Hono();
    const { townUrl, clock, places } = this.options;
    const page = (title: string, body: ReturnType<typeof html>) =>
      townPage(title, townUrl, townTime(clock.now()), body);
    const find = (guide: string, slug: string) => {
      const name = places.find((place) => place.slug === slug)?.name;
      return guide in GUIDES && name ? { guide: GUIDES[guide as keyof typeof GUIDES], name } : null;
    };
    app.get("/:guide/:place", (c) => {
      const { guide, place } = c.req.param();
      const found = find(guide, place);
      if (!found) return c.notFound();
      const own = this.entries.filter((entry) => entry.guide === guide && entry.place === place).reverse();
      return c.html(
        page(
          `${found.name} in ${found.guide}`,
          html`<form class="card" method="post"><h2>Tell others</h2><p><label>Your name<br><input name="author" required maxlength="80"></label></p>
          <p><label>Do you recommend it? <select name="likes" required><option value="">Choose</option><option value="yes">Yes</option><option value="no">No</option></select></label></p>
          <p><label>Your words<br><textarea name="words" maxlength="5000"></textarea></label></p><button>Publish</button></form>
          ${own.slice(0, 60).map(({ id, author, likes, words, at }) => html`<article id="${id}"><b>${author}</b> ${likes ? "recommends it" : "does not recommend it"} · <small>${townTime(at)}</small><div>${words}</div></article>`)}`,
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
        return c.html(page("That did not work", html`<p>${parsed.error.issues[0].message}.</p>`), 422);
      const entry: Entry = { ...parsed.data, id: `g-${randomUUID()}`, guide, place, at: clock.now() };
      this.entries.push(entry);
      this.journal.append(entry);
      return c.redirect(`/guides/${guide}/${place}#${entry.id}`, 303);
    });
    return app;
  }

  close(): Promise<void> {
    return this.journal.close();
  }
}
