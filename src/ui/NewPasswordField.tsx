import type { ReactNode } from "react";
import { Field } from "./Field";

/** A password that is chosen, with what it must be. */
export function NewPasswordField({
  id,
  name = "password",
  label,
  error,
}: {
  id: string;
  name?: string;
  label: string;
  error: (field: string) => ReactNode;
}) {
  return (
    <Field
      id={id}
      name={name}
      label={label}
      type="password"
      autoComplete="new-password"
      says="At least ten characters."
      error={error}
    />
  );
}
