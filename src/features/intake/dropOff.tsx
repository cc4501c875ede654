import { sql } from "drizzle-orm";
import type { ReactElement, ReactNode } from "react";
import { z } from "zod";
import { parseArrival } from "@/core/intake/arrival";
import type { Remark } from "@/core/intake/remarks";
import { sayCount, sayFigure } from "@/core/time/say";
import { cleanText } from "@/core/words/clean";
import { loadSetting, type Setting } from "@/features/clients";
import { fileSentence, remarkSentences } from "@/locales/intake";
import { now as clockNow } from "@/platform/clock";
import { rowsOf, type Scope, withClient, workFor } from "@/platform/database";
import { readBytes } from "@/platform/hooks";
import { isWelcome } from "@/platform/publicLimit";
import { isToken, isWelcomeClient, mayGuessAgain } from "@/platform/publicLink";
import { newId } from "@/schema/columns";
import { CustomerPage } from "@/ui/CustomerPage";
import { markupOf } from "@/ui/markup";
import { type Feed, findFeed } from "./feeds";
import { MOST_BYTES, Unreadable } from "./files";
import { ingest } from "./ingest";
import { rowsOfIntake, startImport } from "./listImport";
import { receiveList } from "./listReading";
import { findIntake, type Intake } from "./listState";

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
  const tooOften = () => html(<Lost words="That was very often in a short time. Wait a minute and try again." />, 429);
  if (!(await isWelcomeClient(request.headers))) return tooOften();
  const place = isToken(token, 22, 22) ? await placeOf(token) : null;
  if (!place) {
    if (!(await mayGuessAgain(request.headers))) return tooOften();
    return html(
      <Lost words="This link leads nowhere. It may have been renewed: ask whoever looks after your reviews for the new one." />,
      404,
    );
  }
  if (!(await isWelcome(`d ${token}`, 60, 60))) return tooOften();
  if (request.method !== "POST") {
    const query = new URL(request.url).searchParams;
    const list = z.uuid().safeParse(query.get("list"));
    if (list.success) return showList(place, list.data);
    return html(
      <DropOffPage place={place} said={query.has("added") ? "They are on the list. You can add the next." : null} />,
    );
  }
  if (!(await isWelcome(`d post ${token}`, 30, 60))) return tooOften();
  const form = await readForm(request);
  if (form === "too large")
    return html(<DropOffPage place={place} wrong="The file is larger than 25 MB. Leave it in parts." />, 413);
  if (!form) return html(<DropOffPage place={place} wrong="That did not arrive whole. Try again." />, 400);
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
  if (!typed.name.trim()) return html(<DropOffPage place={place} typed={typed} wrong="Write the name." />, 422);
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
      ? "This is neither a mobile number nor an email address. Check it for missing or extra letters."
      : "Write a mobile number or an email address.";
    return html(<DropOffPage place={place} typed={typed} wrong={wrong} />, 422);
  }
  const arrival = { ...read, visit: { ...read.visit, service: null } };
  await withClient(scope, (tx) =>
    ingest(tx, scope, setting, [{ arrival }], {
      source: feed.name,
      sharedAddress: "another person",
      replaces: false,
      way: "drop-off",
      feedId: feed.id,
      looked: true,
      serviceId: service?.id ?? feed.serviceId,
      branchId: branch.id,
      now,
    }),
  );
  return goTo(`/d/${token}?added=1`);
}

async function showList(place: Place, id: string): Promise<Response> {
  const { scope, feed } = place;
  const seen = await withClient(scope, async (tx) => {
    const intake = await findIntake(tx, scope, id);
    return intake?.feedId === feed.id ? { intake, refused: await rowsOfIntake(tx, scope, id, "refused", 0, 30) } : null;
  });
  if (!seen) return html(<Lost words="This list is not here." />, 404);
  return html(<ListPage place={place} intake={seen.intake} refused={seen.refused} />);
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
      <p className="soft">Leave this week’s list, or add one person. They will be asked how it went, at a good time.</p>
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
          <label htmlFor="service">What was done</label>
          <select id="service" name="service" defaultValue={typed?.service}>
            {services.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
          <button type="submit" className="main">
            Add them
          </button>
        </form>
      </section>
      <section>
        <h2>A list</h2>
        <p className="soft">CSV or Excel (.xlsx), as your own program saves it.</p>
        <form method="post" encType="multipart/form-data">
          <input type="hidden" name="key" value={newId()} />
          <label htmlFor="file">File</label>
          <input id="file" name="file" type="file" accept=".csv,.tsv,.txt,.xlsx" required />
          <button type="submit">Leave the list</button>
        </form>
      </section>
      <p className="quiet">This page can only add. Keep its address to your team.</p>
    </Frame>
  );
}

/** Reasons that would tell who is here already are not told. */
function plainReason({ problems }: { problems: readonly Remark[] }): string {
  const told = problems.filter(({ field }) => field !== "full name");
  return told.length > 0 ? remarkSentences(told) : "This row cannot be taken.";
}

function ListPage({
  place,
  intake,
  refused,
}: {
  place: Place;
  intake: Intake;
  refused: { row: number; cells: string[] | null; problems: readonly Remark[] }[];
}) {
  const { state, counts, total, done } = intake;
  const isWorking = state === "reading" || state === "checking" || state === "importing";
  const taken = counts ? counts.rows - counts.refused : 0;
  const title =
    state === "failed"
      ? "This could not be read."
      : state === "ready"
        ? "Thank you. Somebody will look at it first."
        : state === "undone"
          ? "This list was taken back."
          : isWorking
            ? "It is being read."
            : `${sayCount(taken, "row")} taken in.`;
  return (
    <Frame place={place} title={title} refresh={isWorking}>
      <h1>{title}</h1>
      <p className="soft">{intake.name}</p>
      {state === "failed" ? <p className="wrong">{intake.error ? fileSentence(intake.error) : ""}</p> : null}
      {isWorking && total > 0 ? (
        <p>
          {done.toLocaleString("en-GB")} of {sayFigure(total, "row")} so far. This page looks again by itself.
        </p>
      ) : null}
      {state === "ready" ? (
        <p>Its columns or dates can be read in more than one way. Your reviews people see it, nothing is lost.</p>
      ) : null}
      {counts && counts.refused > 0 && state === "imported" ? (
        <section>
          <h2>{sayCount(counts.refused, "row")} could not be used</h2>
          <ul>
            {refused.map((row) => (
              <li key={row.row}>
                Row {row.row}: {plainReason(row)}
              </li>
            ))}
          </ul>
          <p className="soft">Fix them in your file and upload it again: what was taken in isn’t taken in twice.</p>
        </section>
      ) : null}
      <p>
        <a className="button" href={`/d/${place.token}`}>
          Leave another
        </a>
      </p>
    </Frame>
  );
}

function Lost({ words }: { words: string }) {
  return (
    <CustomerPage title="Drop-off" business="Drop-off" colour="#6A2156" returns={false}>
      <h1>Nothing is here.</h1>
      <p>{words}</p>
    </CustomerPage>
  );
}
