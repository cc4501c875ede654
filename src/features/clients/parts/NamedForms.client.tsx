"use client";
import { Sentence } from "@/ui/Sentence.client";
import { saveService, saveTag, saveTeamMember } from "../actions";

function NameField({ value, error }: { value?: string; error: React.ReactNode }) {
  return (
    <>
      <label className="label" htmlFor="named-name">
        Name
      </label>
      <input id="named-name" name="name" className="field" defaultValue={value} maxLength={60} autoComplete="off" />
      {error}
    </>
  );
}

function Tick({ name, words, checked }: { name: string; words: string; checked: boolean }) {
  return (
    <label className="mt-3 flex min-h-[28px] items-center gap-2">
      <input type="checkbox" name={name} value="yes" defaultChecked={checked} className="size-[17px]" /> {words}
    </label>
  );
}

/** One service, or with no `service` the way to add one. */
export function ServiceForm({
  slug,
  service,
}: {
  slug: string;
  service?: { id: string; name: string; neverAsk: boolean; retired: boolean };
}) {
  return (
    <Sentence
      words={service?.name ?? "Add a service"}
      label={service ? `Service ${service.name}` : "A new service"}
      action={saveService.bind(null, slug, service?.id ?? "")}
    >
      {(error) => (
        <>
          <NameField value={service?.name} error={error("name")} />
          <Tick name="neverAsk" words="Never ask about it" checked={service?.neverAsk ?? false} />
          {service ? <Tick name="retired" words="No longer offered" checked={service.retired} /> : null}
        </>
      )}
    </Sentence>
  );
}

/** One team member, or the way to add one. */
export function TeamForm({ slug, member }: { slug: string; member?: { id: string; name: string; retired: boolean } }) {
  return (
    <Sentence
      words={member?.name ?? "Add a team member"}
      label={member ? `Team member ${member.name}` : "A new team member"}
      action={saveTeamMember.bind(null, slug, member?.id ?? "")}
    >
      {(error) => (
        <>
          <NameField value={member?.name} error={error("name")} />
          {member ? <Tick name="retired" words="No longer works here" checked={member.retired} /> : null}
        </>
      )}
    </Sentence>
  );
}

const EFFECTS = [
  ["none", "nothing; it’s just a label for your team"],
  ["do not ask", "never ask them"],
  ["ask first", "when there’s a queue, their messages go out first"],
  ["email only", "only write to them by email"],
  ["text only", "only write to them by text"],
];

/** One tag, or the way to add one. */
export function TagForm({ slug, tag }: { slug: string; tag?: { id: string; name: string; effect: string } }) {
  return (
    <Sentence
      words={tag?.name ?? "Add a tag"}
      label={tag ? `Tag ${tag.name}` : "A new tag"}
      action={saveTag.bind(null, slug, tag?.id ?? "")}
    >
      {(error) => (
        <>
          <NameField value={tag?.name} error={error("name")} />
          <label className="label mt-3" htmlFor="tag-effect">
            What it does
          </label>
          <select id="tag-effect" name="effect" className="field" defaultValue={tag?.effect ?? "none"}>
            {EFFECTS.map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </select>
          {error("effect")}
        </>
      )}
    </Sentence>
  );
}
