import type { ReactNode } from "react";

/** Small fields that the forms of a plan's sentences share. */

export type Choice = { id: string; name: string };

export function Hidden({ part, step, wording }: { part: string; step?: number; wording?: string }) {
  return (
    <>
      <input type="hidden" name="part" value={part} />
      {step === undefined ? null : <input type="hidden" name="step" value={step} />}
      {wording === undefined ? null : <input type="hidden" name="wording" value={wording} />}
    </>
  );
}

/** A whole number with its name above. */
export function NumberField({
  name,
  label,
  value,
  error,
  hint,
}: {
  name: string;
  label: string;
  value: number | null;
  error: ReactNode;
  hint?: string;
}) {
  return (
    <div className="flex-1">
      <label className="label" htmlFor={name}>
        {label}
      </label>
      <input id={name} name={name} inputMode="numeric" className="field" defaultValue={value ?? ""} />
      {hint ? <p className="text-second mt-1 text-[13px]">{hint}</p> : null}
      {error}
    </div>
  );
}

export function SelectField({
  name,
  label,
  value,
  choices,
}: {
  name: string;
  label: string;
  value: string;
  choices: readonly (readonly [string, string])[];
}) {
  return (
    <div className="flex-1">
      <label className="label" htmlFor={name}>
        {label}
      </label>
      <select id={name} name={name} className="field" defaultValue={value}>
        {choices.map(([key, says]) => (
          <option key={key} value={key}>
            {says}
          </option>
        ))}
      </select>
    </div>
  );
}

/** Ticks for any number of choices; none ticked means all, where `all` says so. */
export function Ticks({
  name,
  legend,
  choices,
  chosen,
  all,
}: {
  name: string;
  legend: string;
  choices: Choice[];
  chosen: readonly string[];
  all?: string;
}) {
  if (choices.length === 0) return null;
  return (
    <fieldset>
      <legend className="label">{legend}</legend>
      <div className="max-h-[180px] overflow-y-auto">
        {choices.map(({ id, name: says }) => (
          <label key={id} className="flex min-h-[30px] items-center gap-2">
            <input
              type="checkbox"
              name={name}
              value={id}
              defaultChecked={chosen.includes(id)}
              className="size-[17px]"
            />{" "}
            {says}
          </label>
        ))}
      </div>
      {all ? <p className="text-second text-[13px]">{all}</p> : null}
    </fieldset>
  );
}

/** One of several, each with what it means. */
export function Radios({
  name,
  legend,
  value,
  choices,
  onChange,
}: {
  name: string;
  legend: string;
  value: string;
  choices: readonly (readonly [string, string, string?])[];
  onChange?: (value: string) => void;
}) {
  return (
    <fieldset className="space-y-1.5">
      <legend className="label">{legend}</legend>
      {choices.map(([key, says, more]) => (
        <label key={key} className="flex min-h-[28px] gap-2.5">
          <input
            type="radio"
            name={name}
            value={key}
            defaultChecked={value === key}
            onChange={() => onChange?.(key)}
            className="mt-1.5"
          />
          <span>
            {more ? <b>{says}.</b> : says} {more}
          </span>
        </label>
      ))}
    </fieldset>
  );
}
