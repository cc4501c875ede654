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
      words={address ? `an outside writing service (${new URL(address).host}), on request` : "nobody else"}
      label="Outside writing service"
      action={slug ? changeTextService.bind(null, slug) : null}
      wide
    >
      {(error) => (
        <>
          {(
            [
              ["no", "None: Estima writes all drafts"],
              ["yes", "An outside writing service, only when someone asks it"],
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
              label="The key they gave you"
              says={address ? "Leave blank to keep the current one. It’s stored encrypted." : "It is kept encrypted."}
              autoComplete="off"
              error={error}
            />
            <p className="text-second text-[14px]">
              We send only the review’s text, rating and language, your name and your tone, and only after someone has
              checked them. Its drafts go through the same checks as ours.
            </p>
          </div>
        </>
      )}
    </Sentence>
  );
}
