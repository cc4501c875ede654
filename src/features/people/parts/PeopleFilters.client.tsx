"use client";

import type { ActionResult } from "@/ui/result";
import { Sentence } from "@/ui/Sentence.client";

/** Keeps the filters of the moment under a name. */
export function KeepView({ action }: { action: (before: ActionResult, form: FormData) => Promise<ActionResult> }) {
  return (
    <Sentence words="Save as a view" label="Save as a view" action={action}>
      {(error) => (
        <>
          <label className="label" htmlFor="view-name">
            Name
          </label>
          <input id="view-name" name="name" className="field" maxLength={60} autoComplete="off" />
          {error("name")}
        </>
      )}
    </Sentence>
  );
}
