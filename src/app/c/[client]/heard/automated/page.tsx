import { z } from "zod";
import { may } from "@/core/access/permissions";
import { sayRating } from "@/core/reviews/rating";
import { sayWhen } from "@/core/time/say";
import { AUTOMATED_PAGE, type AutomatedAnswer, listAutomated } from "@/features/answers";
import { SettleForms } from "@/features/answers/parts/SettleForms.client";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { pageKey } from "@/platform/pageKey";
import { Bars } from "@/ui/Bars";
import { Empty, Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Looks automated" };

type Props = {
  params: Promise<{ client: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const query = z.object({ before: pageKey });

/** Words from standing links that look automated: someone reads them and decides. */
export default async function Automated({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "see heard");
  const { before } = query.parse({ before: (await searchParams).before ?? null });
  const { slug, zone } = access.seat;
  const now = await clockNow();
  const found = await withClient(access, (tx) => listAutomated(tx, access, before));
  const shown = found.slice(0, AUTOMATED_PAGE);
  const last = shown.at(-1);
  return (
    <Page
      margin={
        <Note title="How we tell">
          <p>
            These answers were sent faster than anyone can read, or filled in a field that people don’t see. They aren’t
            counted until someone says a person wrote them.
          </p>
          <p>
            <Link href={`/c/${slug}/heard`}>Back to Heard</Link>
          </p>
        </Note>
      }
    >
      <h1 className="font-title text-[30px] leading-tight font-semibold">
        {shown.length === 0 ? "Nothing looks automated." : "These answers look automated."}
      </h1>
      {shown.length === 0 ? (
        <div className="mt-5">
          <Empty>When an answer from a standing link looks automated, it’s shown here.</Empty>
        </div>
      ) : (
        <ul className="mt-5 space-y-4">
          {shown.map((it) => (
            <li key={it.id}>
              <AutomatedCard
                it={it}
                slug={slug}
                when={sayWhen(zone, it.givenAt, now)}
                mayDecide={may(access.seat, "answer concerns")}
              />
            </li>
          ))}
        </ul>
      )}
      {last && found.length > AUTOMATED_PAGE ? (
        <p className="mt-4">
          <Link href={`/c/${slug}/heard/automated?before=${last.givenAt}~${last.id}`} className="button-quiet">
            Earlier
          </Link>
        </p>
      ) : null}
    </Page>
  );
}

type CardProps = { it: AutomatedAnswer; slug: string; when: string; mayDecide: boolean };

function AutomatedCard({ it, slug, when, mayDecide }: CardProps) {
  const said = [it.words ?? "", ...Object.values(it.more)].filter((words) => words !== "");
  return (
    <article className="sheet p-5">
      <p className="text-second flex flex-wrap items-baseline gap-x-2.5 text-[14px]">
        {it.rating === null ? null : <Bars rating={it.rating} words={sayRating(it.rating)} />}
        <span>{[it.link, it.branch, when].filter(Boolean).join(" · ")}</span>
      </p>
      {said.map((words, index) => (
        <p key={index} className="said mt-1.5">
          {words}
        </p>
      ))}
      {mayDecide ? <SettleForms slug={slug} id={it.id} /> : null}
    </article>
  );
}
