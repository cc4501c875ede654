import { notFound } from "next/navigation";
import { z } from "zod";
import { capital, sayCount, sayFigure } from "@/core/time/say";
import { type Intake, loadListView } from "@/features/intake";
import { ImportedList } from "@/features/intake/parts/ImportedList";
import { ListMargin } from "@/features/intake/parts/ListMargin";
import { ReadyList } from "@/features/intake/parts/ReadyList";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { fileSentence } from "@/locales/intake";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { Empty, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "A list" };

type Props = {
  params: Promise<{ client: string; list: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const query = z.object({ after: z.coerce.number().int().min(0).max(1_000_000).catch(0) });

export default async function OneList({ params, searchParams }: Props) {
  const { client, list } = await params;
  const access = await requireAccess(client, "import lists");
  if (!z.uuid().safeParse(list).success) notFound();
  const view = await loadListView(access, list, query.parse(await searchParams).after, await clockNow());
  if (!view) notFound();
  const { intake, slug } = view;
  const isWorking = intake.state === "reading" || intake.state === "checking" || intake.state === "importing";
  return (
    <>
      {isWorking ? <LiveRefresh seconds={1} /> : null}
      <Page margin={<ListMargin view={view} />}>
        <p className="text-second mb-1 text-[14px]">
          <Link href={`/c/${slug}/people/import`} className="underline underline-offset-[3px]">
            Lists
          </Link>{" "}
          · {intake.name}, by {intake.broughtBy}
        </p>
        <h1 className="title">{titleOf(intake)}</h1>
        {isWorking ? <Progress intake={intake} /> : null}
        {intake.state === "failed" ? <Failed intake={intake} slug={slug} /> : null}
        {intake.state === "ready" ? <ReadyList view={view} /> : null}
        {intake.state === "imported" ? <ImportedList view={view} /> : null}
        {intake.state === "undone" ? (
          <p className="lead">Its visits and new people have been removed, and anyone it changed is back as before.</p>
        ) : null}
      </Page>
    </>
  );
}

function titleOf(intake: Intake): string {
  const counts = intake.state === "imported" ? intake.counts : intake.forecast?.counts;
  const rows = capital(sayCount(intake.total, "row"));
  switch (intake.state) {
    case "reading":
      return "Reading the list…";
    case "checking":
      return `${rows}: checking them.`;
    case "importing":
      return "Importing the list…";
    case "failed":
      return "We couldn’t read this list.";
    case "undone":
      return "This import was undone.";
    case "imported":
      return `${rows} imported${counts && counts.refused > 0 ? `, but ${counts.refused} couldn’t be used` : ""}.`;
    default:
      return counts
        ? `${rows}: ${counts.new.toLocaleString("en-GB")} new, ${(counts.changed + counts.unchanged).toLocaleString("en-GB")} already known${counts.refused > 0 ? `, ${counts.refused.toLocaleString("en-GB")} can’t be used` : ""}.`
        : `${rows}, and one question for you.`;
  }
}

function Failed({ intake, slug }: { intake: Intake; slug: string }) {
  return (
    <div className="mt-5">
      <Empty
        action={
          <Link href={`/c/${slug}/people/import`} className="button">
            Import another file
          </Link>
        }
      >
        {intake.error ? fileSentence(intake.error) : ""} Nothing was imported.
      </Empty>
    </div>
  );
}

function Progress({ intake }: { intake: Intake }) {
  return (
    <div className="mt-5" role="status">
      <progress
        className="w-full max-w-[420px]"
        max={intake.total || undefined}
        value={intake.state === "importing" ? intake.done : undefined}
      />
      <p className="text-second mt-1">
        {intake.state === "importing"
          ? `${intake.done.toLocaleString("en-GB")} of ${sayFigure(intake.total, "row")}. You can leave this page; it’ll keep going.`
          : "A long list takes a few seconds."}
      </p>
    </div>
  );
}
