import { agencyClients } from "@/features/accounts";
import { type AgencyTrailEntry, agencyTrail, filterOfTrail, readTrailQuery } from "@/features/audit";
import { deedWords, detailWords } from "@/features/audit/parts/EntryDetails";
import { toCsv } from "@/features/intake";
import { accountActionWords, accountNameWords, accountSubjectWords, deletedWords } from "@/locales/accounts";
import { requireAgency } from "@/platform/access";
import { withAgency } from "@/platform/database";
import { readBounded, refuseForeign } from "@/platform/hooks";

type Context = { params: Promise<{ agency: string }> };

/** Entries that a file holds at most. */
const MOST = 50_000;

/** The trail after the page's filters, as CSV with times in UTC (ISO 8601). */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  const foreign = refuseForeign(request);
  if (foreign) return foreign;
  const access = await requireAgency((await params).agency, "manage people");
  const form = new URLSearchParams((await readBounded(request, 4000)) ?? "");
  const wanted = readTrailQuery(Object.fromEntries(new URLSearchParams(form.get("query") ?? "")));
  const entries = await withAgency(access, async (tx) => {
    const clients = await agencyClients(tx, access);
    const zone = (clients.find(({ id }) => id === wanted.client) ?? clients[0])?.zone ?? "UTC";
    return agencyTrail(tx, access, { ...filterOfTrail(wanted, zone), before: null }, MOST);
  });
  const lines = [["when", "who", "what they did", "more", "client"], ...entries.map(lineOf)];
  return new Response(toCsv(lines), {
    headers: {
      "content-type": "text/csv; charset=utf-8",
      "content-disposition": `attachment; filename="trail-of-${access.seat.slug}.csv"`,
      "cache-control": "no-store",
    },
  });
}

function lineOf(entry: AgencyTrailEntry): string[] {
  const { at, who, client } = entry;
  const what =
    entry.of === "agency"
      ? [
          [accountActionWords(entry.action), accountSubjectWords(entry.subject)].filter(Boolean).join(" "),
          [accountNameWords(entry), deletedWords(entry.details)].filter(Boolean).join(": "),
        ]
      : [deedWords(entry), detailWords(entry)];
  return [new Date(at).toISOString(), who, ...what, client?.name ?? ""];
}
