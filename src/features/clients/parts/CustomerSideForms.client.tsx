"use client";

import { LANGUAGE_NAMES, LANGUAGES } from "@/core/words/languages";
import { TYPEFACE_NAMES, TYPEFACES } from "@/core/words/look";
import { Field } from "@/ui/Field";
import { Sentence } from "@/ui/Sentence.client";
import { changeCustomerPages, changeLook } from "../actions";

/** Language, typeface, signature and links of what customers get. */
export function LookForm({
  slug,
  words,
  values,
}: {
  slug: string;
  words: string;
  values: { language: string; typeface: string; replyTo: string; signature: string; links: string };
}) {
  return (
    <Sentence words={words} label="How it reads and looks" action={changeLook.bind(null, slug)} wide>
      {(error) => (
        <div className="space-y-3">
          <label className="block">
            <span className="label">Language, unless we know somebody’s own</span>
            <select name="language" className="field" defaultValue={values.language}>
              {LANGUAGES.map((language) => (
                <option key={language} value={language}>
                  {LANGUAGE_NAMES[language]}
                </option>
              ))}
            </select>
          </label>
          {error("language")}
          <label className="block">
            <span className="label">Typeface</span>
            <select name="typeface" className="field" defaultValue={values.typeface}>
              {TYPEFACES.map((typeface) => (
                <option key={typeface} value={typeface}>
                  {TYPEFACE_NAMES[typeface]}
                </option>
              ))}
            </select>
          </label>
          {error("typeface")}
          <Field
            id="look-replyTo"
            name="replyTo"
            label="Replies to emails also go to"
            says="They are kept here in any case. Blank: nowhere else."
            inputMode="email"
            autoComplete="off"
            defaultValue={values.replyTo}
            error={error}
          />
          <Lines name="signature" label="Signature under emails" rows={2} max={300} value={values.signature} />
          {error("signature")}
          <Lines
            name="links"
            label="Links under emails, one a line"
            says="A name, then an address that begins with https://. Five at most."
            rows={3}
            max={1800}
            value={values.links}
          />
          {error("links")}
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
            label="Days a link works after its last message"
            inputMode="numeric"
            autoComplete="off"
            defaultValue={String(values.linkDays)}
            error={error}
          />
          <Field
            id="pages-reviewsAddress"
            name="reviewsAddress"
            label="Your own reviews stand at /reviews/"
            says="Small letters, figures and hyphens. Blank: there is no such page."
            autoComplete="off"
            defaultValue={values.reviewsAddress}
            error={error}
          />
          <Lines
            name="privacyNote"
            label="Privacy note in your own words"
            says="Blank: the text for your country, in each language."
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

function Lines({
  name,
  label,
  says,
  rows,
  max,
  value,
  shown,
}: {
  name: string;
  label: string;
  says?: string;
  rows: number;
  max: number;
  value: string;
  /** What stands there while nothing is typed. */
  shown?: string;
}) {
  return (
    <label className="block">
      <span className="label">{label}</span>
      <textarea name={name} className="field" rows={rows} maxLength={max} defaultValue={value} placeholder={shown} />
      {says ? <span className="text-second mt-1 block text-[14px]">{says}</span> : null}
    </label>
  );
}
