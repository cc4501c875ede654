"use client";

import {
  type ColumnDef,
  flexRender,
  getCoreRowModel,
  type Row,
  type RowSelectionState,
  useReactTable,
} from "@tanstack/react-table";
import { useMemo, useRef, useState } from "react";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import type { Selection } from "../selection";
import { AskMany } from "./AskMany.client";
import { type Change, ChangeMany } from "./ChangeMany.client";
import { ManyBar, type MayMany } from "./ManyBar.client";

export type PersonRow = {
  id: string;
  name: string;
  phone: string | null;
  phoneProblem: string | null;
  email: string | null;
  emailProblem: string | null;
  marks: string[];
  doNotAsk: boolean;
  lastAsked: string;
};

type Props = {
  slug: string;
  rows: PersonRow[];
  tags: string[];
  /** The filters, for actions on everybody whom they show. */
  query: string;
  total: string;
  hasMore: boolean;
  may: MayMany;
};

/** People in rows that can be ticked, walked through by arrow keys, and worked on together. */
export function PeopleTable({ slug, rows, tags, query, total, hasMore, may }: Props) {
  const [rowSelection, setRowSelection] = useState<RowSelectionState>({});
  // Everybody whom the filters show, also on further pages.
  const [all, setAll] = useState(false);
  const [doing, setDoing] = useState<"ask" | Change | null>(null);
  const isTickable = may.edit || may.ask || may.export;
  const columns = useMemo(() => columnsOf(slug, isTickable), [slug, isTickable]);
  const table = useReactTable({
    data: rows,
    columns,
    state: { rowSelection },
    getRowId: ({ id }) => id,
    onRowSelectionChange: (next) => {
      setAll(false);
      setRowSelection(next);
    },
    getCoreRowModel: getCoreRowModel(),
  });
  const ticked = table.getSelectedRowModel().rows.map(({ id }) => id);
  const chosen: Selection = all ? { all: query } : { ids: ticked };
  const count = all ? total : String(ticked.length);
  const end = () => {
    setDoing(null);
    setAll(false);
    setRowSelection({});
  };
  return (
    <>
      {isTickable ? (
        <div
          className={`bg-paper sticky top-[56px] z-20 flex min-h-[52px] flex-wrap items-center gap-2 py-1.5 ${ticked.length > 0 ? "" : "text-second"}`}
          aria-live="polite"
        >
          <span className="mr-2 text-[14px]">
            {ticked.length > 0 ? <b>{count} chosen</b> : "Tick people to change or ask several together."}
          </span>
          {ticked.length > 0 ? (
            <>
              <ManyBar slug={slug} chosen={chosen} may={may} onChoose={setDoing} />
              {table.getIsAllRowsSelected() && hasMore && !all ? (
                <button type="button" className="button-quiet" onClick={() => setAll(true)}>
                  Choose all {total}
                </button>
              ) : null}
              <button type="button" className="button-quiet" onClick={end}>
                None
              </button>
            </>
          ) : null}
        </div>
      ) : null}
      <table className="w-full border-collapse text-left">
        <thead className="text-second text-[13px] max-sm:sr-only">
          <tr>
            {table.getFlatHeaders().map((header) => (
              <th key={header.id} className="py-1.5 pr-4 font-medium">
                {flexRender(header.column.columnDef.header, header.getContext())}
              </th>
            ))}
          </tr>
        </thead>
        <People rows={table.getRowModel().rows} isAll={all} />
      </table>
      {doing === "ask" ? <AskMany slug={slug} chosen={chosen} onEnd={end} onClose={() => setDoing(null)} /> : null}
      {doing && doing !== "ask" ? (
        <ChangeMany
          slug={slug}
          which={doing}
          chosen={chosen}
          count={count}
          tags={tags}
          onEnd={end}
          onClose={() => setDoing(null)}
        />
      ) : null}
    </>
  );
}

/** The rows; arrow keys walk from one name to the next. */
function People({ rows, isAll }: { rows: Row<PersonRow>[]; isAll: boolean }) {
  const body = useRef<HTMLTableSectionElement>(null);
  const walk = (event: React.KeyboardEvent) => {
    if (event.key !== "ArrowDown" && event.key !== "ArrowUp") return;
    const links = [...(body.current?.querySelectorAll<HTMLAnchorElement>("a[data-person]") ?? [])];
    const at = links.indexOf(document.activeElement as HTMLAnchorElement);
    const next = links[at + (event.key === "ArrowDown" ? 1 : -1)];
    if (at < 0 || !next) return;
    event.preventDefault();
    next.focus();
  };
  return (
    <tbody ref={body} onKeyDown={walk} className="divide-rule border-rule divide-y border-y">
      {rows.map((row) => (
        <tr
          key={row.id}
          className={`max-sm:relative max-sm:block max-sm:py-2 max-sm:pl-9 ${isAll || row.getIsSelected() ? "bg-mulberry-tint" : ""}`}
        >
          {row.getAllCells().map((cell) => (
            <td key={cell.id} className={CELLS[cell.column.id]}>
              {flexRender(cell.column.columnDef.cell, cell.getContext())}
            </td>
          ))}
        </tr>
      ))}
    </tbody>
  );
}

/** How the cells of each column stand, on a phone below each other. */
const CELLS: Record<string, string> = {
  tick: "w-9 py-2 max-sm:absolute max-sm:top-1 max-sm:left-0",
  name: "py-2 pr-4 max-sm:block max-sm:py-0",
  phone: "py-2 pr-4 whitespace-nowrap max-sm:block max-sm:py-0",
  email: "py-2 pr-4 [overflow-wrap:anywhere] max-sm:block max-sm:py-0",
  lastAsked: "text-second py-2 whitespace-nowrap max-sm:block max-sm:py-0",
};

function columnsOf(slug: string, isTickable: boolean): ColumnDef<PersonRow>[] {
  const tick: ColumnDef<PersonRow> = {
    id: "tick",
    header: ({ table }) => (
      <input
        type="checkbox"
        className="block size-[18px]"
        aria-label="Everyone on this page"
        checked={table.getIsAllRowsSelected()}
        onChange={table.getToggleAllRowsSelectedHandler()}
      />
    ),
    cell: ({ row }) => (
      <input
        type="checkbox"
        className="block size-[18px]"
        aria-label={row.original.name}
        checked={row.getIsSelected()}
        onChange={row.getToggleSelectedHandler()}
      />
    ),
  };
  return [
    ...(isTickable ? [tick] : []),
    { id: "name", header: "Name", cell: ({ row }) => <Name slug={slug} person={row.original} /> },
    {
      id: "phone",
      header: "Mobile",
      cell: ({ row: { original } }) => <Address text={original.phone} problem={original.phoneProblem} />,
    },
    {
      id: "email",
      header: "Email",
      cell: ({ row: { original } }) => <Address text={original.email} problem={original.emailProblem} />,
    },
    {
      id: "lastAsked",
      header: "Last asked",
      cell: ({ row }) => (
        <>
          <span className="sm:hidden">asked </span>
          {row.original.lastAsked}
        </>
      ),
    },
  ];
}

function Name({ slug, person }: { slug: string; person: PersonRow }) {
  return (
    <>
      <Link href={`/c/${slug}/people/${person.id}`} className="name-link" data-person="">
        {person.name}
      </Link>
      {person.doNotAsk ? <span className="tag bg-ochre-tint text-ochre-deep ml-2">never ask</span> : null}
      {person.marks.map((mark) => (
        <span key={mark} className="tag bg-mulberry-tint text-ink ml-2">
          {mark}
        </span>
      ))}
    </>
  );
}

function Address({ text, problem }: { text: string | null; problem: string | null }) {
  if (!text || !problem) return text;
  return (
    <span className="text-second">
      {problem === "landline" ? text : <s>{text}</s>} {problem}
    </span>
  );
}
