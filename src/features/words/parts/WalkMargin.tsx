import { sayPrice } from "@/core/money";
import { capital, sayCount, sayDay } from "@/core/time/say";
import { contrast } from "@/core/words/contrast";
import { LANGUAGE_NAMES, withoutMarks } from "@/core/words/languages";
import { pieceKey } from "@/core/words/pieces";
import { withoutFallback } from "@/core/words/placeholders";
import { messageWords, stepOf } from "@/core/words/planWords";
import { textParts } from "@/core/words/textParts";
import { piecesOf } from "@/core/words/walk";
import type { ComposedMessage } from "@/features/asks";
import type { Offer, Walk } from "@/features/words";
import { WAY_DAYS, walkMessage } from "@/features/words";
import { Note } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { BringWords, PlainLetters, SampleButtons, ShareButtons } from "./WalkButtons.client";

/** What is worth knowing of a stop: parts and cost, what lacks a fallback, weight and contrast; samples and links. */
export function WalkMargin({
  walk,
  message,
  page,
  links,
  offers,
  mayChange,
}: {
  walk: Walk;
  message: ComposedMessage | null;
  page: string | null;
  links: { expiresAt: number }[];
  offers: Offer[];
  mayChange: boolean;
}) {
  const { plan, setting, stop, choice, now } = walk;
  const slug = setting.client.slug;
  const bare = withoutFallbackAt(walk);
  return (
    <>
      {message && message.subject === null ? <TextNote walk={walk} message={message} mayChange={mayChange} /> : null}
      {message && message.subject !== null ? (
        <Note title="As an email">
          <p>
            The subject is <b>{sayCount([...message.subject].length, "letter")}</b> long; most phones show about 40.
          </p>
        </Note>
      ) : null}
      {page ? (
        <Note title="Their page">
          <p>
            <b>{Math.max(1, Math.round((new TextEncoder().encode(page).length + fontBytes(walk)) / 1024))} KB</b> with
            its font. The colour on white has a contrast of{" "}
            <b>{contrast(setting.client.colour, "#FFFFFF").toFixed(1)} to 1</b>. It works without scripts.
          </p>
        </Note>
      ) : null}
      {bare.length > 0 ? (
        <Note title="Missing fallbacks">
          <p>
            {bare.map((name) => `“${name}”`).join(" and ")} {bare.length === 1 ? "has" : "have"} no fallback. If we
            don’t know it, it’s simply left out.
          </p>
        </Note>
      ) : null}
      {offers.length > 0 ? (
        <Note title="New from the agency">
          <p>
            {capital(
              sayCount(
                offers.reduce((sum, { pieces }) => sum + pieces.length, 0),
                "passage",
              ),
            )}{" "}
            in this plan have newer words. The agency can apply them, for one client or many.
          </p>
        </Note>
      ) : null}
      <Note title="Which words work best">
        <p>
          {stop.kind === "message" && walk.rules.steps[stop.step].others.length > 0
            ? "This message has wordings on trial."
            : "Nothing on trial here."}{" "}
          <Link href={`/c/${slug}/asking/plans/${plan.id}${stop.kind === "message" ? `?step=${stop.step}` : ""}`}>
            See the results
          </Link>
        </p>
      </Note>
      {mayChange ? (
        <>
          <Note title="Send me a sample">
            <p>
              The message as a customer would get it, in {LANGUAGE_NAMES[walk.language]}. It isn’t counted anywhere.
            </p>
            <SampleButtons slug={slug} planId={plan.id} choice={choice} />
          </Note>
          <Note title="Share a preview">
            <p>
              {links.length > 0
                ? `${sayCount(links.length, "link shows", "links show")} the whole preview until ${sayDay(setting.client.zone, links[0].expiresAt, now)}.`
                : `A view-only link to the whole preview, for ${WAY_DAYS} days.`}
            </p>
            <ShareButtons slug={slug} planId={plan.id} open={links.length} />
          </Note>
          <Note title="Import words">
            <BringWords slug={slug} planId={plan.id} revision={plan.revision} />
          </Note>
        </>
      ) : null}
    </>
  );
}

/** The weight of the two files of a font that most pages load. Bytes. */
function fontBytes({ setting, language }: Walk): number {
  const typeface = setting.client.look?.typeface ?? "hanken";
  if (typeface === "system") return 0;
  const west = { hanken: 13_460 + 13_780, bricolage: 22_364, newsreader: 22_480 }[typeface];
  const more = { hanken: 9_048 + 9_228, bricolage: 10_536, newsreader: 14_212 }[typeface];
  return west + (language === "pl" ? more : 0);
}

function TextNote({ walk, message, mayChange }: { walk: Walk; message: ComposedMessage; mayChange: boolean }) {
  const { stop, setting } = walk;
  const { client } = setting;
  const { parts, units, perPart, alphabet, outside } = textParts(message.body);
  const long =
    stop.kind === "message"
      ? walkMessage(
          {
            ...walk,
            context: {
              ...walk.context,
              person: { ...walk.context.person, given: "Wilhelmina-Bartholomea", family: "Fitzhugh" },
            },
          },
          stop.step,
          "text",
        )
      : message;
  const step = stop.kind === "message" ? walk.rules.steps[stop.step] : null;
  const found =
    step &&
    messageWords(walk.rules, step, step, { language: walk.language, own: walk.own, serviceId: walk.choice.service })
      .text;
  const said = found?.words ?? "";
  const plainer = step && {
    piece: pieceKey(walk.language, `step.${step.key}/text`, found?.from === "service" ? walk.choice.service : null),
    words: withoutMarks(said),
  };
  if (message.picture !== null)
    return (
      <Note title="In this text">
        <p>
          A picture{message.picture ? ` that says “${message.picture}”` : " with no name"} and {units} characters:{" "}
          {sayPrice(client.mediaPrice, client.currency)} each, instead of{" "}
          {sayPrice(parts * client.partPrice, client.currency)} for text only.{" "}
          <Link href={`/c/${client.slug}/asking/plans/${walk.plan.id}/picture`}>What it shows</Link>
        </p>
      </Note>
    );
  const price = (count: number) => sayPrice(count * client.partPrice, client.currency);
  return (
    <Note title="In this text">
      <p>
        <b>{parts === 1 ? "One part" : sayCount(parts, "part")}</b>, {units} of {parts * perPart} characters,{" "}
        {price(parts)} each. With a very long name it{" "}
        {long.parts === parts ? "still fits" : `takes ${sayCount(long.parts ?? 1, "part")}`}.
      </p>
      {alphabet === "UCS-2" ? (
        <>
          <p>
            {outside.slice(0, 6).join(" ")} {outside.length === 1 ? "is" : "are"} not in the standard alphabet for
            texts, so each part holds 67 characters instead of 153. With plain letters it would take{" "}
            <b>{sayCount(textParts(withoutMarks(message.body)).parts, "part")}</b>.
          </p>
          {mayChange && plainer && plainer.words !== said ? (
            <PlainLetters slug={client.slug} planId={walk.plan.id} revision={walk.plan.revision} {...plainer} />
          ) : null}
        </>
      ) : null}
    </Note>
  );
}

function withoutFallbackAt(walk: Walk): string[] {
  const { stop, rules, language, own, choice } = walk;
  if (stop.kind !== "message") return [];
  const found = piecesOf(rules, stop).flatMap(({ place, field }) => {
    const at = stepOf(rules, place);
    if (!at || field === "page" || field === "picture") return [];
    const words = messageWords(rules, at.step, at.step, { language, own, serviceId: choice.service });
    return withoutFallback(words[field].words);
  });
  return [...new Set(found)];
}
