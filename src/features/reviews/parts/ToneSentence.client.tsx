"use client";

import { TONES, type Tone } from "@/core/replies/sentences/bank";
import { Sentence } from "@/ui/Sentence.client";
import { changeReplyTone } from "../actions";

const TONE_WORDS: Record<Tone, string> = {
  plain: "plain: short and clear",
  warm: "warm: friendly",
  formal: "formal: as in a letter",
};

/** How drafts of replies sound; without a client's address it is only read. */
export function ToneSentence({ slug, tone }: { slug: string | null; tone: Tone }) {
  return (
    <Sentence words={tone} label="Tone of drafts" action={slug === null ? null : changeReplyTone.bind(null, slug)}>
      {(error) => (
        <fieldset className="space-y-1.5">
          <legend className="sr-only">Tone</legend>
          {TONES.map((each) => (
            <label key={each} className="flex min-h-[32px] items-center gap-2.5">
              <input type="radio" name="tone" value={each} defaultChecked={each === tone} />
              {TONE_WORDS[each]}
            </label>
          ))}
          {error("tone")}
        </fieldset>
      )}
    </Sentence>
  );
}
