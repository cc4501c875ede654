import { randomUUID } from "node:crypto";
import type { Hono } from "hono";
import { html } from "hono/html";

/** Pictures that people in town can send: a few that every phone has, and whatever somebody chooses from their own disk. */

const drawn = (background: string, shapes: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="960" height="720" viewBox="0 0 96 72"><rect width="96" height="72" fill="${background}"/>${shapes}</svg>`;

const SAMPLES: Record<string, { name: string; svg: string }> = {
  paw: {
    name: "A bandaged paw",
    svg: drawn(
      "#d9cfc0",
      '<ellipse cx="50" cy="44" rx="26" ry="18" fill="#8a6a4c"/><circle cx="30" cy="26" r="8" fill="#8a6a4c"/><circle cx="46" cy="18" r="8" fill="#8a6a4c"/><circle cx="63" cy="21" r="8" fill="#8a6a4c"/><rect x="24" y="40" width="52" height="10" rx="4" fill="#f4f1ea"/><path d="M26 44h48M26 47h48" stroke="#c9c2b4" stroke-width="0.8"/>',
    ),
  },
  tile: {
    name: "A chipped tile",
    svg: drawn(
      "#b9c4cc",
      '<g fill="#e8ecef" stroke="#8d99a3" stroke-width="0.8"><rect x="8" y="8" width="38" height="26"/><rect x="50" y="8" width="38" height="26"/><rect x="8" y="38" width="38" height="26"/><path d="M50 38h38v16l-9 4-6 6h-23z"/></g>',
    ),
  },
  stain: {
    name: "Soot on the carpet",
    svg: drawn(
      "#c2a98c",
      '<ellipse cx="44" cy="40" rx="24" ry="13" fill="#3b342e" opacity="0.8"/><ellipse cx="62" cy="30" rx="9" ry="5" fill="#3b342e" opacity="0.6"/><circle cx="28" cy="22" r="3" fill="#3b342e" opacity="0.6"/>',
    ),
  },
};

export class Album {
  private readonly kept = new Map<string, { type: string; bytes: Uint8Array }>();

  /** What the form of a message offers; its fields are `sample` and `file`. */
  readonly fields = html`<p><label>A picture <select name="sample"><option value="">none</option>${Object.entries(
    SAMPLES,
  ).map(
    ([key, { name }]) => html`<option value="${key}">${name}</option>`,
  )}</select></label> <label>or one of yours <input type="file" name="file"></label></p>`;

  constructor(readonly origin: string) {}

  /** The addresses of what a form chose. */
  async chosen(form: Record<string, unknown>): Promise<string[]> {
    const addresses: string[] = [];
    if (typeof form.sample === "string" && SAMPLES[form.sample])
      addresses.push(`${this.origin}/pictures/${form.sample}`);
    if (form.file instanceof File && form.file.size > 0)
      addresses.push(this.keep(form.file.type, new Uint8Array(await form.file.arrayBuffer())));
    return addresses;
  }

  /** Keeps bytes, whatever they are, and gives the address at which they are fetched. */
  keep(type: string, bytes: Uint8Array): string {
    const id = randomUUID();
    this.kept.set(id, { type, bytes });
    return `${this.origin}/pictures/${id}`;
  }

  /** Serves the pictures. */
  serveOn(app: Hono): void {
    app.get("/pictures/:id", async (c) => {
      const id = c.req.param("id");
      const own = this.kept.get(id);
      if (own) return c.body(Buffer.from(own.bytes), 200, { "content-type": own.type || "application/octet-stream" });
      const sample = SAMPLES[id];
      if (!sample) return c.notFound();
      const { default: sharp } = await import("sharp");
      return c.body(await sharp(Buffer.from(sample.svg)).jpeg().toBuffer(), 200, { "content-type": "image/jpeg" });
    });
  }
}
