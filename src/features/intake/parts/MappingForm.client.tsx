"use client";
import { EVENT_TYPES, type FeedMapping, valueAt } from "@/core/intake/events";
import { FIELD_HINTS, FIELDS } from "@/core/intake/fields";
import { ActionForm } from "@/ui/ActionForm.client";
import { saveMapping } from "../feedActions";

/** Where each field is in a delivery, beside what the last one really held. */
export function MappingForm({
  slug,
  id,
  mapping,
  sample,
  paths,
  names,
}: {
  slug: string;
  id: string;
  mapping: FeedMapping;
  sample: unknown;
  paths: { path: string; value: string }[];
  names: string[];
}) {
  const options = (
    <datalist id="delivery-paths">
      {paths.map(({ path, value }) => (
        <option key={path} value={path}>
          {value.slice(0, 40)}
        </option>
      ))}
    </datalist>
  );
  const held = (path: string | null | undefined) => (sample && path ? valueAt(sample, path) : "");
  const row = (name: string, label: string, value: string, hint: string) => (
    <tr key={name} className="max-sm:block max-sm:py-2">
      <th scope="row" className="py-1 pr-4 text-left font-normal max-sm:block" title={hint}>
        {label}
      </th>
      <td className="py-1 pr-4 max-sm:block">
        <input
          name={name}
          list="delivery-paths"
          defaultValue={value}
          aria-label={`Where to find ${label}`}
          className="field px-2 py-1 font-mono text-[13px]"
          autoComplete="off"
          spellCheck={false}
        />
      </td>
      <td className="text-second max-w-[240px] truncate py-1 max-sm:block">
        {held(value) || (sample ? "nothing here" : "")}
      </td>
    </tr>
  );
  return (
    <ActionForm action={saveMapping.bind(null, slug, id)}>
      {({ pending }) => (
        <>
          {options}
          <table className="w-full border-collapse">
            <thead className="text-second text-left text-[13px] max-sm:sr-only">
              <tr>
                <th className="w-[150px] py-1 font-medium">What</th>
                <th className="w-[320px] py-1 font-medium">Where to find it</th>
                <th className="py-1 font-medium">In the last delivery</th>
              </tr>
            </thead>
            <tbody>
              {row("type", "kind of event", mapping.type, "Its name, such as visit.finished")}
              {row("at", "time of the event", mapping.at ?? "", "When it happened")}
              {FIELDS.filter((field) => field !== "outcome" && field !== "visit time").map((field) =>
                row(`field ${field}`, field, mapping.fields[field] ?? "", FIELD_HINTS[field]),
              )}
            </tbody>
          </table>
          {names.length > 0 ? (
            <>
              <h3 className="mt-5 mb-1 font-semibold">What the events mean</h3>
              <ul className="space-y-1.5">
                {names.map((name) => (
                  <li key={name} className="flex flex-wrap items-center gap-3">
                    <code className="min-w-[180px]">{name}</code>
                    <select
                      name={`type ${name}`}
                      defaultValue={mapping.types[name] ?? ""}
                      aria-label={`What ${name} means`}
                      className="field w-auto py-1"
                    >
                      <option value="">guess from its name</option>
                      {EVENT_TYPES.map((type) => (
                        <option key={type}>{type}</option>
                      ))}
                      <option>ignore</option>
                    </select>
                  </li>
                ))}
              </ul>
            </>
          ) : null}
          <button type="submit" className="button mt-4" disabled={pending}>
            {pending ? "Saving…" : "Save mapping"}
          </button>
        </>
      )}
    </ActionForm>
  );
}
