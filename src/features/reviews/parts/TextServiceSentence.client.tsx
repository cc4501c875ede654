"use client";

import { useState } from "react";
import { Field } from "@/ui/Field";
import { Sentence } from "@/ui/Sentence.client";
import { changeTextService } from "../outsideActions";

const line = "flex min-h-[32px] items-baseline gap-2.5";

/** Whether an outside text service may be asked for drafts as well, and where it answers. */
export function TextServiceSentence({ slug, address }: { slug: string | null; address: string | null }) {
  const [on, setOn] = useState(address !== null);
  return (
    <Sentence
      words={address ? `an outside service at ${new URL(address).host}, when somebody asks it` : "nobody else"}
      label="Who else writes drafts"
      action={slug ? changeTextService.bind(null, slug) : null}
      wide
    >
      {(error) => (
        <>
          {(
            [
              ["no", "Nobody: drafts are made here"],
              ["yes", "An outside text service, when somebody asks it"],
            ] as const
          ).map(([value, label]) => (
            <label key={value} className={line}>
              <input
                type="radio"
                name="isOn"
                value={value}
                checked={on === (value === "yes")}
                onChange={() => setOn(value === "yes")}
              />
              {label}
            </label>
          ))}
          <div hidden={!on} className="mt-2 space-y-3">
            <Field
              id="text-service-address"
              name="address"
              label="Its address"
              defaultValue={address ?? ""}
              inputMode="url"
              error={error}
            />
            <Field
              id="text-service-key"
              name="key"
              label="The key it gave you"
              says={address ? "Empty keeps the one before. It is kept encrypted." : "It is kept encrypted."}
              autoComplete="off"
              error={error}
            />
            <p className="text-second text-[14px]">
              Only the review’s words, its rating and language, your name and tone are sent, each time after somebody
              has looked at them. What comes back passes the same guards as any draft.
            </p>
          </div>
        </>
      )}
    </Sentence>
  );
}
