"use client";

import { DropdownMenu } from "radix-ui";
import type { Selection } from "../selection";
import type { Change } from "./ChangeMany.client";

/** What somebody may do with several people at once. */
export type MayMany = { ask: boolean; edit: boolean; export: boolean; erase: boolean };

/** Buttons for all that can be done with those who are chosen. */
export function ManyBar({
  slug,
  chosen,
  may,
  onChoose,
}: {
  slug: string;
  chosen: Selection;
  may: MayMany;
  onChoose: (what: "ask" | Change) => void;
}) {
  return (
    <>
      {may.ask ? (
        <button type="button" className="button" onClick={() => onChoose("ask")}>
          Ask
        </button>
      ) : null}
      {may.edit ? (
        <>
          <button type="button" className="button" onClick={() => onChoose("tag")}>
            Tag
          </button>
          <button type="button" className="button" onClick={() => onChoose("rest")}>
            Set a rest
          </button>
          <button type="button" className="button" onClick={() => onChoose("exclude")}>
            Never ask
          </button>
        </>
      ) : null}
      {may.export ? <ExportMenu slug={slug} chosen={chosen} /> : null}
      {may.erase ? (
        <button type="button" className="button" onClick={() => onChoose("erase")}>
          Erase
        </button>
      ) : null}
    </>
  );
}

const FORMATS = [
  ["csv", "as CSV"],
  ["xlsx", "as Excel (.xlsx)"],
  ["vcf", "as vCard"],
] as const;

function ExportMenu({ slug, chosen }: { slug: string; chosen: Selection }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="button">Export</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          sideOffset={6}
          className="border-rule bg-sheet text-ink z-50 w-[210px] rounded-[10px] border p-1.5"
        >
          {FORMATS.map(([format, words]) => (
            <DropdownMenu.Item
              key={format}
              className="hover:bg-mulberry-tint focus:bg-mulberry-tint flex min-h-[40px] w-full cursor-pointer items-center rounded-[7px] px-3 outline-none"
              onSelect={() => exportPeople(slug, format, chosen)}
            >
              {words}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** A form that the browser sends itself, so that it saves the file it gets. */
function exportPeople(slug: string, format: string, chosen: Selection): void {
  const form = document.createElement("form");
  form.method = "post";
  form.action = `/c/${slug}/people/export`;
  const add = (name: string, value: string) => {
    const input = document.createElement("input");
    input.type = "hidden";
    input.name = name;
    input.value = value;
    form.append(input);
  };
  add("format", format);
  add("chosen", JSON.stringify(chosen));
  document.body.append(form);
  form.submit();
  form.remove();
}
