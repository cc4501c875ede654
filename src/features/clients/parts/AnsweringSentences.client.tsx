"use client";

import { sayCount, WEEKDAYS } from "@/core/time/say";
import { sayHours, sayWeek } from "@/core/time/sayHours";
import type { WeekHours } from "@/core/time/sendHours";
import { Field } from "@/ui/Field";
import { Sentence } from "@/ui/Sentence.client";
import { changeAnswerTimes, changeOfficeHours } from "../actions";

/** Office hours to answer at a branch, day by day. */
export function OfficeHoursSentence({ slug, branchId, week }: { slug: string; branchId: string; week: WeekHours }) {
  return (
    <Sentence words={sayWeek(week)} label="Office hours" action={changeOfficeHours.bind(null, slug)}>
      {(error) => (
        <div className="space-y-1.5">
          <input type="hidden" name="branchId" value={branchId} />
          {WEEKDAYS.map((name, day) => (
            <div key={name}>
              <div className="grid grid-cols-[92px_1fr] items-center gap-2">
                <label htmlFor={`office-${branchId}-${day}`}>{name}</label>
                <input
                  id={`office-${branchId}-${day}`}
                  name={`day-${day}`}
                  className="field !py-1"
                  placeholder="closed"
                  defaultValue={week[day]?.length ? sayHours(week[day]) : ""}
                />
              </div>
              {error(`day-${day}`)}
            </div>
          ))}
          <p className="text-second text-[13px]">
            Like 9:00 to 12:30 and 14:00 to 19:00. Public holidays and closed days count as closed.
          </p>
        </div>
      )}
    </Sentence>
  );
}

/** Within how many office hours whoever is unhappy is answered. */
export function AnswerTimesSentence({ slug, hours, urgent }: { slug: string; hours: number; urgent: number | null }) {
  return (
    <>
      Unhappy customers hear from you within{" "}
      <Sentence
        words={`${sayCount(hours, "office hour")}${urgent === null ? "" : `, or for 1 of 5 within ${sayCount(urgent, "office hour")}`}`}
        label="How quickly"
        action={changeAnswerTimes.bind(null, slug)}
      >
        {(error) => (
          <div className="space-y-3">
            <Field
              id="answer-within"
              name="answerWithinHours"
              label="Office hours to answer an unhappy customer"
              says="After that, the concern is overdue."
              inputMode="numeric"
              defaultValue={String(hours)}
              error={error}
            />
            <Field
              id="urgent-within"
              name="urgentWithinHours"
              label="Sooner, for a rating of 1"
              says="Leave blank for the same."
              inputMode="numeric"
              defaultValue={urgent === null ? "" : String(urgent)}
              error={error}
            />
          </div>
        )}
      </Sentence>
      .
    </>
  );
}
