"use client";

import { Command } from "cmdk";
import { ChevronDown } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";

export type Choice = { value: string; words: string };

/** What the list knows a choice by that stands for nothing chosen. */
const NONE = "none";

/** Whether a choice's words contain what was typed. */
const contains = (_value: string, typed: string, words: string[] = []) =>
  words.join(" ").toLowerCase().includes(typed.trim().toLowerCase()) ? 1 : 0;

/**
 * One of many, found by typing: countries, time zones, clients. With a `name` it is part of the form around it; its
 * label names the button by `htmlFor`.
 */
export function Choose({
  id,
  name,
  choices,
  value,
  onChange,
  search,
  describedBy,
  isWrong = false,
  className = "",
}: {
  id: string;
  name?: string;
  choices: readonly Choice[];
  value: string;
  onChange: (value: string) => void;
  /** What stands in the empty search field: "Search countries". */
  search: string;
  describedBy?: string;
  isWrong?: boolean;
  className?: string;
}) {
  const [open, setOpen] = useState(false);
  const chosen = choices.find((one) => one.value === value);
  return (
    <Popover.Root open={open} onOpenChange={setOpen} modal>
      {name ? <input type="hidden" name={name} value={value} /> : null}
      <Popover.Trigger
        id={id}
        aria-describedby={describedBy}
        data-wrong={isWrong || undefined}
        className={`field flex items-center justify-between gap-3 text-left ${className}`}
      >
        <span className="truncate">{chosen?.words ?? (value || "Choose one")}</span>
        <ChevronDown size={16} aria-hidden="true" className="text-second shrink-0" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          collisionPadding={12}
          className="border-edge bg-sheet text-ink z-[60] w-[max(var(--radix-popover-trigger-width),260px)] max-w-[94vw] rounded-[10px] border p-2"
        >
          <Command label={search} defaultValue={value || NONE} filter={contains}>
            <Command.Input placeholder={search} className="field" />
            <Command.List className="mt-2 max-h-[min(300px,50vh)] overflow-y-auto">
              <Command.Empty className="text-second px-3 py-2">Nothing matches.</Command.Empty>
              {choices.map((one) => (
                <Command.Item
                  key={one.value}
                  value={one.value || NONE}
                  keywords={[one.words]}
                  onSelect={() => {
                    onChange(one.value);
                    setOpen(false);
                  }}
                  className="data-[selected=true]:bg-mulberry-tint flex min-h-[34px] cursor-pointer items-center justify-between gap-3 rounded-[7px] px-3"
                >
                  {one.words}
                  {one.value === value ? <span aria-hidden="true">✓</span> : null}
                </Command.Item>
              ))}
            </Command.List>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The same where the form alone keeps what was chosen. */
export function ChooseField({
  defaultValue,
  label,
  says,
  error,
  ...rest
}: {
  id: string;
  name: string;
  choices: readonly Choice[];
  defaultValue: string;
  label: string;
  search: string;
  says?: string;
  error?: (field: string) => React.ReactNode;
}) {
  const [value, setValue] = useState(defaultValue);
  return (
    <div>
      <label className="label" htmlFor={rest.id}>
        {label}
      </label>
      <Choose {...rest} value={value} onChange={setValue} describedBy={says ? `${rest.id}-says` : undefined} />
      {says ? (
        <p id={`${rest.id}-says`} className="text-second mt-1 text-[14px]">
          {says}
        </p>
      ) : null}
      {error?.(rest.name)}
    </div>
  );
}

/** Every time zone that the browser knows. */
export const zoneChoices = (): Choice[] =>
  Intl.supportedValuesOf("timeZone").map((zone) => ({ value: zone, words: zone.replaceAll("_", " ") }));
