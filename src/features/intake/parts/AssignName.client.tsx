"use client";
import { ActionForm } from "@/ui/ActionForm.client";
import { assign } from "../actions";

/** What one name stands for: one of the client's, a new one, or nothing. */
export function AssignName({
  slug,
  id,
  name,
  kind,
  choices,
  value,
}: {
  slug: string;
  id: string;
  name: string;
  kind: string;
  choices: { id: string; name: string }[];
  value?: string;
}) {
  const nothing = kind === "service" ? "not a visit: ignore these rows" : "nothing: ignore it";
  return (
    <ActionForm action={assign.bind(null, slug, id)}>
      {({ pending, error }) => (
        <>
          <div className="flex flex-wrap gap-2">
            <select
              name="to"
              defaultValue={value ?? ""}
              aria-label={`What “${name}” means`}
              className="field w-auto min-w-[200px] py-1"
            >
              <option value="">choose</option>
              {choices.map((choice) => (
                <option key={choice.id} value={choice.id}>
                  {choice.name}
                </option>
              ))}
              <option value="new">a new one: “{name}”</option>
              <option value="nothing">{nothing}</option>
            </select>
            <button type="submit" className="button" disabled={pending}>
              {pending ? "Matching…" : "Match"}
            </button>
          </div>
          {error("to")}
        </>
      )}
    </ActionForm>
  );
}
