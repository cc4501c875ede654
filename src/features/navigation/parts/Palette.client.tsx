"use client";

import { Command } from "cmdk";
import { useRouter } from "next/navigation";
import { Dialog as Radix } from "radix-ui";
import { useEffect, useState } from "react";
import { openArticle } from "@/ui/Guide.client";
import { findPeople } from "../actions";

export type Destination = { name: string; path: string };

type Found = { id: string; name: string; reach: string };

/** Everything by typing, on Ctrl or Cmd K: places, people, asking someone. */
export function Palette({
  slug,
  destinations,
  guide,
  mayAsk,
}: {
  slug: string;
  /** The guide's articles. */
  guide: { slug: string; title: string }[];
  /** The pages somebody may go to, by name. */
  destinations: Destination[];
  mayAsk: boolean;
}) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState("");
  const [people, setPeople] = useState<Found[]>([]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== "k" || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      setOpen((before) => !before);
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, []);
  useEffect(() => {
    let current = true;
    if (!open || typed.trim().length < 2) {
      setPeople([]);
      return;
    }
    const timer = setTimeout(async () => {
      const found = await findPeople(slug, typed).catch(() => []);
      if (current) setPeople(found);
    }, 150);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [open, typed, slug]);
  const change = (next: boolean) => {
    setOpen(next);
    setTyped("");
  };
  const go = (path: string) => {
    change(false);
    router.push(`/c/${slug}/${path}`);
  };
  const matches = (words: string) => words.toLowerCase().includes(typed.trim().toLowerCase());
  const item =
    "data-[selected=true]:bg-mulberry-tint flex min-h-[42px] cursor-pointer items-center justify-between gap-4 rounded-[8px] px-3";
  return (
    <Radix.Root open={open} onOpenChange={change}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-[rgb(34_26_44/0.45)]" />
        <Radix.Content
          aria-describedby={undefined}
          className="border-rule bg-sheet text-ink fixed top-[14vh] left-1/2 z-50 w-[min(560px,94vw)] -translate-x-1/2 rounded-[14px] border p-2.5"
        >
          <Radix.Title className="sr-only">Go to a page or a person</Radix.Title>
          <Command shouldFilter={false} label="Go to a page or a person">
            <Command.Input
              value={typed}
              onValueChange={setTyped}
              placeholder="A page, a name, a phone number…"
              className="field"
            />
            <Command.List className="mt-2 max-h-[52vh] overflow-y-auto">
              <Command.Empty className="text-second px-3 py-3">Nothing found.</Command.Empty>
              {mayAsk && matches("ask someone") ? (
                <Command.Item
                  className={item}
                  onSelect={() => {
                    change(false);
                    dispatchEvent(new CustomEvent("estima:ask", { detail: null }));
                  }}
                >
                  Ask someone <kbd className="key">A</kbd>
                </Command.Item>
              ) : null}
              {destinations
                .filter(({ name }) => matches(name))
                .map(({ name, path }) => (
                  <Command.Item key={path} value={path} className={item} onSelect={() => go(path)}>
                    {name}
                  </Command.Item>
                ))}
              {typed.trim().length > 1
                ? guide
                    .filter(({ title }) => matches(`How this works: ${title}`))
                    .map((article) => (
                      <Command.Item
                        key={article.slug}
                        value={`guide ${article.slug}`}
                        className={item}
                        onSelect={() => {
                          change(false);
                          openArticle(article.slug);
                        }}
                      >
                        {article.title} <span className="text-second text-[14px]">How this works</span>
                      </Command.Item>
                    ))
                : null}
              {people.map((person) => (
                <Command.Item
                  key={person.id}
                  value={person.id}
                  className={item}
                  onSelect={() => go(`people/${person.id}`)}
                >
                  <b>{person.name}</b>
                  <span className="text-second truncate text-[14px]">{person.reach}</span>
                </Command.Item>
              ))}
            </Command.List>
          </Command>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
