"use client";

import { useEffect, useState } from "react";
import { ActionForm } from "@/ui/ActionForm.client";
import { DayField } from "@/ui/DayField.client";
import { Sentence } from "@/ui/Sentence.client";
import {
  assign,
  changeAwayWord,
  type FoundPerson,
  findPeople,
  markRead,
  markUnread,
  sayWho,
  setAside,
  settleConversation,
} from "../actions";

const line = "flex min-h-[32px] items-baseline gap-2.5";

/** Notes that a conversation was read once it is on the screen. */
export function MarkRead({ slug, id, isUnread }: { slug: string; id: string; isUnread: boolean }) {
  useEffect(() => {
    if (isUnread && document.visibilityState === "visible") void markRead(slug, id, false).catch(() => {});
  }, [slug, id, isUnread]);
  return null;
}

/** Who sees to a conversation. */
export function AssignSentence({
  slug,
  id,
  assignedTo,
  assignedToId,
  staff,
}: {
  slug: string;
  id: string;
  assignedTo: string | null;
  assignedToId: string | null;
  staff: { id: string; name: string }[];
}) {
  return (
    <Sentence words={assignedTo ?? "nobody yet"} label="Who’s handling it" action={assign.bind(null, slug, id)}>
      {() => (
        <fieldset>
          <legend className="sr-only">Who’s handling it</legend>
          {[{ id: "", name: "Nobody yet" }, ...staff].map((one) => (
            <label key={one.id} className={line}>
              <input type="radio" name="userId" value={one.id} defaultChecked={one.id === (assignedToId ?? "")} />
              {one.name}
            </label>
          ))}
        </fieldset>
      )}
    </Sentence>
  );
}

/** Until when a conversation is set aside. */
export function AsideSentence({
  slug,
  id,
  words,
  isAside,
  today,
}: {
  slug: string;
  id: string;
  words: string;
  isAside: boolean;
  today: string;
}) {
  const [until, setUntil] = useState("hour");
  return (
    <Sentence words={words} label="Set aside until" action={setAside.bind(null, slug, id)}>
      {(error) => (
        <fieldset>
          <legend className="sr-only">Until when</legend>
          {(
            [
              ...(isAside ? [["now", "Bring it back now"]] : []),
              ["hour", "In an hour"],
              ["tomorrow", "The next morning you’re open"],
              ["week", "Monday"],
              ["day", "A day I choose"],
            ] as const
          ).map(([value, label]) => (
            <label key={value} className={line}>
              <input
                type="radio"
                name="until"
                value={value}
                checked={until === value}
                onChange={() => setUntil(value)}
              />
              {label}
            </label>
          ))}
          {until === "day" ? <DayField id="aside-day" name="day" label="Until" today={today} /> : null}
          {error("until")}
          {error("day")}
          <p className="text-second mt-2 text-[14px]">It comes back sooner if they write again.</p>
        </fieldset>
      )}
    </Sentence>
  );
}

/** The two that need one click. */
export function ConversationButtons({
  slug,
  id,
  waits,
  isUnread,
}: {
  slug: string;
  id: string;
  waits: boolean;
  isUnread: boolean;
}) {
  return (
    <div className="-ml-2 flex flex-wrap gap-1">
      {waits ? (
        <ActionForm action={settleConversation.bind(null, slug, id)} className="contents">
          {({ pending }) => (
            <button type="submit" className="button-quiet" disabled={pending} data-key="e">
              No answer needed
            </button>
          )}
        </ActionForm>
      ) : null}
      {isUnread ? null : (
        <ActionForm action={markUnread.bind(null, slug, id)} className="contents">
          {({ pending }) => (
            <button type="submit" className="button-quiet" disabled={pending}>
              Mark as unread
            </button>
          )}
        </ActionForm>
      )}
    </div>
  );
}

/** Says who an unknown number or mailbox is. */
export function WhoSentence({ slug, id, address }: { slug: string; id: string; address: string }) {
  const [typed, setTyped] = useState("");
  const [found, setFound] = useState<FoundPerson[]>([]);
  const [chosen, setChosen] = useState("new");
  useEffect(() => {
    let current = true;
    const timer = setTimeout(async () => {
      const list = await findPeople(slug, typed).catch(() => []);
      if (current) setFound(list);
    }, 180);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [slug, typed]);
  return (
    <Sentence words="Say who this is" label="Who this is" action={sayWho.bind(null, slug, id)} wide>
      {(error) => (
        <>
          <input type="hidden" name="address" value={address} />
          <label className="label" htmlFor="who-search">
            An existing customer
          </label>
          <input
            id="who-search"
            className="field"
            value={typed}
            autoComplete="off"
            placeholder="Name, phone or email"
            onChange={(event) => setTyped(event.target.value)}
          />
          <fieldset className="mt-2">
            <legend className="sr-only">Which customer</legend>
            {found.map((person) => (
              <label key={person.id} className={line}>
                <input
                  type="radio"
                  name="personId"
                  value={person.id}
                  checked={chosen === person.id}
                  onChange={() => setChosen(person.id)}
                />
                {person.name} <span className="text-second">{person.reach}</span>
              </label>
            ))}
            <label className={line}>
              <input
                type="radio"
                name="personId"
                value="new"
                checked={chosen === "new"}
                onChange={() => setChosen("new")}
              />
              Someone new
            </label>
          </fieldset>
          {error("personId")}
          {chosen === "new" ? (
            <div className="mt-2 grid grid-cols-2 gap-3">
              <div>
                <label className="label" htmlFor="who-given">
                  First name
                </label>
                <input id="who-given" name="given" className="field" autoComplete="off" />
                {error("given")}
              </div>
              <div>
                <label className="label" htmlFor="who-family">
                  Last name
                </label>
                <input id="who-family" name="family" className="field" autoComplete="off" />
                {error("family")}
              </div>
            </div>
          ) : null}
        </>
      )}
    </Sentence>
  );
}

/** What people get who write while nobody is there, in each language that the business writes. */
export function AwaySentence({
  slug,
  isOn,
  words,
}: {
  slug: string | null;
  isOn: boolean;
  /** What stands there now: the business's own, or the starter's. */
  words: { language: string; name: string; own: string; starter: string }[];
}) {
  const [on, setOn] = useState(isOn);
  return (
    <Sentence
      words={isOn ? "an away message" : "nothing"}
      label="Reply outside office hours"
      action={slug ? changeAwayWord.bind(null, slug) : null}
      wide
    >
      {() => (
        <>
          <fieldset>
            <legend className="sr-only">Reply with</legend>
            <label className={line}>
              <input type="radio" name="isOn" value="yes" checked={on} onChange={() => setOn(true)} />
              An away message, once each time you’re closed
            </label>
            <label className={line}>
              <input type="radio" name="isOn" value="no" checked={!on} onChange={() => setOn(false)} />
              Nothing
            </label>
          </fieldset>
          {words.map(({ language, name, own, starter }) => (
            <div key={language} className="mt-3" hidden={!on}>
              <label className="label" htmlFor={`away-${language}`}>
                {name}
              </label>
              <textarea
                id={`away-${language}`}
                name={`words.${language}`}
                rows={2}
                maxLength={600}
                className="field"
                defaultValue={own}
                placeholder={starter}
              />
            </div>
          ))}
          <p className="text-second mt-2 text-[14px]" hidden={!on}>
            {"{business}"} and {"{opens}"} are filled in for you. Leave a language blank to use the message shown in
            grey.
          </p>
        </>
      )}
    </Sentence>
  );
}
