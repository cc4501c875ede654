import { VISIT_FIELDS } from "@/core/intake/fields";
import { sheetRow } from "@/core/intake/table";
import { sayMoment } from "@/core/time/say";
import { forecastWords } from "@/locales/intake";
import type { Forecast, Found } from "@/schema/intake";
import type { ListView } from "../listView";
import { ImportList } from "./ImportList.client";
import { ListCounts } from "./ListCounts";
import { ReadingForm } from "./ReadingForm.client";

/** A list that was read and waits for a word: what would become of its rows, and how its columns are understood. */
export function ReadyList({ view }: { view: ListView }) {
  const { intake, slug, zone, now, setting, mayAsk } = view;
  if (!intake.found || !intake.choice) return null;
  const named = ({ id, name }: { id: string; name: string }) => ({ id, name });
  return (
    <>
      {intake.forecast ? (
        <ListCounts counts={intake.forecast.counts} />
      ) : (
        <p className="lead">Answer the question below to see what would happen.</p>
      )}
      {intake.forecast ? (
        <div className="my-5">
          <ImportList
            slug={slug}
            id={intake.id}
            asked={intake.forecast.asked}
            people={intake.forecast.counts.rows}
            canAsk={mayAsk && intake.choice.matching.some((field) => field && VISIT_FIELDS.includes(field))}
          />
        </div>
      ) : null}
      <h2 className="font-title mt-6 mb-2 text-[19px] font-semibold">What’s in each column</h2>
      <ReadingForm
        key={JSON.stringify(intake.choice)}
        slug={slug}
        id={intake.id}
        found={intake.found}
        choice={intake.choice}
        services={setting.services.filter(({ retired }) => !retired).map(named)}
        branches={setting.branches.map(named)}
      />
      {intake.forecast && intake.forecast.visits.length > 0 ? (
        <WhatWouldHappen forecast={intake.forecast} found={intake.found} zone={zone} now={now} />
      ) : null}
    </>
  );
}

function WhatWouldHappen({
  forecast,
  found,
  zone,
  now,
}: {
  forecast: Forecast;
  found: Found;
  zone: string;
  now: number;
}) {
  const more = forecast.counts.visits - forecast.visits.length;
  return (
    <>
      <h2 className="font-title mt-8 mb-2 text-[19px] font-semibold">What would happen to each visit</h2>
      <div className="border-rule max-h-[420px] overflow-y-auto border-y">
        <table className="w-full border-collapse text-left">
          <thead className="sr-only">
            <tr>
              <th>Row</th>
              <th>Who</th>
              <th>Visit ended</th>
              <th>What happens</th>
            </tr>
          </thead>
          <tbody className="divide-rule divide-y">
            {forecast.visits.map((visit) => (
              <tr key={visit.row} className="max-sm:block max-sm:py-1.5">
                <td className="text-second w-[52px] py-1.5 max-sm:hidden">{sheetRow(found, visit.row)}</td>
                <td className="py-1.5 pr-4 font-semibold max-sm:block max-sm:py-0">{visit.name || "No name"}</td>
                <td className="text-second py-1.5 pr-4 whitespace-nowrap max-sm:block max-sm:py-0">
                  {sayMoment(zone, visit.endsAt, now)}
                </td>
                <td className="py-1.5 max-sm:block max-sm:py-0">{forecastWords(visit.what, zone, now)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {more > 0 ? (
        <p className="text-second mt-2 text-[14px]">{more.toLocaleString("en-GB")} more are counted on the right.</p>
      ) : null}
    </>
  );
}
