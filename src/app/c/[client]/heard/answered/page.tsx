import { z } from "zod";
import { capital, sayCount } from "@/core/time/say";
import { DAY } from "@/core/time/zone";
import { loadSetting } from "@/features/clients";
import { type AnsweredShare, answeredSince } from "@/features/reviews";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { FilterSentence } from "@/ui/FilterSentence.client";
import { filterPart, namedChoices } from "@/ui/filterPart";
import { Empty, Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "How reviews are answered" };

type Props = {
  params: Promise<{ client: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const DAYS = { month: 30, quarter: 91, year: 365 } as const;

const query = z.object({
  branch: z.uuid().nullable().catch(null),
  since: z.enum(["quarter", "year"]).nullable().catch(null),
});

/** What share of reviews is answered and how soon, by site, branch and person. */
export default async function HowReviewsAreAnswered({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "see heard");
  const search = await searchParams;
  const wanted = query.parse({ branch: search.branch ?? null, since: search.since ?? null });
  const now = await clockNow();
  const { slug } = access.seat;
  const days = DAYS[wanted.since ?? "month"];
  const { setting, answered } = await withClient(access, async (tx) => ({
    setting: await loadSetting(tx),
    answered: await answeredSince(tx, access, now - days * DAY, wanted.branch),
  }));
  const link = (change: Partial<Record<"branch" | "since", string | null>>) => {
    const to = new URLSearchParams();
    for (const [name, value] of Object.entries({ ...wanted, ...change })) if (value) to.set(name, value);
    return `/c/${slug}/heard/answered${to.size ? `?${to}` : ""}`;
  };
  const { all } = answered;
  return (
    <Page
      margin={
        <Note title="What counts">
          <p>
            Reviews on sites that accept replies, by the date they were written. The time runs from the review to your
            public reply. The figure is the median: half your replies came sooner, half later.
          </p>
        </Note>
      }
    >
      <p>
        <Link href={`/c/${slug}/heard`}>Heard</Link>
      </p>
      <h1 className="title">
        {all.reviews === 0
          ? "No reviews to answer in this period."
          : `${shareOf(all)} of ${sayCount(all.reviews, "review")} ${all.answered === 1 ? "is" : "are"} answered${all.medianHours === null ? "" : `, half of them within ${hours(all.medianHours)}`}.`}
      </h1>
      <div className="mt-4">
        <FilterSentence
          parts={[
            "Over ",
            filterPart({
              label: "Since when",
              any: "the last 30 days",
              value: wanted.since,
              choices: [
                { value: "quarter", words: "the last three months" },
                { value: "year", words: "the last year" },
              ],
              href: (since) => link({ since }),
            }),
            ...(setting.branches.length > 1
              ? [
                  ", at ",
                  filterPart({
                    label: "Branch",
                    any: "all branches",
                    value: wanted.branch,
                    choices: namedChoices(setting.branches),
                    href: (branch) => link({ branch }),
                  }),
                ]
              : []),
            ".",
          ]}
        />
      </div>
      {all.reviews === 0 ? (
        <div className="mt-5">
          <Empty>Once reviews come in, you’ll see how many get answered and how quickly.</Empty>
        </div>
      ) : (
        <>
          <Shares title="By site" first="Site" rows={answered.sites} />
          {wanted.branch === null && answered.branches.length > 1 ? (
            <Shares title="By branch" first="Branch" rows={answered.branches} />
          ) : null}
          <Shares title="Who answered" first="Person" rows={answered.people} ofPeople />
        </>
      )}
    </Page>
  );
}

const shareOf = ({ reviews, answered }: AnsweredShare) => `${Math.round((100 * answered) / reviews)}%`;

/** "20 hours", "three days": as one would say it. */
function hours(many: number): string {
  return many < 48 ? sayCount(Math.max(1, Math.round(many)), "hour") : sayCount(Math.round(many / 24), "day");
}

function Shares({
  title,
  first,
  rows,
  ofPeople = false,
}: {
  title: string;
  first: string;
  rows: AnsweredShare[];
  ofPeople?: boolean;
}) {
  if (rows.length === 0) return null;
  return (
    <section aria-label={title} className="mt-7">
      <h2 className="font-title text-[21px] font-semibold">{title}</h2>
      <table className="mt-2 w-full">
        <thead className="text-second border-rule border-b text-left text-[14px]">
          <tr>
            <th scope="col" className="py-2 font-semibold">
              {first}
            </th>
            <th scope="col" className="py-2 font-semibold">
              {ofPeople ? "Replies" : "Answered"}
            </th>
            <th scope="col" className="py-2 font-semibold">
              Half within
            </th>
          </tr>
        </thead>
        <tbody className="divide-rule divide-y">
          {rows.map((row) => (
            <tr key={row.name}>
              <th scope="row" className="py-2.5 pr-3 text-left font-semibold">
                {row.name}
              </th>
              <td className="py-2.5 pr-3">
                {ofPeople ? (
                  row.answered.toLocaleString("en-GB")
                ) : (
                  <>
                    {shareOf(row)}{" "}
                    <span className="text-second">
                      {row.answered.toLocaleString("en-GB")} of {row.reviews.toLocaleString("en-GB")}
                    </span>
                  </>
                )}
              </td>
              <td className="py-2.5">{row.medianHours === null ? "–" : capital(hours(row.medianHours))}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
