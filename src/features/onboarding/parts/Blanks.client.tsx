"use client";

import type { ClientDraft } from "@/core/onboarding/draft";
import { type Choice, Choose } from "@/ui/Choose.client";

type TextField = "name" | "country" | "zone" | "senderEmail" | "textNumber" | "postalAddress";

/** One blank with the line that says its effect. */
export function Blank({
  draft,
  wrong,
  change,
  name,
  label,
  says,
  choices,
  search = "Search",
}: {
  draft: ClientDraft;
  wrong: Record<string, string>;
  change: (part: Partial<ClientDraft>) => void;
  name: TextField;
  label: string;
  says: string;
  /** What it must be one of; what was kept before and is none of them is shown as it is. */
  choices?: readonly Choice[];
  /** What stands in the empty search field of choices. */
  search?: string;
}) {
  const id = `start-${name}`;
  const value = draft[name];
  const field = {
    id,
    className: "field",
    value,
    onChange: (event: { target: { value: string } }) => change({ [name]: event.target.value }),
    "aria-describedby": `${id}-says`,
    "aria-invalid": wrong[name] !== undefined,
  };
  return (
    <div>
      <label className="label" htmlFor={id}>
        {label}
      </label>
      {choices ? (
        <Choose
          id={id}
          choices={choices}
          value={value}
          onChange={(chosen) => change({ [name]: chosen })}
          search={search}
          describedBy={`${id}-says`}
          isWrong={wrong[name] !== undefined}
        />
      ) : (
        <input {...field} autoComplete="off" />
      )}
      <p id={`${id}-says`} className="text-second mt-1 text-[14px]">
        {says}
      </p>
      {wrong[name] ? (
        <p role="alert" className="text-vermilion-deep mt-1 text-[14px]">
          {wrong[name]}
        </p>
      ) : null}
    </div>
  );
}

type Row = Record<string, string>;

/** Lines of several blanks each, to which others can be added. */
export function Lines<T extends Row>({
  title,
  says,
  add,
  rows,
  fields,
  wrong,
  fresh,
  onChange,
}: {
  title: string;
  says: string;
  add: string;
  rows: T[];
  fields: { name: keyof T & string; label: string; placeholder: string }[];
  wrong: (index: number, field: string) => string | undefined;
  fresh: T;
  onChange: (rows: T[]) => void;
}) {
  return (
    <section aria-label={title}>
      <h2 className="text-[19px] font-semibold">{title}</h2>
      <p className="text-second text-[14px]">{says}</p>
      <ul className="divide-rule border-rule mt-2 divide-y border-y">
        {rows.map((row, index) => (
          <li key={index} className="grid gap-3 py-3 sm:grid-cols-4">
            {fields.map(({ name, label, placeholder }) => {
              const id = `${title}-${index}-${name}`;
              const fault = wrong(index, name);
              return (
                <div key={name}>
                  <label className="label" htmlFor={id}>
                    {label}
                  </label>
                  <input
                    id={id}
                    className="field"
                    value={row[name]}
                    placeholder={placeholder}
                    aria-invalid={fault !== undefined}
                    onChange={(event) =>
                      onChange(rows.map((one, at) => (at === index ? { ...one, [name]: event.target.value } : one)))
                    }
                    autoComplete="off"
                  />
                  {fault ? (
                    <p role="alert" className="text-vermilion-deep mt-1 text-[14px]">
                      {fault}
                    </p>
                  ) : null}
                </div>
              );
            })}
            {rows.length > 1 ? (
              <button
                type="button"
                className="button-quiet justify-self-start sm:col-span-4"
                onClick={() => onChange(rows.filter((_, at) => at !== index))}
              >
                Remove<span className="sr-only"> line {index + 1}</span>
              </button>
            ) : null}
          </li>
        ))}
      </ul>
      <button type="button" className="button mt-3" onClick={() => onChange([...rows, fresh])}>
        {add}
      </button>
    </section>
  );
}
