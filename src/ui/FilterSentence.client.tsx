"use client";

import { Check, X } from "lucide-react";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { DropdownMenu, Popover } from "radix-ui";
import { Fragment, useState } from "react";
import { DayCalendar } from "./DayField.client";

/** One thing that a filter can be set to; `count` as it is shown. */
export type FilterChoice = { href: string; words: string; value?: string | null; count?: string; isHere: boolean };

/** The underlined part of a filter sentence: what is set in words, what it can be set to, and how it is cleared. */
export type FilterPart = {
  /** What it narrows down, for screen readers: "State". */
  label: string;
  words: string;
  /** Where one click clears it; null when nothing is set. */
  clear: string | null;
  /** Choices, or days: the address that a picked day leads to, with `{day}` for the day. */
  choices: FilterChoice[] | { day: string | null; today: string; href: string };
  /** How many each choice would leave, by its value: asked for when the menu opens. */
  counts?: () => Promise<Record<string, number>>;
};

/**
 * Filters as a sentence: "Showing every message by text or email of all plans." Words stand as they are; each underlined
 * part opens a menu with counts. What is set lives in the address.
 */
export function FilterSentence({ parts }: { parts: (string | FilterPart)[] }) {
  return (
    <nav aria-label="Filters" className="mt-4 mb-5 max-w-[72ch] text-[16px] leading-[2]">
      {parts.map((part, index) => (
        <Fragment key={typeof part === "string" ? `${index} ${part}` : part.label}>
          {typeof part === "string" ? part : <Part part={part} />}
        </Fragment>
      ))}
    </nav>
  );
}

function Part({ part }: { part: FilterPart }) {
  const { label, words, clear, choices, counts } = part;
  const [counted, setCounted] = useState<Record<string, number> | null>(null);
  const trigger = "words-link rounded-[3px] text-left";
  const countOf = ({ value, count }: FilterChoice): string | undefined => {
    if (count !== undefined || !counts || value === null || value === undefined) return count;
    return counted ? (counted[value] ?? 0).toLocaleString("en-GB") : "…";
  };
  return (
    <span>
      {Array.isArray(choices) ? (
        <DropdownMenu.Root
          modal={false}
          onOpenChange={(isOpen) => {
            if (!isOpen || !counts) return;
            setCounted(null);
            void counts()
              .then(setCounted)
              .catch(() => setCounted({}));
          }}
        >
          <DropdownMenu.Trigger className={trigger} aria-label={`${label}: ${words}`}>
            {words}
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content sideOffset={6} collisionPadding={12} align="start" className="menu">
              {choices.map((choice) => (
                <DropdownMenu.Item key={choice.href} asChild>
                  <Link
                    href={choice.href}
                    scroll={false}
                    className="menu-item"
                    aria-current={choice.isHere || undefined}
                  >
                    <span className="w-4 shrink-0">
                      {choice.isHere ? <Check size={15} aria-hidden="true" /> : null}
                    </span>
                    <span className="flex-1">{choice.words}</span>
                    {countOf(choice) === undefined ? null : <span className="text-second pl-4">{countOf(choice)}</span>}
                  </Link>
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      ) : (
        <DayPart label={label} words={words} {...choices} className={trigger} />
      )}
      {clear === null ? null : (
        <Link
          href={clear}
          scroll={false}
          aria-label={`${label}: show all`}
          className="text-second hover:text-ink ml-0.5 inline-grid size-6 place-items-center rounded-full align-[-5px]"
        >
          <X size={14} aria-hidden="true" />
        </Link>
      )}
    </span>
  );
}

function DayPart({
  label,
  words,
  day,
  today,
  href,
  className,
}: {
  label: string;
  words: string;
  day: string | null;
  today: string;
  href: string;
  className: string;
}) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className={className} aria-label={`${label}: ${words}`}>
        {words}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content sideOffset={6} collisionPadding={12} align="start" className="menu !p-3">
          <DayCalendar
            day={day}
            today={today}
            onPick={(picked) => {
              setOpen(false);
              router.push(href.replace("%7Bday%7D", picked).replace("{day}", picked), { scroll: false });
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
