"use client";

import { ChevronDown } from "lucide-react";
import Link from "next/link";
import { usePathname, useRouter } from "next/navigation";
import { DropdownMenu, Dialog as Radix } from "radix-ui";
import { useEffect, useState } from "react";
import { sayCounted } from "@/core/time/say";
import { COMMANDS, type OwnKeys, withKey } from "@/core/web/singleKeys";
import { SingleKeysSwitch } from "@/ui/SingleKeysSwitch.client";
import { keepOwnKeys, onSingleKey, ownKeys } from "@/ui/singleKeys.client";
import { AccountItems, MENU_ITEM, Notices } from "./AccountMenu.client";

/** `also` are the paths beside its own at which a place is the one where somebody is. */
export type Place = { name: string; path: string; also?: string[]; waiting?: number };

/** The places as words: in the masthead, and on a phone in a bar at the bottom. */
export function Places({ base, places, bottom = false }: { base: string; places: Place[]; bottom?: boolean }) {
  const path = usePathname();
  return (
    <nav
      aria-label={bottom ? "Places, bottom bar" : "Places"}
      className={
        bottom
          ? "border-rule bg-sheet fixed inset-x-0 bottom-0 z-30 flex justify-around border-t pb-[env(safe-area-inset-bottom)] wide:hidden"
          : "hidden gap-7 self-stretch wide:flex"
      }
    >
      {places.map((place) => {
        const href = place.path ? `${base}/${place.path}` : base;
        const here =
          path === href || [place.path, ...(place.also ?? [])].some((at) => at && path.startsWith(`${base}/${at}`));
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
  help,
  elsewhere,
}: {
  slug: string;
  clients: ClientChoice[];
  user: { name: string; email: string };
  agency: string;
  role: string;
  /** Where a client's own people ask for help. */
  help: { agency: string; email: string } | null;
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
            <DropdownMenu.Label className="text-second px-3 py-1.5 text-[13px]">{agency}’s clients</DropdownMenu.Label>
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
          {help ? (
            <DropdownMenu.Item className={MENU_ITEM} asChild>
              <a href={`mailto:${help.email}`} className="no-underline">
                Ask {help.agency} for help
              </a>
            </DropdownMenu.Item>
          ) : null}
          <AccountItems user={user} role={role} />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Single keys: what they do, and where those that lead somewhere lead. */
const KEYS: { name: string; what: string; to?: string }[] = [
  { name: "A", what: "ask someone" },
  { name: "T", what: "go to Today", to: "today" },
  { name: "P", what: "go to People", to: "people" },
  { name: "S", what: "go to Asking", to: "asking" },
  { name: "H", what: "go to Heard", to: "heard" },
  { name: "U", what: "go to Set-up", to: "set-up" },
  { name: "B", what: "import a list", to: "people/import" },
  { name: "/", what: "search people", to: "people?find=1" },
  { name: "Ctrl K", what: "search for anything" },
  { name: "J", what: "in Heard: next" },
  { name: "K", what: "in Heard: previous" },
  { name: "R", what: "in Heard: reply" },
  { name: "D", what: "in Heard: another draft" },
  { name: "E", what: "in Heard: set aside" },
  { name: "?", what: "show this list" },
];

/** What each key does; a single key can be another one in this browser. */
function KeyList({ known }: { known: typeof KEYS }) {
  const [own, setOwn] = useState<OwnKeys>({});
  const [changing, setChanging] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => setOwn(ownKeys()), []);
  const choose = (command: string, typed: string) => {
    const next = withKey(own, command, typed);
    setWrong(next ? null : `“${typed}” is already in use, or isn’t a key.`);
    if (!next || !keepOwnKeys(next)) return;
    setOwn(next);
    setChanging(null);
  };
  return (
    <>
      <dl className="grid grid-cols-[72px_1fr] gap-y-1.5">
        {known.map(({ name, what }) => {
          const command = name.toLowerCase();
          const isSingle = (COMMANDS as readonly string[]).includes(command);
          const key = (own[command] ?? name).toUpperCase();
          return (
            <div key={name} className="contents">
              <dt>
                {changing === command ? (
                  <input
                    className="field !w-[52px] !py-0.5 text-center"
                    aria-label={`New key for: ${what}`}
                    maxLength={1}
                    defaultValue=""
                    // biome-ignore lint/a11y/noAutofocus: the key was pressed to be typed here
                    autoFocus
                    onChange={(event) => choose(command, event.target.value)}
                    onBlur={() => setChanging(null)}
                  />
                ) : (
                  <kbd className="key">{key}</kbd>
                )}
              </dt>
              <dd className="flex items-baseline justify-between gap-3">
                {what}
                {isSingle ? (
                  <button
                    type="button"
                    className="text-second hover:text-ink min-h-[24px] text-[14px] underline underline-offset-[3px]"
                    aria-label={own[command] ? `Reset the key for: ${what}` : `Change the key for: ${what}`}
                    onClick={() => (own[command] ? choose(command, command) : setChanging(command))}
                  >
                    {own[command] ? "reset" : "change"}
                  </button>
                ) : null}
              </dd>
            </div>
          );
        })}
      </dl>
      {wrong ? (
        <p role="alert" className="text-vermilion-deep mt-2 text-[14px]">
          {wrong}
        </p>
      ) : null}
    </>
  );
}

/** Single keys that lead to places, their list under `?`, and the place where short notices appear. */
export function Keys({
  slug,
  places,
  mayAsk,
  mayImport,
}: {
  slug: string;
  places: string[];
  mayAsk: boolean;
  mayImport: boolean;
}) {
  const router = useRouter();
  // Only what somebody may do; as one text, since a list is another each time.
  const known = KEYS.filter(({ name, to }) => {
    if (!to) return name !== "A" || mayAsk;
    return to === "people/import" ? mayImport : places.includes(to.split("?")[0]);
  });
  const targets = JSON.stringify(
    Object.fromEntries(known.flatMap(({ name, to }) => (to ? [[name.toLowerCase(), to]] : []))),
  );
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (command: string, event: KeyboardEvent) => {
      const to = (JSON.parse(targets) as Record<string, string>)[command];
      if (command === "?") setOpen(true);
      else if (to) router.push(`/c/${slug}/${to}`);
      else return;
      event.preventDefault();
    };
    return onSingleKey(onKey);
  }, [router, slug, targets]);
  return (
    <>
      <Notices />
      <Radix.Root open={open} onOpenChange={setOpen}>
        <Radix.Portal>
          <Radix.Overlay className="fixed inset-0 z-40 bg-[rgb(34_26_44/0.45)]" />
          <Radix.Content
            aria-describedby={undefined}
            className="border-rule bg-sheet text-ink fixed top-[8vh] left-1/2 z-50 max-h-[84vh] w-[min(460px,92vw)] overflow-y-auto -translate-x-1/2 rounded-[14px] border p-6"
          >
            <Radix.Title className="font-title mb-3 text-[20px] font-semibold">Keyboard shortcuts</Radix.Title>
            <KeyList known={known} />
            <div className="border-rule mt-4 border-t pt-3">
              <SingleKeysSwitch />
            </div>
          </Radix.Content>
        </Radix.Portal>
      </Radix.Root>
    </>
  );
}
