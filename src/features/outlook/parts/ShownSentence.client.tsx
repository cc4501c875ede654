"use client";

import { PLACES, type PlacePermission } from "@/core/access/permissions";
import { Sentence } from "@/ui/Sentence.client";
import { showPlaces } from "../actions";

const PLACE_NAMES: Record<PlacePermission, string> = {
  "see today": "Today",
  "see people": "People",
  "see asking": "Asking",
  "see heard": "Heard",
};

const LIST = new Intl.ListFormat("en-GB");

/** What a client's own people are shown, as the changeable part of a sentence. */
export function ShownSentence({
  slug,
  client,
}: {
  slug: string;
  client: { id: string; name: string; shownPlaces: PlacePermission[] | null };
}) {
  const { id, name, shownPlaces } = client;
  const words = shownPlaces
    ? `only ${LIST.format(shownPlaces.map((place) => PLACE_NAMES[place]))}`
    : "everything their roles allow";
  return (
    <Sentence words={words} label={`What ${name}’s staff see`} action={showPlaces.bind(null, slug, id)}>
      {(error) => (
        <fieldset>
          <legend className="sr-only">Places</legend>
          {PLACES.map((place) => (
            <label key={place} className="flex min-h-[32px] items-center gap-2">
              <input
                type="checkbox"
                name="place"
                value={place}
                className="size-[17px]"
                defaultChecked={shownPlaces === null || shownPlaces.includes(place)}
              />
              {PLACE_NAMES[place]}
            </label>
          ))}
          {error("place")}
          <p className="text-second mt-2 text-[13px]">
            They can only do things in the places they can see, whatever their role. Your agency’s own staff see
            everything.
          </p>
        </fieldset>
      )}
    </Sentence>
  );
}
