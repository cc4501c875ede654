"use client";

import { useState, useTransition } from "react";
import { SavedWordsMenu } from "@/ui/SavedWordsMenu.client";
import { type SavedForReview, savedFor } from "../actions";
import { GUARD_WORDS } from "./guardWords";

/** Saved replies to choose from under a review: each as it would be posted, with what a guard has against it. */
export function SavedMenu({
  slug,
  reviewId,
  onChoose,
}: {
  slug: string;
  reviewId: string;
  onChoose: (reply: { id: string; words: string }) => void;
}) {
  const [list, setList] = useState<SavedForReview[] | null>(null);
  const [pending, start] = useTransition();
  return (
    <SavedWordsMenu
      saved={list}
      isLooking={pending}
      empty="No saved replies yet. Add some under Heard, Rules."
      onOpen={() => start(async () => setList(await savedFor(slug, reviewId).catch(() => [])))}
      onChoose={onChoose}
      below={({ refused }) =>
        refused.map(({ guard, words }) => (
          <span key={`${guard} ${words}`} className="text-ochre-deep block text-[14px]">
            “{words}” {GUARD_WORDS[guard]}.
          </span>
        ))
      }
    />
  );
}
