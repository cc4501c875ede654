"use client";

import { useState } from "react";
import { ActionForm } from "@/ui/ActionForm.client";
import { Dialog } from "@/ui/Dialog.client";
import { FileField } from "@/ui/FileField.client";
import { bringCalendar, createFeed, saveFeed } from "../feedActions";

type Named = { id: string; name: string };
type Setting = { branches: Named[]; services: Named[] };

const KINDS = {
  webhook: { name: "Webhook", says: "Your job or booking software tells Estima about each event." },
  calendar: { name: "Calendar", says: "An iCalendar address or file, checked every half hour." },
  "drop-off": { name: "Drop-off page", says: "A private link where your team adds a list or one person." },
  "end of day": { name: "End-of-day file", says: "A CSV or Excel file we fetch once a day." },
};
type Kind = keyof typeof KINDS;

function Choice({
  name,
  label,
  list,
  empty,
  value,
}: {
  name: string;
  label: string;
  list: Named[];
  empty: string;
  value?: string | null;
}) {
  return (
    <div>
      <label className="label" htmlFor={`feed-${name}`}>
        {label}
      </label>
      <select id={`feed-${name}`} name={name} className="field" defaultValue={value ?? ""}>
        <option value="">{empty}</option>
        {list.map(({ id, name: words }) => (
          <option key={id} value={id}>
            {words}
          </option>
        ))}
      </select>
    </div>
  );
}

/** A button that opens the form for a new feed. */
export function AddFeed({ slug, branches, services }: Setting & { slug: string }) {
  const [open, setOpen] = useState(false);
  const [kind, setKind] = useState<Kind>("webhook");
  return (
    <>
      <button type="button" className="button-main" onClick={() => setOpen(true)}>
        Connect a feed
      </button>
      <Dialog open={open} onOpenChange={setOpen} title="Connect a feed">
        <ActionForm action={createFeed.bind(null, slug)} className="space-y-4">
          {({ pending, error }) => (
            <>
              <fieldset className="space-y-1">
                <legend className="label">How visits come in</legend>
                {(Object.keys(KINDS) as Kind[]).map((each) => (
                  <label key={each} className="flex min-h-[32px] items-baseline gap-2.5">
                    <input
                      type="radio"
                      name="kind"
                      value={each}
                      checked={kind === each}
                      onChange={() => setKind(each)}
                      className="size-[16px] translate-y-[2px]"
                    />
                    <span>
                      <b>{KINDS[each].name}.</b> <span className="text-second">{KINDS[each].says}</span>
                    </span>
                  </label>
                ))}
              </fieldset>
              <div>
                <label className="label" htmlFor="feed-name">
                  Name
                </label>
                <input
                  id="feed-name"
                  name="name"
                  className="field"
                  autoComplete="off"
                  placeholder={kind === "drop-off" ? "Front desk" : "Appointment book"}
                />
                {error("name")}
              </div>
              {kind === "calendar" || kind === "end of day" ? (
                <div>
                  <label className="label" htmlFor="feed-url">
                    Address{kind === "calendar" ? ", or leave blank to upload a file" : ""}
                  </label>
                  <input
                    id="feed-url"
                    name="url"
                    className="field"
                    autoComplete="off"
                    inputMode="url"
                    placeholder="https://"
                  />
                  {error("url")}
                </div>
              ) : null}
              <div className="grid gap-4 sm:grid-cols-2">
                {branches.length > 1 ? (
                  <Choice
                    name="branchId"
                    label="Branch if none is given"
                    list={branches}
                    empty={`the first, ${branches[0].name}`}
                  />
                ) : null}
                <Choice name="serviceId" label="Service if none is given" list={services} empty="not specified" />
              </div>
              <button type="submit" className="button-main" disabled={pending}>
                {pending ? "Connecting…" : "Connect"}
              </button>
            </>
          )}
        </ActionForm>
      </Dialog>
    </>
  );
}

type FeedValues = {
  id: string;
  kind: Kind;
  name: string;
  branchId: string | null;
  serviceId: string | null;
  url: string | null;
};

/** The setting of one feed. */
export function FeedSetting({ slug, feed, branches, services }: Setting & { slug: string; feed: FeedValues }) {
  return (
    <ActionForm action={saveFeed.bind(null, slug, feed.id)} className="space-y-4">
      {({ pending, error }) => (
        <>
          <div>
            <label className="label" htmlFor="feed-name">
              Name
            </label>
            <input id="feed-name" name="name" className="field" defaultValue={feed.name} autoComplete="off" />
            {error("name")}
          </div>
          {feed.kind === "calendar" || feed.kind === "end of day" ? (
            <div>
              <label className="label" htmlFor="feed-url">
                Address
              </label>
              <input
                id="feed-url"
                name="url"
                className="field"
                defaultValue={feed.url ?? ""}
                autoComplete="off"
                inputMode="url"
              />
              {error("url")}
            </div>
          ) : null}
          <div className="space-y-4">
            {branches.length > 1 ? (
              <Choice
                name="branchId"
                label={feed.kind === "drop-off" ? "Only for this branch" : "Branch if none is given"}
                list={branches}
                empty={feed.kind === "drop-off" ? "any branch" : `the first, ${branches[0].name}`}
                value={feed.branchId}
              />
            ) : null}
            <Choice
              name="serviceId"
              label="Service if none is given"
              list={services}
              empty="not specified"
              value={feed.serviceId}
            />
          </div>
          <button type="submit" className="button" disabled={pending}>
            {pending ? "Saving…" : "Save"}
          </button>
        </>
      )}
    </ActionForm>
  );
}

/** A calendar from a file. */
export function ImportCalendar({ slug, id }: { slug: string; id: string }) {
  return (
    <ActionForm action={bringCalendar.bind(null, slug, id)}>
      {({ pending, error }) => (
        <>
          <FileField id="calendar-file" name="file" label="A calendar file (.ics)" accept=".ics,text/calendar" />
          <button type="submit" className="button mt-2" disabled={pending}>
            {pending ? "Reading…" : "Import it"}
          </button>
          {error("file")}
        </>
      )}
    </ActionForm>
  );
}
