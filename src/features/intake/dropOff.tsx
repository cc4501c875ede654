import { and, eq, gte, sql } from "drizzle-orm";
import type { ReactElement, ReactNode } from "react";
import { z } from "zod";
import { REASONS, type Reason } from "@/core/asks/findings";
import { type Arrival, parseArrival } from "@/core/intake/arrival";
import type { ForecastVerdict } from "@/core/intake/forecast";
import type { Remark } from "@/core/intake/remarks";
import { sheetRow } from "@/core/intake/table";
import { capital, sayCount, sayFigure } from "@/core/time/say";
import { DAY, dayNumber, fromLocal, toLocal } from "@/core/time/zone";
import { cleanText } from "@/core/words/clean";
import { foldLetters } from "@/core/words/fold";
import { loadSetting, type Setting } from "@/features/clients";
import { reasonWords } from "@/locales/asking";
import { fileSentence, remarkSentences } from "@/locales/intake";
import { now as clockNow } from "@/platform/clock";
import { rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { readBytes } from "@/platform/hooks";
import { isWelcome } from "@/platform/publicLimit";
import { isToken, isWelcomeClient, mayGuessAgain } from "@/platform/publicLink";
import { newId } from "@/schema/columns";
import { people } from "@/schema/people";
import { visits } from "@/schema/visits";
import { CustomerPage } from "@/ui/CustomerPage";
import { markupOf } from "@/ui/markup";
import { type Feed, findFeed } from "./feeds";
import { MOST_BYTES, Unreadable } from "./files";
import { fatesOfStrangers } from "./forecast";
import { ingest } from "./ingest";
import { rowsOfIntake, startImport } from "./listImport";
import { readRows, receiveList } from "./listReading";
import { findIntake, type Intake, loadList } from "./listState";

/**
 * The drop-off page: `/d/<token>`, for a client's own staff, without signing in. It can only add. Nothing it shows
 * depends on who is here already: not whether somebody is new, not whether an address is known, not why one may not be
 * taken.
 */

const HEADERS = {
  "content-type": "text/html; charset=utf-8",
  "cache-control": "no-store",
  "referrer-policy": "no-referrer",
  "x-content-type-options": "nosniff",
  "content-security-policy":
    "default-src 'none'; style-src 'unsafe-inline'; font-src 'self'; img-src 'self'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'",
};

async function html(page: ReactElement, status = 200): Promise<Response> {
  return new Response(await markupOf(page), { status, headers: HEADERS });
}

const goTo = (location: string) =>
  new Response(null, { status: 303, headers: { location, "cache-control": "no-store" } });

type Place = { scope: Scope; feed: Feed; setting: Setting; token: string };

async function placeOf(token: string): Promise<Place | null> {
  const [row] = await rowsOf<{ client_id: string; feed_id: string }>(sql`select * from estima_drop_off(${token})`);
  if (!row) return null;
  const scope = workFor(row.client_id);
  return withClient(scope, async (tx) => {
    const feed = await findFeed(tx, scope, row.feed_id);
    return feed && { scope, feed, setting: await loadSetting(tx), token };
  });
}

/** Answers `/d/<token>`: GET shows the page, POST leaves a file or adds one person. */
export async function handleDropOff(request: Request, token: string): Promise<Response> {
  const tooOften = () => html(<Lost words="Too many attempts. Wait a minute and try again." />, 429);
  if (!(await isWelcomeClient(request.headers))) return tooOften();
  const place = isToken(token, 22, 22) ? await placeOf(token) : null;
  if (!place) {
    if (!(await mayGuessAgain(request.headers))) return tooOften();
    return html(
      <Lost words="This link doesn’t work. There may be a new one; ask whoever looks after your reviews." />,
      404,
    );
  }
  if (!(await isWelcome(`d ${token}`, 60, 60))) return tooOften();
  if (request.method !== "POST") {
    const query = new URL(request.url).searchParams;
    const list = z.uuid().safeParse(query.get("list"));
    if (list.success) return showList(place, list.data);
    return html(<DropOffPage place={place} said={query.has("added") ? saidOf(query.get("added") ?? "") : null} />);
  }
  if (!(await isWelcome(`d post ${token}`, 30, 60))) return tooOften();
  const form = await readForm(request);
  if (form === "too large")
    return html(
      <DropOffPage place={place} wrong="The file is bigger than 25 MB. Split it and upload the parts." />,
      413,
    );
  if (!form) return html(<DropOffPage place={place} wrong="The upload didn’t finish. Try again." />, 400);
  return form.get("file") instanceof Blob ? leaveFile(place, form) : addOne(place, form);
}

async function readForm(request: Request): Promise<FormData | "too large" | null> {
  const bytes = await readBytes(request, MOST_BYTES + 100_000);
  if (bytes === null) return "too large";
  const type = request.headers.get("content-type") ?? "";
  try {
    return await new Response(Buffer.from(bytes), { headers: { "content-type": type } }).formData();
  } catch {
    return null;
  }
}

async function leaveFile(place: Place, form: FormData): Promise<Response> {
  const file = form.get("file") as File;
  if (file.size === 0) return html(<DropOffPage place={place} wrong="Choose a file first." />, 422);
  const { scope, feed, token } = place;
  try {
    const id = await receiveList(scope, {
      source: "drop-off",
      name: cleanText(file.name || "A list"),
      bytes: new Uint8Array(await file.arrayBuffer()),
      who: feed.name,
      requestKey: z.uuid().safeParse(form.get("key")).data ?? newId(),
      feedId: feed.id,
      from: { branchId: feed.branchId, serviceId: feed.serviceId, onlyBranch: feed.branchId !== null },
    });
    // What has to be looked at first waits for somebody who may sign in.
    const intake = await withClient(scope, (tx) => findIntake(tx, scope, id));
    if (intake?.state === "ready") await startImport(scope, id, feed.name, true);
    return goTo(`/d/${token}?list=${id}`);
  } catch (error) {
    if (!(error instanceof Unreadable)) throw error;
    return html(<DropOffPage place={place} wrong={error.message} />, 422);
  }
}

async function addOne(place: Place, form: FormData): Promise<Response> {
  const { scope, feed, setting, token } = place;
  const text = (name: string) => cleanText(String(form.get(name) ?? "")).slice(0, 300);
  const now = await clockNow();
  const reach = text("reach").trim();
  const service = setting.services.find(({ id }) => id === text("service"));
  const branch = setting.branches.find(({ id }) => id === feed.branchId) ?? setting.branches[0];
  const typed = { name: text("name"), reach, service: service?.id ?? "" };
  if (!typed.name.trim()) return html(<DropOffPage place={place} typed={typed} wrong="Enter a name." />, 422);
  const read = parseArrival(
    {
      "full name": typed.name,
      ...(reach.includes("@") ? { email: reach } : { phone: reach }),
      service: service?.name ?? "visit",
    },
    { country: setting.client.country, zone: branch.zone, now, order: "day first", undated: "today" },
  );
  if ("problems" in read || !read.visit) {
    const wrong = reach
      ? "That isn’t a mobile number or an email address. Check for missing or extra characters."
      : "Enter a mobile number or an email address.";
    return html(<DropOffPage place={place} typed={typed} wrong={wrong} />, 422);
  }
  const arrival = { ...read, visit: { ...read.visit, service: null } };
  const from = {
    way: "drop-off" as const,
    feedId: feed.id,
    serviceId: service?.id ?? feed.serviceId,
    branchId: branch.id,
    now,
  };
  const fate = await withClient(scope, async (tx) => {
    // Whoever is added twice, by two colleagues or two clicks, was here once.
    if (!(await isAdded(tx, place, arrival, from)))
      await ingest(tx, scope, setting, [{ arrival }], {
        ...from,
        source: feed.name,
        sharedAddress: "another person",
        replaces: false,
        looked: true,
      });
    return (await fatesOfStrangers(tx, scope, setting, [arrival], from))[0];
  });
  return goTo(`/d/${token}?added=${encodeURIComponent(fateCode(fate))}`);
}

/** Whether the same person was added by this page for the same service on the same day. */
async function isAdded(
  tx: Tx,
  { scope, feed, setting }: Place,
  { person }: Arrival,
  { serviceId, now }: { serviceId: string | null; now: number },
): Promise<boolean> {
  const today = fromLocal(setting.client.zone, dayNumber(toLocal(setting.client.zone, now)) * DAY);
  const added = await tx
    .select({ given: people.given, family: people.family })
    .from(visits)
    .innerJoin(people, eq(people.id, visits.personId))
    .where(
      and(
        eq(visits.clientId, scope.clientId),
        eq(visits.feedId, feed.id),
        gte(visits.endsAt, today),
        serviceId ? eq(visits.serviceId, serviceId) : undefined,
        person.email ? eq(people.email, person.email) : eq(people.phone, person.phone?.number ?? ""),
      ),
    )
    .limit(50);
  const name = (one: { given: string; family: string }) => foldLetters(`${one.given} ${one.family}`);
  return added.some((one) => name(one) === name(person));
}

/** A verdict as it stands in the page's address: nothing of whom it is about. */
const fateCode = (fate: ForecastVerdict | null): string =>
  fate?.code === "left out" ? `left out ${fate.reason}` : (fate?.code ?? "1");

const isReason = (text: string): text is Reason => (REASONS as readonly string[]).includes(text);

/** What happens to whoever was added, by what was typed; others' rests and wishes are none of this page's business. */
function saidOf(code: string): string {
  const [, reason = ""] = /^left out (.+)$/.exec(code) ?? [];
  if (isReason(reason)) return `Added, but we won’t ask them: ${reasonWords(reason)}. You can add the next person.`;
  if (code === "asked")
    return "Added. We’ll ask them how it went at a good time, unless they’ve been asked recently or don’t want to be. You can add the next person.";
  return "Added. You can add the next person.";
}

async function showList(place: Place, id: string): Promise<Response> {
  const { scope, feed } = place;
  const seen = await withClient(scope, async (tx) => {
    const intake = await findIntake(tx, scope, id);
    return intake?.feedId === feed.id ? { intake, refused: await rowsOfIntake(tx, scope, id, "refused", 0, 30) } : null;
  });
  if (!seen) return html(<Lost words="We can’t find this list." />, 404);
  const fates = seen.intake.state === "imported" ? await fatesOf(place, seen.intake) : [];
  return html(<ListPage place={place} intake={seen.intake} refused={seen.refused} fates={fates} />);
}

type Fate = { says: string; rows: number[] };

/** Of longer lists only the numbers are told. */
const MOST_TOLD = 300;

/** What happens to the rows of a short list, by what stands in them alone. */
async function fatesOf({ scope, setting, feed }: Place, { id, choice, found, total }: Intake): Promise<Fate[]> {
  if (!choice || total > MOST_TOLD) return [];
  const now = await clockNow();
  const list = await withClient(scope, (tx) => loadList(tx, scope, id)).catch(() => null);
  // What was in it is removed after thirty days.
  if (!list) return [];
  const rows = [...readRows(list, choice, setting, now)].flatMap(({ row, read }) =>
    "person" in read && read.visit ? [{ row: sheetRow(found, row), arrival: read }] : [],
  );
  const verdicts = await withClient(scope, (tx) =>
    fatesOfStrangers(
      tx,
      scope,
      setting,
      rows.map(({ arrival }) => arrival),
      {
        way: "drop-off",
        feedId: feed.id,
        serviceId: choice.serviceId,
        branchId: choice.branchId,
        now,
      },
    ),
  );
  const byWords = new Map<string, number[]>();
  for (const [index, verdict] of verdicts.entries()) {
    if (!verdict) continue;
    const says =
      verdict.code === "left out"
        ? `Not asked: ${reasonWords(verdict.reason)}`
        : verdict.code === "waits for names"
          ? "Waiting for your reviews team to say which service it is"
          : verdict.code === "decided later"
            ? "Asked after the visit"
            : "Asked at a good time, unless they’ve been asked recently or don’t want to be";
    byWords.set(says, [...(byWords.get(says) ?? []), rows[index].row]);
  }
  return [...byWords].map(([says, rows]) => ({ says, rows }));
}

/** "2 to 14, 17 and 20": at most so many. */
function rowsWords(rows: readonly number[]): string {
  const runs: [number, number][] = [];
  for (const row of rows) {
    const last = runs.at(-1);
    if (last && row === last[1] + 1) last[1] = row;
    else runs.push([row, row]);
  }
  const said = runs.slice(0, 12).map(([from, to]) => (from === to ? `${from}` : `${from} to ${to}`));
  return new Intl.ListFormat("en-GB").format(runs.length > 12 ? [...said, "others"] : said);
}

function Frame({
  place,
  title,
  children,
  refresh,
}: {
  place: Place;
  title: string;
  children: ReactNode;
  refresh?: boolean;
}) {
  const { client, branches } = place.setting;
  const branch = branches.find(({ id }) => id === place.feed.branchId);
  return (
    <CustomerPage
      title={title}
      business={client.name}
      branch={branch?.name}
      colour={client.colour}
      logo={client.logo}
      refresh={refresh}
      returns={false}
    >
      {children}
    </CustomerPage>
  );
}

function DropOffPage({
  place,
  said = null,
  wrong = null,
  typed,
}: {
  place: Place;
  said?: string | null;
  wrong?: string | null;
  typed?: { name: string; reach: string; service: string };
}) {
  const services = place.setting.services.filter(({ neverAsk, retired }) => !neverAsk && !retired);
  return (
    <Frame place={place} title="Drop-off">
      <h1>Who was here?</h1>
      <p className="soft">
        Upload a list, or add one person. We’ll ask them how it went at a good time, where your rules allow it.
      </p>
      {said ? (
        <p role="status" className="good">
          {said}
        </p>
      ) : null}
      {wrong ? (
        <p role="alert" className="wrong">
          {wrong}
        </p>
      ) : null}
      <section>
        <h2>One person</h2>
        <form method="post">
          <label htmlFor="name">Name</label>
          <input id="name" name="name" autoComplete="off" defaultValue={typed?.name} required maxLength={120} />
          <label htmlFor="reach">Mobile or email</label>
          <input id="reach" name="reach" autoComplete="off" defaultValue={typed?.reach} required maxLength={254} />
          <label htmlFor="service">Service</label>
          <select id="service" name="service" defaultValue={typed?.service}>
            {services.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
          <button type="submit" className="main">
            Add person
          </button>
        </form>
      </section>
      <section>
        <h2>A list</h2>
        <p className="soft">CSV or Excel (.xlsx), straight from your software.</p>
        <form method="post" encType="multipart/form-data">
          <input type="hidden" name="key" value={newId()} />
          <label htmlFor="file">File</label>
          <input id="file" name="file" type="file" accept=".csv,.tsv,.txt,.xlsx,.vcf" required />
          <button type="submit">Upload the list</button>
        </form>
      </section>
      <p className="quiet">This page can only add people. Keep its address within your team.</p>
    </Frame>
  );
}

/** Reasons that would tell who is here already are not told. */
function plainReason({ problems }: { problems: readonly Remark[] }): string {
  const told = problems.filter(({ field }) => field !== "full name");
  return told.length > 0 ? remarkSentences(told) : "This row can’t be used.";
}

function ListPage({
  place,
  intake,
  refused,
  fates,
}: {
  place: Place;
  intake: Intake;
  fates: Fate[];
  refused: { row: number; cells: string[] | null; problems: readonly Remark[] }[];
}) {
  const { state, counts, total, done } = intake;
  const isWorking = state === "reading" || state === "checking" || state === "importing";
  const taken = counts ? counts.rows - counts.refused : 0;
  const title =
    state === "failed"
      ? "We couldn’t read this."
      : state === "ready"
        ? "Thank you. Someone will check it first."
        : state === "undone"
          ? "This import was undone."
          : isWorking
            ? "Reading it…"
            : `${capital(sayCount(taken, "row"))} added.`;
  return (
    <Frame place={place} title={title} refresh={isWorking}>
      <h1>{title}</h1>
      <p className="soft">{intake.name}</p>
      {state === "failed" ? <p className="wrong">{intake.error ? fileSentence(intake.error) : ""}</p> : null}
      {isWorking && total > 0 ? (
        <p>
          {done.toLocaleString("en-GB")} of {sayFigure(total, "row")} so far. This page updates itself.
        </p>
      ) : null}
      {state === "ready" ? (
        <p>
          We’re not sure how to read its columns or dates. Whoever looks after your reviews will check it; nothing is
          lost.
        </p>
      ) : null}
      {state === "imported" && fates.length > 0 ? (
        <section>
          <h2>What happens next</h2>
          <ul>
            {fates.map(({ says, rows }) => (
              <li key={says}>
                {says} ({rows.length === 1 ? "row" : "rows"} {rowsWords(rows)})
              </li>
            ))}
          </ul>
        </section>
      ) : state === "imported" && taken > 0 ? (
        <p>We’ll ask those your rules allow, each at a good time. Your reviews team sees every row with its reason.</p>
      ) : null}
      {counts && counts.refused > 0 && state === "imported" ? (
        <section>
          <h2>{sayCount(counts.refused, "row")} couldn’t be used</h2>
          <ul>
            {refused.map((row) => (
              <li key={row.row}>
                Row {sheetRow(intake.found, row.row)}: {plainReason(row)}
              </li>
            ))}
          </ul>
          <p className="soft">Fix them in your file and upload it again: what’s here already isn’t added twice.</p>
        </section>
      ) : null}
      <p>
        <a className="button" href={`/d/${place.token}`}>
          Upload another
        </a>
      </p>
    </Frame>
  );
}

function Lost({ words }: { words: string }) {
  return (
    <CustomerPage title="Drop-off" business="Drop-off" colour="#6A2156" returns={false}>
      <h1>Page not found.</h1>
      <p>{words}</p>
    </CustomerPage>
  );
}
