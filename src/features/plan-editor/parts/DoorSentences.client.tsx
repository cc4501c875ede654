"use client";

import { type ReactNode, useState } from "react";
import type { DoorsMode, PlanRules } from "@/core/plans/planRules";
import { Sentence } from "@/ui/Sentence.client";
import { Sortable } from "@/ui/Sortable.client";
import { Hidden, Radios, SelectField } from "./fields";
import { actionOf, type FormAction, type PlanRef } from "./planRef";

const DOOR_WORDS: Record<DoorsMode, { name: string; says: string }> = {
  open: { name: "Open", says: "Every rating sees the review sites and the private form side by side." },
  "listen first": {
    name: "Listen first",
    says: "An unhappy rating sees the private form first; the sites stay below it.",
  },
  "private only": { name: "Private only", says: "An unhappy rating sees only the private form." },
};

/** What the answer page opens, and from which rating on somebody counts as unhappy. */
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
      words={`${DOOR_WORDS[doors.mode].name}, unhappy is ${doors.threshold} of 5 and below`}
      label="What the answer page opens"
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
                Many review sites and consumer rules forbid keeping unhappy customers from writing in public. Whoever
                uses this answers for it by name.
              </p>
              <label className="label" htmlFor="acknowledgedBy">
                Who answers for it
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
    mailbox: "the first by the person’s mailbox",
  }[sites.mix];
  return (
    <Sentence
      words={`${offered.slice(0, sites.most).join(", ") || "no site yet"}; ${says}`}
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
            legend="First comes"
            value={sites.mix}
            onChange={setMix}
            choices={[
              ["order", "always the first of the list"],
              ["shares", "the site that is behind its share of all asks"],
              ["mailbox", "the site whose account their mailbox is, else the first"],
            ]}
          />
          {mix === "mailbox" ? <MailDomains sites={order} accounts={accounts} fault={error("accounts")} /> : null}
          <SelectField
            name="most"
            label="Offered at once"
            value={String(sites.most)}
            choices={[1, 2, 3, 4, 5, 6].map((most) => [String(most), most === 1 ? "1 site" : `${most} sites`] as const)}
          />
          <p className="text-second text-[13px]">
            With more than three to choose from, fewer people choose any. A site they have reviewed already is passed
            over.
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
      <p className="label">Mail domains whose mailboxes are an account there</p>
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
      <p className="text-second text-[13px]">
        Mailboxes of other domains that are hosted there are found by looking the domain up. This holds for every plan.
      </p>
    </div>
  );
}
