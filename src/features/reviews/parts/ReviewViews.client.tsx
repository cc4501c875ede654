"use client";

import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { Sentence } from "@/ui/Sentence.client";
import { deleteView, saveView } from "../actions";

type View = { id: string; name: string; query: string };

/** Named views of all reviews, and what is shown now to be kept as one. */
export function ReviewViews({
  slug,
  views,
  query,
  mayKeep,
}: {
  slug: string;
  views: View[];
  /** What all reviews are narrowed down to; "" for nothing. */
  query: string;
  mayKeep: boolean;
}) {
  const here = views.find((view) => view.query === query);
  if (views.length === 0 && (query === "" || !mayKeep)) return null;
  return (
    <nav aria-label="Views" className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-1 text-[14px]">
      {views.map((view) => (
        <Link
          key={view.id}
          href={`/c/${slug}/heard?show=reviews&${view.query}`}
          className="words-link"
          aria-current={view === here ? "true" : undefined}
        >
          {view.name}
        </Link>
      ))}
      {mayKeep && here ? (
        <ConfirmButton
          className="button-quiet"
          sure={`Delete the view “${here.name}”? The reviews themselves stay.`}
          action={async () => (await deleteView(slug, here.id)) ?? { ok: true }}
        >
          Delete this view
        </ConfirmButton>
      ) : null}
      {mayKeep && query !== "" && !here ? (
        <Sentence words="Save as a view" label="Save as a view" action={saveView.bind(null, slug, query)}>
          {(error) => (
            <>
              <label className="label" htmlFor="view-name">
                Name
              </label>
              <input id="view-name" name="name" className="field" maxLength={60} autoComplete="off" />
              {error("name")}
            </>
          )}
        </Sentence>
      ) : null}
    </nav>
  );
}
