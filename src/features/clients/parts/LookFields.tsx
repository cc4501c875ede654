import { TYPEFACE_NAMES, TYPEFACES } from "@/core/words/look";
import { Field } from "@/ui/Field";

export type LookValues = { typeface: string; replyTo: string; senderName: string; signature: string; links: string };

/** Typeface, sender, signature and links. */
export function LookFields({
  prefix,
  values,
  error,
}: {
  prefix: string;
  values: LookValues;
  error: (field: string) => React.ReactNode;
}) {
  return (
    <>
      <label className="block">
        <span className="label">Typeface</span>
        <select name="typeface" className="field" defaultValue={values.typeface}>
          {TYPEFACES.map((typeface) => (
            <option key={typeface} value={typeface}>
              {TYPEFACE_NAMES[typeface]}
            </option>
          ))}
        </select>
      </label>
      {error("typeface")}
      <Field
        id={`${prefix}-senderName`}
        name="senderName"
        label="Sender name"
        says="Leave blank to use the business’s name. Messages signed by a team member come from them."
        autoComplete="off"
        defaultValue={values.senderName}
        error={error}
      />
      <Field
        id={`${prefix}-replyTo`}
        name="replyTo"
        label="Send copies of replies to"
        says="We keep every reply in Estima anyway. Leave blank for no copies."
        inputMode="email"
        autoComplete="off"
        defaultValue={values.replyTo}
        error={error}
      />
      <Lines name="signature" label="Signature under emails" rows={2} max={300} value={values.signature} />
      {error("signature")}
      <Lines
        name="links"
        label="Links under emails, one per line"
        says="A name, then an address starting with https://. Up to five."
        rows={3}
        max={1800}
        value={values.links}
      />
      {error("links")}
    </>
  );
}

/** A text of several lines. */
export function Lines({
  name,
  label,
  says,
  rows,
  max,
  value,
  shown,
}: {
  name: string;
  label: string;
  says?: string;
  rows: number;
  max: number;
  value: string;
  /** What stands there while nothing is typed. */
  shown?: string;
}) {
  return (
    <label className="block">
      <span className="label">{label}</span>
      <textarea name={name} className="field" rows={rows} maxLength={max} defaultValue={value} placeholder={shown} />
      {says ? <span className="text-second mt-1 block text-[14px]">{says}</span> : null}
    </label>
  );
}
