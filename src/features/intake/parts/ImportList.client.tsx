"use client";
import { ActionForm } from "@/ui/ActionForm.client";
import { fixListRow, importList } from "../actions";

/** The two ways to keep a list. */
export function ImportList({
  slug,
  id,
  asked,
  people,
  canAsk,
}: {
  slug: string;
  id: string;
  asked: number;
  people: number;
  canAsk: boolean;
}) {
  return (
    <ActionForm action={importList.bind(null, slug, id)} className="flex flex-wrap items-center gap-3">
      {({ pending }) => (
        <>
          {canAsk ? (
            <button type="submit" name="asks" value="yes" className="button-main" disabled={pending}>
              {pending
                ? "Importing…"
                : asked > 0
                  ? `Import and ask ${asked.toLocaleString("en-GB")}`
                  : "Import and let plans decide who to ask"}
            </button>
          ) : null}
          <button type="submit" name="asks" value="no" className={canAsk ? "button" : "button-main"} disabled={pending}>
            Import {people === 1 ? "the person" : "the people"} only
          </button>
        </>
      )}
    </ActionForm>
  );
}

/** One refused row, to be mended in place. */
export function ListRow({
  slug,
  id,
  row,
  headers,
  cells,
}: {
  slug: string;
  id: string;
  row: number;
  headers: string[];
  cells: string[];
}) {
  return (
    <ActionForm action={fixListRow.bind(null, slug, id, row)} className="mt-2">
      {({ pending }) => (
        <div className="flex flex-wrap items-end gap-2">
          {headers.map((header, index) => (
            <label key={header} className="text-second block text-[13px]">
              <span className="block max-w-[160px] truncate">{header}</span>
              <input
                name="cell"
                defaultValue={cells[index] ?? ""}
                className="field w-[160px] px-2 py-1"
                autoComplete="off"
              />
            </label>
          ))}
          <button type="submit" className="button" disabled={pending}>
            {pending ? "Trying…" : "Try this row again"}
          </button>
        </div>
      )}
    </ActionForm>
  );
}
