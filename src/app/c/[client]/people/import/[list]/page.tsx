import Link from "next/link";
import { notFound } from "next/navigation";
import { z } from "zod";
import { may } from "@/core/access/roles";
import type { Reason } from "@/core/asks/findings";
import { VISIT_FIELDS } from "@/core/intake/fields";
import { capital, sayCount, sayMoment, sayWhen } from "@/core/time/say";
import { loadSetting } from "@/features/clients";
import { findIntake, type Intake, type NotedRow, rowsOfIntake } from "@/features/intake";
import { readSheet, undoList } from "@/features/intake/actions";
import { KeepList, ListRow } from "@/features/intake/parts/KeepList.client";
import { ReadingForm } from "@/features/intake/parts/ReadingForm.client";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { ConfirmButton } from "@/features/people-admin/parts/RecordButtons.client";
import { listPlans } from "@/features/plans";
import { reasonWords } from "@/locales/asking";
import { fileSentence, forecastWords, remarkSentences } from "@/locales/intake";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import type { Forecast, IntakeCounts } from "@/schema/intake";
import { Empty, Note, Page } from "@/ui/Page";

export const metadata = { title: "A list" };

const PER_PAGE = 30;

type Props = {
  params: Promise<{ client: string; list: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

export default async function OneList({ params, searchParams }: Props) {
  const { client, list } = await params;
  const access = await requireAccess(client, "import lists");
  if (!z.uuid().safeParse(list).success) notFound();
  const now = await clockNow();
  const after =
    z.coerce
      .number()
      .int()
      .min(0)
      .max(1_000_000)
      .safeParse((await searchParams).after).data ?? 0;
  const seen = await withClient(access, async (tx) => {
    const intake = await findIntake(tx, access, list);
    return (
      intake && {
        intake,
        setting: await loadSetting(tx),
        plans: (await listPlans(tx, access))
          .filter(
            ({ state, rules }) => state !== "archived" && ["visit", "list", "invoice"].includes(rules.begins.kind),
          )
          .slice(0, 5),
        refused: await rowsOfIntake(tx, access, list, "refused", after, PER_PAGE + 1),
        doubtful: await rowsOfIntake(tx, access, list, "doubtful", 0, PER_PAGE),
      }
    );
  });
  if (!seen) notFound();
  const { intake, setting } = seen;
  const { slug, zone, role } = access.seat;
  const counts =
    intake.state === "kept" || intake.state === "keeping" ? intake.counts : (intake.forecast?.counts ?? null);
  const isWorking = intake.state === "reading" || intake.state === "looking" || intake.state === "keeping";
  const named = ({ id, name }: { id: string; name: string }) => ({ id, name });
  return (
    <>
      {isWorking ? <LiveRefresh seconds={1} /> : null}
      <Page
        margin={
          <>
            {intake.found ? (
              <Note title="How it was read">
                <p>{readWords(intake)}</p>
                {intake.found.literalQuotes ? (
                  <p>
                    {capital(sayCount(intake.found.literalQuotes, "cell"))} had quotation marks that don’t close. They
                    were read as they stand, so no row got lost.
                  </p>
                ) : null}
                {intake.found.oddBytes ? (
                  <p>
                    {capital(sayCount(intake.found.oddBytes, "letter"))} didn’t fit the file’s encoding: look at names
                    with accents.
                  </p>
                ) : null}
                {(intake.found.others ?? []).map(({ sheet, rows, headers }) => (
                  <div key={sheet}>
                    <p>
                      The sheet “{sheet}” holds something else ({sayCount(rows, "row")}: {headers.join(", ")}) and was
                      not read.
                    </p>
                    <ConfirmButton action={readSheet.bind(null, slug, intake.id, sheet)}>
                      Read it as a list of its own
                    </ConfirmButton>
                  </div>
                ))}
              </Note>
            ) : null}
            {intake.state === "ready" && intake.forecast ? (
              <ForecastNote forecast={intake.forecast} slug={slug} zone={zone} now={now} />
            ) : null}
            {(intake.state === "ready" || intake.state === "kept") && seen.plans.length > 0 ? (
              <Note title="Rehearse it">
                <p>Every message as it would read, on the days on which it would leave. Nothing is sent.</p>
                <ul>
                  {seen.plans.map(({ id, name }) => (
                    <li key={id}>
                      <Link href={`/c/${slug}/asking/plans/${id}/rehearsal?on=list&list=${intake.id}`}>
                        With “{name}”
                      </Link>
                    </li>
                  ))}
                </ul>
              </Note>
            ) : null}
            <Note title="The same again">
              <p>Lists with the same columns are read the same way the next time, without asking you.</p>
            </Note>
          </>
        }
      >
        <p className="text-second mb-1 text-[14px]">
          <Link href={`/c/${slug}/people/import`} className="underline underline-offset-[3px]">
            Lists
          </Link>{" "}
          · {intake.name}, by {intake.broughtBy}
        </p>
        <h1 className="title">{titleOf(intake, counts)}</h1>
        {isWorking ? <Progress intake={intake} /> : null}
        {intake.state === "failed" ? (
          <div className="mt-5">
            <Empty
              action={
                <Link href={`/c/${slug}/people/import`} className="button">
                  Bring another file
                </Link>
              }
            >
              {intake.error ? fileSentence(intake.error) : ""} Nothing of it was kept.
            </Empty>
          </div>
        ) : null}
        {intake.state === "ready" && intake.found && intake.choice ? (
          <>
            {intake.forecast ? (
              <Counts counts={intake.forecast.counts} />
            ) : (
              <p className="lead">Answer the one question below; then you see what would happen.</p>
            )}
            {intake.forecast ? (
              <div className="my-5">
                <KeepList
                  slug={slug}
                  id={intake.id}
                  asked={intake.forecast.asked}
                  people={intake.forecast.counts.rows}
                  canAsk={
                    may(role, "ask") && intake.choice.matching.some((field) => field && VISIT_FIELDS.includes(field))
                  }
                />
              </div>
            ) : null}
            <h2 className="font-title mt-6 mb-2 text-[19px] font-semibold">What the columns hold</h2>
            <ReadingForm
              key={JSON.stringify(intake.choice)}
              slug={slug}
              id={intake.id}
              found={intake.found}
              choice={intake.choice}
              services={setting.services.filter(({ retired }) => !retired).map(named)}
              branches={setting.branches.map(named)}
            />
            {intake.forecast && intake.forecast.visits.length > 0 ? (
              <WhatWouldHappen forecast={intake.forecast} zone={zone} now={now} />
            ) : null}
          </>
        ) : null}
        {intake.state === "kept" && intake.counts ? (
          <>
            <Counts counts={intake.counts} kept />
            <div className="mt-4 flex flex-wrap items-center gap-3">
              <Link href={`/c/${slug}/people?list=${intake.id}`} className="button">
                Show the new people
              </Link>
              <ConfirmButton
                action={undoList.bind(null, slug, intake.id)}
                sure="Take the whole list back? Its visits go, and so do people who came with it and with whom nothing else has happened."
              >
                Take the whole list back
              </ConfirmButton>
            </div>
            {intake.counts.refused > 0 ? <Refused slug={slug} intake={intake} rows={seen.refused} /> : null}
            {seen.doubtful.length > 0 ? (
              <Doubtful slug={slug} rows={seen.doubtful} total={intake.counts.doubtful} />
            ) : null}
          </>
        ) : null}
        {intake.state === "undone" ? (
          <p className="lead">Its visits and its new people are gone, and the people it changed are as they were.</p>
        ) : null}
      </Page>
    </>
  );
}

const KIND_WORDS = { service: "service", branch: "branch", team: "team member", tag: "tag" };

function titleOf(intake: Intake, counts: IntakeCounts | null): string {
  const rows = capital(sayCount(intake.total, "row"));
  switch (intake.state) {
    case "reading":
      return "The list is being read.";
    case "looking":
      return `${rows}: looking through them.`;
    case "keeping":
      return "The list is being kept.";
    case "failed":
      return "This could not be read.";
    case "undone":
      return "This list was taken back.";
    case "kept":
      return `${rows} kept${counts && counts.refused > 0 ? `, but ${counts.refused} could not be used` : ""}.`;
    default:
      return counts
        ? `${rows}: ${counts.new.toLocaleString("en-GB")} new, ${(counts.changed + counts.unchanged).toLocaleString("en-GB")} known${counts.refused > 0 ? `, ${counts.refused.toLocaleString("en-GB")} not usable` : ""}.`
        : `${rows}, and one question.`;
  }
}

function readWords({ found, total }: Intake): string {
  if (!found) return "";
  const delimiters: Record<string, string> = { ",": "commas", ";": "semicolons", "\t": "tabs", "|": "bars" };
  const sheets = found.sheets ?? [];
  const how =
    found.kind === "workbook"
      ? `${sheets.length > 1 ? "the sheets" : "the sheet"} ${sheets.map((sheet) => `“${sheet}”`).join(", ")}`
      : `${found.encoding} text with ${delimiters[found.delimiter ?? ","] ?? "commas"}`;
  return `${total.toLocaleString("en-GB")} rows and ${found.headers.length} columns of ${how}${found.hasHeader ? "" : ", without a header"}${found.skipped > 0 ? `; ${sayCount(found.skipped, "line")} above the header left aside` : ""}.`;
}

function Progress({ intake }: { intake: Intake }) {
  return (
    <div className="mt-5" role="status">
      <progress
        className="accent-mulberry w-full max-w-[420px]"
        max={intake.total || undefined}
        value={intake.state === "keeping" ? intake.done : undefined}
      />
      <p className="text-second mt-1">
        {intake.state === "keeping"
          ? `${intake.done.toLocaleString("en-GB")} of ${intake.total.toLocaleString("en-GB")} rows. You can leave this page; it goes on.`
          : "This takes a few seconds for a long list."}
      </p>
    </div>
  );
}

/** What became or would become of the rows, in one sentence whose numbers add up. */
function Counts({ counts, kept = false }: { counts: IntakeCounts; kept?: boolean }) {
  const n = (value: number) => <b>{value.toLocaleString("en-GB")}</b>;
  return (
    <p className="lead">
      {n(counts.new)} new
      {counts.changed > 0 ? <>, {n(counts.changed)} known with something new</> : null}
      {counts.unchanged > 0 ? <>, {n(counts.unchanged)} known as they are</> : null}
      {counts.refused > 0 ? <>, {n(counts.refused)} not usable</> : null}.{" "}
      {counts.visits > 0 ? (
        <>
          {n(counts.visits)} {counts.visits === 1 ? "visit" : "visits"} {kept ? "came in" : "would come in"}.{" "}
        </>
      ) : null}
      {counts.doubtful > 0 ? (
        <>
          {n(counts.doubtful)} {kept ? "have" : "would have"} something to look at.
        </>
      ) : null}
    </p>
  );
}

function ForecastNote({ forecast, slug, zone, now }: { forecast: Forecast; slug: string; zone: string; now: number }) {
  const reasons = Object.entries(forecast.leftOut).sort((a, b) => b[1] - a[1]);
  return (
    <>
      <Note title="If you begin asking">
        <p>
          <b>{forecast.asked.toLocaleString("en-GB")}</b> would be asked
          {forecast.firstLeaves
            ? `, the first ${forecast.firstLeaves <= now ? "at once" : sayWhen(zone, forecast.firstLeaves, now)}`
            : ""}
          .
        </p>
        {reasons.map(([reason, count]) => (
          <p key={reason}>
            <b>{count.toLocaleString("en-GB")}</b> left out: {reasonWords(reason as Reason)}.
          </p>
        ))}
      </Note>
      {forecast.unknownNames.length > 0 ? (
        <Note title="Names nobody knows yet">
          <p>
            {forecast.unknownNames.slice(0, 8).map(({ kind, name, count }, index) => (
              <span key={`${kind} ${name}`}>
                {index > 0 ? ", " : ""}
                {index === 0 ? capital(KIND_WORDS[kind]) : KIND_WORDS[kind]} “{name}” ({count})
              </span>
            ))}
            {forecast.unknownNames.length > 8 ? ` and ${forecast.unknownNames.length - 8} more` : ""}.
          </p>
          <p>
            Keep the list, then <Link href={`/c/${slug}/set-up/names`}>assign each once</Link>. Visits with an unknown
            service or branch wait until then.
          </p>
        </Note>
      ) : null}
    </>
  );
}

function WhatWouldHappen({ forecast, zone, now }: { forecast: Forecast; zone: string; now: number }) {
  const more = forecast.counts.visits - forecast.visits.length;
  return (
    <>
      <h2 className="font-title mt-8 mb-2 text-[19px] font-semibold">What would happen to each visit</h2>
      <div className="border-rule max-h-[420px] overflow-y-auto border-y">
        <table className="w-full border-collapse text-left">
          <thead className="sr-only">
            <tr>
              <th>Row</th>
              <th>Who</th>
              <th>Visit ended</th>
              <th>What happens</th>
            </tr>
          </thead>
          <tbody className="divide-rule divide-y">
            {forecast.visits.map((visit) => (
              <tr key={visit.row} className="max-sm:block max-sm:py-1.5">
                <td className="text-second w-[52px] py-1.5 max-sm:hidden">{visit.row}</td>
                <td className="py-1.5 pr-4 font-semibold max-sm:block max-sm:py-0">{visit.name || "Nameless"}</td>
                <td className="text-second py-1.5 pr-4 whitespace-nowrap max-sm:block max-sm:py-0">
                  {sayMoment(zone, visit.endsAt, now)}
                </td>
                <td className="py-1.5 max-sm:block max-sm:py-0">{forecastWords(visit.what, zone, now)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {more > 0 ? (
        <p className="text-second mt-2 text-[14px]">{more.toLocaleString("en-GB")} more are in the numbers beside.</p>
      ) : null}
    </>
  );
}

function Refused({ slug, intake, rows }: { slug: string; intake: Intake; rows: NotedRow[] }) {
  return (
    <section>
      <div className="mt-9 mb-1 flex flex-wrap items-baseline justify-between gap-3">
        <h2 className="font-title text-[19px] font-semibold">
          {capital(sayCount(intake.counts?.refused ?? 0, "row"))} could not be used
        </h2>
        <a href={`/c/${slug}/people/import/${intake.id}/refused.csv`} className="words-link" download>
          Download them to fix
        </a>
      </div>
      <ul className="divide-rule border-rule divide-y border-y">
        {rows.slice(0, PER_PAGE).map((row) => (
          <li key={row.row} className="py-3">
            <p>
              <span className="text-second">Row {row.row}:</span> {remarkSentences(row.problems)}
            </p>
            {intake.found && row.cells ? (
              <ListRow slug={slug} id={intake.id} row={row.row} headers={intake.found.headers} cells={row.cells} />
            ) : null}
          </li>
        ))}
      </ul>
      {rows.length > PER_PAGE ? (
        <p className="mt-4">
          <Link href={`/c/${slug}/people/import/${intake.id}?after=${rows[PER_PAGE - 1].row}`} className="button">
            The next {PER_PAGE}
          </Link>
        </p>
      ) : null}
    </section>
  );
}

function Doubtful({ slug, rows, total }: { slug: string; rows: NotedRow[]; total: number }) {
  return (
    <section>
      <h2 className="font-title mt-9 mb-1 text-[19px] font-semibold">Kept, with something to look at</h2>
      <ul className="divide-rule border-rule divide-y border-y">
        {rows.map((row) => (
          <li key={row.row} className="py-2.5">
            <span className="text-second">Row {row.row}:</span> {remarkSentences(row.problems)}{" "}
            {row.personId ? (
              <Link href={`/c/${slug}/people/${row.personId}`} className="name-link">
                Look
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
