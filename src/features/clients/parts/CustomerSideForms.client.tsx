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
  values: LookValues & { language: string };
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
  starter,
}: {
  slug: string;
  words: string;
  values: { linkDays: number; reviewsAddress: string; privacyNote: string };
  starter: string;
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
          <Lines
            name="privacyNote"
            label="Your own privacy note"
            says="Leave blank for the standard note for your country, in each language."
            rows={6}
            max={6000}
            value={values.privacyNote}
            shown={starter}
          />
          {error("privacyNote")}
        </div>
      )}
    </Sentence>
  );
}
