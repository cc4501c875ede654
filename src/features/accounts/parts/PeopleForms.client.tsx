"use client";

import { useState } from "react";
import type { Permission } from "@/core/access/permissions";
import { ActionForm } from "@/ui/ActionForm.client";
import { ChooseField } from "@/ui/Choose.client";
import { ConfirmButton } from "@/ui/ConfirmButton.client";
import { Dialog } from "@/ui/Dialog.client";
import { Field } from "@/ui/Field";
import { Sentence } from "@/ui/Sentence.client";
import {
  giveRole,
  inviteAgain,
  inviteSomebody,
  lookAs,
  removeOwnRole,
  saveOwnRole,
  takeOff,
  withdraw,
} from "../actions";
import { RoleFields } from "./RoleFields";

export type RoleChoice = { value: string; name: string };
export type PlaceChoice = { kind: "group" | "client" | "branch"; value: string; name: string };

const KINDS = [
  ["group", "a group of clients"],
  ["client", "one client"],
  ["branch", "one branch"],
] as const;

/** Invites somebody: who, to which role, and where. */
export function InviteForm({ slug, roles, places }: { slug: string; roles: RoleChoice[]; places: PlaceChoice[] }) {
  const [round, setRound] = useState(0);
  return (
    <ActionForm key={round} action={inviteSomebody.bind(null, slug)} onDone={() => setRound(round + 1)}>
      {({ pending, error }) => (
        <div className="space-y-3">
          <Field id="invite-name" label="Name" name="name" autoComplete="off" error={error} />
          <Field id="invite-email" label="Email" name="email" inputMode="email" autoComplete="off" error={error} />
          <ChooseField
            id="invite-place"
            name="place"
            label="For"
            search="Search clients, groups and branches"
            defaultValue=""
            choices={[
              { value: "", words: "the whole agency (every client)" },
              ...KINDS.flatMap(([kind, words]) =>
                places
                  .filter((place) => place.kind === kind)
                  .map(({ value, name }) => ({ value, words: kind === "client" ? name : `${name} (${words})` })),
              ),
            ]}
            error={error}
          />
          <div>
            <label className="label" htmlFor="invite-role">
              As
            </label>
            <select id="invite-role" name="role" className="field" defaultValue="manager">
              {roles.map(({ value, name }) => (
                <option key={value} value={value}>
                  {name}
                </option>
              ))}
            </select>
            {error("role")}
          </div>
          <div>
            <button type="submit" className="button-main" disabled={pending}>
              {pending ? "Sending…" : "Send invitation"}
            </button>
          </div>
        </div>
      )}
    </ActionForm>
  );
}

/** The role of a seat, as the changeable part of a sentence. */
export function RoleSentence({
  slug,
  id,
  name,
  words,
  value,
  roles,
  mayChange,
}: {
  slug: string;
  id: string;
  name: string;
  words: string;
  value: string;
  roles: RoleChoice[];
  mayChange: boolean;
}) {
  return (
    <Sentence words={words} label={`The role of ${name}`} action={mayChange ? giveRole.bind(null, slug, id) : null}>
      {(error) => (
        <>
          <label className="label" htmlFor={`role-${id}`}>
            Role
          </label>
          <select id={`role-${id}`} name="role" className="field" defaultValue={value}>
            {roles.map((role) => (
              <option key={role.value} value={role.value}>
                {role.name}
              </option>
            ))}
          </select>
          {error("role")}
        </>
      )}
    </Sentence>
  );
}

/** Takes somebody's seat away. */
export function TakeOff({ slug, id, name, isMe }: { slug: string; id: string; name: string; isMe: boolean }) {
  return (
    <ConfirmButton
      className="button-quiet"
      action={takeOff.bind(null, slug, id)}
      sure={
        isMe
          ? "Remove your own access? You’ll lose it straight away."
          : `Remove ${name}? They’ll lose access straight away, on every device.`
      }
    >
      {isMe ? "Leave" : "Remove"}
      <span className="sr-only"> {name}</span>
    </ConfirmButton>
  );
}

/** Shows the pages as somebody else sees them. */
export function LookAs({ slug, userId, name }: { slug: string; userId: string; name: string }) {
  return (
    <ConfirmButton className="button-quiet" action={lookAs.bind(null, slug, userId)}>
      View as them<span className="sr-only">, as {name}</span>
    </ConfirmButton>
  );
}

/** What can be done with an invitation that waits. */
export function InvitationButtons({ slug, id, name }: { slug: string; id: string; name: string }) {
  return (
    <span className="flex flex-wrap gap-1">
      <ConfirmButton className="button-quiet" action={inviteAgain.bind(null, slug, id)}>
        Send again<span className="sr-only"> to {name}</span>
      </ConfirmButton>
      <ConfirmButton className="button-quiet" action={withdraw.bind(null, slug, id)}>
        Withdraw<span className="sr-only"> the invitation of {name}</span>
      </ConfirmButton>
    </span>
  );
}

/** Makes a role, or changes one. */
export function RoleForm({
  slug,
  own,
  mine,
}: {
  slug: string;
  /** Null for a new one. */
  own: { id: string; name: string; permissions: readonly Permission[] } | null;
  /** What the person here may do: nobody gives more. */
  mine: readonly Permission[];
}) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button type="button" className={own ? "button-quiet" : "button"} onClick={() => setOpen(true)}>
        {own ? (
          <>
            Change<span className="sr-only"> the role {own.name}</span>
          </>
        ) : (
          "Add a role"
        )}
      </button>
      <Dialog open={open} onOpenChange={setOpen} title={own ? `The role ${own.name}` : "A new role"}>
        <ActionForm action={saveOwnRole.bind(null, slug, own?.id ?? null)} onDone={() => setOpen(false)}>
          {({ pending, error }) => (
            <div className="space-y-4">
              <Field
                id="role-name"
                label="Name of the role"
                name="name"
                defaultValue={own?.name ?? ""}
                maxLength={40}
                error={error}
              />
              <RoleFields held={own?.permissions ?? ["see heard"]} mine={mine} />
              {error("permissions")}
              <div className="flex flex-wrap gap-2">
                <button type="submit" className="button-main" disabled={pending}>
                  {pending ? "Saving…" : "Save"}
                </button>
                {own ? (
                  <ConfirmButton
                    className="button"
                    action={removeOwnRole.bind(null, slug, own.id)}
                    sure={`Remove the role ${own.name}?`}
                  >
                    Remove it
                  </ConfirmButton>
                ) : null}
              </div>
            </div>
          )}
        </ActionForm>
      </Dialog>
    </>
  );
}
