import { sheetRow } from "@/core/intake/table";
import { capital, sayCount } from "@/core/time/say";
import { remarkSentences } from "@/locales/intake";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { undoList } from "../actions";
import type { NotedRow } from "../listImport";
import type { Intake } from "../listState";
import { type ListView, ROWS_PER_PAGE } from "../listView";
import { ListRow } from "./ImportList.client";
import { ListCounts } from "./ListCounts";

/** A list that came in: what became of its rows, those that couldn’t be used, and the way to take it all back. */
export function ImportedList({ view }: { view: ListView }) {
  const { intake, slug } = view;
  if (!intake.counts) return null;
  return (
    <>
      <ListCounts counts={intake.counts} kept />
      <div className="mt-4 flex flex-wrap items-center gap-3">
        <Link href={`/c/${slug}/people?list=${intake.id}`} className="button">
          Show the new people
        </Link>
        <ConfirmButton
          action={undoList.bind(null, slug, intake.id)}
          sure="Undo this import? Its visits are removed, and so is anyone who came with it and has no other history."
        >
          Undo this import
        </ConfirmButton>
      </div>
      {intake.counts.refused > 0 ? <Refused slug={slug} intake={intake} rows={view.refused} /> : null}
      {view.doubtful.length > 0 ? (
        <Doubtful slug={slug} found={intake.found} rows={view.doubtful} total={intake.counts.doubtful} />
      ) : null}
    </>
  );
}

function Refused({ slug, intake, rows }: { slug: string; intake: Intake; rows: NotedRow[] }) {
  const { found } = intake;
  return (
    <section>
      <div className="mt-9 mb-1 flex flex-wrap items-baseline justify-between gap-3">
        <h2 className="font-title text-[19px] font-semibold">
          {capital(sayCount(intake.counts?.refused ?? 0, "row"))} couldn’t be used
        </h2>
        <a href={`/c/${slug}/people/import/${intake.id}/refused.csv`} className="words-link" download>
          Download them to fix
        </a>
      </div>
      <ul className="divide-rule border-rule divide-y border-y">
        {rows.slice(0, ROWS_PER_PAGE).map((row) => (
          <li key={row.row} className="py-3">
            <p>
              <span className="text-second">Row {sheetRow(found, row.row)}:</span> {remarkSentences(row.problems)}
            </p>
            {intake.found && row.cells ? (
              <ListRow slug={slug} id={intake.id} row={row.row} headers={intake.found.headers} cells={row.cells} />
            ) : null}
          </li>
        ))}
      </ul>
      {rows.length > ROWS_PER_PAGE ? (
        <p className="mt-4">
          <Link href={`/c/${slug}/people/import/${intake.id}?after=${rows[ROWS_PER_PAGE - 1].row}`} className="button">
            The next {ROWS_PER_PAGE}
          </Link>
        </p>
      ) : null}
    </section>
  );
}

function Doubtful({
  slug,
  found,
  rows,
  total,
}: Pick<Intake, "found"> & { slug: string; rows: NotedRow[]; total: number }) {
  return (
    <section>
      <h2 className="font-title mt-9 mb-1 text-[19px] font-semibold">Imported, but worth checking</h2>
      <ul className="divide-rule border-rule divide-y border-y">
        {rows.map((row) => (
          <li key={row.row} className="py-2.5">
            <span className="text-second">Row {sheetRow(found, row.row)}:</span> {remarkSentences(row.problems)}{" "}
            {row.personId ? (
              <Link href={`/c/${slug}/people/${row.personId}`} className="name-link">
                {" "}
                To check{" "}
              </Link>
            ) : null}
          </li>
        ))}
      </ul>
      {total > rows.length ? (
        <p className="text-second mt-2 text-[14px]">
          The first {rows.length} of {total.toLocaleString("en-GB")}.
        </p>
      ) : null}
    </section>
  );
}
