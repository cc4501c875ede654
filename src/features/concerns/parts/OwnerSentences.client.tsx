"use client";

import { useState } from "react";
import { DayField } from "@/ui/DayField.client";
import { Sentence } from "@/ui/Sentence.client";
import { changeAbsence, changeOwner, handOver } from "../actions";

type Somebody = { id: string; name: string };
const line = "flex min-h-[32px] items-baseline gap-2.5";

function Choice({
  name,
  list,
  chosen,
  none,
}: {
  name: string;
  list: Somebody[];
  chosen: string | null;
  none?: string;
}) {
  return (
    <fieldset>
      <legend className="sr-only">Who</legend>
      {[...(none ? [{ id: "", name: none }] : []), ...list].map((one) => (
        <label key={one.id} className={line}>
          <input type="radio" name={name} value={one.id} defaultChecked={one.id === (chosen ?? "")} />
          {one.name}
        </label>
      ))}
    </fieldset>
  );
}

/** Whose the concerns of a branch are, of the visits with one of the team, or all others. */
export function OwnerSentence({
  slug,
  of,
  owner,
  staff,
}: {
  slug: string;
  of: { branchId: string | null; teamMemberId: string | null };
  owner: Somebody | null;
  staff: Somebody[];
}) {
  return (
    <Sentence
      words={owner?.name ?? "whoever picks them up"}
      label="Who handles them"
      action={changeOwner.bind(null, slug)}
    >
      {() => (
        <>
          <input type="hidden" name="branchId" value={of.branchId ?? ""} />
          <input type="hidden" name="teamMemberId" value={of.teamMemberId ?? ""} />
          <Choice name="userId" list={staff} chosen={owner?.id ?? null} none="Whoever picks them up" />
        </>
      )}
    </Sentence>
  );
}

/** Adds a rule for the visits with one of the team. */
export function NewMemberOwner({ slug, team, staff }: { slug: string; team: Somebody[]; staff: Somebody[] }) {
  return (
    <Sentence
      words="Add a rule for a team member"
      label="Concerns about a team member"
      action={changeOwner.bind(null, slug)}
    >
      {() => (
        <>
          <label className="label" htmlFor="owner-member">
            Concerns about visits with
          </label>
          <select id="owner-member" name="teamMemberId" className="field mb-2">
            {team.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
          <p className="label">go to</p>
          <Choice name="userId" list={staff} chosen={staff[0]?.id ?? null} />
        </>
      )}
    </Sentence>
  );
}

/** Until when somebody is away, and who stands in. */
export function AbsenceSentence({
  slug,
  person,
  staff,
  until,
  standInId,
  words,
  today,
}: {
  slug: string;
  person: Somebody;
  staff: Somebody[];
  until: string | null;
  standInId: string | null;
  words: string;
  today: string;
}) {
  const [isAway, setAway] = useState(true);
  return (
    <Sentence words={words} label={`When ${person.name} is away`} action={changeAbsence.bind(null, slug)}>
      {(error) => (
        <>
          <input type="hidden" name="userId" value={person.id} />
          {(
            [
              ["yes", "Away until (last day)"],
              ["no", "Not away"],
            ] as const
          ).map(([value, label]) => (
            <label key={value} className={line}>
              <input
                type="radio"
                name="isAway"
                value={value}
                checked={isAway === (value === "yes")}
                onChange={() => setAway(value === "yes")}
              />
              {label}
            </label>
          ))}
          <div hidden={!isAway}>
            <DayField id={`away-${person.id}`} name="until" label="Last day" defaultValue={until ?? ""} today={today} />
            {error("until")}
            <p className="label mt-3">While they’re away, concerns go to</p>
            <Choice
              name="standInId"
              list={staff.filter(({ id }) => id !== person.id)}
              chosen={standInId}
              none="Whoever picks them up"
            />
            {error("standInId")}
          </div>
        </>
      )}
    </Sentence>
  );
}

/** Hands a concern over to somebody else. */
export function HandOverSentence({ slug, id, staff }: { slug: string; id: string; staff: Somebody[] }) {
  return (
    <Sentence words="Hand it over" label="Hand it over to" action={handOver.bind(null, slug, id)}>
      {() => <Choice name="userId" list={staff} chosen={null} />}
    </Sentence>
  );
}
