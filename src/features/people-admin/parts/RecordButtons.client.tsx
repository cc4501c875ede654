"use client";

import { DayField } from "@/ui/DayField.client";
import type { ActionResult } from "@/ui/result";
import { Sentence } from "@/ui/Sentence.client";
import { changeMany, restUntil } from "../actions";

/** Until when somebody rests, as the changeable part of a sentence. */
export function RestSentence({
  slug,
  id,
  words,
  day,
  reason,
}: {
  slug: string;
  id: string;
  words: string;
  day: string;
  reason: string;
}) {
  return (
    <Sentence words={words} label="Let rest until" action={restUntil.bind(null, slug, id)}>
      {(error) => (
        <>
          <label className="label" htmlFor="rest-day">
            Not asked before
          </label>
          <DayField id="rest-day" name="day" label="Not asked before" defaultValue={day} isOptional />
          <p className="text-second mt-1 text-[13px]">Without a day the rest ends.</p>
          {error("day")}
          <label className="label mt-3" htmlFor="rest-reason">
            Why, for your team
          </label>
          <input id="rest-reason" name="reason" className="field" defaultValue={reason} maxLength={200} />
        </>
      )}
    </Sentence>
  );
}

/** Erases one person, after the word was written. */
export function ErasePerson({ slug, id, name }: { slug: string; id: string; name: string }) {
  const action = async (_before: ActionResult, form: FormData): Promise<ActionResult> => {
    if (String(form.get("sure")).trim().toLowerCase() !== "erase")
      return { ok: false, message: "Write the word erase.", fields: { sure: "Write the word erase to go on." } };
    const result = await changeMany(slug, { ids: [id] }, { action: "erase", sure: "erase" });
    if (result.ok) location.assign(`/c/${slug}/people`);
    return result;
  };
  return (
    <Sentence words="Erase" label={`Erase ${name}`} action={action}>
      {(error) => (
        <>
          <p className="mb-3">
            Name, addresses, notes and words are removed for good; visits and ratings stay as numbers. No list or feed
            brings them back. This cannot be undone.
          </p>
          <label className="label" htmlFor="erase-sure">
            Write “erase” to go on
          </label>
          <input id="erase-sure" name="sure" className="field" autoComplete="off" />
          {error("sure")}
        </>
      )}
    </Sentence>
  );
}
