"use client";

import { LANGUAGE_NAMES, LANGUAGES } from "@/core/words/languages";
import { ColourOfForm } from "@/ui/ColourField.client";
import { Field } from "@/ui/Field";
import { Sentence } from "@/ui/Sentence.client";
import { changeBranchLook, changeCustomerPages, changeLook } from "../actions";
import { Lines, LookFields, type LookValues } from "./LookFields";

/** How a branch looks, where it differs from the business. */
export function BranchLookForm({
  slug,
  branchId,
  words,
  isOwn,
  values,
}: {
  slug: string;
  branchId: string;
  words: string;
  isOwn: boolean;
  values: LookValues & { colour: string };
}) {
  return (
    <Sentence words={words} label="This branch’s look" action={changeBranchLook.bind(null, slug, branchId)} wide>
      {(error) => (
        <div className="space-y-3">
          <fieldset className="space-y-1.5">
            <legend className="label">Its colour, typeface, sender and signature are</legend>
            {[
              ["no", "the same as the business"],
              ["yes", "its own, set below"],
            ].map(([value, says]) => (
              <label key={value} className="flex min-h-[28px] items-center gap-2.5">
                <input type="radio" name="own" value={value} defaultChecked={isOwn === (value === "yes")} />
                {says}
              </label>
            ))}
          </fieldset>
          <ColourOfForm
            id={`branch-${branchId}-colour`}
            name="colour"
            label="Colour"
            defaultValue={values.colour}
            error={error}
          />
          <LookFields prefix={`branch-${branchId}`} values={values} error={error} />
        </div>
      )}
    </Sentence>
  );
}

/** Language, typeface, signature and links of what customers get. */
export function LookForm({
  slug,
  words,
  values,
}: {
  slug: string;
  words: string;
  values: LookValues & { language: string; keepsMarks: boolean };
}) {
  return (
    <Sentence words={words} label="Language and look" action={changeLook.bind(null, slug)} wide>
      {(error) => (
        <div className="space-y-3">
          <label className="block">
            <span className="label">Language, unless we know the customer’s</span>
            <select name="language" className="field" defaultValue={values.language}>
              {LANGUAGES.map((language) => (
                <option key={language} value={language}>
                  {LANGUAGE_NAMES[language]}
                </option>
              ))}
            </select>
          </label>
          {error("language")}
          <label className="flex items-baseline gap-2.5">
            <input type="checkbox" name="keepsMarks" value="yes" defaultChecked={values.keepsMarks} />
            <span>
              Polish texts keep their letters (ą, ł, ż)
              <span className="text-second block text-[14px]">
                They then take about three times as many text parts.
              </span>
            </span>
          </label>
          <LookFields prefix="look" values={values} error={error} />
        </div>
      )}
    </Sentence>
  );
}

/** How long links work, where the own reviews stand, and what the privacy note says. */
export function CustomerPagesForm({
  slug,
  words,
  values,
  notes,
}: {
  slug: string;
  words: string;
  values: { linkDays: number; reviewsAddress: string };
  /** The privacy note by language: the business's own, and the starter text. */
  notes: { language: string; name: string; own: string; starter: string }[];
}) {
  return (
    <Sentence words={words} label="Links and pages" action={changeCustomerPages.bind(null, slug)} wide>
      {(error) => (
        <div className="space-y-3">
          <Field
            id="pages-linkDays"
            name="linkDays"
            label="Days a link works after the last message"
            inputMode="numeric"
            autoComplete="off"
            defaultValue={String(values.linkDays)}
            error={error}
          />
          <Field
            id="pages-reviewsAddress"
            name="reviewsAddress"
            label="Your own reviews page: /reviews/"
            says="Lower-case letters, numbers and hyphens. Leave blank for no page."
            autoComplete="off"
            defaultValue={values.reviewsAddress}
            error={error}
          />
          {notes.slice(0, 1).map(({ language, name, own, starter }) => (
            <Lines
              key={language}
              name={`privacyNote.${language}`}
              label={`Your own privacy note, in ${name}`}
              says="Leave blank for the standard note for your country."
              rows={6}
              max={6000}
              value={own}
              shown={starter}
            />
          ))}
          <details>
            <summary className="text-second">The privacy note in other languages</summary>
            <div className="mt-2 space-y-3">
              {notes.slice(1).map(({ language, name, own, starter }) => (
                <Lines
                  key={language}
                  name={`privacyNote.${language}`}
                  label={name}
                  rows={3}
                  max={6000}
                  value={own}
                  shown={starter}
                />
              ))}
            </div>
          </details>
          {error("privacyNote")}
        </div>
      )}
    </Sentence>
  );
}
