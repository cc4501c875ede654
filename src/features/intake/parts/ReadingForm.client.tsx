"use client";

import { startTransition, useActionState, useRef } from "react";
import { FIELD_HINTS, FIELDS, VISIT_FIELDS } from "@/core/intake/fields";
import { capital } from "@/core/time/say";
import type { Found, ReadingChoice } from "@/schema/intake";
import type { ActionResult } from "@/ui/result";
import { chooseList } from "../actions";

type Named = { id: string; name: string };

/**
 * How a list is read: each column with its cells and what it holds, and the few questions that the cells cannot
 * answer. Every change is looked at at once.
 */
export function ReadingForm({
  slug,
  id,
  found,
  choice,
  services,
  branches,
}: {
  slug: string;
  id: string;
  found: Found;
  choice: ReadingChoice;
  services: Named[];
  branches: Named[];
}) {
  const form = useRef<HTMLFormElement>(null);
  const [result, submit, pending] = useActionState(
    async (before: ActionResult, data: FormData) => chooseList(slug, id, before, data),
    null,
  );
  const change = () => {
    if (form.current) {
      const data = new FormData(form.current);
      startTransition(() => submit(data));
    }
  };
  const hasVisits = choice.matching.some((field) => field && VISIT_FIELDS.includes(field));
  const select = (name: string, label: string, value: string, choices: [string, string][]) => (
    <label className="inline-flex flex-wrap items-baseline gap-x-1.5">
      <span>{label}</span>
      <select name={name} defaultValue={value} className="field w-auto py-1 font-semibold">
        {choices.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
  return (
    <form ref={form} onChange={change} aria-busy={pending}>
      <Columns found={found} matching={choice.matching} />
      <div className="mt-4 flex flex-wrap gap-x-6 gap-y-3">
        <OrderChoice order={choice.order} />
        {hasVisits ? (
          <>
            {select("kind", "Each visit is", choice.kind, [
              ["appointment", "an appointment"],
              ["job", "a job"],
              ["invoice", "a paid invoice"],
              ["order", "an order"],
              ["stay", "a stay"],
            ])}
            {select("undated", "Rows without a date", choice.undated, [
              ["today", "count as a visit today"],
              ["no visit", "only add the person"],
            ])}
            {select("serviceId", "Service if none is given", choice.serviceId ?? "", [
              ["", "not said"],
              ...services.map(({ id: key, name }): [string, string] => [key, name]),
            ])}
            {branches.length > 1 ? (
              select("branchId", "Branch if none is given", choice.branchId ?? "", [
                ["", branches[0].name],
                ...branches.slice(1).map(({ id: key, name }): [string, string] => [key, name]),
              ])
            ) : (
              <input type="hidden" name="branchId" value={choice.branchId ?? ""} />
            )}
          </>
        ) : (
          <>
            <input type="hidden" name="kind" value={choice.kind} />
            <input type="hidden" name="undated" value={choice.undated} />
          </>
        )}
        {select("sharedAddress", "A known address with a different first name is", choice.sharedAddress, [
          ["another person", "another person in the household"],
          ["same person", "the same person"],
        ])}
      </div>
      <p role="status" className="text-second mt-2 min-h-[24px] text-[14px]">
        {pending ? "Checking the whole list again…" : result && !result.ok ? result.message : ""}
      </p>
    </form>
  );
}

/** Each column with its first cells, and what it holds. */
function Columns({ found, matching }: { found: Found; matching: ReadingChoice["matching"] }) {
  return (
    <div className="sheet overflow-x-auto">
      <table className="w-full border-collapse text-left text-[14px]">
        <thead>
          <tr className="border-rule border-b align-top">
            {found.headers.map((header, index) => (
              <th key={header} className="min-w-[150px] px-3 py-2.5 font-normal">
                <span className="text-second block truncate text-[13px]" title={header}>
                  {header}
                </span>
                <select
                  name="column"
                  aria-label={`What’s in “${header}”`}
                  defaultValue={matching[index] ?? ""}
                  className={`field mt-1 px-2 py-1 ${matching[index] ? "font-semibold" : "text-second"}`}
                >
                  <option value="">ignored</option>
                  {FIELDS.map((field) => (
                    <option key={field} value={field} title={FIELD_HINTS[field]}>
                      {field}
                    </option>
                  ))}
                </select>
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="divide-rule divide-y">
          {found.samples.map((row, at) => (
            <tr key={at}>
              {row.map((cell, index) => (
                <td
                  key={found.headers[index]}
                  className={`max-w-[220px] truncate px-3 py-1.5 ${matching[index] ? "" : "text-second"}`}
                  title={cell}
                >
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function OrderChoice({ order }: { order: ReadingChoice["order"] }) {
  if (order !== null) {
    return (
      <label className="inline-flex items-baseline gap-1.5">
        Dates have the
        <select name="order" defaultValue={order} className="field w-auto py-1 font-semibold">
          <option value="day first">{"day first, 24/11"}</option>
          <option value="month first">{"month first, 11/24"}</option>
        </select>
      </label>
    );
  }
  return (
    <fieldset className="border-ochre bg-ochre-tint rounded-[9px] border px-4 py-2">
      <legend className="sr-only">Order of dates</legend>
      <b>{capital("every date here could be read either way.")}</b> Which comes first?{" "}
      {(["day first", "month first"] as const).map((each) => (
        <label key={each} className="ml-3 inline-flex min-h-[28px] items-center gap-1.5">
          <input type="radio" name="order" value={each} className="size-[17px]" /> {each}
        </label>
      ))}
    </fieldset>
  );
}
