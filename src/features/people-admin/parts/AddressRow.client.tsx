"use client";

import { useRef } from "react";
import { ActionForm } from "@/ui/ActionForm.client";
import { correct } from "../actions";

/** One address to mend: the suggestion stands in the field, Enter takes it and goes on to the next. */
export function AddressRow({
  slug,
  id,
  channel,
  name,
  address,
  suggestion,
}: {
  slug: string;
  id: string;
  channel: "email" | "text";
  name: string;
  address: string;
  suggestion: string | null;
}) {
  const row = useRef<HTMLDivElement>(null);
  const goOn = () => {
    const fields = [...document.querySelectorAll<HTMLInputElement>("input[data-mend]")];
    const own = row.current?.querySelector<HTMLInputElement>("input[data-mend]");
    const next = fields[fields.indexOf(own as HTMLInputElement) + 1];
    next?.focus();
    next?.select();
  };
  return (
    <div ref={row}>
      <ActionForm action={correct.bind(null, slug, id, channel)} onDone={goOn} className="mt-1.5">
        {({ pending, error }) => (
          <>
            <div className="flex flex-wrap gap-2">
              <input
                name="address"
                data-mend=""
                className="field max-w-[330px]"
                defaultValue={suggestion ?? address}
                aria-label={`Correct ${channel === "email" ? "email" : "number"} for ${name}`}
                autoComplete="off"
                spellCheck={false}
              />
              <button type="submit" className={suggestion ? "button-main" : "button"} disabled={pending}>
                {pending ? "Fixing…" : suggestion ? "Yes, use that" : "Fix"}
              </button>
            </div>
            {error("address")}
          </>
        )}
      </ActionForm>
    </div>
  );
}
