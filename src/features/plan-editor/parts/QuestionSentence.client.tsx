"use client";

import { DOORS_LOOK_AT, type MoreQuestions, NOTHING_MORE, type PlanRules } from "@/core/plans/planRules";
import { sayQuestion } from "@/core/plans/sayRules";
import { capital } from "@/core/time/say";
import { Sentence } from "@/ui/Sentence.client";
import { Hidden, Radios, SelectField } from "./fields";
import type { FormAction } from "./planRef";

const LOOKS_AT: Record<MoreQuestions["doorsLookAt"], string> = {
  rating: "the rating",
  recommendation: "the recommendation",
  "lowest aspect": "the lowest-rated aspect",
};

/** What the answer page asks: the rating, and what may follow it. */
export function QuestionSentence({
  action,
  rules,
}: {
  /** What keeps it; null where it may not be changed. */
  action: FormAction | null;
  rules: Pick<PlanRules, "question" | "more">;
}) {
  const more = rules.more ?? NOTHING_MORE;
  return (
    <Sentence
      words={capital(sayQuestion(rules.question, more))}
      label="What the page asks"
      id="question"
      action={action}
      wide
    >
      {(error) => (
        <div className="space-y-3">
          <Hidden part="question" />
          <Radios
            name="question"
            legend="Answers"
            value={rules.question}
            choices={[
              ["five", "five ratings, 1 to 5"],
              ["faces", "five faces"],
              ["two", "two answers, “Yes, it did” and “Not really”"],
            ]}
          />
          {error("question")}
          <p className="text-second text-[14px]">Then, on the same page, all optional:</p>
          <Lines
            name="aspects"
            label="Aspects of the visit, one per line"
            says="Up to five, each rated from 1 to 5: waiting time, price."
            value={more.aspects}
            error={error("aspects")}
          />
          <SelectField
            name="recommend"
            label="“Would you recommend us?”"
            value={more.recommend}
            choices={[
              ["not", "don’t ask"],
              ["ten", "from 0 to 10"],
              ["three", "yes, maybe or no"],
            ]}
          />
          {error("recommend")}
          <Lines
            name="questions"
            label="Open questions, one per line"
            says="Up to three."
            value={more.questions}
            error={error("questions")}
          />
          <label className="flex min-h-[44px] items-center gap-2.5">
            <input
              type="checkbox"
              name="photo"
              value="yes"
              defaultChecked={more.photo ?? false}
              className="size-[18px]"
            />
            Let them add a photo (only your team sees it)
          </label>
          <label className="flex min-h-[44px] items-center gap-2.5">
            <input type="checkbox" name="mayShow" value="yes" defaultChecked={more.mayShow} className="size-[18px]" />
            Ask if you can show their comments on your own reviews page
          </label>
          <SelectField
            name="doorsLookAt"
            label="Doors depend on"
            value={more.doorsLookAt}
            choices={DOORS_LOOK_AT.map((each) => [each, LOOKS_AT[each]] as const)}
          />
          {error("doorsLookAt")}
        </div>
      )}
    </Sentence>
  );
}

function Lines({
  name,
  label,
  says,
  value,
  error,
}: {
  name: string;
  label: string;
  says: string;
  value: string[];
  error: React.ReactNode;
}) {
  return (
    <label className="block">
      <span className="label">{label}</span>
      <textarea name={name} className="field" rows={3} maxLength={700} defaultValue={value.join("\n")} />
      <span className="text-second block text-[13px]">{says}</span>
      {error}
    </label>
  );
}
