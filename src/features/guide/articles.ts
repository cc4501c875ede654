import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { marked } from "marked";

/** The guide: short articles in `docs/guide`, each about the pages where it is offered. */

export type Article = {
  slug: string;
  title: string;
  /** The page whose controls it names in bold, by a name of the browser test that looks for them. */
  page: string;
  /** Pages where it is offered, below the client or as `agency/…`; `*` is one part of an address. */
  at: string[];
  /** Markdown. */
  words: string;
};

/** What of an article a page needs to offer it. */
export type Offered = Pick<Article, "slug" | "title" | "at">;

let read: Article[] | null = null;

/** Every article, in the order of their titles. */
export function articles(): Article[] {
  if (read) return read;
  const folder = join(process.cwd(), "docs/guide");
  read = readdirSync(folder)
    .filter((name) => name.endsWith(".md"))
    .map((name) => articleOf(name.slice(0, -3), readFileSync(join(folder, name), "utf8")))
    .sort((a, b) => a.title.localeCompare(b.title, "en"));
  return read;
}

/** Throws where the head of an article says less than it must. */
export function articleOf(slug: string, text: string): Article {
  const [, head = "", words = ""] = /^---\n([\s\S]*?)\n---\n([\s\S]*)$/.exec(text) ?? [];
  const said = (name: string) => {
    const found = new RegExp(`^${name}: (.+)$`, "m").exec(head)?.[1].trim();
    if (!found) throw new Error(`docs/guide/${slug}.md does not say its ${name}.`);
    return found;
  };
  return {
    slug,
    title: said("title"),
    page: said("page"),
    at: said("at").split(", "),
    words: words.trim(),
  };
}

/** An article as HTML. It is our own text: nothing that anybody typed is in it. */
export const htmlOf = ({ words }: Article): string => marked.parse(words, { async: false });
