"use client";

import { useState } from "react";
import type { DoorsMode, PlanRules, PlanStep, Wording } from "@/core/plans/planRules";
import { KIND_WORDS, sayBegins, sayCondition, sayRepeat, sayStepChannel } from "@/core/plans/sayRules";
import { clockTime, describeDelay } from "@/core/time/delay";
import { ActionForm } from "@/ui/ActionForm.client";
import { Sentence } from "@/ui/Sentence.client";
import { Sortable } from "@/ui/Sortable.client";
import { changePlan, namePlan } from "../actions";
import { type Choice, Hidden, NumberField, Radios, SelectField, Ticks } from "./fields";

export type PlanRef = { slug: string; planId: string; revision: number; mayChange: boolean };

const actionOf = ({ slug, planId, revision, mayChange }: PlanRef) => (mayChange ? changePlan.bind(null, slug, planId, revision) : null);

/** The plan's name, as it is changed. */
export function NameSentence({ plan, name }: { plan: PlanRef; name: string }) {
  return (
    <Sentence words="Rename" label="The plan’s name" action={plan.mayChange ? namePlan.bind(null, plan.slug, plan.planId) : null}>
      {(error) => (
        <>
          <label className="label" htmlFor="plan-name">
            Name
          </label>
          <input id="plan-name" name="name" className="field" defaultValue={name} maxLength={60} />
          {error("name")}
        </>
      )}
    </Sentence>
  );
}

type Names = { services: Choice[]; branches: Choice[]; tags: string[] };

/** What a plan begins with. */
export function BeginsSentence({ plan, begins, names }: { plan: PlanRef; begins: PlanRules["begins"]; names: Names }) {
  const [kind, setKind] = useState<PlanRules["begins"]["kind"]>(begins.kind);
  const chosen = (which: "services" | "branches") => (which in begins ? (begins as { services: string[]; branches: string[] })[which] : []);
  const nameOf = (id: string) => [...names.services, ...names.branches].find((one) => one.id === id)?.name ?? "something that is not there any more";
  return (
    <Sentence words={sayBegins(begins, nameOf)} label="When it begins" id="begins" action={actionOf(plan)}>
      {(error) => (
        <div className="space-y-3">
          <Hidden part="begins" />
          <div>
            <label className="label" htmlFor="kind">
              It begins when
            </label>
            <select id="kind" name="kind" className="field" value={kind} onChange={(event) => setKind(event.target.value as typeof kind)}>
              <option value="visit">a visit ends</option>
              <option value="invoice">an invoice is paid</option>
              <option value="tag">a person gets a tag</option>
              <option value="customer">somebody has been a customer for some days</option>
              <option value="list">a list is dropped off</option>
              <option value="by hand">somebody asks by hand</option>
            </select>
            {error("kind")}
          </div>
          {kind === "visit" || kind === "invoice" || kind === "list" ? (
            <>
              {kind === "visit" ? (
                <Ticks
                  name="kinds"
                  legend="Of these kinds"
                  choices={Object.entries(KIND_WORDS).map(([id, name]) => ({ id, name }))}
                  chosen={begins.kind === "visit" ? begins.kinds : []}
                  all="None ticked: of every kind."
                />
              ) : null}
              <Ticks name="services" legend="For these services" choices={names.services} chosen={chosen("services")} all="None ticked: for every service." />
              {names.branches.length > 1 ? (
                <Ticks name="branches" legend="At these branches" choices={names.branches} chosen={chosen("branches")} all="None ticked: at every branch." />
              ) : null}
            </>
          ) : null}
          {kind === "tag" ? (
            <div>
              <label className="label" htmlFor="tag">
                Tag
              </label>
              <select id="tag" name="tag" className="field" defaultValue={begins.kind === "tag" ? begins.tag : ""}>
                {names.tags.map((tag) => (
                  <option key={tag}>{tag}</option>
                ))}
              </select>
              <p className="text-second mt-1 text-[13px]">Asked about their last visit, counted from the moment they got it.</p>
              {error("tag")}
            </div>
          ) : null}
          {kind === "customer" ? (
            <NumberField
              name="days"
              label="Days since their first visit"
              value={begins.kind === "customer" ? begins.days : 365}
              error={error("days")}
              hint="Who has been here longer than that when the plan starts is not asked."
            />
          ) : null}
        </div>
      )}
    </Sentence>
  );
}

/** Ask straight away, or ask how it went first. */
export function StyleSentence({ plan, rules }: { plan: PlanRef; rules: PlanRules }) {
  const first = rules.style === "how it went first";
  return (
    <Sentence
      words={first ? `asks how it went first, ${rules.question === "two" ? "by two buttons" : "from one to five"}` : "asks straight away"}
      label="How it asks"
      action={actionOf(plan)}
    >
      {() => (
        <div className="space-y-3">
          <Hidden part="style" />
          <Radios
            name="style"
            legend="It asks"
            value={rules.style}
            choices={[
              ["straight away", "Straight away", "Rating, words and review sites on one page."],
              ["how it went first", "How it went first", "Thanks everybody, hands the unhappy over at once, and asks the happy for a review some days later."],
            ]}
          />
          <Radios
            name="question"
            legend="The question has"
            value={rules.question}
            choices={[
              ["five", "five ratings, 1 to 5"],
              ["two", "two answers, “Yes, it did” and “Not really”"],
            ]}
          />
        </div>
      )}
    </Sentence>
  );
}

/** When, how and to whom one message goes. */
export function StepSentence({ plan, step, index }: { plan: PlanRef; step: PlanStep; index: number }) {
  return (
    <Sentence words={`${describeDelay(step.delay)}`} label={`When “${step.name}” goes out`} id="step" action={actionOf(plan)}>
      {(error) => (
        <div className="space-y-3">
          <Hidden part="step" step={index} />
          <div>
            <label className="label" htmlFor="name">
              Name of the message
            </label>
            <input id="name" name="name" className="field" defaultValue={step.name} maxLength={40} />
            {error("name")}
          </div>
          <div className="flex gap-2">
            <NumberField name="amount" label="After" value={step.delay.amount} error={error("amount")} />
            <SelectField name="unit" label="Unit" value={step.delay.unit} choices={["minutes", "hours", "days", "weeks"].map((unit) => [unit, unit] as const)} />
          </div>
          <div>
            <label className="label" htmlFor="at">
              At a set time of day
            </label>
            <input id="at" name="at" className="field" defaultValue={step.delay.at === null || step.delay.at === undefined ? "" : clockTime(step.delay.at)} />
            <p className="text-second mt-1 text-[13px]">For days and weeks. Left empty: the same time as before.</p>
            {error("at")}
          </div>
          <SelectField
            name="channel"
            label="Goes out"
            value={step.channel}
            choices={(["text", "email", "both", "preferred"] as const).map((channel) => [channel, sayStepChannel(channel)] as const)}
          />
          <SelectField
            name="from"
            label="Emails come from"
            value={step.from}
            choices={[
              ["business", "the business"],
              ["team member", "the team member, with the business’s name"],
            ]}
          />
          <SelectField
            name="onlyIf"
            label="Goes to"
            value={step.onlyIf}
            choices={(["always", "not opened", "rated 4 or more"] as const).map((condition) => [condition, sayCondition(condition)] as const)}
          />
          {error("onlyIf")}
        </div>
      )}
    </Sentence>
  );
}

/** The words of one message, for both channels. */
export function WordsSentence({
  plan,
  step,
  index,
  wording,
  words,
  placeholders,
}: {
  plan: PlanRef;
  step: PlanStep;
  index: number;
  wording: Wording;
  words: string;
  placeholders: string[];
}) {
  return (
    <Sentence
      words={words}
      label={`The words of “${step.name}”${step.others.length > 0 ? `, wording ${wording.key.toUpperCase()}` : ""}`}
      action={actionOf(plan)}
      wide
      id={`words-${wording.key}`}
    >
      {(error) => (
        <div className="space-y-3">
          <Hidden part="words" step={index} wording={wording.key} />
          <p className="text-second text-[13px]">
            In braces, with what to say when it is not known: {placeholders.map((name) => `{${name}}`).join(" ")}, for example {"{first name|there}"}.
          </p>
          <div>
            <label className="label" htmlFor="text">
              As a text
            </label>
            <textarea id="text" name="text" rows={4} className="field" defaultValue={wording.text} />
            {error("text")}
          </div>
          <div>
            <label className="label" htmlFor="subject">
              Subject of the email
            </label>
            <input id="subject" name="subject" className="field" defaultValue={wording.subject} />
            {error("subject")}
          </div>
          <div>
            <label className="label" htmlFor="email">
              As an email
            </label>
            <textarea id="email" name="email" rows={9} className="field" defaultValue={wording.email} />
            {error("email")}
          </div>
        </div>
      )}
    </Sentence>
  );
}

/** A deed on a message that needs no form: one more, one less, earlier, later, another wording. */
export function StepButton({
  plan,
  part,
  fields,
  children,
  sure,
  disabled = false,
}: {
  plan: PlanRef;
  part: string;
  fields?: Record<string, string | number>;
  children: React.ReactNode;
  sure?: string;
  disabled?: boolean;
}) {
  if (!plan.mayChange) return null;
  return (
    <ActionForm action={changePlan.bind(null, plan.slug, plan.planId, plan.revision)} className="inline">
      {({ pending }) => (
        <>
          <Hidden part={part} />
          {Object.entries(fields ?? {}).map(([name, value]) => (
            <input key={name} type="hidden" name={name} value={value} />
          ))}
          <button type="submit" className="button-quiet" disabled={pending || disabled} onClick={(event) => sure && !confirm(sure) && event.preventDefault()}>
            {children}
          </button>
        </>
      )}
    </ActionForm>
  );
}

/** How often one person is asked. */
export function RepeatSentence({ plan, repeat }: { plan: PlanRef; repeat: PlanRules["repeat"] }) {
  return (
    <Sentence words={sayRepeat(repeat)} label="How often a person is asked" id="often" action={actionOf(plan)}>
      {(error) => (
        <div className="space-y-3">
          <Hidden part="repeat" />
          <Radios
            name="kind"
            legend="A person is asked"
            value={repeat.kind}
            choices={[
              ["once", "once only"],
              ["rest", "at most every so many days"],
              ["every visit", "after every visit"],
            ]}
          />
          <NumberField
            name="days"
            label="Days to rest"
            value={repeat.kind === "rest" ? repeat.days : 180}
            error={error("days")}
            hint="Counted from the day they were last asked, by this plan or by hand, or wrote a review."
          />
        </div>
      )}
    </Sentence>
  );
}

/** How late is too late. */
export function FreshSentence({ plan, days }: { plan: PlanRef; days: number }) {
  return (
    <Sentence words={days === 1 ? "1 day" : `${days} days`} label="How late is too late" id="fresh" action={actionOf(plan)}>
      {(error) => (
        <>
          <Hidden part="fresh" />
          <NumberField name="freshDays" label="Days" value={days} error={error("freshDays")} hint="After an outage or a pause, what is older ends as too late." />
        </>
      )}
    </Sentence>
  );
}

/** The tags that leave a person out, and those a person must have. */
export function TagsSentence({ plan, rules, choices }: { plan: PlanRef; rules: PlanRules; choices: string[] }) {
  const all = [...new Set([...choices, ...rules.excludeTags, ...rules.onlyTags])].map((name) => ({ id: name, name }));
  const never = rules.excludeTags.length > 0 ? `never tagged ${rules.excludeTags.join(", ")}` : "whatever the tags";
  return (
    <Sentence words={rules.onlyTags.length > 0 ? `only tagged ${rules.onlyTags.join(" or ")}, ${never}` : never} label="Tags" id="who" action={actionOf(plan)}>
      {(error) => (
        <div className="space-y-3">
          <Hidden part="tags" />
          {all.length === 0 ? <p>There are no tags yet. Make them under Set-up.</p> : null}
          <Ticks name="excludeTags" legend="Leave out whoever is tagged" choices={all} chosen={rules.excludeTags} />
          <Ticks name="onlyTags" legend="Ask only people or visits tagged" choices={all} chosen={rules.onlyTags} all="None ticked: everybody." />
          {error("excludeTags")}
        </div>
      )}
    </Sentence>
  );
}

export const HOUSEHOLD_WORDS: Record<PlanRules["households"], string> = {
  together: "one ask that names everybody of the household",
  "one only": "an ask for the first of the household, and none for the others",
  each: "an ask for each person",
};

/** What becomes of several visits of a household on one day. */
export function HouseholdsSentence({ plan, value }: { plan: PlanRef; value: PlanRules["households"] }) {
  return (
    <Sentence words={HOUSEHOLD_WORDS[value]} label="Households" action={actionOf(plan)}>
      {() => (
        <>
          <Hidden part="households" />
          <Radios name="households" legend="Several visits of one household on a day give" value={value} choices={Object.entries(HOUSEHOLD_WORDS)} />
        </>
      )}
    </Sentence>
  );
}

/** Whose messages leave first where a ceiling binds. */
export function FirstSentence({ plan, goesFirst }: { plan: PlanRef; goesFirst: boolean }) {
  return (
    <Sentence words={goesFirst ? "before those of other plans" : "in their turn"} label="Which messages leave first" action={actionOf(plan)}>
      {() => (
        <>
          <Hidden part="first" />
          <Radios
            name="goesFirst"
            legend="Where not all may leave at once, its messages leave"
            value={goesFirst ? "yes" : "no"}
            choices={[
              ["yes", "before those of other plans"],
              ["no", "in their turn"],
            ]}
          />
        </>
      )}
    </Sentence>
  );
}

/** How an old list is asked: in daily portions. */
export function PortionsSentence({ plan, portions }: { plan: PlanRef; portions: PlanRules["portions"] }) {
  const [on, setOn] = useState(portions !== null);
  return (
    <Sentence
      words={portions ? `${portions.perDay} people a day, newest visits first` : "everybody at once, spread over the send hours"}
      label="How a list is asked"
      action={actionOf(plan)}
    >
      {(error) => (
        <div className="space-y-3">
          <Hidden part="portions" />
          <Radios
            name="portions"
            legend="A list is asked"
            value={on ? "yes" : "no"}
            onChange={(value) => setOn(value === "yes")}
            choices={[
              ["no", "at once, spread over the send hours"],
              ["yes", "in daily portions, newest visits first"],
            ]}
          />
          {on ? (
            <>
              <NumberField name="perDay" label="People a day" value={portions?.perDay ?? 40} error={error("perDay")} />
              <div className="flex gap-2">
                <NumberField name="mostBounced" label="Stops above, % back" value={portions?.mostBounced ?? 5} error={error("mostBounced")} />
                <NumberField name="mostOptedOut" label="or % opted out" value={portions?.mostOptedOut ?? 3} error={error("mostOptedOut")} />
              </div>
              <p className="text-second text-[13px]">Looked at from the twentieth message on. It pauses by itself and says so on Today.</p>
            </>
          ) : null}
        </div>
      )}
    </Sentence>
  );
}

const DOOR_WORDS: Record<DoorsMode, { name: string; says: string }> = {
  open: { name: "Open", says: "Every rating sees the review sites and the private form side by side." },
  "listen first": { name: "Listen first", says: "An unhappy rating sees the private form first; the sites stay below it." },
  "private only": { name: "Private only", says: "An unhappy rating sees only the private form." },
};

/** What the answer page opens, and from which rating on somebody counts as unhappy. */
export function DoorsSentence({ plan, doors }: { plan: PlanRef; doors: PlanRules["doors"] }) {
  const [mode, setMode] = useState<string>(doors.mode);
  return (
    <Sentence words={`${DOOR_WORDS[doors.mode].name}, unhappy is ${doors.threshold} of 5 and below`} label="What the answer page opens" id="doors" action={actionOf(plan)}>
      {(error) => (
        <div className="space-y-3">
          <Hidden part="doors" />
          <Radios
            name="mode"
            legend="Doors"
            value={doors.mode}
            onChange={setMode}
            choices={(Object.keys(DOOR_WORDS) as DoorsMode[]).map((value) => [value, DOOR_WORDS[value].name, DOOR_WORDS[value].says] as const)}
          />
          {mode === "private only" ? (
            <div className="bg-ochre-tint text-ochre-deep rounded-[9px] p-3 text-[14px]">
              <p className="mb-2">Many review sites and consumer rules forbid keeping unhappy customers from writing in public. Whoever uses this answers for it by name.</p>
              <label className="label" htmlFor="acknowledgedBy">
                Who answers for it
              </label>
              <input id="acknowledgedBy" name="acknowledgedBy" className="field" defaultValue={doors.acknowledgedBy ?? ""} />
              {error("acknowledgedBy")}
            </div>
          ) : null}
          <SelectField
            name="threshold"
            label="Unhappy is this rating and below"
            value={String(doors.threshold)}
            choices={[1, 2, 3, 4].map((rating) => [String(rating), `${rating} of 5`] as const)}
          />
          {error("threshold")}
        </div>
      )}
    </Sentence>
  );
}

/** Which sites are offered, in which order, and which comes first. */
export function SitesSentence({ plan, sites, known, accounts }: { plan: PlanRef; sites: PlanRules["sites"]; known: string[]; accounts: Record<string, string[]> }) {
  const [order, setOrder] = useState([...sites.order.filter((site) => known.includes(site)), ...known.filter((site) => !sites.order.includes(site))]);
  const [mix, setMix] = useState<string>(sites.mix);
  const says = {
    order: `always ${order[0] ?? "none"} first`,
    shares: `the first by share (${Object.entries(sites.shares)
      .map(([site, share]) => `${site} ${share}`)
      .join(", ")})`,
    mailbox: "the first by the person’s mailbox",
  }[sites.mix];
  return (
    <Sentence words={`${order.slice(0, sites.most).join(", ") || "no site yet"}; ${says}`} label="Review sites" id="sites" action={actionOf(plan)}>
      {(error) => (
        <div className="space-y-3">
          <Hidden part="sites" />
          {order.map((site) => (
            <input key={site} type="hidden" name="order" value={site} />
          ))}
          <div>
            <p className="label">In this order</p>
            {order.length === 0 ? <p className="text-second">No branch has a review page yet.</p> : null}
            <Sortable
              label="Review sites in order"
              onOrder={setOrder}
              items={order.map((site) => ({
                key: site,
                name: site,
                content: (
                  <span className="flex items-center justify-between gap-2">
                    {site}
                    {mix === "shares" ? (
                      <input name={`share ${site}`} aria-label={`Share of ${site}`} inputMode="numeric" className="field !w-[76px] !py-1" defaultValue={sites.shares[site] ?? ""} />
                    ) : null}
                  </span>
                ),
              }))}
            />
            {error("shares")}
          </div>
          <Radios
            name="mix"
            legend="First comes"
            value={sites.mix}
            onChange={setMix}
            choices={[
              ["order", "always the first of the list"],
              ["shares", "the site that is behind its share of all asks"],
              ["mailbox", "the site whose account their mailbox is, else the first"],
            ]}
          />
          {mix === "mailbox" ? (
            <div className="space-y-2">
              <p className="label">Mail domains whose mailboxes are an account there</p>
              {order.map((site) => (
                <div key={site}>
                  <label className="text-[14px]" htmlFor={`accounts ${site}`}>
                    {site}
                  </label>
                  <input
                    id={`accounts ${site}`}
                    name={`accounts ${site}`}
                    className="field !py-1"
                    placeholder="waypost-mail.example"
                    defaultValue={(accounts[site] ?? []).join(", ")}
                  />
                </div>
              ))}
              {error("accounts")}
              <p className="text-second text-[13px]">Mailboxes of other domains that are hosted there are found by looking the domain up. This holds for every plan.</p>
            </div>
          ) : null}
          <SelectField
            name="most"
            label="Offered at once"
            value={String(sites.most)}
            choices={[1, 2, 3, 4, 5, 6].map((most) => [String(most), most === 1 ? "1 site" : `${most} sites`] as const)}
          />
          <p className="text-second text-[13px]">With more than three to choose from, fewer people choose any. A site they have reviewed already is passed over.</p>
        </div>
      )}
    </Sentence>
  );
}
