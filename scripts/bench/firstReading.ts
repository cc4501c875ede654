import { createServer } from "node:http";
import { eq } from "drizzle-orm";
import pg from "pg";
import { connectListing } from "@/features/clients";
import { collect } from "@/features/reviews";
import { withClient, workFor } from "@/platform/database";
import { encrypt } from "@/platform/secrets";
import { listings } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { copyInto } from "./copy";
import type { Pair } from "./pages";

/** The first reading of a site with many reviews, beside fetching the same pages and copying them into the same table. */

const PAGE = 100;
const DAY = 86_400_000;

type Told = { id: string; author: string; stars: number; words: string; writtenAt: string };

/** A site that speaks Waypost's interface, its pages written beforehand: what it costs is not measured. */
async function bareSite(count: number, now: number): Promise<{ url: string; stop: () => void }> {
  const pages: string[] = [];
  for (let from = 0; from < count; from += PAGE)
    pages.push(
      JSON.stringify({
        reviews: Array.from({ length: Math.min(PAGE, count - from) }, (_, index) => {
          const n = from + index;
          const at = new Date(now - (n % 900) * DAY - n * 1000).toISOString();
          return {
            id: `b-${n}`,
            author: `Given${n % 997} F.`,
            stars: 1 + (n % 5),
            words: "Kind people, and a clear explanation of what was done.",
            writtenAt: at,
            changedAt: at,
            deleted: false,
            reported: false,
            reply: n % 3 === 0 ? { words: "Thank you.", at } : null,
          };
        }),
        cursor: String(from + PAGE),
        more: from + PAGE < count,
      }),
    );
  const server = createServer((request, response) => {
    const since = Number(new URL(request.url ?? "", "http://x").searchParams.get("since") || 0);
    response.setHeader("content-type", "application/json").end(pages[since / PAGE] ?? pages[0]);
  });
  // Where the town's own site would be, which may be called.
  const url = process.env.WAYPOST_URL ?? "";
  await new Promise<void>((done) => server.listen(Number(new URL(url).port), "127.0.0.1", () => done()));
  return { url, stop: () => server.close() };
}

export async function firstReadingBesideCopy(
  ownerUrl: string,
  client: { id: string; branchId: string },
  count: number,
): Promise<Pair> {
  const now = Date.now();
  const site = await bareSite(count, now);
  const owner = new pg.Client({ connectionString: ownerUrl });
  await owner.connect();
  const scope = workFor(client.id);
  const page = {
    branchId: client.branchId,
    connector: "waypost" as const,
    placeId: "x",
    url: site.url,
    connectorUrl: site.url,
    connectorKey: encrypt("key"),
    accountId: null,
    scale: "five" as const,
  };
  const ids = await withClient(scope, async (tx) => [
    await connectListing(tx, scope, { ...page, site: "Bench one" }, now),
    await connectListing(tx, scope, { ...page, site: "Bench two" }, now),
  ]);
  const beganPlain = performance.now();
  const rows: unknown[][] = [];
  for (let since = 0; since < count; since += PAGE) {
    const told = (await (await fetch(`${site.url}/reviews?since=${since}`)).json()) as { reviews: Told[] };
    for (const it of told.reviews)
      rows.push([
        newId(),
        client.id,
        ids[1],
        client.branchId,
        it.id,
        it.author,
        "five",
        it.stars,
        it.stars,
        it.words,
        it.writtenAt,
        it.writtenAt,
        it.writtenAt,
      ]);
  }
  await copyInto(
    owner,
    "reviews",
    [
      "id",
      "client_id",
      "listing_id",
      "branch_id",
      "external_id",
      "author",
      "scale",
      "own_rating",
      "rating",
      "words",
      "written_at",
      "collected_at",
      "seen_at",
    ],
    rows as readonly unknown[][],
  );
  const plain = performance.now() - beganPlain;
  const began = performance.now();
  const kept = await collect(client.id, ids[0]);
  const ours = performance.now() - began;
  if (kept !== count) throw new Error(`Of ${count} reviews ${kept} were kept.`);
  await withClient(scope, (tx) => tx.delete(listings).where(eq(listings.id, ids[0])));
  await withClient(scope, (tx) => tx.delete(listings).where(eq(listings.id, ids[1])));
  await owner.end();
  site.stop();
  return { name: `${count.toLocaleString("en-GB")} reviews of a site, read for the first time`, ours, plain };
}
