"use client";
import { sayPrice } from "@/core/money";
import { sayFigure, WEEKDAYS } from "@/core/time/say";
import { sayHours, sayWeek } from "@/core/time/sayHours";
import type { WeekHours } from "@/core/time/sendHours";
import { Sentence } from "@/ui/Sentence.client";
import { changeClientRules, changeHours } from "../clientActions";
import { Hidden, NumberField, Radios } from "./fields";

/** What holds for every plan of a client. */

type Props = { slug: string; mayChange: boolean };

const actionOf = ({ slug, mayChange }: Props) => (mayChange ? changeClientRules.bind(null, slug) : null);

export function RestSentence({ days, ...who }: Props & { days: number }) {
  return (
    <Sentence
      words={days === 0 ? "no longer than each plan’s own rest" : sayFigure(days, "day")}
      label="Rest across plans"
      action={actionOf(who)}
    >
      {(error) => (
        <>
          <Hidden part="rest" />
          <NumberField
            name="restDays"
            label="Days"
            value={days}
            error={error("restDays")}
            hint="Nobody is asked within this many days of being asked by another plan or leaving a review. 0 means only each plan’s own rest applies."
          />
        </>
      )}
    </Sentence>
  );
}

export function ConsentSentence({ needed, ...who }: Props & { needed: boolean }) {
  return (
    <Sentence
      words={needed ? "only people who’ve agreed" : "everyone who hasn’t said no"}
      label="Consent"
      action={actionOf(who)}
    >
      {() => (
        <>
          <Hidden part="consent" />
          <Radios
            name="needsConsent"
            legend="Send messages to"
            value={needed ? "yes" : "no"}
            choices={[
              ["no", "everyone who hasn’t said no"],
              ["yes", "only people with recorded consent"],
            ]}
          />
        </>
      )}
    </Sentence>
  );
}

export function GapSentence({ minutes, ...who }: Props & { minutes: number }) {
  const words = minutes % 60 === 0 ? sayFigure(minutes / 60, "hour") : sayFigure(minutes, "minute");
  return (
    <Sentence words={words} label="Minimum gap between messages" action={actionOf(who)}>
      {(error) => (
        <>
          <Hidden part="gap" />
          <NumberField
            name="gapMinutes"
            label="Minutes"
            value={minutes}
            error={error("gapMinutes")}
            hint="Between any two messages to the same person, across all plans."
          />
        </>
      )}
    </Sentence>
  );
}

const most = (texts: number | null, emails: number | null, none: string) =>
  texts === null && emails === null
    ? none
    : [
        texts === null ? "unlimited texts" : `at most ${sayFigure(texts, "text")}`,
        emails === null ? "unlimited emails" : `at most ${sayFigure(emails, "email")}`,
      ].join(", ");

export function CeilingSentence({ texts, emails, ...who }: Props & { texts: number | null; emails: number | null }) {
  return (
    <Sentence words={most(texts, emails, "as many as are due")} label="Hourly limit" action={actionOf(who)}>
      {(error) => (
        <>
          <Hidden part="ceiling" />
          <div className="flex gap-2">
            <NumberField name="textsAnHour" label="Texts" value={texts} error={error("textsAnHour")} />
            <NumberField name="emailsAnHour" label="Emails" value={emails} error={error("emailsAnHour")} />
          </div>
          <p className="text-second mt-1 text-[13px]">
            Leave blank for no limit. Anything over the limit goes out as soon as there’s room.
          </p>
        </>
      )}
    </Sentence>
  );
}

export function AllowanceSentence({
  texts,
  emails,
  leavesOut,
  ...who
}: Props & { texts: number | null; emails: number | null; leavesOut: boolean }) {
  return (
    <Sentence words={most(texts, emails, "no limit")} label="Monthly allowance" action={actionOf(who)}>
      {(error) => (
        <div className="space-y-3">
          <Hidden part="allowance" />
          <div className="flex gap-2">
            <NumberField name="textsAMonth" label="Text parts" value={texts} error={error("textsAMonth")} />
            <NumberField name="emailsAMonth" label="Emails" value={emails} error={error("emailsAMonth")} />
          </div>
          <p className="text-second text-[13px]">
            Leave blank for no limit. At the limit, messages wait until next month. It shows up on Today, and we email
            everyone who can raise it.
          </p>
          <Radios
            name="usedUp"
            legend="Once both are used up, new visits"
            value={leavesOut ? "leave out" : "hold"}
            choices={[
              ["hold", "are asked about next month"],
              ["leave out", "are left out"],
            ]}
          />
        </div>
      )}
    </Sentence>
  );
}

/** Whose public holidays each branch keeps, and which regions there are to choose from. */
export type HolidayChoice = {
  branches: { id: string; name: string; region: string | null }[];
  regions: { code: string; name: string }[];
};

/** When one channel may leave, day by day. */
export function HoursSentence({
  channel,
  week,
  closedDates,
  keepsHolidays,
  holidays,
  slug,
  mayChange,
}: Props & {
  channel: "text" | "email";
  week: WeekHours;
  closedDates: string[];
  keepsHolidays: boolean;
  holidays: HolidayChoice;
}) {
  return (
    <Sentence
      words={sayWeek(week)}
      label={`When ${channel === "text" ? "texts" : "emails"} can go out`}
      action={mayChange ? changeHours.bind(null, slug) : null}
      id={`hours-${channel}`}
    >
      {(error) => (
        <div className="space-y-1.5">
          <input type="hidden" name="channel" value={channel} />
          {WEEKDAYS.map((name, day) => (
            <div key={name}>
              <div className="grid grid-cols-[92px_1fr] items-center gap-2">
                <label htmlFor={`${channel}-day-${day}`}>{name}</label>
                <input
                  id={`${channel}-day-${day}`}
                  name={`day-${day}`}
                  className="field !py-1"
                  placeholder="nothing goes out"
                  defaultValue={week[day]?.length ? sayHours(week[day]) : ""}
                />
              </div>
              {error(`day-${day}`)}
            </div>
          ))}
          <p className="text-second text-[13px]">
            Like 9:00 to 12:30 and 14:00 to 19:00. Leave a day blank if nothing should go out.
          </p>
          <label className="flex items-center gap-2 pt-1">
            <input type="checkbox" name="keepsHolidays" defaultChecked={keepsHolidays} className="size-4" />
            Send nothing on public holidays
          </label>
          {holidays.regions.length > 0
            ? holidays.branches.map(({ id, name, region }) => (
                <label key={id} className="flex flex-wrap items-baseline gap-x-2 pl-6 text-[14px]">
                  {name} follows the holidays of
                  <select name={`region-${id}`} defaultValue={region ?? ""} className="field w-auto !py-1">
                    {region ? null : <option value="">the whole country</option>}
                    {holidays.regions.map(({ code, name: words }) => (
                      <option key={code} value={code}>
                        {words}
                      </option>
                    ))}
                  </select>
                </label>
              ))
            : null}
          <label className="label pt-1" htmlFor="closedDates">
            Other closed days
          </label>
          <input
            id="closedDates"
            name="closedDates"
            className="field"
            placeholder="2026-12-24, 2026-12-31"
            defaultValue={closedDates.join(", ")}
          />
          {error("closedDates")}
        </div>
      )}
    </Sentence>
  );
}

export function PriceSentence({
  price,
  mediaPrice,
  currency,
  ...who
}: Props & { price: number; mediaPrice: number; currency: string }) {
  return (
    <Sentence
      words={`${sayPrice(price, currency)}, and a text with a picture ${sayPrice(mediaPrice, currency)}`}
      label="What texts cost"
      action={actionOf(who)}
    >
      {(error) => (
        <>
          <Hidden part="price" />
          <div className="flex gap-2">
            <div className="flex-1">
              <label className="label" htmlFor="price">
                Price per text part
              </label>
              <input id="price" name="price" inputMode="decimal" className="field" defaultValue={price / 1000} />
              {error("price")}
            </div>
            <div className="flex-1">
              <label className="label" htmlFor="mediaPrice">
                Price with a picture
              </label>
              <input
                id="mediaPrice"
                name="mediaPrice"
                inputMode="decimal"
                className="field"
                defaultValue={mediaPrice / 1000}
              />
              {error("mediaPrice")}
            </div>
            <div className="flex-1">
              <label className="label" htmlFor="currency">
                Currency
              </label>
              <select id="currency" name="currency" className="field" defaultValue={currency}>
                {["GBP", "EUR", "USD", "CAD", "AUD", "NZD", "CHF"].map((code) => (
                  <option key={code}>{code}</option>
                ))}
              </select>
            </div>
          </div>
          <p className="text-second mt-1 text-[13px]">
            Used for cost estimates in rehearsals. We don’t charge anything here.
          </p>
        </>
      )}
    </Sentence>
  );
}
