"use client";

import { useRef, useState } from "react";
import { DropArea } from "./DropArea.client";

/** A file of a form, chosen with a button of ours or dropped on it, with the name of what was chosen. */
export function FileField({
  id,
  name,
  label,
  accept,
  isRequired = false,
}: {
  id: string;
  name: string;
  label: string;
  accept: string;
  isRequired?: boolean;
}) {
  const input = useRef<HTMLInputElement>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  return (
    <div>
      <span className="label" id={`${id}-label`}>
        {label}
      </span>
      <DropArea
        className="flex flex-wrap items-center gap-3 rounded-[10px] px-4 py-3"
        onFiles={(files) => {
          if (!input.current) return;
          input.current.files = files;
          setChosen(files[0].name);
        }}
      >
        <label className="button has-[:focus-visible]:outline-2 cursor-pointer">
          {chosen ? "Choose another file" : "Choose a file"}
          <input
            ref={input}
            id={id}
            type="file"
            name={name}
            accept={accept}
            required={isRequired}
            aria-label={label}
            className="sr-only"
            onChange={(event) => setChosen(event.target.files?.[0]?.name ?? null)}
          />
        </label>
        <span className="text-second min-w-0 truncate">{chosen ?? "or drop it here"}</span>
      </DropArea>
    </div>
  );
}
