import { may } from "@/core/access/permissions";
import { isPaused } from "@/core/clients/pause";
import { capital, sayCount } from "@/core/time/say";
import { DAY } from "@/core/time/zone";
import { countHeld, tallyPlans } from "@/features/asks";
import { allowanceOf, loadSetting, monthOf, usageOf } from "@/features/clients";
import { ForEveryPlan } from "@/features/plan-editor/parts/ForEveryPlan";
import { PlanList } from "@/features/plan-editor/parts/PlanList.client";
import { PlanRow } from "@/features/plan-editor/parts/PlanRow";
import { StartPlan } from "@/features/plan-editor/parts/StartPlan";
import { listPlans, type Plan } from "@/features/plans";
import * as today from "@/features/today";
import { reasonWords } from "@/locales/asking";
import { type Access, requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { together, withClient } from "@/platform/database";
import { Counted } from "@/ui/Counted";
import { Empty, Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Asking" };

type Props = { params: Promise<{ client: string }> };

export default async function Asking({ params }: Props) {
  const access = await requireAccess((await params).client, "see asking");
  const now = await clockNow();
  const seen = await loadAsking(access, now);
  const { setting, plans } = seen;
  const { slug } = access.seat;
  const mayChange = may(access.seat, "change plans");
  const living = plans.filter(({ state }) => state !== "archived");
  const archived = plans.filter(({ state }) => state === "archived");
  const nameOf = (id: string) =>
    [...setting.services, ...setting.branches].find((one) => one.id === id)?.name ?? "something since removed";
  const row = (plan: Plan) => <PlanRow plan={plan} slug={slug} tally={seen.tallies.get(plan.id)} nameOf={nameOf} />;
  return (
    <Page margin={<AskingMargin seen={seen} slug={slug} />}>
      <div className="flex flex-wrap items-start justify-between gap-4">
        <div>
          <h1 className="title">{titleOf(living, isPaused(setting.client, now))}</h1>
          <p className="lead">Each visit goes to the first plan that fits.</p>
        </div>
        <div className="flex flex-wrap gap-2">
          <Link href={`/c/${slug}/asking/stages`} className="button">
            Where everyone stands
          </Link>
          <Link href={`/c/${slug}/asking/links`} className="button">
            Standing links
          </Link>
          <Link href={`/c/${slug}/asking/log`} className="button">
            Planned and sent
          </Link>
        </div>
      </div>
      <div className="mt-5">
        {living.length === 0 ? (
          <Empty>No plans yet. Start from one of those below.</Empty>
        ) : (
          <PlanList
            slug={slug}
            mayChange={mayChange}
            items={living.map((plan) => ({ key: plan.id, name: plan.name, content: row(plan) }))}
          />
        )}
      </div>
      {archived.length > 0 ? (
        <details className="mt-3">
          <summary className="text-second">{sayCount(archived.length, "archived plan")}</summary>
          <ul className="divide-rule divide-y">
            {archived.map((plan) => (
              <li key={plan.id} className="py-2">
                {row(plan)}
              </li>
            ))}
          </ul>
        </details>
      ) : null}
      {mayChange ? <StartPlan slug={slug} /> : null}
      <ForEveryPlan setting={setting} slug={slug} mayChange={mayChange} />
    </Page>
  );
}

type Seen = Awaited<ReturnType<typeof loadAsking>>;

function loadAsking(access: Access, now: number) {
  return withClient(access, async (tx) => {
    const setting = await loadSetting(tx);
    const { leftOut, tally } = await together(tx, {
      leftOut: today.leftOut(access, { from: now - 7 * DAY, to: now, branchId: null }),
      tally: today.tally(access, now - 7 * DAY, now + 1),
    });
    return {
      setting,
      plans: await listPlans(tx, access),
      tallies: await tallyPlans(tx, access, now - 7 * DAY),
      held: await countHeld(tx, access),
      usage: await usageOf(tx, access, monthOf(setting, now)),
      leftOut: leftOut.rows,
      tally,
    };
  });
}

function AskingMargin({ seen, slug }: { seen: Seen; slug: string }) {
  const { setting } = seen;
  const total = seen.leftOut.reduce((sum, { count }) => sum + count, 0);
  const heldFor = (hold: string) => seen.held.find((one) => one.hold === hold)?.count ?? 0;
  return (
    <>
      <Note title="The last seven days">
        <p>
          <Counted count={seen.tally.asked} one="person was" many="people were" /> asked and{" "}
          <b>{seen.tally.answered}</b> of them answered.
        </p>
        {total > 0 ? (
          <p>
            <Counted count={total} one="visit was" many="visits were" /> left out:{" "}
            {seen.leftOut.map(({ reason, count }) => `${count} ${reasonWords(reason)}`).join(", ")}.
          </p>
        ) : null}
        <p>
          <Link href={`/c/${slug}/asking/stages`}>Where everyone stands</Link>
        </p>
      </Note>
      <Note title="This month’s messages">
        <Used what="emails" used={seen.usage.email.used} most={allowanceOf(setting, "email")} />
        <Used what="text parts" used={seen.usage.text.used} most={allowanceOf(setting, "text")} />
        {heldFor("allowance") > 0 ? (
          <p className="text-ochre-deep">
            <Link href={`/c/${slug}/asking/log?state=held`}>
              <b>{capital(sayCount(heldFor("allowance"), "message"))}</b> {heldFor("allowance") === 1 ? "is" : "are"}{" "}
              waiting for next month’s allowance
            </Link>
            .
          </p>
        ) : null}
        {heldFor("by hand") + heldFor("plan paused") > 0 ? (
          <p>
            <Link href={`/c/${slug}/asking/log?state=held`}>
              <b>{heldFor("by hand") + heldFor("plan paused")}</b> are on hold
            </Link>
            {heldFor("plan paused") > 0 ? `, ${heldFor("plan paused")} of them because their plan is paused` : ""}.
          </p>
        ) : null}
      </Note>
      <Note title="When two plans fit a visit">
        <p>
          The first plan in the list that fits a visit gets it. Open the visit to see which others would have fitted.
        </p>
      </Note>
    </>
  );
}

const NUMBERS = ["No", "One", "Two", "Three", "Four", "Five", "Six", "Seven", "Eight", "Nine", "Ten"];

function titleOf(plans: Plan[], isEverythingPaused: boolean): string {
  if (isEverythingPaused) return "Everything is paused: no plan is asking anyone.";
  const running = plans.filter(({ state }) => state === "running").length;
  const selfPaused = plans.filter(({ state, pausedWhy }) => state === "paused" && pausedWhy).length;
  if (selfPaused > 0)
    return `${NUMBERS[selfPaused] ?? selfPaused} ${selfPaused === 1 ? "plan" : "plans"} ${selfPaused === 1 ? "has paused itself" : "have paused themselves"}.`;
  const byHand = plans.filter(({ state }) => state === "paused").length;
  const rest = byHand === 0 ? "" : `, ${sayCount(byHand, "is", "are")} paused`;
  return `${NUMBERS[running] ?? running} ${running === 1 ? "plan is" : "plans are"} running${rest}.`;
}

function Used({ what, used, most }: { what: string; used: number; most: number | null }) {
  return (
    <p>
      <b>{used}</b> {what}
      {most === null ? " so far, with no limit" : ` of ${most}`}.
      {most !== null && used >= most ? (
        <span className="text-ochre-deep"> Used up: messages wait until next month.</span>
      ) : null}
    </p>
  );
}
