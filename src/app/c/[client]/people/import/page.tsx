import { may } from "@/core/access/permissions";
import { capital, sayAgo, sayCount } from "@/core/time/say";
import { addressOf, type Intake, listFeeds, recentIntakes } from "@/features/intake";
import { ImportForm } from "@/features/intake/parts/ImportForm.client";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Import a list" };

type Props = { params: Promise<{ client: string }> };

export default async function ImportPage({ params }: Props) {
  const access = await requireAccess((await params).client, "import lists");
  const now = await clockNow();
  const { slug } = access.seat;
  const { lists, feeds } = await withClient(access, async (tx) => ({
    lists: await recentIntakes(tx, access),
    feeds: await listFeeds(tx, access),
  }));
  const drops = feeds.filter(({ kind, state }) => kind === "drop-off" && state === "on");
  return (
    <Page
      margin={
        <>
          <Note title="Or connect a feed">
            <p>
              {feeds.length === 0 ? "No feeds connected yet." : `${capital(sayCount(feeds.length, "feed"))} connected.`}{" "}
              A feed brings visits in automatically.{" "}
              {may(access.seat, "set up") ? <Link href={`/c/${slug}/set-up/feeds`}>Feeds under Set-up</Link> : null}
            </p>
          </Note>
          {drops.map((feed) => (
            <Note key={feed.id} title="Drop-off page">
              <p>
                Bookmark <a href={addressOf(feed) ?? "#"}>{feed.name}</a> on the front desk’s phone to add a list or one
                person without signing in.
              </p>
            </Note>
          ))}
          <Note title="You check it first">
            <p>
              Before anything is saved you’ll see every column, anything we’re unsure about, and what would happen to
              each visit. You can undo an import as long as none of its messages have gone out.
            </p>
          </Note>
        </>
      }
    >
      <h1 className="title">Import people and visits.</h1>
      <p className="lead mb-6">One row per visit or one per person. Columns can have any names.</p>
      <ImportForm slug={slug} />
      {lists.length > 0 ? (
        <>
          <h2 className="font-title mt-10 mb-2 text-[19px] font-semibold">Recent imports</h2>
          <ul className="divide-rule border-rule divide-y border-y">
            {lists.map((list) => (
              <li key={list.id} className="flex flex-wrap justify-between gap-x-6 py-2.5">
                <Link href={`/c/${slug}/people/import/${list.id}`} className="name-link">
                  {list.name}
                </Link>
                <span className="text-second">
                  {words(list)}, by {list.broughtBy} {sayAgo(list.at, now)}
                </span>
              </li>
            ))}
          </ul>
        </>
      ) : null}
    </Page>
  );
}

function words(list: Intake): string {
  if (list.state === "imported" && list.counts)
    return `${sayCount(list.counts.rows, "row")}: ${list.counts.new} new, ${list.counts.refused} couldn’t be used`;
  return {
    reading: "being read",
    checking: "being checked",
    ready: "waiting for you",
    importing: "being imported",
    imported: "imported",
    undone: "undone",
    failed: "couldn’t be read",
  }[list.state];
}
