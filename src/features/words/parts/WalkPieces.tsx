import { pieceKey } from "@/core/words/pieces";
import { LINKS, PLACEHOLDERS } from "@/core/words/placeholders";
import { messageWords, ownPiece, pageWords, standing, stepOf, wordsOf } from "@/core/words/planWords";
import type { StopPiece } from "@/core/words/walk";
import type { AgencyWords, Walk } from "@/features/words";
import { Template } from "./Template";
import { type Kept, WordsEditor } from "./WordsEditor.client";

/** Whatever has words on three levels. */
type Worded = Pick<Walk, "rules" | "language" | "own">;

const FROM_WORDS = {
  service: "for this service",
  plan: "changed here",
  agency: "the agency’s words",
  starter: "standard words",
};

/** The texts of a stop, each changed where it stands. */
export function WalkPieces({
  walk,
  kept,
  agency,
  pieces,
  mayChange,
  service,
}: {
  walk: Worded;
  kept: Kept;
  agency: AgencyWords;
  pieces: StopPiece[];
  mayChange: boolean;
  service: { id: string; name: string } | null;
}) {
  const { rules, language, own } = walk;
  return pieces.map(({ place, label, field }) => {
    const found = foundAt(walk, place, service?.id ?? null);
    const key = pieceKey(language, place, service?.id ?? null);
    const isOwn = service
      ? wordsOf(rules).own[key] !== undefined
      : ownPiece(rules, place, language, own) !== null &&
        standing(rules, place, language, agency, own).state === "changed";
    const placeholders =
      field === "picture"
        ? PICTURE_PLACEHOLDERS
        : PLACEHOLDERS.filter((name) => field === "text" || field === "email" || !isLink(name));
    if (!mayChange) return <Read key={place} label={label} words={found.words} />;
    return (
      <WordsEditor
        key={key}
        piece={key}
        label={service ? `${label}, after ${service.name}` : label}
        words={found.words}
        placeholders={placeholders}
        above={isOwn ? found.words : null}
        aboveWords={isOwn ? FROM_WORDS.plan : FROM_WORDS[found.from === "plan" ? "starter" : found.from]}
        kept={kept}
        isShort={field !== "email"}
      />
    );
  });
}

/** What is known of everybody whom a picture may speak to. */
const PICTURE_PLACEHOLDERS = ["first name", "business", "branch"] as const;

const isLink = (name: string) => (LINKS as readonly string[]).includes(name);

function foundAt({ rules, language, own }: Worded, place: string, serviceId: string | null) {
  const at = stepOf(rules, place);
  if (at) return messageWords(rules, at.step, at.step, { language, own, serviceId })[at.field];
  return pageWords(wordsOf(rules), place.slice("page/".length), { language, serviceId });
}

/** A text that somebody may read and not change. */
function Read({ label, words }: { label: string; words: string }) {
  return (
    <div className="mt-4">
      <p className="text-second text-[14px]">{label}</p>
      <p className="text-[16px] leading-[1.7] whitespace-pre-wrap">
        <Template words={words} />
      </p>
    </div>
  );
}
