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
    <Sentence words={words} label="Rest until" action={restUntil.bind(null, slug, id)}>
      {(error) => (
        <>
          <label className="label" htmlFor="rest-day">
            Don’t ask before
          </label>
          <DayField id="rest-day" name="day" label="Don’t ask before" defaultValue={day} isOptional />
          <p className="text-second mt-1 text-[13px]">Leave the date blank to end the rest.</p>
          {error("day")}
          <label className="label mt-3" htmlFor="rest-reason">
            Reason (only your team sees it)
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
      return { ok: false, message: "Type “erase”.", fields: { sure: "Type “erase” to continue." } };
    const result = await changeMany(slug, { ids: [id] }, { action: "erase", sure: "erase" });
    if (result.ok) location.assign(`/c/${slug}/people`);
    return result;
  };
  return (
    <Sentence words="Erase" label={`Erase ${name}`} action={action}>
      {(error) => (
        <>
          <p className="mb-3">
            Their name, addresses, notes and everything they wrote are permanently deleted. Visits and ratings are kept
            as anonymous counts. No list or feed will add them again. This can’t be undone.
          </p>
          <label className="label" htmlFor="erase-sure">
            Type “erase” to continue
          </label>
          <input id="erase-sure" name="sure" className="field" autoComplete="off" />
          {error("sure")}
        </>
      )}
    </Sentence>
  );
}
