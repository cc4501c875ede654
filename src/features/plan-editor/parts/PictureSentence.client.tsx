"use client";

import type { PlanRules } from "@/core/plans/planRules";
import { sayPicture } from "@/core/plans/sayRules";
import { Sentence } from "@/ui/Sentence.client";
import { Hidden } from "./fields";
import { actionOf, type PlanRef } from "./planRef";

const AS = [
  ["emails", "as an email"],
  ["texts", "as a text"],
] as const;

/** Which messages carry the picture with the customer's name. */
export function PictureSentence({ plan, rules }: { plan: PlanRef; rules: Pick<PlanRules, "picture" | "steps"> }) {
  return (
    <Sentence
      words={sayPicture(rules)}
      label="Messages with a picture of their name"
      id="picture"
      action={actionOf(plan)}
    >
      {() => (
        <div className="space-y-3">
          <Hidden part="picture" />
          {rules.steps.map(({ key, name }) => (
            <fieldset key={key}>
              <legend className="label">“{name}”</legend>
              {AS.map(([kind, says]) => (
                <label key={kind} className="flex min-h-[32px] items-center gap-2.5">
                  <input
                    type="checkbox"
                    name={kind}
                    value={key}
                    defaultChecked={rules.picture?.[kind].includes(key) ?? false}
                    className="size-[18px]"
                  />
                  {says}
                </label>
              ))}
            </fieldset>
          ))}
          <p className="text-second text-[13px]">
            People without a mobile get an email instead of a text, and the other way round. Emails cost no more with a
            picture, but a text with a picture costs as much as several texts, so use it in one message only.
          </p>
        </div>
      )}
    </Sentence>
  );
}
