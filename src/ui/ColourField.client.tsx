"use client";

import { useState } from "react";
import { contrast, inkOn } from "@/core/words/contrast";

/** Deep, calm colours on which white is read well, and two light ones. */
const PALETTE = [
  ["#2F5D50", "Pine"],
  ["#1F5F7A", "Sea"],
  ["#27408B", "Ink blue"],
  ["#5B2A86", "Violet"],
  ["#6B1F55", "Mulberry"],
  ["#9B2335", "Cherry"],
  ["#A4461F", "Brick"],
  ["#7A5A00", "Ochre"],
  ["#4A5A23", "Olive"],
  ["#374151", "Slate"],
  ["#F2C14E", "Honey"],
  ["#BFD7EA", "Sky"],
] as const;

const HEX = /^#[0-9a-f]{6}$/i;

/** A colour from a small palette or typed, with how well words on it are read. */
export function ColourField({
  id,
  name,
  label,
  says,
  value,
  onChange,
  extra = [],
  sample = "Write a review",
}: {
  id: string;
  name: string;
  label: string;
  says?: string;
  value: string;
  onChange: (colour: string) => void;
  /** Colours of one's own, first in the row. */
  extra?: readonly (readonly [string, string])[];
  /** Words shown on the colour; null where it is itself the colour of words. */
  sample?: string | null;
}) {
  const [typed, setTyped] = useState(value);
  const [kept, setKept] = useState(value);
  if (kept !== value) {
    setKept(value);
    setTyped(value);
  }
  const set = (colour: string) => {
    setTyped(colour);
    if (HEX.test(colour)) onChange(colour);
  };
  const isColour = HEX.test(typed);
  const ink = inkOn(isColour ? typed : value);
  const figure = contrast(isColour ? typed : value, ink).toFixed(1);
  return (
    <fieldset>
      <legend className="label">{label}</legend>
      <div className="flex flex-wrap gap-1.5">
        {[...extra, ...PALETTE].map(([colour, colourName]) => (
          <button
            key={`${colour} ${colourName}`}
            type="button"
            aria-label={colourName}
            aria-pressed={colour.toLowerCase() === typed.toLowerCase()}
            title={colourName}
            onClick={() => set(colour)}
            style={{ background: colour }}
            className="border-rule aria-pressed:outline-ink size-[32px] rounded-full border aria-pressed:outline-2 aria-pressed:outline-offset-2"
          />
        ))}
      </div>
      <div className="mt-2.5 flex flex-wrap items-center gap-3">
        <label className="sr-only" htmlFor={id}>
          {label}, as a code
        </label>
        <input
          id={id}
          name={name}
          value={typed}
          onChange={(event) => set(event.target.value.trim())}
          aria-invalid={!isColour || undefined}
          spellCheck={false}
          autoComplete="off"
          className="field w-[110px]"
        />
        {sample ? (
          <span
            className="inline-flex min-h-[36px] items-center rounded-[8px] px-3.5 text-[14px] font-semibold"
            style={{ background: isColour ? typed : value, color: ink }}
          >
            {sample}
          </span>
        ) : null}
        <span className="text-second text-[14px]" role="status">
          {isColour && sample === null
            ? ""
            : isColour
              ? `Contrast ${figure} to 1: ${ink === "#ffffff" ? "white" : "black"} text is easy to read on it.`
              : "Enter a colour like #2F5D50."}
        </span>
      </div>
      {says ? <p className="text-second mt-1 text-[14px]">{says}</p> : null}
    </fieldset>
  );
}

/** The same where the form alone keeps what was chosen. */
export function ColourOfForm({
  defaultValue,
  error,
  ...rest
}: {
  id: string;
  name: string;
  label: string;
  says?: string;
  defaultValue: string;
  error?: (field: string) => React.ReactNode;
}) {
  const [value, setValue] = useState(defaultValue);
  return (
    <div>
      <ColourField {...rest} value={value} onChange={setValue} />
      {error?.(rest.name)}
    </div>
  );
}
