"use client";

import type { KeptRule, ReplyDeed } from "@/core/replies/rules";
import {
  type Names,
  sayBranches,
  sayDeed,
  sayLanguages,
  sayMost,
  sayRatings,
  saySites,
  sayTexts,
  sayWhen,
  sayWords,
} from "@/core/replies/sayRule";
import { LANGUAGE_NAMES, LANGUAGES } from "@/core/words/languages";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Sentence } from "@/ui/Sentence.client";
import { changeRulePart, dropRule, reorderRule } from "../ruleActions";

type Choice = readonly [value: string, words: string];

function Options({
  type,
  name,
  legend,
  choices,
  chosen,
}: {
  type: "checkbox" | "radio";
  name: string;
  legend: string;
  choices: readonly Choice[];
  chosen: readonly string[];
}) {
  return (
    <fieldset className="space-y-1">
      <legend className="label">{legend}</legend>
      {choices.map(([value, words]) => (
        <label key={value} className="flex min-h-[32px] items-baseline gap-2.5">
          <input type={type} name={name} value={value} defaultChecked={chosen.includes(value)} />
          {words}
        </label>
      ))}
    </fieldset>
  );
}

const DEED_CHOICES: readonly (readonly [ReplyDeed, string])[] = [
  ["nothing", "Leave it to your team"],
  ["suggest", "Suggest a draft"],
  ["approve", "Write a reply for approval"],
  ["post", "Write and post a reply"],
];

type Props = { slug: string; rule: KeptRule; isOn: boolean; names: Names; sites: string[]; mayChange: boolean };

/** A rule for replying as a sentence whose underlined parts change it. */
export function RuleSentence({ slug, rule, isOn, names, sites, mayChange }: Props) {
  const action = mayChange ? changeRulePart.bind(null, slug, rule.id) : null;
  const part = (
    key: string,
    words: string,
    label: string,
    fields: (error: (field: string) => React.ReactNode) => React.ReactNode,
  ) => (
    <Sentence words={words} label={label} action={action}>
      {(error) => (
        <div className="space-y-3">
          <input type="hidden" name="part" value={key} />
          {fields(error)}
        </div>
      )}
    </Sentence>
  );
  const writes = rule.deed === "approve" || rule.deed === "post";
  return (
    <p className={`leading-[1.85] ${isOn ? "" : "text-second"}`}>
      When{" "}
      {part("sites", saySites(rule), "Which sites", () => (
        <Options
          type="checkbox"
          name="sites"
          legend="Tick none for any"
          choices={sites.map((site) => [site, site])}
          chosen={rule.sites}
        />
      ))}{" "}
      gets{" "}
      {part("ratings", sayRatings(rule), "Which ratings", (error) => (
        <>
          <Options
            type="checkbox"
            name="ratings"
            legend="On sites with ratings from 1 to 5"
            choices={[5, 4, 3, 2, 1].map((n) => [String(n), `${n} of 5`])}
            chosen={rule.ratings.map(String)}
          />
          <Options
            type="checkbox"
            name="recommends"
            legend="On sites where people recommend"
            choices={[
              ["yes", "Recommended"],
              ["no", "Not recommended"],
            ]}
            chosen={rule.recommends.map((one) => (one ? "yes" : "no"))}
          />
          {error("ratings")}
        </>
      ))}
      ,{" "}
      {part("words", sayWords(rule), "With or without a comment", () => (
        <Options
          type="radio"
          name="words"
          legend="Reviews"
          choices={[
            ["either", "With or without a comment"],
            ["with", "Only with a comment"],
            ["without", "Only without a comment"],
          ]}
          chosen={[rule.words]}
        />
      ))}
      , at{" "}
      {part("branches", sayBranches(rule, names), "Which branches", () => (
        <Options
          type="checkbox"
          name="branchIds"
          legend="Tick none for every branch"
          choices={names.branches.map(({ id, name }) => [id, name])}
          chosen={rule.branchIds}
        />
      ))}
      , in{" "}
      {part("languages", sayLanguages(rule), "Which languages", () => (
        <Options
          type="checkbox"
          name="languages"
          legend="Tick none for any"
          choices={LANGUAGES.map((one) => [one, LANGUAGE_NAMES[one]])}
          chosen={rule.languages}
        />
      ))}
      :{" "}
      {part("deed", sayDeed(rule), "What it does", (error) => (
        <>
          <Options type="radio" name="deed" legend="Then" choices={DEED_CHOICES} chosen={[rule.deed]} />
          <label className="border-rule flex items-baseline gap-2.5 border-t pt-3">
            <input type="checkbox" name="agreed" value="yes" defaultChecked={rule.agreedBy !== null} />
            <span>
              I agree that it also answers unhappy reviews automatically (3 of 5 or lower, or not recommended).
              Otherwise these wait for approval.
            </span>
          </label>
          {error("deed")}
        </>
      ))}
      {writes ? (
        <>
          {", "}
          {part("texts", sayTexts(rule, names), "Which reply", () =>
            names.saved.length === 0 ? (
              <p>Drafts are based on the review itself. Save some replies below to use those instead.</p>
            ) : (
              <Options
                type="checkbox"
                name="savedReplyIds"
                legend="Tick none for drafts based on the review"
                choices={names.saved.map(({ id, purpose }) => [id, purpose])}
                chosen={rule.savedReplyIds}
              />
            ),
          )}
        </>
      ) : null}
      {rule.deed === "post" ? (
        <>
          ,{" "}
          {part("when", sayWhen(rule), "When it is posted", (error) => (
            <>
              <div>
                <label className="label" htmlFor={`after-${rule.id}`}>
                  Hours after we collect it
                </label>
                <input
                  id={`after-${rule.id}`}
                  name="afterHours"
                  inputMode="decimal"
                  className="field"
                  defaultValue={rule.afterHours}
                />
                {error("afterHours")}
              </div>
              <Options
                type="radio"
                name="hours"
                legend="And"
                choices={[
                  ["office", "Only in the branch’s office hours"],
                  ["any", "At any time"],
                ]}
                chosen={[rule.hours]}
              />
            </>
          ))}
          ,{" "}
          {part("most", sayMost(rule), "How many a day", (error) => (
            <div>
              <label className="label" htmlFor={`most-${rule.id}`}>
                Most replies per day
              </label>
              <input
                id={`most-${rule.id}`}
                name="mostPerDay"
                inputMode="numeric"
                className="field"
                defaultValue={rule.mostPerDay}
              />
              {error("mostPerDay")}
            </div>
          ))}
          , unless someone replies first
        </>
      ) : null}
      .
      {rule.agreedBy ? (
        <span className="text-second"> {rule.agreedBy} agreed that it also answers unhappy reviews.</span>
      ) : null}
    </p>
  );
}

/** What can be done with a rule as a whole. */
export function RuleButtons({
  slug,
  id,
  isOn,
  isFirst,
  isLast,
}: {
  slug: string;
  id: string;
  isOn: boolean;
  isFirst: boolean;
  isLast: boolean;
}) {
  const turn = async () => {
    const form = new FormData();
    form.set("part", "on");
    form.set("isOn", isOn ? "no" : "yes");
    return (await changeRulePart(slug, id, null, form)) ?? { ok: true as const };
  };
  const move = (by: -1 | 1) => async () => (await reorderRule(slug, id, by)) ?? { ok: true as const };
  return (
    <div className="mt-1 -ml-2 flex flex-wrap">
      <ConfirmButton className="button-quiet" action={turn}>
        {isOn ? "Turn it off" : "Turn it on"}
      </ConfirmButton>
      {isFirst ? null : (
        <ConfirmButton className="button-quiet" action={move(-1)}>
          Move up
        </ConfirmButton>
      )}
      {isLast ? null : (
        <ConfirmButton className="button-quiet" action={move(1)}>
          Move down
        </ConfirmButton>
      )}
      <ConfirmButton
        className="button-quiet"
        sure="Remove this rule? Its scheduled replies won’t be posted."
        action={async () => (await dropRule(slug, id)) ?? { ok: true }}
      >
        Remove it
      </ConfirmButton>
    </div>
  );
}
