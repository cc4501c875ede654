"use client";

import { LookFields, type LookValues } from "@/features/clients/parts/LookFields";
import { Sentence } from "@/ui/Sentence.client";
import { changeClientLook } from "../actions";

/** The look that new clients begin with. */
export function ClientLookForm({ slug, words, values }: { slug: string; words: string; values: LookValues }) {
  return (
    <Sentence words={words} label="How new clients start out" action={changeClientLook.bind(null, slug)} wide>
      {(error) => (
        <div className="space-y-3">
          <LookFields prefix="new-client" values={values} error={error} />
        </div>
      )}
    </Sentence>
  );
}
