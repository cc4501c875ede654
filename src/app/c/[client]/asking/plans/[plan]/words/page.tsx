import { notFound } from "next/navigation";
import { z } from "zod";
import { may } from "@/core/access/permissions";
import { sayCount } from "@/core/time/say";
import { LANGUAGE_NAMES } from "@/core/words/languages";
import { piecesOf, type WalkChoice, walkChoice } from "@/core/words/walk";
import { loadPlanView } from "@/features/plan-editor";
import { PlanDraft } from "@/features/plan-editor/parts/PlanDraft";
import {
  loadAgencyWords,
  loadWalk,
  offersOf,
  openWayLinks,
  shownBy,
  WALK_TOKEN,
  walkLetter,
  walkMessage,
  walkPage,
  walkPicture,
} from "@/features/words";
import { languagePart } from "@/features/words/parts/languagePart";
import { WalkFrame } from "@/features/words/parts/WalkFrame";
import { WalkMargin } from "@/features/words/parts/WalkMargin";
import { WalkPieces } from "@/features/words/parts/WalkPieces";
import { WalkStrip } from "@/features/words/parts/WalkStrip";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { FilterSentence } from "@/ui/FilterSentence.client";
import { filterPart, namedChoices } from "@/ui/filterPart";
import { Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "What customers see" };

type Props = {
  params: Promise<{ client: string; plan: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const WHO = [
  { value: "real", words: "someone who was here recently" },
  { value: "no family name", words: "someone with no last name" },
  { value: "long name", words: "someone with a 30-letter name" },
];

/** The customer's way: all that a customer of this plan meets, as the real thing, where its words are changed. */
export default async function WordsPage({ params, searchParams }: Props) {
  const { client, plan: planId } = await params;
  const access = await requireAccess(client, "see asking", "whole client");
  if (!z.uuid().safeParse(planId).success) notFound();
  const now = await clockNow();
  const query = await searchParams;
  const choice = walkChoice.parse({ language: null, service: null, by: null, ...query });
  const seen = await withClient(access, async (tx) => {
    const walk = await loadWalk(tx, access, planId, choice, now);
    return (
      walk && {
        walk,
        agency: await loadAgencyWords(tx),
        offers: (await offersOf(tx, access)).filter((offer) => offer.planId === planId),
        links: await openWayLinks(tx, access, planId, now),
      }
    );
  });
  const view = await loadPlanView(access, planId, { step: 0, wording: undefined }, now);
  if (!seen || !view) notFound();
  const { walk, agency, offers, links } = seen;
  const { stop, stops, setting, rules, language, own } = walk;
  const base = `/c/${client}/asking/plans/${planId}`;
  const by =
    stop.kind === "message" ? shownBy(walk, stop.step) : stop.kind === "letter" ? (choice.by ?? "email") : null;
  const message =
    by === null || stop.kind === "page"
      ? null
      : stop.kind === "letter"
        ? walkLetter(walk, by)
        : walkMessage(walk, stop.step, by);
  const page = stop.kind === "page" ? await walkPage(walk, stop.moment, false) : null;
  const link = (change: Partial<Record<keyof WalkChoice, string | null>>) => {
    const wanted = { ...choice, ...change };
    const set = Object.entries(wanted).filter(([name, value]) => value && !(name === "who" && value === "made up"));
    return `${base}/words?${new URLSearchParams(set.map(([name, value]) => [name, String(value)]))}`;
  };
  // With its revision, so that the frame shows what was just changed.
  const address = `${link({}).replace(`${base}/words?`, `${base}/words/stop/${stop.key}?`)}&revision=${walk.plan.revision}`;
  const mayChange = may(access.seat, "change words");
  const services = setting.services.filter(({ retired, neverAsk }) => !retired && !neverAsk);
  return (
    <Page
      margin={
        <WalkMargin walk={walk} message={message} page={page} links={links} offers={offers} mayChange={mayChange} />
      }
    >
      <p className="mb-1 text-[14px]">
        <Link href={base} className="button-quiet -ml-2">
          ← {walk.plan.name}
        </Link>
      </p>
      <h1 className="title">What {walk.context.person.given} would see, step by step.</h1>
      <FilterSentence
        parts={[
          mayChange ? "Click any words to change them. In " : "In ",
          languagePart(own, language, (value) => link({ language: value })),
          ", after ",
          filterPart({
            label: "Service",
            any: "any visit",
            value: choice.service,
            choices: namedChoices(services),
            href: (value) => link({ service: value }),
          }),
          ", seen by ",
          filterPart({
            label: "Who",
            any: "a made-up customer",
            value: choice.who === "made up" ? null : choice.who,
            choices: WHO,
            href: (value) => link({ who: value }),
          }),
          ...(by
            ? [
                ", as ",
                filterPart({
                  label: "Channel",
                  any: by === "text" ? "a text" : "an email",
                  value: null,
                  choices: [
                    { value: "text", words: "a text" },
                    { value: "email", words: "an email" },
                  ],
                  href: (value) => link({ by: value }),
                }),
              ]
            : []),
          ".",
        ]}
      />
      <PlanDraft view={view} />
      <WalkStrip stops={stops} here={stop.key} href={(key) => link({ stop: key, by: null })} />
      <div className="mt-5 grid gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1fr)_340px]">
        <section aria-label={`Words for ${stop.name}`}>
          <h2 className="font-sans text-[16px] font-semibold tracking-normal">{stop.name}</h2>
          <WalkPieces
            walk={walk}
            kept={view.ref}
            agency={agency}
            pieces={piecesOf(rules, stop).filter(({ field }) =>
              by === "text" ? field === "text" || field === "picture" : by === "email" ? field !== "text" : true,
            )}
            mayChange={mayChange}
            service={services.find(({ id }) => id === choice.service) ?? null}
          />
          {stop.kind === "letter" ? (
            <p className="text-second mt-2">
              One of you writes this in Heard, fresh each time, to a customer who was unhappy. The words here are only
              an example; the frame around them is your own.
            </p>
          ) : choice.service === null ? (
            <p className="text-second mt-5 text-[14px]">
              Want different words for one service? Choose it in the sentence above, then change them.
            </p>
          ) : null}
        </section>
        <section aria-label={`Preview of ${stop.name}`}>
          <WalkFrame
            name={stop.name}
            src={by === "text" ? null : address}
            message={message}
            from={setting.client.name}
            picture={
              stop.kind === "message" && message && message.picture !== null
                ? walkPicture(walk, stop.step, WALK_TOKEN)
                : null
            }
          />
        </section>
      </div>
      <p className="text-second mt-6 text-[14px]">
        Besides its {LANGUAGE_NAMES[own]} messages, this plan has{" "}
        {sayCount(Object.keys(rules.words?.own ?? {}).length, "passage")} of its own.{" "}
        <a className="underline underline-offset-[3px]" href={`${base}/words/file/csv`} download>
          All words as CSV
        </a>{" "}
        or{" "}
        <a className="underline underline-offset-[3px]" href={`${base}/words/file/json`} download>
          as JSON
        </a>
        for a translator.
      </p>
    </Page>
  );
}
