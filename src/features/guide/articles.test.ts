import { existsSync } from "node:fs";
import { join } from "node:path";
import { articleOf, articles, htmlOf } from "./articles";

test("there are fifteen articles, each short, with its picture, and no page offers two", () => {
  const all = articles();
  expect(all).toHaveLength(15);
  expect(all.filter(({ words }) => words.split(/\s+/).length > 250).map(({ slug }) => slug)).toEqual([]);
  const places = all.flatMap(({ at }) => at);
  expect(places.filter((place, index) => places.indexOf(place) !== index)).toEqual([]);
  for (const article of all) {
    const [, picture] = /!\[[^\]]+\]\((\/guide\/[a-z-]+\.webp)\)/.exec(article.words) ?? [];
    expect([article.slug, picture]).toEqual([article.slug, `/guide/${article.slug}.webp`]);
    expect([picture, existsSync(join(process.cwd(), "public", picture ?? ""))]).toEqual([picture, true]);
    expect(htmlOf(article)).toMatch(/^<p>[\s\S]*<img src="\/guide\//);
  }
});

test("an article that does not say where it belongs is refused", () => {
  expect(() => articleOf("x", "No head at all")).toThrow("docs/guide/x.md does not say its title.");
  expect(() => articleOf("x", "---\ntitle: A\npage: plan\n---\nWords")).toThrow("does not say its at.");
});
