"use client";
import { confirmHousehold, mergePair, setTheseApart, takeMergeBack } from "../actions";
import { DeedButton } from "./RecordButtons.client";

/** Make two records one, either way round, or keep them as two. */
export function TwinDeeds({ slug, a, b }: { slug: string; a: { id: string }; b: { id: string } }) {
  const undo = (result: { mergeId?: string }) =>
    result.mergeId ? () => takeMergeBack(slug, result.mergeId ?? "") : null;
  return (
    <div className="flex flex-wrap gap-2">
      <DeedButton className="button-main" deed={() => mergePair(slug, a.id, b.id)} undo={undo as never}>
        Keep the left one
      </DeedButton>
      <DeedButton deed={() => mergePair(slug, b.id, a.id)} undo={undo as never}>
        Keep the right one
      </DeedButton>
      <DeedButton deed={() => setTheseApart(slug, "twins", [a.id, b.id])}>They are two people</DeedButton>
    </div>
  );
}

/** Confirm a household, or say that it is none. */
export function HouseholdDeeds({ slug, ids }: { slug: string; ids: string[] }) {
  return (
    <div className="flex flex-wrap gap-2">
      <DeedButton className="button-main" deed={() => confirmHousehold(slug, ids)}>
        One household
      </DeedButton>
      <DeedButton deed={() => setTheseApart(slug, "household", ids)}>Not one household</DeedButton>
    </div>
  );
}

/** Take a merge back. */
export function UndoMerge({ slug, id }: { slug: string; id: string }) {
  return (
    <DeedButton className="button-quiet" deed={() => takeMergeBack(slug, id)}>
      Undo
    </DeedButton>
  );
}
