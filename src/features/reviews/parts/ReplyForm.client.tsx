"use client";

import { useEffect, useRef, useState, useTransition } from "react";
import { toast } from "sonner";
import { CLAIMS, type Claim, claims, withClaim } from "@/core/replies/claims";
import { TOO_ALIKE } from "@/core/replies/guards";
import { sayCount } from "@/core/time/say";
import type { Language } from "@/core/words/languages";
import { ActionForm } from "@/ui/ActionForm.client";
import { lookOver, redraft, reply, type Warning } from "../actions";
import { GUARD_WORDS } from "./guardWords";
import { OutsideDraft } from "./OutsideDraft.client";
import { SavedMenu } from "./SavedMenu.client";

/** The draft that stands in the form at first; null where somebody's own words stand there. */
export type FormDraft = { alike: number; turn: number; unlike: number } | null;

/**
 * What the form does with the words: posts them, posts what somebody drafted, hands them in for approval, or keeps that
 * they were posted by hand.
 */
export type ReplyDeed = "post" | "approve" | "hand in" | "posted by hand";

const DEED_WORDS: Record<ReplyDeed, [button: string, pending: string]> = {
  post: ["Post reply", "Posting…"],
  approve: ["Approve and post", "Posting…"],
  "hand in": ["Send for approval", "Sending…"],
  "posted by hand": ["I’ve posted it", "Saving…"],
};

/** What somebody may tick where it is true: no draft says it by itself. */
const CLAIM_WORDS: Record<Claim, string> = {
  "passed on": "Passed on to the team",
  "talked about": "Talked about with the team",
  changed: "Something has changed",
  "will look into": "You’ll look into it",
};

type Props = {
  slug: string;
  reviewId: string;
  site: string;
  words: string;
  /** In which the review is written, and the reply is. */
  language: Language;
  draft: FormDraft;
  deed: ReplyDeed;
  /** Characters that the site takes. */
  longest: number;
  /** The reply that stands there now; "" for none. */
  seen: string;
  /** How far the reply is: once that is another, the form begins anew, save with what someone has written in it. */
  stands: string;
  again?: boolean;
  /** An outside text service can be asked for a draft. */
  hasOutside?: boolean;
};

/** The reply to a review: a draft of ours, saved words, or somebody's own, looked over while they write. */
export function ReplyForm({
  slug,
  reviewId,
  site,
  words: first,
  language,
  draft,
  deed,
  longest,
  seen,
  stands,
  again = false,
  hasOutside = false,
}: Props) {
  const [words, setWords] = useState(first);
  const [drafted, setDrafted] = useState<{ text: string; turn: number; alike: number } | null>(
    draft && { text: first, ...draft },
  );
  const [saved, setSaved] = useState("");
  const [warnings, setWarnings] = useState<Warning[]>([]);
  const [says, setSays] = useState("");
  const [pendingDraft, start] = useTransition();
  const field = useRef<HTMLTextAreaElement>(null);
  const isAsked = useRef(draft !== null || seen !== "");
  const id = `reply-${reviewId}`;
  const isDraft = drafted !== null && words === drafted.text;
  // What somebody types is looked over once they rest; a draft was before it came.
  useEffect(() => {
    if (isDraft || words.trim().length < 8) {
      setWarnings([]);
      return;
    }
    let isOver = false;
    const wait = setTimeout(() => {
      lookOver(slug, reviewId, words)
        .then((found) => !isOver && setWarnings(found))
        .catch(() => {});
    }, 700);
    return () => {
      isOver = true;
      clearTimeout(wait);
    };
  }, [slug, reviewId, words, isDraft]);
  const [begunAt, setBegunAt] = useState({ stands, first });
  const isMeanwhile = begunAt.stands !== stands;
  if (isMeanwhile && (isDraft || words === begunAt.first || words.trim() === seen.trim())) {
    setBegunAt({ stands, first });
    setWords(first);
    setDrafted(draft && { text: first, ...draft });
    setSaved("");
  }
  const current = useRef(words);
  current.current = words;
  const another = (isByItself = false) =>
    start(async () => {
      const next = await redraft(slug, reviewId, drafted?.turn ?? 0, drafted?.text ?? words).catch(() => null);
      setSays(next ? "Here’s another draft." : "We don’t have another draft for this review.");
      // Whoever has begun to write meanwhile keeps their words.
      if (!next || (isByItself && current.current !== first)) return;
      setDrafted(next);
      setWords(next.text);
      setSaved("");
      field.current?.focus();
    });
  // Those further down come without a draft: it is written when somebody begins there.
  const begin = () => {
    if (isAsked.current || words !== first) return;
    isAsked.current = true;
    another(true);
  };
  const [button, pendingWords] = DEED_WORDS[deed];
  const isLong = words.length > longest;
  return (
    <ActionForm action={reply.bind(null, slug, reviewId)} className="border-mulberry mt-3 border-l-[3px] pl-4">
      {({ pending, error }) => (
        <>
          <input type="hidden" name="seen" value={seen} />
          <input type="hidden" name="saved" value={saved} />
          {deed === "posted by hand" ? <input type="hidden" name="deed" value={deed} /> : null}
          <label className="label" htmlFor={id}>
            {again ? "Replace your reply" : `Your public reply on ${site}`}
          </label>
          <textarea
            ref={field}
            id={id}
            name="words"
            rows={5}
            className="field"
            value={words}
            onFocus={begin}
            onChange={(event) => setWords(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === "Enter" && (event.metaKey || event.ctrlKey)) event.currentTarget.form?.requestSubmit();
            }}
          />
          {error("words")}
          {isMeanwhile ? (
            <p role="status" className="bg-ochre-tint text-ochre-deep mt-2 rounded-[8px] px-3 py-2 text-[14px]">
              {seen
                ? `Someone replied while you were writing: “${seen}”. Your words are still here; posting replaces it.`
                : "Something changed while you were writing. Your words are still here."}
            </p>
          ) : null}
          {warnings.length > 0 ? (
            <ul role="status" className="bg-ochre-tint text-ochre-deep mt-2 rounded-[8px] px-3 py-2 text-[14px]">
              {warnings.map(({ guard, words }) => (
                <li key={`${guard} ${words}`}>
                  “{words}” {GUARD_WORDS[guard]}.
                </li>
              ))}
            </ul>
          ) : null}
          <fieldset className="text-second mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-[14px]">
            <legend className="float-left mr-4">Add, if it’s true:</legend>
            {CLAIMS.map((claim) => (
              <label key={claim} className="flex min-h-6 items-center gap-2">
                <input
                  type="checkbox"
                  checked={claims(words, claim, language)}
                  onChange={({ target }) => setWords(withClaim(words, claim, language, target.checked))}
                />
                {CLAIM_WORDS[claim]}
              </label>
            ))}
          </fieldset>
          <div className="mt-2 flex flex-wrap items-center justify-between gap-2">
            <span className={`text-[14px] ${isLong ? "text-vermilion-deep" : "text-second"}`}>
              {isDraft ? "Draft based on the review · " : ""}
              {words.length.toLocaleString("en-GB")} of {longest.toLocaleString("en-GB")}
              {isLong ? `: too long for ${site}` : ""}
              {isDraft && draft && draft.unlike > 0 && drafted.alike < TOO_ALIKE
                ? ` · different from your last ${sayCount(draft.unlike, "reply", "replies")}`
                : ""}
            </span>
            <span className="flex flex-wrap items-center gap-2">
              <SavedMenu
                slug={slug}
                reviewId={reviewId}
                onChoose={(each) => {
                  setWords(each.words);
                  setSaved(each.id);
                  setDrafted(null);
                  field.current?.focus();
                }}
              />
              <button type="button" className="button" disabled={pendingDraft} onClick={() => another()} data-key="d">
                {pendingDraft ? "Writing…" : drafted ? "Another draft" : "Write a draft"}
              </button>
              {hasOutside ? (
                <OutsideDraft
                  slug={slug}
                  reviewId={reviewId}
                  onDraft={(text) => {
                    setWords(text);
                    setSaved("");
                    setDrafted(null);
                    setSays("Here’s a draft from the writing service.");
                    field.current?.focus();
                  }}
                />
              ) : null}
              {deed === "posted by hand" ? (
                <button
                  type="button"
                  className="button"
                  onClick={() =>
                    navigator.clipboard.writeText(words).then(
                      () => toast(`Copied. Paste it on ${site}, then click “I’ve posted it”.`),
                      () => field.current?.select(),
                    )
                  }
                >
                  Copy
                </button>
              ) : null}
              <button type="submit" className="button-main" disabled={pending}>
                {pending ? pendingWords : button} <kbd className="key hidden sm:inline">Ctrl ↵</kbd>
              </button>
            </span>
          </div>
          <p role="status" className="sr-only">
            {says}
          </p>
        </>
      )}
    </ActionForm>
  );
}
