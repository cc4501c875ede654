"use client";

import { Sentence } from "@/ui/Sentence.client";
import { arrangeClient } from "../actions";

export type Arranging = {
  slug: string;
  team: { userId: string; name: string }[];
  groups: { id: string; name: string }[];
  mayChange: boolean;
};

/** Who looks after a client, and its group, as the changeable part of a line. */
export function ArrangeSentence({
  client,
  arranging: { slug, team, groups, mayChange },
}: {
  client: { id: string; name: string; lookedAfterBy: string | null; lookedAfter: string | null; group: string | null };
  arranging: Arranging;
}) {
  const words = `${client.lookedAfter ?? "nobody"}${client.group ? ` · ${client.group}` : ""}`;
  return (
    <Sentence
      words={words}
      label={`Who looks after ${client.name}`}
      action={mayChange ? arrangeClient.bind(null, slug, client.id) : null}
    >
      {(error) => (
        <>
          <label className="label" htmlFor={`by-${client.id}`}>
            Looked after by
          </label>
          <select id={`by-${client.id}`} name="by" className="field" defaultValue={client.lookedAfterBy ?? ""}>
            <option value="">nobody in particular</option>
            {team.map(({ userId, name }) => (
              <option key={userId} value={userId}>
                {name}
              </option>
            ))}
          </select>
          <label className="label mt-3" htmlFor={`group-${client.id}`}>
            Group
          </label>
          <input
            id={`group-${client.id}`}
            name="group"
            className="field"
            list={`groups-${client.id}`}
            defaultValue={client.group ?? ""}
            maxLength={40}
            placeholder="none"
            autoComplete="off"
          />
          <datalist id={`groups-${client.id}`}>
            {groups.map(({ id, name }) => (
              <option key={id} value={name} />
            ))}
          </datalist>
          <p className="text-second mt-1 text-[13px]">Type a new name to create a group.</p>
          {error("group")}
        </>
      )}
    </Sentence>
  );
}
