"use client";

import { useState } from "react";
import { REPLY_PLACES } from "@/core/replies/saved";
import { LANGUAGE_NAMES, LANGUAGES, type Language } from "@/core/words/languages";
import { ActionForm } from "@/ui/ActionForm.client";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Field } from "@/ui/Field";
import { FormButtons } from "@/ui/FormButtons";
import { usedWords } from "@/ui/SavedWordsMenu.client";
import { dropAgencyReply, dropSaved, newRule, saveAgencyReply, saveReply } from "../ruleActions";

export type ShownSaved = {
  id: string;
  purpose: string;
  language: Language;
  words: string;
  uses: number;
  use: "reviews" | "conversations";
  of: "agency" | "client" | "own";
};

/** Where saved replies are kept: at a client, or with its agency for all. */
export type SavedAt = { slug: string } | { agency: string };

const saveAt = (at: SavedAt, id: string | null) =>
  "slug" in at ? saveReply.bind(null, at.slug, id) : saveAgencyReply.bind(null, at.agency, id);

/** Adds a rule that only suggests. */
export function NewRule({ slug }: { slug: string }) {
  return (
    <ActionForm action={newRule.bind(null, slug)}>
      {({ pending }) => (
        <button type="submit" className="button" disabled={pending}>
          {pending ? "Adding…" : "Add a rule"}
        </button>
      )}
    </ActionForm>
  );
}

/** A saved reply to write or to change. */
function SavedForm({ at, saved, onDone }: { at: SavedAt; saved: ShownSaved | null; onDone: () => void }) {
  const id = saved?.id ?? "new";
  return (
    <ActionForm
      action={saveAt(at, saved?.id ?? null)}
      onDone={onDone}
      className="border-mulberry mt-2 space-y-3 border-l-[3px] pl-4"
    >
      {({ pending, error }) => (
        <>
          <div className="flex flex-wrap gap-3">
            <div className="min-w-[220px] grow">
              <Field
                id={`purpose-${id}`}
                name="purpose"
                label="What it is for"
                defaultValue={saved?.purpose}
                says="If you save several for the same purpose, they take turns."
                error={error}
              />
            </div>
            <div>
              <label className="label" htmlFor={`use-${id}`}>
                {" "}
                Where to offer it{" "}
              </label>
              <select id={`use-${id}`} name="use" className="field" defaultValue={saved?.use ?? "reviews"}>
                <option value="reviews">under public reviews</option>
                <option value="conversations">in conversations</option>
              </select>
              {error("use")}
            </div>
            <div>
              <label className="label" htmlFor={`language-${id}`}>
                Language
              </label>
              <select id={`language-${id}`} name="language" className="field" defaultValue={saved?.language ?? "en"}>
                {LANGUAGES.map((one) => (
                  <option key={one} value={one}>
                    {LANGUAGE_NAMES[one]}
                  </option>
                ))}
              </select>
            </div>
          </div>
          <div>
            <label className="label" htmlFor={`words-${id}`}>
              Words
            </label>
            <textarea
              id={`words-${id}`}
              name="words"
              rows={4}
              className="field"
              defaultValue={saved?.words ?? "Hello {first name|there}, "}
              aria-describedby={`places-${id}`}
            />
            <p id={`places-${id}`} className="text-second mt-1 text-[14px]">
              Filled in automatically: {REPLY_PLACES.map((place) => `{${place}}`).join(", ")}. After the | is what to
              say if we don’t know.
            </p>
            {error("words")}
          </div>
          {"slug" in at ? (
            <label className="flex items-baseline gap-2.5">
              <input type="checkbox" name="isOwn" value="yes" defaultChecked={saved?.of === "own"} />
              Only for me
            </label>
          ) : null}
          <FormButtons pending={pending} onCancel={onDone} />
        </>
      )}
    </ActionForm>
  );
}

/** All saved replies, by what they are for. */
export function SavedList({ at, list, mayChange }: { at: SavedAt; list: ShownSaved[]; mayChange: boolean }) {
  const [open, setOpen] = useState<string | null>(null);
  const close = () => setOpen(null);
  return (
    <>
      <ul className="divide-rule border-rule mt-2 divide-y border-y">
        {list.map((saved) => (
          <li key={saved.id} className="py-3">
            {open === saved.id ? (
              <SavedForm at={at} saved={saved} onDone={close} />
            ) : (
              <>
                <p className="flex flex-wrap items-baseline justify-between gap-x-3">
                  <b>{saved.purpose}</b>
                  <span className="text-second text-[14px]">
                    {saved.use === "conversations" ? "in conversations · " : ""}
                    {LANGUAGE_NAMES[saved.language]}
                    {saved.of === "own"
                      ? " · just yours"
                      : saved.of === "agency" && "slug" in at
                        ? " · the agency’s"
                        : ""}
                    {"slug" in at ? ` · ${usedWords(saved.uses)}` : ""}
                  </span>
                </p>
                <p className="whitespace-pre-wrap">{saved.words}</p>
                {mayChange && (saved.of !== "agency" || "agency" in at) ? (
                  <div className="-ml-2 flex">
                    <button type="button" className="button-quiet" onClick={() => setOpen(saved.id)}>
                      Change
                    </button>
                    <ConfirmButton
                      className="button-quiet"
                      sure={`Remove “${saved.purpose}”?`}
                      action={async () =>
                        ("slug" in at
                          ? await dropSaved(at.slug, saved.id)
                          : await dropAgencyReply(at.agency, saved.id)) ?? {
                          ok: true,
                        }
                      }
                    >
                      Remove
                    </ConfirmButton>
                  </div>
                ) : null}
              </>
            )}
          </li>
        ))}
        {list.length === 0 ? (
          <li className="text-second py-3">
            Nothing saved yet. A few thank-yous for ratings without a comment save the most time.
          </li>
        ) : null}
      </ul>
      {mayChange ? (
        open === "new" ? (
          <SavedForm at={at} saved={null} onDone={close} />
        ) : (
          <button type="button" className="button mt-3" onClick={() => setOpen("new")}>
            Save a reply
          </button>
        )
      ) : null}
    </>
  );
}
