"use client";

import { useCallback, useMemo, useState, useTransition } from "react";
import { type ClientDraft, withTrade } from "@/core/onboarding/draft";
import { TRADES } from "@/core/onboarding/trades";
import { exampleOf } from "@/core/plans/example";
import { STARTERS } from "@/core/plans/starters";
import { weekOf } from "@/core/time/sendHours";
import { type Choice, Choose } from "@/ui/Choose.client";
import { ColourField } from "@/ui/ColourField.client";
import { lost } from "@/ui/lost.client";
import { PlanRuler } from "@/ui/ruler/PlanRuler.client";
import { makeClient, saveDraft } from "../actions";
import { Blank, Lines } from "./Blanks.client";
import { Hours, type Part, Services, useKept, WaysIn } from "./DraftParts.client";

type Props = {
  slug: string;
  id: string;
  draft: ClientDraft;
  anchorAt: number;
  zones: readonly Choice[];
  countries: { value: string; words: string }[];
};

/** One page of blanks. What is typed is kept as one goes; the plan beside follows it. */
export function StartForm({ slug, id, draft: kept, anchorAt, zones, countries }: Props) {
  const [draft, setDraft] = useState(kept);
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const [says, setSays] = useState("");
  const [pending, start] = useTransition();
  const change = (part: Partial<ClientDraft>) => setDraft((before) => ({ ...before, ...part }));
  const save = useCallback((typed: ClientDraft) => saveDraft(slug, id, typed), [slug, id]);
  useKept(draft, save, setSays);
  const submit = () =>
    start(async () => {
      const result = await makeClient(slug, id, draft).catch(
        lost({
          ok: false as const,
          message: "The connection dropped. What you typed is safe; try again.",
        }),
      );
      if (result.ok) return;
      setWrong(("fields" in result && result.fields) || {});
      setSays(result.message);
      document.querySelector<HTMLElement>("[aria-invalid=true]")?.focus();
    });
  const blank = { draft, wrong, change };
  return (
    <form
      className="space-y-9"
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      <section className="grid gap-4 sm:grid-cols-2" aria-label="The business">
        <div>
          <label className="label" htmlFor="start-trade">
            Trade
          </label>
          <Choose
            id="start-trade"
            choices={TRADES.map(({ key, name }) => ({ value: key, words: name }))}
            value={draft.trade}
            onChange={(trade) => setDraft(withTrade(draft, trade))}
            search="Search trades"
          />
          <p className="text-second mt-1 text-[14px]">
            Fills in typical services and a plan. You can change any of it.
          </p>
        </div>
        <Blank {...blank} name="name" label="Name" says="The name customers know. Every message is signed with it." />
        <Blank
          {...blank}
          name="country"
          label="Country"
          says="Sets the phone number format and public holidays."
          choices={countries}
          search="Search countries"
        />
        <Blank
          {...blank}
          name="zone"
          label="Time zone"
          says="Used for send hours and dates."
          choices={zones}
          search="Search time zones"
        />
        <Blank {...blank} name="senderEmail" label="Sender email" says="We collect replies to this address too." />
        <Blank
          {...blank}
          name="textNumber"
          label="Text sender number"
          says="Clients of the same agency can share a number."
        />
        <div className="sm:col-span-2">
          <Blank {...blank} name="postalAddress" label="Postal address" says="Shown at the bottom of every email." />
        </div>
        <div className="sm:col-span-2">
          <ColourField
            id="start-colour"
            name="colour"
            label="Colour"
            says="For buttons customers see."
            value={draft.colour}
            onChange={(colour) => change({ colour })}
          />
        </div>
      </section>
      <Lines
        title="Branches"
        says="Each address of the business, with its page on a review site."
        add="Add a branch"
        rows={draft.branches}
        fields={[
          { name: "name", label: "Branch", placeholder: draft.branches.length === 1 ? draft.name || "Name" : "Name" },
          { name: "address", label: "Address", placeholder: "if different from above" },
          { name: "site", label: "Review site", placeholder: "for example, Waypost" },
          { name: "url", label: "Link to its page", placeholder: "https://" },
        ]}
        wrong={(index, field) =>
          wrong[`branches.${index}.${field}`] ?? (index === 0 && field === "name" ? wrong.branches : undefined)
        }
        fresh={{ name: "", address: "", site: "", url: "" }}
        onChange={(branches) => change({ branches })}
      />
      <Services draft={draft} wrong={wrong.services} change={change} />
      <section aria-label="Team">
        <h2 className="text-[19px] font-semibold">Team</h2>
        <label className="sr-only" htmlFor="start-team">
          Team, one name per line
        </label>
        <textarea
          id="start-team"
          className="field mt-2"
          rows={3}
          value={draft.team}
          onChange={(event) => change({ team: event.target.value })}
          placeholder="One name per line"
        />
        <p className="text-second mt-1 text-[14px]">
          So praise reaches the people who earned it. You can leave this blank.
        </p>
      </section>
      <WaysIn draft={draft} wrong={wrong.calendarUrl} change={change} />
      <Hours draft={draft} wrong={wrong.sendHours} change={change} />
      <PlanChoice draft={draft} change={change} anchorAt={anchorAt} />
      <div className="flex flex-wrap items-center gap-4">
        <button type="submit" className="button-main min-h-[44px] px-6" disabled={pending}>
          {pending ? "One moment…" : "Create client"}
        </button>
        <span className="text-second" role="status">
          {says}
        </span>
      </div>
      <p className="text-second">
        Nothing goes out yet. Next we check the plan, and it won’t send anything until you start it.
      </p>
    </form>
  );
}

function PlanChoice({ draft, change, anchorAt }: Part & { anchorAt: number }) {
  const starter = STARTERS.find(({ key }) => key === draft.plan) ?? STARTERS[0];
  const rules = useMemo(() => starter.rules(["do-not-ask"]), [starter]);
  const week = useMemo(
    () => (draft.closes > draft.opens ? weekOf(draft.days, draft.opens, draft.closes) : weekOf([], 0, 0)),
    [draft.days, draft.opens, draft.closes],
  );
  const calendar = useMemo(
    () => ({ zone: zoneOr(draft.zone), hours: { text: week, email: week }, closedDays: [] }),
    [draft.zone, week],
  );
  const marks = exampleOf(rules, anchorAt, { ...calendar, closedDays: new Set<number>() }, 240);
  return (
    <section aria-label="The plan">
      <h2 className="text-[19px] font-semibold">The plan</h2>
      <div className="mt-2 max-w-[420px]">
        <label className="sr-only" htmlFor="start-plan">
          Plan
        </label>
        <select
          id="start-plan"
          className="field"
          value={draft.plan}
          onChange={(event) => change({ plan: event.target.value })}
        >
          {STARTERS.map(({ key, name }) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      </div>
      <p className="text-second mt-1 mb-2">{starter.says}</p>
      {marks.length > 0 ? (
        <PlanRuler
          rules={rules}
          calendar={calendar}
          anchorAt={anchorAt}
          anchorName="visit"
          gapMinutes={240}
          current={0}
          hrefs={rules.steps.map(() => "#start-plan")}
          save={null}
        />
      ) : (
        <p className="text-ochre-deep">With these hours nothing would ever go out.</p>
      )}
    </section>
  );
}

function zoneOr(zone: string): string {
  try {
    return new Intl.DateTimeFormat("en-GB", { timeZone: zone }).resolvedOptions().timeZone;
  } catch {
    return "UTC";
  }
}
