"use client";

import { type ReactNode, useState } from "react";
import type { DoorsMode, PlanRules } from "@/core/plans/planRules";
import { Sentence } from "@/ui/Sentence.client";
import { Sortable } from "@/ui/Sortable.client";
import { Hidden, Radios, SelectField } from "./fields";
import { actionOf, type FormAction, type PlanRef } from "./planRef";

const DOOR_WORDS: Record<DoorsMode, { name: string; says: string }> = {
  open: { name: "Open", says: "Everyone sees the review sites and the private form side by side." },
  "listen first": {
    name: "Listen first",
    says: "Unhappy customers see the private form first, with the sites below it.",
  },
  "private only": { name: "Private only", says: "Unhappy customers only see the private form." },
};

/** Doors, and from which rating on somebody counts as unhappy. */
export function DoorsSentence({
  action,
  doors,
}: {
  /** What keeps it; null where it may not be changed. */
  action: FormAction | null;
  doors: PlanRules["doors"];
}) {
  const [mode, setMode] = useState<string>(doors.mode);
  return (
    <Sentence
      words={`${DOOR_WORDS[doors.mode].name}, with ${doors.threshold} of 5 or lower counted as unhappy`}
      label="Doors"
      id="doors"
      action={action}
    >
      {(error) => (
        <div className="space-y-3">
          <Hidden part="doors" />
          <Radios
            name="mode"
            legend="Doors"
            value={doors.mode}
            onChange={setMode}
            choices={(Object.keys(DOOR_WORDS) as DoorsMode[]).map(
              (value) => [value, DOOR_WORDS[value].name, DOOR_WORDS[value].says] as const,
            )}
          />
          {mode === "private only" ? (
            <div className="bg-ochre-tint text-ochre-deep rounded-[9px] p-3 text-[14px]">
              <p className="mb-2">
                Many review sites and consumer laws forbid steering unhappy customers away from public reviews. If you
                use this, someone has to take responsibility by name.
              </p>
              <label className="label" htmlFor="acknowledgedBy">
                Person responsible
              </label>
              <input
                id="acknowledgedBy"
                name="acknowledgedBy"
                className="field"
                defaultValue={doors.acknowledgedBy ?? ""}
              />
              {error("acknowledgedBy")}
            </div>
          ) : null}
          <SelectField
            name="threshold"
            label="Ratings that count as unhappy"
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
export function SitesSentence({
  plan,
  sites,
  known,
  accounts,
}: {
  plan: PlanRef;
  sites: PlanRules["sites"];
  known: string[];
  accounts: Record<string, string[]>;
}) {
  const [order, setOrder] = useState([
    ...sites.order.filter((site) => known.includes(site)),
    ...known.filter((site) => !sites.order.includes(site)),
  ]);
  const [mix, setMix] = useState<string>(sites.mix);
  const offered = order.filter((site) => !sites.leftOut?.includes(site));
  const says = {
    order: `always ${offered[0] ?? "none"} first`,
    shares: `the first by share (${Object.entries(sites.shares)
      .map(([site, share]) => `${site} ${share}`)
      .join(", ")})`,
    mailbox: "the first going by the person’s email address",
  }[sites.mix];
  return (
    <Sentence
      words={`${offered.slice(0, sites.most).join(", ") || "no sites yet"}; ${says}`}
      label="Review sites"
      id="sites"
      action={actionOf(plan)}
    >
      {(error) => (
        <div className="space-y-3">
          <Hidden part="sites" />
          <input type="hidden" name="asksOffered" value="yes" />
          {order.map((site) => (
            <input key={site} type="hidden" name="order" value={site} />
          ))}
          <div>
            <p className="label">Offer these, in this order</p>
            {order.length === 0 ? <p className="text-second">No branch has a review page yet.</p> : null}
            <Sortable
              label="Review sites in order"
              onOrder={setOrder}
              items={order.map((site) => ({
                key: site,
                name: site,
                content: (
                  <span className="flex items-center justify-between gap-2">
                    <label className="flex min-h-[28px] items-center gap-2">
                      <input type="checkbox" name="offered" value={site} defaultChecked={offered.includes(site)} />
                      {site}
                    </label>
                    {mix === "shares" ? (
                      <input
                        name={`share ${site}`}
                        aria-label={`Share of ${site}`}
                        inputMode="numeric"
                        className="field !w-[76px] !py-1"
                        defaultValue={sites.shares[site] ?? ""}
                      />
                    ) : null}
                  </span>
                ),
              }))}
            />
            {error("offered")}
            {error("shares")}
          </div>
          <Radios
            name="mix"
            legend="Which comes first"
            value={sites.mix}
            onChange={setMix}
            choices={[
              ["order", "always the top one"],
              ["shares", "the one that’s had less than its share"],
              ["mailbox", "the site where their email address suggests an account, otherwise the top one"],
            ]}
          />
          {mix === "mailbox" ? <MailDomains sites={order} accounts={accounts} fault={error("accounts")} /> : null}
          <SelectField
            name="most"
            label="How many to offer"
            value={String(sites.most)}
            choices={[1, 2, 3, 4, 5, 6].map((most) => [String(most), most === 1 ? "1 site" : `${most} sites`] as const)}
          />
          <p className="text-second text-[13px]">
            If you offer more than three, fewer people choose any. Sites they’ve already reviewed are skipped.
          </p>
        </div>
      )}
    </Sentence>
  );
}

/** Whose mailboxes are accounts of which site. */
function MailDomains({
  sites,
  accounts,
  fault,
}: {
  sites: string[];
  accounts: Record<string, string[]>;
  fault: ReactNode;
}) {
  return (
    <div className="space-y-2">
      <p className="label">Email domains that mean someone has an account there</p>
      {sites.map((site) => (
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
      {fault}
      <p className="text-second text-[13px]">We also look up who hosts other domains. This applies to every plan.</p>
    </div>
  );
}
