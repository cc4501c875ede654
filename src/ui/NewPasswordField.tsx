import type { ReactNode } from "react";

/** A password that is chosen, with what it must be. */
export function NewPasswordField({
  id,
  label,
  error,
}: {
  id: string;
  label: string;
  error: (field: string) => ReactNode;
}) {
  return (
    <div>
      <label className="label" htmlFor={id}>
        {label}
      </label>
      <input
        id={id}
        name="password"
        type="password"
        className="field"
        autoComplete="new-password"
        aria-describedby={`${id}-says`}
      />
      <p id={`${id}-says`} className="text-second mt-1 text-[14px]">
        At least 10 characters.
      </p>
      {error("password")}
    </div>
  );
}
