"use client";

import { ActionForm } from "@/ui/ActionForm.client";
import { Sentence } from "@/ui/Sentence.client";
import { setAside, takeBack } from "../actions";

/** Sets one need of a client aside, with a reason. */
export const SetAside = ({ slug, needKey, client }: { slug: string; needKey: string; client: string }) => (
  <Sentence words="Set aside" label={`Set this aside for ${client}`} action={setAside.bind(null, slug, needKey)}>
    {(error) => (
      <div>
        <label className="label" htmlFor={`aside-${needKey}`}>
          Why, for your team
        </label>
        <input id={`aside-${needKey}`} name="reason" className="field" maxLength={200} autoComplete="off" />
        {error("reason")}
        <p className="text-second mt-2 text-[14px]">
          It stays set aside until it’s over. If it happens again, you’ll see it again.
        </p>
      </div>
    )}
  </Sentence>
);

/** Has a need back that was set aside. */
export const TakeBack = ({ slug, needKey }: { slug: string; needKey: string }) => (
  <ActionForm action={takeBack.bind(null, slug, needKey)} className="inline">
    {({ pending }) => (
      <button type="submit" className="button-quiet" disabled={pending}>
        Put back
      </button>
    )}
  </ActionForm>
);
