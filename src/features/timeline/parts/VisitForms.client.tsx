"use client";

import { useState } from "react";
import { ActionForm } from "@/ui/ActionForm.client";
import { DayField } from "@/ui/DayField.client";
import { Dialog } from "@/ui/Dialog.client";
import { addVisit, changeOutcome } from "../actions";

type Choice = { id: string; name: string };

/** A button that opens the form to record a visit of this person. */
export function RecordVisit({
  slug,
  personId,
  services,
  branches,
  team,
  day,
  time,
  about,
}: {
  slug: string;
  personId: string;
  services: Choice[];
  branches: Choice[];
  team: Choice[];
  day: string;
  time: string;
  about: string;
}) {
  const [requestKey, setRequestKey] = useState<string | null>(null);
  const select = (name: string, label: string, list: Choice[], none?: string) => (
    <div>
      <label className="label" htmlFor={`visit-${name}`}>
        {label}
      </label>
      <select id={`visit-${name}`} name={name} className="field">
        {none ? <option value="">{none}</option> : null}
        {list.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </select>
    </div>
  );
  return (
    <>
      <button type="button" className="button" onClick={() => setRequestKey(crypto.randomUUID())}>
        Record a visit
      </button>
      <Dialog
        open={requestKey !== null}
        onOpenChange={(open) => setRequestKey(open ? crypto.randomUUID() : null)}
        title="Record a visit"
        lead="We’ll decide straight away whether to ask, and say why."
      >
        <ActionForm action={addVisit.bind(null, slug, personId)} onDone={() => setRequestKey(null)}>
          {({ pending, error }) => (
            <>
              <input type="hidden" name="requestKey" value={requestKey ?? ""} />
              <div className="grid gap-4 sm:grid-cols-2">
                {select("serviceId", "Service", services)}
                {select("branchId", "Branch", branches)}
                {select("teamMemberId", "Team member", team, "nobody in particular")}
                <div>
                  <label className="label" htmlFor="visit-about">
                    Who or what it was about
                  </label>
                  <input id="visit-about" name="about" className="field" defaultValue={about} />
                  {error("about")}
                </div>
                <div>
                  <label className="label" htmlFor="visit-day">
                    Ended on
                  </label>
                  <DayField id="visit-day" name="day" label="Ended on" defaultValue={day} />
                </div>
                <div>
                  <label className="label" htmlFor="visit-time">
                    At
                  </label>
                  <input id="visit-time" name="time" className="field" defaultValue={time} />
                  {error("time")}
                </div>
                <div>
                  <label className="label" htmlFor="visit-outcome">
                    What happened
                  </label>
                  <select id="visit-outcome" name="outcome" className="field">
                    <option value="finished">finished</option>
                    <option value="cancelled">cancelled</option>
                    <option value="no-show">didn’t turn up</option>
                  </select>
                </div>
              </div>
              <button type="submit" className="button-main mt-5" disabled={pending}>
                {pending ? "Recording…" : "Record"}
              </button>
            </>
          )}
        </ActionForm>
      </Dialog>
    </>
  );
}

/** Sets what became of a visit, in place. */
export function OutcomeForm({ slug, visitId, outcome }: { slug: string; visitId: string; outcome: string }) {
  const choices = [
    ["finished", "it went ahead"],
    ["cancelled", "it was cancelled"],
    ["no-show", "they didn’t turn up"],
  ].filter(([value]) => value !== outcome);
  return (
    <ActionForm action={changeOutcome.bind(null, slug, visitId)} className="inline-flex flex-wrap gap-x-1">
      {({ pending }) =>
        choices.map(([value, words]) => (
          <button key={value} type="submit" name="outcome" value={value} className="button-quiet" disabled={pending}>
            {words}
          </button>
        ))
      }
    </ActionForm>
  );
}
