import type { ComponentProps, ReactNode } from "react";

type Props = Omit<ComponentProps<"input">, "id" | "name"> & {
  id: string;
  name: string;
  label: ReactNode;
  /** One line that says what it does. */
  says?: string;
  /** What was wrong with it, as `ActionForm` gives it. */
  error?: (field: string) => ReactNode;
};

/** A labelled blank of a form, with the line that says what it does, and what was wrong with it. */
export function Field({ id, name, label, says, error, className, type = "text", ...input }: Props) {
  const isColour = type === "color";
  return (
    <div>
      <label className="label" htmlFor={id}>
        {label}
      </label>
      <input
        id={id}
        name={name}
        type={type}
        className={`${isColour ? "border-edge h-[44px] w-[80px] rounded-[8px] border" : "field"} ${className ?? ""}`}
        aria-describedby={says ? `${id}-says` : undefined}
        {...input}
      />
      {says ? (
        <p id={`${id}-says`} className="text-second mt-1 text-[14px]">
          {says}
        </p>
      ) : null}
      {error?.(name)}
    </div>
  );
}
