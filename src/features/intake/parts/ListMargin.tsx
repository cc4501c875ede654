import type { Reason } from "@/core/asks/findings";
import { capital, sayCount, sayWhichDay } from "@/core/time/say";
import { reasonWords } from "@/locales/asking";
import type { Forecast } from "@/schema/intake";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Note } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { readSheet } from "../actions";
import type { Intake } from "../listState";
import type { ListView } from "../listView";

const KIND_WORDS = { service: "service", branch: "branch", team: "team member", tag: "tag" };

/** How a list was read, and what it would lead to. */
export function ListMargin({ view }: { view: ListView }) {
  const { intake } = view;
  const isRead = intake.state === "ready" || intake.state === "imported";
  return (
    <>
      {intake.found ? <HowRead view={view} /> : null}
      {intake.state === "ready" && intake.forecast ? <ForecastNote view={view} forecast={intake.forecast} /> : null}
      {isRead && view.plans.length > 0 ? <RehearseNote view={view} /> : null}
      <Note title="Next time">
        <p>Lists with the same columns will be read the same way, without asking you again.</p>
      </Note>
    </>
  );
}

function HowRead({ view: { intake, slug } }: { view: ListView }) {
  if (!intake.found) return null;
  return (
    <Note title="How it was read">
      <p>{readWords(intake)}</p>
      {intake.found.literalQuotes ? (
        <p>
          {capital(sayCount(intake.found.literalQuotes, "cell"))} had quotation marks that don’t close. We read them as
          they are, so no rows were lost.
        </p>
      ) : null}
      {intake.found.oddBytes ? (
        <p>
          {capital(sayCount(intake.found.oddBytes, "letter"))} didn’t fit the file’s encoding. Check names with accents.
        </p>
      ) : null}
      {(intake.found.others ?? []).map(({ sheet, rows, headers }) => (
        <div key={sheet}>
          <p>
            The sheet “{sheet}” has different columns ({sayCount(rows, "row")}: {headers.join(", ")}), so we didn’t read
            it.
          </p>
          <ConfirmButton action={readSheet.bind(null, slug, intake.id, sheet)}>
            Import it as a separate list
          </ConfirmButton>
        </div>
      ))}
    </Note>
  );
}

function RehearseNote({ view: { intake, plans, slug } }: { view: ListView }) {
  return (
    <Note title="Try it first">
      <p>See every message and when it would go out. Nothing is sent.</p>
      <ul>
        {plans.map(({ id, name }) => (
          <li key={id}>
            <Link href={`/c/${slug}/asking/plans/${id}/rehearsal?on=list&list=${intake.id}`}>With “{name}”</Link>
          </li>
        ))}
      </ul>
    </Note>
  );
}

function ForecastNote({ view: { slug, zone, now }, forecast }: { view: ListView; forecast: Forecast }) {
  const reasons = Object.entries(forecast.leftOut).sort((a, b) => b[1] - a[1]);
  return (
    <>
      <Note title="If you start asking">
        <p>
          <b>{forecast.asked.toLocaleString("en-GB")}</b> would be asked
          {forecast.firstLeaves
            ? `, the first ${forecast.firstLeaves <= now ? "straight away" : sayWhichDay(zone, forecast.firstLeaves, now)}`
            : ""}
          .
        </p>
        {forecast.later ? (
          <p>
            <b>{forecast.later.toLocaleString("en-GB")}</b> still to come: decided once they’re over.
          </p>
        ) : null}
        {reasons.map(([reason, count]) => (
          <p key={reason}>
            <b>{count.toLocaleString("en-GB")}</b> left out: {reasonWords(reason as Reason)}.
          </p>
        ))}
      </Note>
      {forecast.unknownNames.length > 0 ? (
        <Note title="Names we don’t recognise">
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
            Import the list, then <Link href={`/c/${slug}/set-up/names`}>match each one once</Link>. Visits with an
            unknown service or branch wait until then.
          </p>
        </Note>
      ) : null}
    </>
  );
}

function readWords({ found, total }: Intake): string {
  if (!found) return "";
  if (found.kind === "contacts") return `${capital(sayCount(total, "contact"))} from an address book.`;
  const delimiters: Record<string, string> = { ",": "commas", ";": "semicolons", "\t": "tabs", "|": "bars" };
  const sheets = found.sheets ?? [];
  const how =
    found.kind === "workbook"
      ? `${sheets.length > 1 ? "the sheets" : "the sheet"} ${sheets.map((sheet) => `“${sheet}”`).join(", ")}`
      : `${found.encoding} text with ${delimiters[found.delimiter ?? ","] ?? "commas"}`;
  return `${total.toLocaleString("en-GB")} rows and ${found.headers.length} columns of ${how}${found.hasHeader ? "" : ", with no header row"}${found.skipped > 0 ? `; ${sayCount(found.skipped, "line")} above the header ignored` : ""}.`;
}
