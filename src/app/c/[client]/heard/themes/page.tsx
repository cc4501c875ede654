import { z } from "zod";
import { may } from "@/core/access/permissions";
import { THEMES, type Theme } from "@/core/themes/themes";
import { noticedFrom } from "@/core/themes/trend";
import { sayCounted, sayFigure } from "@/core/time/say";
import { DAY } from "@/core/time/zone";
import { loadSetting, type Setting } from "@/features/clients";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import {
  CLAUSES_PAGE,
  clausesOf,
  countTexts,
  countThemes,
  listOwnThemes,
  type OwnTheme,
  partsOf,
  readingProgress,
  type ThemeCount,
} from "@/features/themes";
import { OwnThemes } from "@/features/themes/parts/OwnThemes.client";
import { ThemeClause } from "@/features/themes/parts/ThemeClause";
import { themeWords } from "@/locales/themes";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { pageKey } from "@/platform/pageKey";
import { type FilterPart, FilterSentence } from "@/ui/FilterSentence.client";
import { filterPart, namedChoices } from "@/ui/filterPart";
import { Empty, Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "What people mention" };

type Props = {
  params: Promise<{ client: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const SINCE = { month: 30, quarter: 91, year: 365 } as const;
const SINCE_WORDS = { month: "the last 30 days", quarter: "the last three months", year: "the last year" } as const;

const query = z.object({
  branch: z.uuid().nullable().catch(null),
  member: z.uuid().nullable().catch(null),
  service: z.uuid().nullable().catch(null),
  since: z.enum(["month", "quarter", "year"]).nullable().catch(null),
  theme: z
    .union([z.enum(THEMES), z.uuid()])
    .nullable()
    .catch(null),
  before: pageKey,
});
type Wanted = z.output<typeof query>;
type LinkTo = (change: Partial<Record<keyof Wanted, string | null>>) => string;

/** What people mention, how often, and whether more than before; a theme opens the very clauses that name it. */
export default async function Themes({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "see heard");
  const search = await searchParams;
  const wanted = query.parse({
    branch: search.branch ?? null,
    member: search.member ?? null,
    service: search.service ?? null,
    since: search.since ?? null,
    theme: search.theme ?? null,
    before: search.before ?? null,
  });
  const now = await clockNow();
  const { slug, zone } = access.seat;
  const filter = {
    branchId: wanted.branch,
    memberId: wanted.member,
    serviceId: wanted.service,
    from: wanted.since ? now - SINCE[wanted.since] * DAY : null,
  };
  const seen = await withClient(access, async (tx) => ({
    setting: await loadSetting(tx),
    counts: await countThemes(tx, access, filter, now),
    texts: await countTexts(tx, access, filter),
    own: await listOwnThemes(tx, access),
    progress: await readingProgress(tx, access),
    parts: wanted.theme ? await partsOf(tx, access, filter, wanted.theme, zone) : null,
    clauses: wanted.theme ? await clausesOf(tx, access, filter, wanted.theme, wanted.before) : [],
  }));
  const { setting, counts, texts, own, progress, parts, clauses } = seen;
  const link: LinkTo = (change) => {
    const { before: _, ...kept } = wanted;
    const to = new URLSearchParams();
    for (const [name, value] of Object.entries({ ...kept, before: null, ...change })) if (value) to.set(name, value);
    return `/c/${slug}/heard/themes${to.size ? `?${to}` : ""}`;
  };
  const nameOf = (theme: string) => own.find(({ id }) => id === theme)?.name ?? themeWords(theme as Theme);
  const open = wanted.theme ? (counts.find(({ theme }) => theme === wanted.theme) ?? null) : null;
  return (
    <Page margin={<Margin progress={progress} own={own} power={sayPower(counts, nameOf)} />}>
      <LiveRefresh seconds={progress ? 3 : 8} />
      <p>
        {wanted.theme ? (
          <Link href={link({ theme: null })}>What people mention</Link>
        ) : (
          <Link href={`/c/${slug}/heard`}>Heard</Link>
        )}
      </p>
      <h1 className="title">{titleOf(open, wanted.theme, counts, texts, nameOf)}</h1>
      <div className="mt-4">
        <FilterSentence parts={filtersOf(setting, wanted, link)} />
      </div>
      {wanted.theme === null ? (
        <ThemeTable counts={counts} texts={texts} nameOf={nameOf} link={link} />
      ) : (
        <>
          {parts ? <Parts parts={parts} setting={setting} texts={open?.texts ?? 0} /> : null}
          <h2 className="font-title mt-8 text-[21px] font-semibold">In their words</h2>
          <ul className="divide-rule border-rule mt-2 divide-y border-y">
            {clauses.slice(0, CLAUSES_PAGE).map((clause) => (
              <ThemeClause key={clause.id} clause={clause} theme={nameOf(wanted.theme ?? "")} slug={slug} now={now} />
            ))}
          </ul>
          {clauses.length > CLAUSES_PAGE ? (
            <p className="mt-4">
              <Link href={link({ before: keyOf(clauses[CLAUSES_PAGE - 1]) })} className="button">
                Earlier ones
              </Link>
            </p>
          ) : null}
        </>
      )}
      {wanted.theme === null ? (
        <>
          <h2 className="font-title mt-10 text-[21px] font-semibold">Your own themes</h2>
          <p className="text-second">Anything else you want to track: the coffee, the car park, the new till.</p>
          <OwnThemes
            slug={slug}
            mayChange={may(access.seat, "set up")}
            list={own.map(({ id, name, words }) => ({ id, name, words }))}
          />
        </>
      ) : null}
    </Page>
  );
}

const keyOf = ({ said_at, id }: { said_at: string; id: string }) => `${new Date(said_at).getTime()}~${id}`;

function titleOf(
  open: ThemeCount | null,
  theme: string | null,
  counts: ThemeCount[],
  texts: number,
  nameOf: (theme: string) => string,
): string {
  if (theme)
    return open
      ? `${nameOf(theme)} comes up in ${sayCounted(open.texts)}, ${sayCounted(open.unhappy)} of them unhappy.`
      : `Nobody mentions ${nameOf(theme).toLowerCase()} here.`;
  if (counts.length === 0) return "Nothing mentioned yet.";
  const rising = counts.find(({ trend }) => trend === "rising");
  if (rising) return `${nameOf(rising.theme)} comes up more often than before.`;
  return `${nameOf(counts[0].theme)} comes up most, in ${counts[0].texts} of ${sayCounted(texts)} comments.`;
}

function filtersOf(setting: Setting, wanted: Wanted, link: LinkTo): (string | FilterPart)[] {
  const part = (
    name: "branch" | "member" | "service",
    label: string,
    any: string,
    choices: { value: string; words: string }[],
  ) => filterPart({ label, any, value: wanted[name], choices, href: (value) => link({ [name]: value }) });
  return [
    "For ",
    part("branch", "Branch", "all branches", namedChoices(setting.branches)),
    ", with ",
    part("member", "Team member", "anyone", namedChoices(setting.team)),
    ", about ",
    part("service", "Service", "any service", namedChoices(setting.services)),
    ", over ",
    filterPart({
      label: "Since when",
      any: "all time",
      value: wanted.since,
      choices: Object.entries(SINCE_WORDS).map(([value, words]) => ({ value, words })),
      href: (value) => link({ since: value }),
    }),
    ".",
  ];
}

const TREND_WORDS = {
  rising: "more than before",
  falling: "less than before",
  steady: "about the same",
  "cannot tell yet": "too early to tell",
} as const;

type TableProps = { counts: ThemeCount[]; texts: number; nameOf: (theme: string) => string; link: LinkTo };

function ThemeTable({ counts, texts, nameOf, link }: TableProps) {
  if (counts.length === 0)
    return (
      <div className="mt-4">
        <Empty>Once reviews and private notes come in, you’ll see here what they mention.</Empty>
      </div>
    );
  const most = Math.max(...counts.map(({ texts }) => texts));
  return (
    <table className="mt-4 w-full">
      <caption className="sr-only">Themes, how often people mention them, and how happy they were</caption>
      <thead className="text-second border-rule border-b text-left text-[14px]">
        <tr>
          <th scope="col" className="py-2 font-semibold">
            Theme
          </th>
          <th scope="col" className="py-2 font-semibold">
            Mentions
          </th>
          <th scope="col" className="hidden py-2 font-semibold sm:table-cell">
            Happy and unhappy
          </th>
          <th scope="col" className="py-2 font-semibold">
            Recently
          </th>
        </tr>
      </thead>
      <tbody className="divide-rule divide-y">
        {counts.map(({ theme, texts: named, unhappy, trend }) => (
          <tr key={theme}>
            <th scope="row" className="py-2.5 pr-3 text-left font-semibold">
              <Link href={link({ theme })} className="words-link">
                {nameOf(theme)}
              </Link>
            </th>
            <td className="py-2.5 pr-3">
              {named.toLocaleString("en-GB")} <span className="text-second">of {texts.toLocaleString("en-GB")}</span>
            </td>
            <td className="hidden w-[38%] py-2.5 pr-3 sm:table-cell">
              <span
                aria-hidden="true"
                className="flex h-2.5"
                style={{ width: `${Math.max(4, (100 * named) / most)}%` }}
              >
                <span
                  className="bg-leaf h-full rounded-l-[3px]"
                  style={{ width: `${(100 * (named - unhappy)) / named}%` }}
                />
                <span
                  className="bg-vermilion h-full rounded-r-[3px]"
                  style={{ width: `${(100 * unhappy) / named}%` }}
                />
              </span>
              <span className="text-second text-[14px]">
                {unhappy === 0
                  ? "all happy"
                  : unhappy === named
                    ? "all unhappy"
                    : `${unhappy.toLocaleString("en-GB")} unhappy`}
              </span>
            </td>
            <td className={`py-2.5 ${trend === "rising" ? "font-semibold" : "text-second"}`}>{TREND_WORDS[trend]}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

type PartsProps = { parts: Awaited<ReturnType<typeof partsOf>>; setting: Setting; texts: number };

/** Where a theme is named: by branch, team member, service and month, as sentences. */
function Parts({ parts, setting, texts }: PartsProps) {
  const list = (
    title: string,
    rows: { id: string | null; texts: number; unhappy: number }[],
    names: { id: string; name: string }[],
  ) =>
    rows.length === 0 ? null : (
      <section className="min-w-[180px] flex-1">
        <h2 className="text-[16px] font-semibold">{title}</h2>
        <ul>
          {rows.slice(0, 8).map((row) => (
            <li key={row.id}>
              {names.find(({ id }) => id === row.id)?.name ?? "Someone who has left"}{" "}
              <span className="text-second">
                {row.texts}
                {row.unhappy > 0 ? `, ${row.unhappy} unhappy` : ""}
              </span>
            </li>
          ))}
        </ul>
      </section>
    );
  const most = Math.max(1, ...parts.months.map((month) => month.texts));
  const monthName = new Intl.DateTimeFormat("en-GB", { month: "short", timeZone: "UTC" });
  if (texts === 0) return null;
  return (
    <>
      <div className="mt-5 flex flex-wrap gap-x-8 gap-y-4">
        {setting.branches.length > 1 ? list("By branch", parts.branches, setting.branches) : null}
        {list("By team member", parts.members, setting.team)}
        {list("By service", parts.services, setting.services)}
      </div>
      {parts.months.length > 1 ? (
        <section aria-label="By month" className="mt-5">
          <h2 className="text-[16px] font-semibold">By month</h2>
          <ol className="mt-2 flex items-end gap-3">
            {parts.months.map(({ month, texts, unhappy }) => (
              <li key={month} className="flex w-[52px] flex-col items-center text-[14px]">
                <span className="sr-only">
                  {texts} in {month}, {unhappy} unhappy
                </span>
                <span aria-hidden="true">{texts}</span>
                <span
                  aria-hidden="true"
                  className="flex w-full flex-col"
                  style={{ height: `${Math.max(3, (72 * texts) / most)}px` }}
                >
                  <span
                    className="bg-vermilion w-full rounded-t-[3px]"
                    style={{ height: `${(100 * unhappy) / texts}%` }}
                  />
                  <span className="bg-leaf w-full grow" />
                </span>
                <span aria-hidden="true" className="text-second">
                  {monthName.format(new Date(`${month}-01T00:00:00Z`))}
                </span>
              </li>
            ))}
          </ol>
        </section>
      ) : null}
    </>
  );
}

/** How great a rise of the theme that is named most would have to be before it is told. */
function sayPower(counts: readonly ThemeCount[], nameOf: (theme: string) => string): string | null {
  const [first] = counts;
  if (!first || first.before.of === 0) return null;
  const { lately, before, theme } = first;
  const percent = noticedFrom(lately.of, before, counts.length);
  if (percent === null) return "There aren’t enough comments yet to notice any change.";
  const was = Math.round((100 * before.named) / before.of);
  return `With ${sayFigure(lately.of, "comment")} in four weeks, we’d notice four times out of five if ${nameOf(theme).toLowerCase()} went from ${was}% to ${percent}% of them.`;
}

type MarginProps = {
  progress: { unread: number; of: number } | null;
  own: OwnTheme[];
  power: string | null;
};

function Margin({ progress, own, power }: MarginProps) {
  return (
    <>
      {progress ? (
        <Note title="Still analysing">
          <p>
            <b>{(progress.of - progress.unread).toLocaleString("en-GB")}</b> of {progress.of.toLocaleString("en-GB")}{" "}
            comments analysed. The rest will follow.
          </p>
        </Note>
      ) : null}
      <Note title="What’s included">
        <p>
          Public reviews and private notes with a comment, in English and Spanish. In other languages{" "}
          {own.length > 0
            ? "we only find your own themes, and go by the rating to tell"
            : "we can’t pick out themes, and only the rating tells"}{" "}
          how happy someone was.
        </p>
      </Note>
      <Note title="More than before">
        <p>
          We compare the last four weeks with the twelve before. When nothing has really changed, fewer than one month
          in 20 brings a false alarm.
        </p>
        {power ? <p>{power}</p> : null}
      </Note>
      <Note title="How it’s counted">
        <p>
          A comment that mentions two things counts towards both. One that both praises and criticises something counts
          as unhappy. Estima comes with {THEMES.length} themes built in.
        </p>
      </Note>
    </>
  );
}
