import type { PictureRefusal } from "@/core/conversations/pictures";
import { splitQuoted } from "@/core/conversations/quoted";
import { sayMoment } from "@/core/time/say";
import { STATE_WORDS } from "@/features/asks";
import { messageSentence } from "@/locales/asking";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { type Exchanged, whenOf } from "../queries";

type Props = { exchanged: readonly Exchanged[]; slug: string; name: string; zone: string; now: number };

/** What was written to and fro, the oldest first: theirs on the left, in their own words. */
export function Thread({ exchanged, slug, name, zone, now }: Props) {
  return (
    <ol className="mt-6 space-y-3" aria-label="Messages">
      {exchanged.map(({ message, plan, pictures }, index) => {
        const isOut = message.direction === "out";
        return (
          <li
            key={message.id}
            data-latest={index === exchanged.length - 1 ? "" : undefined}
            className={`max-w-[620px] scroll-mb-[250px] ${isOut ? "ml-auto pl-6" : "pr-6"}`}
          >
            <div
              className={`rounded-[12px] border px-4 py-3 [overflow-wrap:anywhere] ${isOut ? "border-rule bg-sheet" : "border-edge bg-mulberry-tint"}`}
            >
              {message.subject && !isOut ? <p className="text-second text-[14px]">{message.subject}</p> : null}
              {message.body ? (
                isOut ? (
                  <p className="whitespace-pre-wrap">{message.body}</p>
                ) : (
                  <Theirs body={message.body} />
                )
              ) : (
                <p className="text-second">
                  {pictures.length > 0 ? "No message, only pictures." : "We no longer keep this message."}
                </p>
              )}
              {pictures.map((picture) => (
                <Sent key={picture.id} picture={picture} slug={slug} name={name} />
              ))}
            </div>
            <p className={`text-second mt-1 text-[13px] ${isOut ? "text-right" : ""}`}>
              {isOut ? (
                <>
                  {message.writtenBy ?? (message.askId ? "" : "Automatic")}
                  {message.askId && plan ? (
                    <Link href={`/c/${slug}/people/${message.personId}`} className="underline underline-offset-[3px]">
                      Asked by “{plan}”
                    </Link>
                  ) : null}
                  , by {message.channel}, {message.state === "planned" ? "on its way" : STATE_WORDS[message.state]}
                </>
              ) : (
                `${name}, by ${message.channel}`
              )}{" "}
              · {sayMoment(zone, whenOf(message), now)}
              {tells(message) ? ` · ${messageSentence(message.reason)}` : ""}
            </p>
          </li>
        );
      })}
    </ol>
  );
}

/** What they wrote, and folded below it what their mail program quoted. */
function Theirs({ body }: { body: string }) {
  const { words, quoted } = splitQuoted(body);
  return (
    <>
      <p className="said whitespace-pre-wrap">{words}</p>
      {quoted ? (
        <details className="text-second mt-1 text-[14px]">
          <summary className="cursor-pointer">The message they’re replying to</summary>
          <p className="mt-1 whitespace-pre-wrap">{quoted}</p>
        </details>
      ) : null}
    </>
  );
}

/** Whether the reason of a message is worth saying: why it did not arrive, or what it asked for. */
function tells({ direction, state, reason }: Exchanged["message"]): boolean {
  return reason !== null && (direction === "in" || state === "bounced" || state === "failed");
}

const REFUSED: Record<PictureRefusal, string> = {
  "not a picture": "They sent a file that isn’t a picture, so we didn’t keep it.",
  "too large": "They sent a picture that was too big, so we didn’t keep it.",
  "not there": "They sent a picture, but we couldn’t fetch it in time.",
};

function Sent({ picture, slug, name }: { picture: Exchanged["pictures"][number]; slug: string; name: string }) {
  if (!picture.type)
    return (
      <p className="text-second mt-2 text-[14px]">
        {picture.refusal ? REFUSED[picture.refusal] : "Fetching a picture…"}
      </p>
    );
  const address = `/c/${slug}/heard/pictures/${picture.id}`;
  return (
    <a href={address} className="mt-2 block w-fit">
      {/* biome-ignore lint/performance/noImgElement: it is served to whoever may see it, and to no cache */}
      <img
        src={address}
        alt={`Sent by ${name}`}
        width={picture.width ?? undefined}
        height={picture.height ?? undefined}
        className="h-auto max-h-[200px] w-auto max-w-full rounded-[8px] wide:max-h-[240px]"
      />
    </a>
  );
}
