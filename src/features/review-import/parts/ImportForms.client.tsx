"use client";

import { ActionForm } from "@/ui/ActionForm.client";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Field } from "@/ui/Field";
import { FileField } from "@/ui/FileField.client";
import { bringReviews, keepReviewsOf, matchReviewColumns, typeReviewIn, undoReviews } from "../actions";

export type PageChoice = { id: string; words: string };

function PageSelect({
  id,
  pages,
  error,
}: {
  id: string;
  pages: PageChoice[];
  error: (field: string) => React.ReactNode;
}) {
  return (
    <div>
      <label className="label" htmlFor={id}>
        From which page
      </label>
      <select id={id} name="listing" className="field">
        {pages.map((page) => (
          <option key={page.id} value={page.id}>
            {page.words}
          </option>
        ))}
      </select>
      {error("listingId")}
    </div>
  );
}

/** Brings a file of reviews in. */
export function BringForm({ slug, pages }: { slug: string; pages: PageChoice[] }) {
  return (
    <ActionForm action={bringReviews.bind(null, slug)} className="mt-3 flex flex-wrap items-end gap-3">
      {({ pending, error }) => (
        <>
          <PageSelect id="bring-page" pages={pages} error={error} />
          <FileField id="bring-file" name="file" label="A file" accept=".csv,.tsv,.txt,.xlsx,.json" isRequired />
          <button type="submit" className="button-main" disabled={pending}>
            {pending ? "Reading it…" : "Check it"}
          </button>
        </>
      )}
    </ActionForm>
  );
}

/** One review typed in. */
export function TypeForm({ slug, pages, today }: { slug: string; pages: PageChoice[]; today: React.ReactNode }) {
  return (
    <ActionForm action={typeReviewIn.bind(null, slug)} className="mt-3 space-y-3">
      {({ pending, error }) => (
        <>
          <div className="flex flex-wrap gap-3">
            <PageSelect id="type-page" pages={pages} error={error} />
            <div className="min-w-[180px] grow">
              <Field id="type-author" name="author" label="Who wrote it" error={error} />
            </div>
            <div className="w-[160px]">
              <Field id="type-rating" name="rating" label="Rating" placeholder="4 or 8.5/10" error={error} />
            </div>
            <div>
              <span className="label" aria-hidden="true">
                Written on
              </span>
              {today}
              {error("day")}
            </div>
          </div>
          <div>
            <label className="label" htmlFor="type-words">
              Their comment
            </label>
            <textarea id="type-words" name="words" rows={3} className="field" />
            {error("words")}
          </div>
          <button type="submit" className="button-main" disabled={pending}>
            {pending ? "Saving…" : "Save review"}
          </button>
        </>
      )}
    </ActionForm>
  );
}

const COLUMN_WORDS = [
  ["", "ignored"],
  ["author", "who wrote it"],
  ["rating", "the rating"],
  ["words", "their comment"],
  ["date", "when"],
  ["reply", "the reply"],
] as const;

/** What each column of the file holds. */
export function ColumnsForm({
  slug,
  id,
  columns,
}: {
  slug: string;
  id: string;
  columns: { name: string; holds: string; sample: string }[];
}) {
  return (
    <ActionForm action={matchReviewColumns.bind(null, slug, id)} className="mt-3">
      {({ pending }) => (
        <>
          <div className="flex flex-wrap gap-3">
            {columns.map((column, index) => (
              <div key={`${index} ${column.name}`} className="w-[170px]">
                <label className="label truncate" htmlFor={`column-${index}`}>
                  {column.name}
                </label>
                <select
                  id={`column-${index}`}
                  name={`column-${index}`}
                  className="field"
                  defaultValue={column.holds}
                  onChange={(event) => event.currentTarget.form?.requestSubmit()}
                >
                  {COLUMN_WORDS.map(([value, words]) => (
                    <option key={value} value={value}>
                      {words}
                    </option>
                  ))}
                </select>
                <p className="text-second truncate text-[13px]">{column.sample}</p>
              </div>
            ))}
          </div>
          <p role="status" className="sr-only">
            {pending ? "Reading it again…" : ""}
          </p>
        </>
      )}
    </ActionForm>
  );
}

export function KeepButton({ slug, id, count }: { slug: string; id: string; count: number }) {
  return (
    <ActionForm action={keepReviewsOf.bind(null, slug, id)}>
      {({ pending }) => (
        <button type="submit" className="button-main" disabled={pending || count === 0}>
          {pending
            ? "Importing…"
            : count === 1
              ? "Import this review"
              : `Import these ${count.toLocaleString("en-GB")} reviews`}
        </button>
      )}
    </ActionForm>
  );
}

export function UndoButton({ slug, id }: { slug: string; id: string }) {
  return (
    <ConfirmButton
      className="button-quiet"
      sure="Undo this import? Replies that came with the reviews are removed too."
      action={async () => (await undoReviews(slug, id)) ?? { ok: true }}
    >
      Undo import
    </ConfirmButton>
  );
}
