"use client";

import { ChevronDown } from "lucide-react";
import Link from "next/link";
import { usePathname, useRouter } from "next/navigation";
import { DropdownMenu, Dialog as Radix } from "radix-ui";
import { useEffect, useState } from "react";
import { sayCounted } from "@/core/time/say";
import { AccountItems, MENU_ITEM, Notices } from "./AccountMenu.client";

export type Place = { name: string; path: string; waiting?: number };

/** The places as words: in the masthead, and on a phone in a bar at the bottom. */
export function Places({ base, places, bottom = false }: { base: string; places: Place[]; bottom?: boolean }) {
  const path = usePathname();
  return (
    <nav
      aria-label={bottom ? "Places, at the bottom" : "Places"}
      className={
        bottom
          ? "border-rule bg-sheet fixed inset-x-0 bottom-0 z-30 flex justify-around border-t pb-[env(safe-area-inset-bottom)] wide:hidden"
          : "hidden gap-7 self-stretch wide:flex"
      }
    >
      {places.map((place) => {
        const href = place.path ? `${base}/${place.path}` : base;
        const here = place.path ? path.startsWith(href) : path === base || path.startsWith(`${base}/start`);
        return (
          <Link
            key={place.path}
            href={href}
            aria-current={here ? "page" : undefined}
            className={`flex items-center gap-1 font-medium no-underline ${bottom ? "min-h-[52px] border-t-2 px-3" : "border-b-2 pt-0.5"} ${here ? "border-mulberry text-ink" : "text-second hover:text-ink border-transparent"}`}
          >
            {place.name}
            {place.waiting ? (
              <span className="text-vermilion-deep text-[13px] font-semibold">
                {sayCounted(place.waiting)}
                <span className="sr-only"> waiting</span>
              </span>
            ) : null}
          </Link>
        );
      })}
    </nav>
  );
}

type ClientChoice = { slug: string; name: string };

/** Which client one is at, and who one is. */
export function ClientMenu({
  slug,
  clients,
  user,
  agency,
  role,
  elsewhere,
}: {
  slug: string;
  clients: ClientChoice[];
  user: { name: string; email: string };
  agency: string;
  role: string;
  /** The agency's own pages, for whoever may see them. */
  elsewhere: { words: string; href: string }[];
}) {
  const router = useRouter();
  const path = usePathname();
  const place = path.split("/")[3] ?? "today";
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="hover:text-mulberry inline-flex min-h-[36px] min-w-0 items-center gap-1 rounded-[8px] px-1 text-[15px] font-medium">
        <span className="truncate">{clients.find((one) => one.slug === slug)?.name}</span>
        <ChevronDown size={15} aria-hidden="true" className="shrink-0" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={6}
          className="border-rule bg-sheet text-ink z-50 max-h-[70vh] w-[270px] overflow-y-auto rounded-[10px] border p-1.5"
        >
          {clients.length > 1 ? (
            <DropdownMenu.Label className="text-second px-3 py-1.5 text-[13px]">Clients of {agency}</DropdownMenu.Label>
          ) : null}
          {elsewhere.map(({ words, href }) => (
            <DropdownMenu.Item key={href} className={MENU_ITEM} onSelect={() => router.push(href)}>
              {words}
            </DropdownMenu.Item>
          ))}
          {clients.map((client) => (
            <DropdownMenu.Item
              key={client.slug}
              className={MENU_ITEM}
              onSelect={() => router.push(`/c/${client.slug}/${place}`)}
            >
              <span className={client.slug === slug ? "font-semibold" : ""}>{client.name}</span>
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="border-rule my-1.5 border-t" />
          <AccountItems user={user} role={role} />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

const KEYS: [string, string][] = [
  ["A", "ask someone"],
  ["T", "go to Today"],
  ["P", "go to People"],
  ["S", "go to Asking"],
  ["H", "go to Heard"],
  ["U", "go to Set-up"],
  ["B", "import a list"],
  ["/", "search people"],
  ["Ctrl K", "go anywhere by typing"],
  ["?", "this list"],
];

/** Single keys that lead to places, their list under `?`, and the place where short notices appear. */
export function Keys({ slug }: { slug: string }) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        (event.target as HTMLElement).closest("input, textarea, select, [contenteditable], [role=dialog], [role=menu]")
      )
        return;
      const to = {
        t: "today",
        p: "people",
        s: "asking",
        h: "heard",
        u: "set-up",
        b: "people/import",
        "/": "people?find=1",
      }[event.key.toLowerCase()];
      if (event.key === "?") setOpen(true);
      else if (to) router.push(`/c/${slug}/${to}`);
      else return;
      event.preventDefault();
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, [router, slug]);
  return (
    <>
      <Notices />
      <Radix.Root open={open} onOpenChange={setOpen}>
        <Radix.Portal>
          <Radix.Overlay className="fixed inset-0 z-40 bg-[rgb(34_26_44/0.45)]" />
          <Radix.Content
            aria-describedby={undefined}
            className="border-rule bg-sheet text-ink fixed top-[20vh] left-1/2 z-50 w-[min(420px,92vw)] -translate-x-1/2 rounded-[14px] border p-6"
          >
            <Radix.Title className="font-title mb-3 text-[20px] font-semibold">Keys</Radix.Title>
            <dl className="grid grid-cols-[72px_1fr] gap-y-2">
              {KEYS.map(([name, what]) => (
                <div key={name} className="contents">
                  <dt>
                    <kbd className="key">{name}</kbd>
                  </dt>
                  <dd>{what}</dd>
                </div>
              ))}
            </dl>
          </Radix.Content>
        </Radix.Portal>
      </Radix.Root>
    </>
  );
}
