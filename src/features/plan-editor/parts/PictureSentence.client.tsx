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
      label="Which messages carry a picture with their name"
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
            Whoever has no mobile number gets an email in place of a text, and the other way round. An email costs no
            more with it. A text with a picture costs several texts: one message of a plan is enough.
          </p>
        </div>
      )}
    </Sentence>
  );
}
