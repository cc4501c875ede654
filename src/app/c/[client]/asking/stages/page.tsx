import { z } from "zod";
import { ASK_STAGES, type AskStage } from "@/core/asks/stages";
import { capital, sayCount, sayMoment } from "@/core/time/say";
import { DAY } from "@/core/time/zone";
import { countStages, peopleAt, STAGE_PAGE } from "@/features/asks";
import { StageChart } from "@/features/asks/parts/StageChart";
import { loadSetting, type Setting } from "@/features/clients";
import { LiveRefresh } from "@/features/navigation/parts/LiveRefresh.client";
import { nameOf } from "@/features/people";
import { listPlans, type Plan } from "@/features/plans";
import { endSentence, stageWords, stopSentence } from "@/locales/asking";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { pageKey } from "@/platform/pageKey";
import { chip } from "@/ui/chip";
import { type FilterPart, FilterSentence } from "@/ui/FilterSentence.client";
import { filterPart, namedChoices } from "@/ui/filterPart";
import { Empty, Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Where everyone stands" };

type Props = {
  params: Promise<{ client: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const query = z.object({
  stage: z.enum(ASK_STAGES).nullable().catch(null),
  only: z.literal("1").nullable().catch(null),
  plan: z.uuid().nullable().catch(null),
  branch: z.uuid().nullable().catch(null),
  days: z.coerce
    .number()
    .int()
    .pipe(z.union([z.literal(7), z.literal(30), z.literal(90)]))
    .catch(30),
  before: pageKey,
});

export default async function Stages({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "see asking");
  const search = await searchParams;
  const wanted = query.parse({
    ...Object.fromEntries(Object.keys(query.shape).map((key) => [key, search[key] ?? null])),
    days: search.days ?? 30,
  });
  const now = await clockNow();
  const { slug, zone } = access.seat;
  const filter = { since: now - wanted.days * DAY, planId: wanted.plan, branchId: wanted.branch };
  const stage: AskStage = wanted.stage ?? "planned";
  const { counts, people, plans, setting } = await withClient(access, async (tx) => ({
    counts: await countStages(tx, access, filter),
    people: await peopleAt(tx, access, filter, stage, wanted.only === "1", wanted.before),
    plans: await listPlans(tx, access),
    setting: await loadSetting(tx),
  }));
  const shown = people.slice(0, STAGE_PAGE);
  const last = shown.at(-1);
  const link = (change: Record<string, string | number | null>) => {
    const to = new URLSearchParams();
    for (const [name, value] of Object.entries({ ...wanted, before: null, ...change }))
      if (value !== null && !(name === "days" && value === 30)) to.set(name, String(value));
    return `/c/${slug}/asking/stages${to.size > 0 ? `?${to}` : ""}`;
  };
  const filters = filtersOf(setting, plans, wanted, link);
  return (
    <Page
      margin={
        <Note title="How to read this">
          <p>
            Every ask that started in this period, and how far it got. People count for every step up to the one they
            reached: if someone answered, they opened the message, even if their email program hides that.
          </p>
          <p>We count a review only when exactly one person with that name was asked at that branch.</p>
        </Note>
      }
    >
      <LiveRefresh seconds={30} />
      <p className="mb-1 text-[14px]">
        <Link href={`/c/${slug}/asking`} className="button-quiet -ml-2">
          ← Asking
        </Link>
      </p>
      <h1 className="title">
        {counts.answered} of {sayCount(counts.asked, "person", "people")} asked {counts.answered === 1 ? "has" : "have"}{" "}
        answered or left a review.
      </h1>
      <FilterSentence parts={filters} />
      <StageChart counts={counts} stage={stage} href={(name) => link({ stage: name, only: null })} />
      <section className="mt-6" aria-label={`People: ${stageWords(stage)}`}>
        <div className="flex flex-wrap items-center justify-between gap-2">
          <h2 className="text-[18px] font-semibold">
            {`${capital(stageWords(stage))}${wanted.only ? ", then stopped" : ""}`}
          </h2>
          {stage === "reviewed" ? null : (
            <span className="flex gap-2">
              {chip(link({ only: null }), !wanted.only, "this far or further")}
              {chip(link({ only: "1" }), wanted.only === "1", "stopped here")}
            </span>
          )}
        </div>
        <PeopleAt people={shown} slug={slug} zone={zone} now={now} />
        {people.length > STAGE_PAGE && last ? (
          <p className="mt-4">
            <Link href={link({ before: `${last.at}~${last.askId}` })} className="button">
              Earlier ones
            </Link>
          </p>
        ) : null}
      </section>
    </Page>
  );
}

type Wanted = z.output<typeof query>;
type Change = Record<string, string | number | null>;

function filtersOf(setting: Setting, plans: readonly Plan[], wanted: Wanted, link: (change: Change) => string) {
  const named = (name: "plan" | "branch", label: string, any: string, list: readonly { id: string; name: string }[]) =>
    filterPart({
      label,
      any,
      value: wanted[name],
      choices: namedChoices(list),
      href: (value) => link({ [name]: value }),
    });
  const running = plans.filter(({ state, version }) => state !== "draft" && version > 0);
  const filters: (string | FilterPart)[] = [
    "Showing everyone due to be asked in ",
    filterPart({
      label: "Days",
      any: "the last 30 days",
      value: wanted.days === 30 ? null : String(wanted.days),
      choices: [
        { value: "7", words: "the last seven days" },
        { value: "90", words: "the last 90 days" },
      ],
      href: (days) => link({ days: days ?? 30 }),
    }),
    ...(running.length > 1 ? [" by ", named("plan", "Plan", "all plans", running)] : []),
    ...(setting.branches.length > 1 ? [" at ", named("branch", "Branch", "all branches", setting.branches)] : []),
    ".",
  ];
  return filters;
}

type At = Awaited<ReturnType<typeof peopleAt>>;

function PeopleAt({ people, slug, zone, now }: { people: At; slug: string; zone: string; now: number }) {
  if (people.length === 0)
    return (
      <div className="mt-3">
        <Empty>Nobody at this step.</Empty>
      </div>
    );
  return (
    <ul className="divide-rule border-rule mt-3 divide-y border-y">
      {people.map((one) => (
        <li key={one.askId} className="grid gap-x-4 py-2 sm:grid-cols-[150px_1fr_240px]">
          <span className="text-second text-[14px]">{sayMoment(zone, one.at, now)}</span>
          <Link href={`/c/${slug}/people/${one.personId}`} className="name-link">
            {nameOf(one)}
          </Link>
          <Link
            href={`/c/${slug}/asking/why/${one.visitId}`}
            className="text-second text-[14px] underline underline-offset-[3px] sm:text-right"
          >
            {one.plan}: {one.stop ? stopSentence(one.stop) : one.ended ? endSentence(one.ended) : "under way"}
          </Link>
        </li>
      ))}
    </ul>
  );
}
