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
          <Note title="Better: nobody brings it">
            <p>
              {feeds.length === 0
                ? "No feed is connected yet."
                : `${capital(sayCount(feeds.length, "feed"))} connected.`}{" "}
              A feed brings visits in by itself.{" "}
              {may(access.seat, "set up") ? <Link href={`/c/${slug}/set-up`}>Feeds under Set-up</Link> : null}
            </p>
          </Note>
          {drops.map((feed) => (
            <Note key={feed.id} title="Drop-off page">
              <p>
                Bookmark <a href={addressOf(feed) ?? "#"}>{feed.name}</a> on the desk’s phone: a list or one person,
                without signing in.
              </p>
            </Note>
          ))}
          <Note title="Nothing is imported yet">
            <p>
              You see every column, every doubt and what would happen to each visit before anything is kept. A kept list
              can be taken back as long as nothing of it was sent.
            </p>
          </Note>
        </>
      }
    >
      <h1 className="title">Bring people and visits in.</h1>
      <p className="lead mb-6">One row a visit, or one row a person. The columns may be called anything.</p>
      <ImportForm slug={slug} />
      {lists.length > 0 ? (
        <>
          <h2 className="font-title mt-10 mb-2 text-[19px] font-semibold">Brought lately</h2>
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
    return `${sayCount(list.counts.rows, "row")}: ${list.counts.new} new, ${list.counts.refused} not usable`;
  return {
    reading: "being read",
    checking: "being looked at",
    ready: "waits for you",
    importing: "being imported",
    imported: "imported",
    undone: "taken back",
    failed: "could not be read",
  }[list.state];
}
