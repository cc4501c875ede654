"use client";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { confirmHousehold, dismissMatchOf, mergePair, undoMergeOf } from "../actions";

/** Make two records one, either way round, or keep them as two. */
export function MatchButtons({ slug, a, b }: { slug: string; a: { id: string }; b: { id: string } }) {
  const undo = (result: { mergeId?: string }) =>
    result.mergeId ? () => undoMergeOf(slug, result.mergeId ?? "") : null;
  return (
    <div className="flex flex-wrap gap-2">
      <ConfirmButton className="button-main" action={() => mergePair(slug, a.id, b.id)} undo={undo as never}>
        Keep the left one
      </ConfirmButton>
      <ConfirmButton action={() => mergePair(slug, b.id, a.id)} undo={undo as never}>
        Keep the right one
      </ConfirmButton>
      <ConfirmButton action={() => dismissMatchOf(slug, "duplicates", [a.id, b.id])}>
        Two different people
      </ConfirmButton>
    </div>
  );
}

/** Confirm a household, or say that it is none. */
export function HouseholdButtons({ slug, ids }: { slug: string; ids: string[] }) {
  return (
    <div className="flex flex-wrap gap-2">
      <ConfirmButton className="button-main" action={() => confirmHousehold(slug, ids)}>
        Same household
      </ConfirmButton>
      <ConfirmButton action={() => dismissMatchOf(slug, "household", ids)}>Not one household</ConfirmButton>
    </div>
  );
}

/** Take a merge back. */
export function UndoMerge({ slug, id }: { slug: string; id: string }) {
  return (
    <ConfirmButton className="button-quiet" action={() => undoMergeOf(slug, id)}>
      Undo
    </ConfirmButton>
  );
}
