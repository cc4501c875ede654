"use client";

import { useState } from "react";
import { ActionForm } from "@/ui/ActionForm.client";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Field } from "@/ui/Field";
import { FormButtons } from "@/ui/FormButtons";
import { removeTheme, saveTheme } from "../actions";

export type ShownTheme = { id: string; name: string; words: string[] };

function ThemeForm({ slug, theme, onDone }: { slug: string; theme: ShownTheme | null; onDone: () => void }) {
  const id = theme?.id ?? "new";
  return (
    <ActionForm
      action={saveTheme.bind(null, slug, theme?.id ?? null)}
      onDone={onDone}
      className="border-mulberry mt-2 space-y-3 border-l-[3px] pl-4"
    >
      {({ pending, error }) => (
        <>
          <Field id={`name-${id}`} name="name" label="Theme" defaultValue={theme?.name} error={error} />
          <div>
            <label className="label" htmlFor={`words-${id}`}>
              Words people use for it
            </label>
            <textarea
              id={`words-${id}`}
              name="words"
              rows={3}
              className="field"
              defaultValue={theme?.words.join(", ")}
              aria-describedby={`words-${id}-says`}
            />
            <p id={`words-${id}-says`} className="text-second mt-1 text-[14px]">
              Separate them with commas: “coffee, tea, waiting room”. We’ll find plurals and other endings too.
            </p>
            {error("words")}
          </div>
          <FormButtons pending={pending} onCancel={onDone} />
        </>
      )}
    </ActionForm>
  );
}

/** The client's own themes, to add, change and remove. */
export function OwnThemes({ slug, list, mayChange }: { slug: string; list: ShownTheme[]; mayChange: boolean }) {
  const [open, setOpen] = useState<string | null>(null);
  const close = () => setOpen(null);
  return (
    <>
      {list.length > 0 ? (
        <ul className="divide-rule border-rule mt-2 divide-y border-y">
          {list.map((theme) => (
            <li key={theme.id} className="py-3">
              {open === theme.id ? (
                <ThemeForm slug={slug} theme={theme} onDone={close} />
              ) : (
                <div className="flex flex-wrap items-baseline justify-between gap-x-3">
                  <span>
                    <b>{theme.name}</b> <span className="text-second">{theme.words.join(", ")}</span>
                  </span>
                  {mayChange ? (
                    <span className="flex">
                      <button type="button" className="button-quiet" onClick={() => setOpen(theme.id)}>
                        Change
                      </button>
                      <ConfirmButton
                        className="button-quiet"
                        sure={`Remove the theme “${theme.name}”?`}
                        action={async () => (await removeTheme(slug, theme.id)) ?? { ok: true }}
                      >
                        Remove
                      </ConfirmButton>
                    </span>
                  ) : null}
                </div>
              )}
            </li>
          ))}
        </ul>
      ) : null}
      {mayChange ? (
        open === "new" ? (
          <ThemeForm slug={slug} theme={null} onDone={close} />
        ) : (
          <button type="button" className="button mt-3" onClick={() => setOpen("new")}>
            Add a theme
          </button>
        )
      ) : null}
    </>
  );
}
