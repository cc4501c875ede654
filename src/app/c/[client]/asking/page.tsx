import Link from "next/link";
import { z } from "zod";
import { may } from "@/core/access/roles";
import { sayReason } from "@/core/asks/examine";
import { projectAsk } from "@/core/asks/nextStep";
import { sayDay, sayWhen } from "@/core/time/say";
import { openStretches, type WeekHours } from "@/core/time/sendHours";
import { DAY, dayNumber, fromLocal, HOUR, toLocal } from "@/core/time/zone";
import { PLACEHOLDERS, withoutFallback } from "@/core/words/placeholders";
import { textParts } from "@/core/words/textParts";
import { DaysSentence, DelaySentence, DoorsSentence, HoursSentence, PlanSwitch, TagsSentence, WordsSentence } from "@/features/asking/parts/PlanSentences.client";
import { calendarOf, loadSetting } from "@/features/clients";
import { answerLink, composeAsk } from "@/features/messages";
import { standingPlan } from "@/features/plans";
import * as today from "@/features/today";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Empty, Note, Page } from "@/ui/Page";
import { PlanRuler, sayHours } from "@/ui/ruler/PlanRuler";

export const metadata = { title: "Asking" };

type Props = { params: Promise<{ client: string }>; searchParams: Promise<Record<string, string | string[] | undefined>> };

export default async function Asking({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "look");
  const now = await clockNow();
  const { slug, zone, role } = access.seat;
  const seen = await withClient(access, async (tx) => ({
    setting: await loadSetting(tx),
    plan: await standingPlan(tx, access),
    leftOut: await today.leftOut(tx, access, { from: now - 7 * DAY, to: now, branchId: null }),
    tally: await today.tally(tx, access, now - 7 * DAY, now + 1),
  }));
  const { setting, plan } = seen;
  if (!plan) {
    return (
      <Page>
        <h1 className="title">No plan is set up.</h1>
        <div className="mt-6">
          <Empty>A client starts with a standing plan; this one has none. Ask whoever runs your agency.</Empty>
        </div>
      </Page>
    );
  }
  const { rules } = plan;
  const wanted = z.coerce
    .number()
    .int()
    .min(0)
    .max(rules.steps.length - 1)
    .catch(0)
    .parse((await searchParams).step ?? 0);
  const step = rules.steps[wanted];
  const mayChange = may(role, "change plans");
  const ref = { slug, planId: plan.id, version: plan.version, mayChange };
  const calendar = calendarOf(setting, setting.branches[0]?.id ?? "", now);

  // An example visit today at 11:00, projected by the very function that sends.
  const day = dayNumber(toLocal(zone, now));
  const visitAt = fromLocal(zone, day * DAY + 11 * HOUR);
  const reachable = {
    email: "somebody@post.example",
    emailBounced: false,
    emailOptedOut: false,
    phone: "+447700900123",
    phoneTakesTexts: true,
    textBounced: false,
    textOptedOut: false,
  };
  const start = {
    anchorAt: visitAt,
    sentCount: 0,
    lastSentAt: null,
    byHand: false,
    chosenChannel: null,
    stop: null,
    retryAt: null,
    held: false,
    lastToPersonAt: null,
    gapMinutes: setting.client.gapMinutes,
  };
  const projected = projectAsk(rules, start, reachable, calendar, null, visitAt).messages;
  const lastAt = projected.at(-1)?.at ?? visitAt;
  const days = Math.min(21, Math.max(4, Math.ceil((lastAt - fromLocal(zone, day * DAY)) / DAY) + 1));
  const stretches = Array.from({ length: days }, (_, index) => openStretches(day + index, "text", calendar)).flat();
  const every = days > 10 ? Math.ceil(days / 8) : 1;
  const dayNames = Array.from({ length: days }, (_, index) => (index === 0 ? "visit day" : index % every ? `${" ".repeat(index)}` : index === 1 ? "1 day later" : `${index} days`));

  const facts = {
    person: { given: "Odette", family: "Marsh" },
    business: setting.client.name,
    branch: setting.branches[0]?.name ?? "",
    service: setting.services.find(({ neverAsk }) => !neverAsk)?.name ?? "visit",
    about: slug.includes("vets") ? "Biscuit" : null,
    teamMember: setting.team[0]?.name ?? null,
  };
  const words = composeAsk(step, step.channel, facts, answerLink("k7q2m9wx4tzr3n", wanted));
  const parts = step.channel === "text" ? textParts(words.body) : null;
  const asked = setting.services.filter(({ neverAsk }) => !neverAsk);
  const never = setting.services.filter(({ neverAsk }) => neverAsk);
  const total = seen.leftOut.reduce((sum, { count }) => sum + count, 0);
  const checks = checksOf(setting, rules);
  return (
    <Page
      margin={
        <>
          <Note title="The last seven days">
            <p>
              <b>{seen.tally.asked}</b> people were asked and <b>{seen.tally.answered}</b> of them answered.
            </p>
            {total > 0 ? (
              <p>
                <b>{total}</b> visits were left out: {seen.leftOut.map(({ reason, count }) => `${count} ${sayReason(reason)}`).join(", ")}.
              </p>
            ) : null}
          </Note>
          <Note title="Is it in order?">
            <ul className="space-y-1">
              {checks.map(({ ok, says }) => (
                <li key={says} className={ok ? "" : "text-ochre-deep font-medium"}>
                  {ok ? "✓" : "!"} {says}
                </li>
              ))}
            </ul>
          </Note>
          <Note title="What stops it">
            <p>The rest of an ask is dropped at once when the person answers, goes on to a review site, writes back, opts out, or their visit is cancelled.</p>
          </Note>
        </>
      }
    >
      <div className="flex flex-wrap items-start justify-between gap-4">
        <div>
          <h1 className="title">
            {plan.name} {plan.state === "running" ? "is running." : "is paused."}
          </h1>
          <p className="lead">
            {plan.state === "running" ? `Since ${sayDay(zone, plan.runningSince, now)}.` : "Nothing leaves; what was planned is held."} Changes apply to every message that has not
            left.
          </p>
        </div>
        <div className="flex gap-2">
          <Link href={`/c/${slug}/asking/log`} className="button">
            Message log
          </Link>
          {mayChange ? <PlanSwitch slug={slug} planId={plan.id} state={plan.state} /> : null}
        </div>
      </div>
      <div className="mt-6">
        <PlanRuler
          from={fromLocal(zone, day * DAY)}
          days={days}
          visitAt={visitAt}
          visitSays="An example visit that ends today at 11:00"
          open={stretches}
          dayNames={dayNames}
          marks={projected.map((message) => ({
            name: rules.steps[message.step].name,
            channel: message.channel,
            at: message.at,
            says: `${message.channel}, ${sayWhen(zone, message.at, visitAt).replace("today at", "that day at")}`,
            href: `/c/${slug}/asking?step=${message.step}`,
            current: message.step === wanted,
          }))}
        />
      </div>
      <section className="sheet mt-6 grid gap-6 p-5 md:grid-cols-[1fr_270px]" aria-label={step.name}>
        <div>
          <h2 className="font-sans text-[16px] font-semibold tracking-normal">
            {step.name} <span className="tag bg-paper text-second border-rule ml-1 border">{step.channel}</span>
          </h2>
          <p className="mt-2 text-[16.5px] leading-[1.75]">
            Goes out <DelaySentence plan={ref} step={step} index={wanted} /> after {wanted === 0 ? "the visit ends" : "the message before it"}, at once if the hours are open, else
            when they next open.
          </p>
          <p className="text-second mt-2">{step.channel === "text" ? "No mobile number? An email goes in its place." : "No email address? A text goes in its place."}</p>
          <p className="mt-4">
            <WordsSentence plan={ref} step={step} index={wanted} placeholders={[...PLACEHOLDERS]} />
          </p>
        </div>
        <div>
          <div className="bg-paper rounded-[12px] p-3.5">
            <div
              className="bg-sheet border-rule max-h-[260px] overflow-y-auto rounded-[10px] border px-3.5 py-2.5 text-[14px] whitespace-pre-wrap [overflow-wrap:anywhere]"
              // biome-ignore lint/a11y/noNoninteractiveTabindex: a box that scrolls must be reachable by keyboard
              tabIndex={0}
              role="region"
              aria-label="How it reads"
            >
              {words.subject ? <p className="mb-1.5 font-semibold">{words.subject}</p> : null}
              {words.body}
            </div>
            <p className="text-second mt-2 text-[13px]">
              {parts ? `${parts.parts} ${parts.parts === 1 ? "part" : "parts"}, ${parts.units} of ${parts.parts * parts.perPart} characters` : "An email, as it would read"}
            </p>
          </div>
        </div>
      </section>
      <dl className="divide-rule border-rule mt-6 divide-y border-y">
        <Row name="Who is asked">
          Everyone after{" "}
          {list(
            asked.map(({ name }) => name.toLowerCase()),
            "or",
          )}
          {never.length > 0 ? (
            <>
              ; never after{" "}
              {list(
                never.map(({ name }) => name.toLowerCase()),
                "or",
              )}
            </>
          ) : null}
          ; never tagged <TagsSentence plan={ref} tags={rules.excludeTags} choices={setting.tags.map(({ name }) => name)} />.
        </Row>
        <Row name="How often">
          Once a person, then they rest for{" "}
          <DaysSentence
            plan={ref}
            part="rest"
            name="restDays"
            value={rules.restDays}
            words={`${rules.restDays} days`}
            label="How long a person rests"
            hint="Counted from the day they were last asked. 0 asks after every visit."
          />
          .
        </Row>
        <Row name="While it is fresh">
          A message that could not leave within{" "}
          <DaysSentence
            plan={ref}
            part="fresh"
            name="freshDays"
            value={rules.freshDays}
            words={rules.freshDays === 1 ? "1 day" : `${rules.freshDays} days`}
            label="How late is too late"
            hint="From 1 to 60. After an outage or a pause, what is older ends as too late."
          />{" "}
          of its time is not sent any more.
        </Row>
        <Row name="When texts leave">
          <HoursSentence
            slug={slug}
            channel="text"
            week={setting.client.sendHours.text}
            words={weekWords(setting.client.sendHours.text)}
            closedDates={setting.client.closedDates}
            keepsHolidays={setting.client.keepsHolidays}
            mayChange={mayChange}
          />
          {setting.client.keepsHolidays ? ", not on public holidays" : ""}; and never before 8:00 or after 21:00 where the person is.
        </Row>
        <Row name="When emails leave">
          <HoursSentence
            slug={slug}
            channel="email"
            week={setting.client.sendHours.email}
            words={weekWords(setting.client.sendHours.email)}
            closedDates={setting.client.closedDates}
            keepsHolidays={setting.client.keepsHolidays}
            mayChange={mayChange}
          />
          {setting.client.keepsHolidays ? ", not on public holidays" : ""}.
        </Row>
        <Row name="What opens">
          <DoorsSentence plan={ref} doors={rules.doors} />.{rules.doors.mode === "private only" ? ` ${rules.doors.acknowledgedBy} answers for it.` : ""}
        </Row>
      </dl>
    </Page>
  );
}

function Row({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div className="grid gap-x-4 py-3 sm:grid-cols-[160px_1fr]">
      <dt className="text-second font-semibold">{name}</dt>
      <dd className="leading-[1.75]">{children}</dd>
    </div>
  );
}

function list(names: string[], word: string): string {
  if (names.length < 2) return names.join("") || "every visit";
  return `${names.slice(0, -1).join(", ")} ${word} ${names.at(-1)}`;
}

const SHORT = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/** "Mon to Fri 9:00 to 19:00, Sat 9:00 to 17:00": neighbours with the same hours said once. */
function weekWords(week: WeekHours): string {
  const groups: { from: number; to: number; says: string }[] = [];
  week.forEach((ranges, day) => {
    const says = sayHours(ranges);
    const last = groups.at(-1);
    if (last?.says === says) last.to = day;
    else groups.push({ from: day, to: day, says });
  });
  const open = groups.filter(({ says }) => says !== "nothing leaves");
  if (open.length === 0) return "never";
  return open.map(({ from, to, says }) => `${SHORT[from]}${to > from ? ` to ${SHORT[to]}` : ""} ${says}`).join(", ");
}

function checksOf(setting: Awaited<ReturnType<typeof loadSetting>>, rules: NonNullable<Awaited<ReturnType<typeof standingPlan>>>["rules"]): { ok: boolean; says: string }[] {
  const without = setting.branches.filter((branch) => !setting.listings.some(({ branchId }) => branchId === branch.id));
  const bare = rules.steps.flatMap((step) => [step.text, step.subject, step.email].flatMap(withoutFallback));
  const noStop = rules.steps.filter(({ text }) => !/\bstop\b/i.test(text));
  const closed = setting.client.sendHours.text.flatMap((ranges, day) => (ranges.length === 0 ? [SHORT[day]] : []));
  return [
    {
      ok: without.length === 0,
      says:
        without.length === 0
          ? "Every branch has a review page"
          : `${list(
              without.map(({ name }) => name),
              "and",
            )} has no review page`,
    },
    { ok: bare.length === 0, says: bare.length === 0 ? "Every placeholder has a fallback" : `{${bare[0]}} has no fallback` },
    { ok: noStop.length === 0, says: noStop.length === 0 ? "Every text says how to stop" : `“${noStop[0].name}” does not say how to stop texts` },
    { ok: setting.client.postalAddress.length > 0, says: "Emails carry the postal address" },
    { ok: closed.length <= 1, says: closed.length === 0 ? "Texts may leave every day" : `No text leaves on ${list(closed, "and")}` },
  ];
}
