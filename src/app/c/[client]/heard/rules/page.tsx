import { may } from "@/core/access/permissions";
import { sayRating } from "@/core/reviews/rating";
import { capital, sayAgo, sayCount } from "@/core/time/say";
import { loadSetting } from "@/features/clients";
import {
  countPlanned,
  keptRule,
  listRules,
  listSaved,
  namesOf,
  type Rehearsed,
  rehearseRules,
} from "@/features/reviews";
import { GUARD_WORDS } from "@/features/reviews/parts/guardWords";
import { RuleButtons, RuleSentence } from "@/features/reviews/parts/RuleSentence.client";
import { NewRule, SavedList } from "@/features/reviews/parts/SavedReplies.client";
import { TextServiceSentence } from "@/features/reviews/parts/TextServiceSentence.client";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Bars } from "@/ui/Bars";
import { Empty, Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Rules for replying" };

type Props = { params: Promise<{ client: string }> };

/** Rules for replying, what they would have said lately, and the replies that are saved. */
export default async function ReplyRules({ params }: Props) {
  const access = await requireAccess((await params).client, "see heard");
  const now = await clockNow();
  const { slug } = access.seat;
  const mayChange = may(access.seat, "set up");
  const seen = await withClient(access, async (tx) => {
    const setting = await loadSetting(tx);
    const rules = await listRules(tx, access);
    const active = rules.filter(({ isOn }) => isOn).map(keptRule);
    return {
      setting,
      rules,
      active,
      saved: await listSaved(tx, access, access.user.id),
      forConversations: await listSaved(tx, access, access.user.id, "conversations"),
      rehearsed: rules.length > 0 ? await rehearseRules(tx, access, active) : [],
      planned: await countPlanned(tx, access),
    };
  });
  const { setting, rules, active, saved, forConversations, rehearsed, planned } = seen;
  const names = namesOf(
    setting,
    saved.filter(({ userId }) => userId === null),
  );
  const plain = {
    branches: names.branches.map(({ id, name }) => ({ id, name })),
    saved: names.saved.map(({ id, purpose }) => ({ id, purpose })),
  };
  const sites = [...new Set(setting.listings.map(({ site }) => site))];
  const posting = active.filter(({ deed }) => deed === "post").length;
  return (
    <Page
      margin={
        <>
          <Note title="How rules work">
            <p>
              The first rule that fits a review applies. If none fits, the review waits for you as usual. So do reviews
              that were more than two weeks old when we found them.
            </p>
          </Note>
          <Note title="What rules never say">
            <p>
              Anything the review doesn’t mention, offers of money, blame, requests to change it, or near-copies of a
              recent reply. If a draft breaks this, nothing is posted and the review waits for you.
            </p>
          </Note>
          <Note title="Scheduled replies">
            <p>
              {planned === 0 ? (
                "No replies are scheduled right now."
              ) : (
                <>
                  <b>{planned}</b> {planned === 1 ? "reply is" : "replies are"} scheduled. You can see and stop each one{" "}
                  <Link href={`/c/${slug}/heard?show=planned`}>in the list</Link>.
                </>
              )}
            </p>
          </Note>
        </>
      }
    >
      <p>
        <Link href={`/c/${slug}/heard`}>Heard</Link>
      </p>
      <h1 className="title">{titleOf(rules.length, active.length, posting)}</h1>
      {rules.length === 0 ? (
        <div className="mt-5">
          <Empty action={mayChange ? <NewRule slug={slug} /> : null}>
            Rules answer happy reviews for you, with your saved replies or a draft. They only suggest replies until you
            let them post.
          </Empty>
        </div>
      ) : (
        <>
          <ol className="divide-rule border-rule mt-5 divide-y border-y">
            {rules.map((row, index) => (
              <li key={row.id} className="flex gap-3 py-4">
                <span className="font-title text-second text-[18px] font-semibold">{index + 1}.</span>
                <div className="min-w-0">
                  <RuleSentence
                    slug={slug}
                    rule={keptRule(row)}
                    isOn={row.isOn}
                    names={plain}
                    sites={sites}
                    mayChange={mayChange}
                  />
                  {row.isOn ? null : <p className="text-second">Off.</p>}
                  {mayChange ? (
                    <RuleButtons
                      slug={slug}
                      id={row.id}
                      isOn={row.isOn}
                      isFirst={index === 0}
                      isLast={index === rules.length - 1}
                    />
                  ) : null}
                </div>
              </li>
            ))}
          </ol>
          {mayChange ? (
            <div className="mt-3">
              <NewRule slug={slug} />
            </div>
          ) : null}
          <Rehearsal rehearsed={rehearsed} now={now} numberOf={(id) => rules.findIndex((row) => row.id === id) + 1} />
        </>
      )}
      <h2 className="font-title mt-10 text-[21px] font-semibold">Drafts</h2>
      <p className="mt-2">
        Estima drafts replies from the review’s own words. They can also be written by{" "}
        <TextServiceSentence slug={mayChange ? slug : null} address={setting.client.textService?.address ?? null} />.
      </p>
      <h2 className="font-title mt-10 text-[21px] font-semibold">Saved replies</h2>
      <SavedList
        at={{ slug }}
        mayChange={may(access.seat, "draft replies")}
        list={[...saved, ...forConversations].map(({ id, purpose, language, words, uses, use, of }) => ({
          id,
          purpose,
          language,
          words,
          uses,
          use,
          of,
        }))}
      />
    </Page>
  );
}

function titleOf(all: number, on: number, posting: number): string {
  if (all === 0) return "No automatic replies yet.";
  if (posting > 0) return `${capital(sayCount(posting, "rule posts", "rules post"))} replies automatically.`;
  return on === 0
    ? "All rules are off."
    : `${capital(sayCount(on, "rule drafts", "rules draft"))} replies; none posts automatically.`;
}

/** What the rules would have said to the last reviews. */
function Rehearsal({
  rehearsed,
  now,
  numberOf,
}: {
  rehearsed: Rehearsed[];
  now: number;
  numberOf: (id: string) => number;
}) {
  const decided = rehearsed.filter(({ decision }) => decision !== null);
  const by = (deed: string) =>
    decided.filter(({ decision, written }) => decision?.deed === deed && written?.words).length;
  const refused = decided.filter(({ written }) => written !== null && written.words === null).length;
  const [posted, asked, suggested] = [by("post"), by("approve"), by("suggest")];
  const said = [
    posted > 0 ? `posted ${posted}` : null,
    asked > 0 ? `left ${asked} for approval` : null,
    suggested > 0 ? `suggested ${suggested}` : null,
    refused > 0 ? `blocked ${refused} that broke the guards` : null,
  ].filter((part) => part !== null);
  return (
    <section aria-label="Rehearsal" className="mt-9">
      <h2 className="font-title text-[21px] font-semibold">
        On the last {rehearsed.length === 1 ? "review" : `${rehearsed.length} reviews`}
      </h2>
      <p className="mt-1">
        {said.length === 0
          ? "They wouldn’t have written anything."
          : `They would have ${new Intl.ListFormat("en-GB").format(said)}.`}{" "}
        {capital(sayCount(rehearsed.length - decided.length, "matches", "match"))} no rule.
      </p>
      <ul className="divide-rule border-rule mt-3 divide-y border-y">
        {rehearsed.slice(0, 40).map((it) => (
          <li key={it.review.id} className="py-3">
            <p className="text-second flex flex-wrap items-baseline gap-x-2.5 text-[14px]">
              <Bars rating={it.review.rating} words={sayRating(it.review.ownRating, it.review.scale)} />
              <b className="text-ink">{it.review.author}</b>
              <span>
                on {it.site} · {sayAgo(it.review.writtenAt, now)}
              </span>
              <span className="ml-auto">{outcomeOf(it, numberOf)}</span>
            </p>
            {it.review.words ? <p className="said line-clamp-2 !text-[17px]">{it.review.words}</p> : null}
            {it.written?.words ? (
              <p className="border-edge mt-1.5 border-l-[3px] pl-3 whitespace-pre-wrap">{it.written.words}</p>
            ) : null}
            {it.written && it.written.words === null ? (
              <p className="text-ochre-deep mt-1 text-[14px]">
                We couldn’t write a reply
                {it.written.refused.length > 0
                  ? `: ${it.written.refused
                      .slice(0, 3)
                      .map(({ guard, words }) => `“${words}” ${GUARD_WORDS[guard]}`)
                      .join("; ")}`
                  : ""}
                .
              </p>
            ) : null}
          </li>
        ))}
      </ul>
      {rehearsed.length > 40 ? (
        <p className="text-second mt-2">The other {rehearsed.length - 40} are counted above but not shown.</p>
      ) : null}
    </section>
  );
}

function outcomeOf({ decision, written, takesReplies }: Rehearsed, numberOf: (id: string) => number): string {
  if (!decision) return "no rule fits";
  const rule = `rule ${numberOf(decision.rule.id)}`;
  if (!takesReplies) return "site doesn’t accept replies";
  if (decision.deed === "nothing") return `${rule} leaves it to your team`;
  if (decision.deed === "suggest" && decision.heldBack) return `${rule}, left to your team`;
  if (!written?.words) return `${rule}, blocked`;
  if (decision.isUnsure) return `${rule}, for approval: language unclear`;
  if (decision.heldBack) return `${rule}, for approval: reviewer isn’t happy`;
  return { post: `${rule} posts it`, approve: `${rule}, for approval`, suggest: `${rule} suggests it` }[decision.deed];
}
