import { textParts } from "@/core/words/textParts";
import type { ComposedMessage } from "@/features/asks";

/** A stop as the real thing: a text in a phone, or a mail or page in its frame. */
export function WalkFrame({
  name,
  src,
  message,
  from,
  picture,
}: {
  name: string;
  /** The address of the page or mail; null for a text. */
  src: string | null;
  message: ComposedMessage | null;
  from: string;
  /** The address of the picture that a text carries; null for none. */
  picture: string | null;
}) {
  if (src === null && message) {
    const { parts } = textParts(message.body);
    return (
      <div className="border-edge bg-sheet mx-auto flex h-[max(440px,min(620px,calc(100dvh-360px)))] w-full max-w-[320px] flex-col rounded-[32px] border p-4">
        <p className="border-rule text-second border-b pb-2 text-center text-[14px]">{from}</p>
        {picture ? (
          // biome-ignore lint/performance/noImgElement: it is drawn to its size on the server
          <img src={picture} alt={message.picture ?? ""} className="mt-4 w-full rounded-[16px]" />
        ) : null}
        <div
          className="bg-paper mt-4 overflow-y-auto rounded-[16px] rounded-bl-[4px] px-3.5 py-2.5 text-[15px] whitespace-pre-wrap [overflow-wrap:anywhere]"
          // biome-ignore lint/a11y/noNoninteractiveTabindex: a box that scrolls must be reachable by keyboard
          tabIndex={0}
          role="region"
          aria-label={`The text of ${name}`}
          lang={message.language}
        >
          {message.body}
        </div>
        <p className="text-second mt-auto pt-3 text-center text-[13px]">
          {picture ? "One text with a picture" : parts === 1 ? "One text" : `${parts} texts in one`}
        </p>
      </div>
    );
  }
  return (
    <div className="border-edge bg-sheet mx-auto flex h-[max(440px,min(640px,calc(100dvh-360px)))] w-full max-w-[340px] flex-col overflow-hidden rounded-[32px] border">
      {message?.subject ? (
        <p className="border-rule border-b px-4 pt-3 pb-2 text-[14px]">
          <span className="text-second block text-[13px]">{from}</span>
          <b>{message.subject}</b>
        </p>
      ) : null}
      <iframe
        title={`Preview of ${name}`}
        src={src ?? undefined}
        sandbox="allow-same-origin"
        className="w-full grow border-0"
      />
    </div>
  );
}
