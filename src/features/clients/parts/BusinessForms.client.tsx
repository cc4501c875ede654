"use client";

import { ChooseField, zoneChoices } from "@/ui/Choose.client";
import { ColourOfForm } from "@/ui/ColourField.client";
import { Field } from "@/ui/Field";
import { Sentence } from "@/ui/Sentence.client";
import { changeBusiness, saveBranch } from "../actions";

type Blank = {
  name: string;
  label: string;
  says?: string;
  type?: "text" | "color";
  inputMode?: "email" | "tel" | "numeric";
};

const OF_BUSINESS: readonly Blank[] = [
  { name: "name", label: "Name", says: "The name customers know. Every message is signed with it." },
  { name: "colour", label: "Colour", says: "For buttons customers see.", type: "color" },
  { name: "zone", label: "Time zone", says: "Used for send hours and dates." },
  { name: "senderEmail", label: "Sender email", says: "We collect replies to this address too.", inputMode: "email" },
  {
    name: "textNumber",
    label: "Text sender number",
    says: "Clients of the same agency can share a number.",
    inputMode: "tel",
  },
];

const OF_BRANCH: readonly Blank[] = [
  { name: "name", label: "Branch" },
  { name: "address", label: "Address" },
  { name: "zone", label: "Time zone" },
  { name: "phone", label: "Phone", says: "If it’s different.", inputMode: "tel" },
];

function Fields({
  fields,
  values,
  prefix,
  error,
}: {
  fields: readonly Blank[];
  values: Record<string, string>;
  prefix: string;
  error: (field: string) => React.ReactNode;
}) {
  return (
    <div className="space-y-3">
      {fields.map((field) => {
        const own = {
          ...field,
          id: `${prefix}-${field.name}`,
          defaultValue: values[field.name] ?? "",
          error,
        };
        if (field.name === "zone")
          return <ChooseField key="zone" {...own} choices={zoneChoices()} search="Search time zones" />;
        if (field.type === "color") return <ColourOfForm key={field.name} {...own} />;
        return <Field key={field.name} {...own} autoComplete="off" />;
      })}
    </div>
  );
}

/** What holds for the whole business. */
export function BusinessForm({ slug, values }: { slug: string; values: Record<string, string> }) {
  return (
    <Sentence words={values.name} label="The business" action={changeBusiness.bind(null, slug)} wide>
      {(error) => <Fields fields={OF_BUSINESS} values={values} prefix="business" error={error} />}
    </Sentence>
  );
}

/** A branch, or with no `branch` the way to add one. */
export function BranchForm({
  slug,
  branch,
  zone,
}: {
  slug: string;
  branch?: { id: string; name: string; address: string; zone: string; phone: string | null };
  zone: string;
}) {
  const values = branch ? { ...branch, phone: branch.phone ?? "" } : { zone };
  return (
    <Sentence
      words={branch?.name ?? "Add a branch"}
      label={branch ? `The branch ${branch.name}` : "A new branch"}
      action={saveBranch.bind(null, slug, branch?.id ?? "")}
      wide
    >
      {(error) => <Fields fields={OF_BRANCH} values={values} prefix={`branch-${branch?.id ?? "new"}`} error={error} />}
    </Sentence>
  );
}
