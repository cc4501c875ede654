import { and, desc, eq } from "drizzle-orm";
import {
  guessReviewColumns,
  type ReadImport,
  type ReviewMatching,
  type ReviewTable,
  readReviewRows,
  scaleOf,
  withHeader,
} from "@/core/reviews/importRows";
import { normaliseRating } from "@/core/reviews/rating";
import { recordAudit } from "@/features/audit";
import { loadSetting, refreshReviewSums, type Setting } from "@/features/clients";
import { packBytes, parseContent, Unreadable } from "@/features/intake";
import { dropImported, keepImported } from "@/features/reviews";
import type { Scope, Tx } from "@/platform/database";
import { newId } from "@/schema/columns";
import { reviewImports } from "@/schema/reviewImports";

/**
 * Reviews of a page that nothing reads, brought in as a file or typed in: looked at first, kept each once, and taken
 * back whole.
 */

export type ReviewImport = typeof reviewImports.$inferSelect;
export const MOST_IMPORTED = 20_000;

const ofClient = (scope: Scope, id: string) =>
  and(eq(reviewImports.clientId, scope.clientId), eq(reviewImports.id, id));

/** Pages that nothing reads: those that reviews can be brought in for. */
export const pagesByHand = ({ listings }: Setting) => listings.filter(({ connector }) => connector === null);

/** A file of objects ("[{...}]" or "{reviews: [...]}") as a table; null for anything else. */
export function tableOfJson(text: string): ReviewTable | null {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    return null;
  }
  const list = Array.isArray(read) ? read : Object.values(read ?? {}).find(Array.isArray);
  if (!Array.isArray(list)) return null;
  const objects = list.filter(
    (one): one is Record<string, unknown> => typeof one === "object" && one !== null && !Array.isArray(one),
  );
  const headers = [...new Set(objects.flatMap((one) => Object.keys(one)))].slice(0, 100);
  if (headers.length === 0) return null;
  const cell = (value: unknown) =>
    ["string", "number", "boolean"].includes(typeof value) ? String(value).slice(0, 20_000) : "";
  return { headers, rows: objects.map((one) => headers.map((name) => cell(one[name]))), hasHeader: true };
}

/** Takes a file in, to be looked at. Throws `Unreadable`. Gives null where the page is read, or is not the client's. */
export async function receiveReviews(
  scope: Scope,
  it: { setting: Setting; listingId: string; name: string; bytes: Uint8Array; who: string },
  keep: (work: (tx: Tx) => Promise<void>) => Promise<void>,
  now: number,
): Promise<string | null> {
  const listing = pagesByHand(it.setting).find(({ id }) => id === it.listingId);
  if (!listing) return null;
  const begins = Buffer.from(it.bytes.subarray(0, 64))
    .toString("latin1")
    .replace(/^[^\x20-\x7e]+/, "")
    .trimStart();
  const json = /^[[{]/.test(begins)
    ? tableOfJson(
        Buffer.from(it.bytes)
          .toString("utf8")
          .replace(/^\uFEFF/, ""),
      )
    : null;
  const list = json ? { table: json, since1904: false } : await parseContent(scope.clientId, await packBytes(it.bytes));
  const table = withHeader(list.table);
  if (table.rows.length === 0) throw new Unreadable({ code: "no rows" });
  if (table.rows.length > MOST_IMPORTED) throw new Unreadable({ code: "too many rows", most: MOST_IMPORTED });
  const content = await packBytes(Buffer.from(JSON.stringify({ table, since1904: list.since1904 })));
  const id = newId();
  await keep(async (tx) => {
    await tx.insert(reviewImports).values({
      id,
      clientId: scope.clientId,
      listingId: listing.id,
      name: it.name.slice(0, 200),
      state: "looked at",
      content,
      matching: guessReviewColumns(table),
      madeBy: it.who,
      madeAt: now,
    });
  });
  return id;
}

export type ImportView = {
  found: ReviewImport;
  listing: { id: string; site: string; branch: string };
  table: ReviewTable | null;
  read: ReadImport | null;
};

/** An import as it is looked at: its columns, and what its rows would be kept as. */
export async function viewImport(tx: Tx, scope: Scope, id: string, now: number): Promise<ImportView | null> {
  const [found] = await tx.select().from(reviewImports).where(ofClient(scope, id));
  if (!found) return null;
  const setting = await loadSetting(tx);
  const listing = setting.listings.find((each) => each.id === found.listingId);
  const branch = setting.branches.find((each) => each.id === listing?.branchId);
  if (!listing || !branch) return null;
  const content = found.content && (await parseContent(scope.clientId, found.content));
  return {
    found,
    listing: { id: listing.id, site: listing.site, branch: branch.name },
    table: content?.table ?? null,
    read:
      content &&
      readReviewRows(content.table, found.matching, { zone: branch.zone, now, since1904: content.since1904 }),
  };
}

/** Says what another column holds than was guessed. */
export async function changeMatching(tx: Tx, scope: Scope, id: string, matching: ReviewMatching): Promise<void> {
  await tx
    .update(reviewImports)
    .set({ matching })
    .where(and(ofClient(scope, id), eq(reviewImports.state, "looked at")));
}

/** Keeps what was looked at. Two who keep it at once keep it once. Gives how many reviews are new; null where it is gone. */
export async function keepImport(tx: Tx, scope: Scope, who: string, id: string, now: number): Promise<number | null> {
  const [locked] = await tx.select().from(reviewImports).where(ofClient(scope, id)).for("update");
  if (locked?.state !== "looked at") return locked?.state === "kept" ? locked.kept : null;
  const view = await viewImport(tx, scope, id, now);
  const setting = await loadSetting(tx);
  const listing = setting.listings.find((each) => each.id === locked.listingId);
  if (!view?.read || !listing) return null;
  const { read } = view;
  const kept = await keepImported(tx, scope, { listing, importId: id, scale: read.scale, list: read.reviews }, now);
  await tx.update(reviewImports).set({ state: "kept", content: null, kept }).where(eq(reviewImports.id, id));
  await refreshReviewSums(tx, scope, listing.id);
  await note(tx, scope, who, "imported", listing.site, kept, now);
  return kept;
}

/** Keeps one review that somebody typed in. */
export async function typeReview(
  tx: Tx,
  scope: Scope,
  who: string,
  it: { listingId: string; author: string; rating: string; words: string; writtenAt: number },
  now: number,
): Promise<"kept" | "known" | "missing"> {
  const listing = pagesByHand(await loadSetting(tx)).find(({ id }) => id === it.listingId);
  if (!listing) return "missing";
  const scale = scaleOf([it.rating]);
  const { reviews: list } = readReviewRows(
    { headers: ["author", "rating", "words"], rows: [[it.author, it.rating, it.words]], hasHeader: true },
    ["author", "rating", "words"],
    { zone: "UTC", now },
  );
  const [one] = list;
  if (!one) return "missing";
  const importId = newId();
  await tx.insert(reviewImports).values({
    id: importId,
    clientId: scope.clientId,
    listingId: listing.id,
    name: `${one.author}, typed in`,
    state: "kept",
    content: null,
    matching: [],
    kept: 1,
    madeBy: who,
    madeAt: now,
  });
  const said = { ...one, writtenAt: it.writtenAt, rating: normaliseRating(one.value, scale) };
  const kept = await keepImported(tx, scope, { listing, importId, scale, list: [said] }, now);
  if (kept === 0) {
    await tx.delete(reviewImports).where(eq(reviewImports.id, importId));
    return "known";
  }
  await refreshReviewSums(tx, scope, listing.id);
  await note(tx, scope, who, "added", listing.site, 1, now);
  return "kept";
}

/** Takes back what an import brought. Gives how many reviews went; null where there is nothing to take back. */
export async function undoImport(tx: Tx, scope: Scope, who: string, id: string, now: number): Promise<number | null> {
  const [locked] = await tx.select().from(reviewImports).where(ofClient(scope, id)).for("update");
  if (locked?.state !== "kept") return null;
  const gone = await dropImported(tx, scope, id);
  await tx.update(reviewImports).set({ state: "undone" }).where(eq(reviewImports.id, id));
  await refreshReviewSums(tx, scope, locked.listingId);
  await note(tx, scope, who, "undid import", locked.name, gone, now);
  return gone;
}

async function note(
  tx: Tx,
  scope: Scope,
  who: string,
  action: "imported" | "added" | "undid import",
  name: string,
  count: number,
  now: number,
): Promise<void> {
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action,
    subject: "reviews",
    details: { name, count },
  });
}

/** The last imports, the latest first. */
export async function recentImports(tx: Tx, scope: Scope): Promise<ReviewImport[]> {
  return tx
    .select()
    .from(reviewImports)
    .where(eq(reviewImports.clientId, scope.clientId))
    .orderBy(desc(reviewImports.madeAt))
    .limit(20);
}
