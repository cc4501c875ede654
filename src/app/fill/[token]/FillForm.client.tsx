"use client";

import { useCallback, useState, useTransition } from "react";
import type { ClientDraft } from "@/core/onboarding/draft";
import { Blank, Lines } from "@/features/onboarding/parts/Blanks.client";
import { Hours, Services, useKept } from "@/features/onboarding/parts/DraftParts.client";
import { lost } from "@/ui/lost.client";
import { keepFilled } from "./actions";

/** What a client says of itself, kept as they go. */
export function FillForm({ token, draft: kept, isDone }: { token: string; draft: ClientDraft; isDone: boolean }) {
  const [draft, setDraft] = useState(kept);
  const [says, setSays] = useState("");
  const [done, setDone] = useState(isDone);
  const [pending, start] = useTransition();
  const change = (part: Partial<ClientDraft>) => setDraft((before) => ({ ...before, ...part }));
  const save = useCallback((typed: ClientDraft) => keepFilled(token, typed, false), [token]);
  useKept(draft, save, setSays);
  const blank = { draft, wrong: {}, change };
  if (done)
    return (
      <div role="status" className="space-y-4">
        <p className="bg-leaf-tint text-leaf rounded-[8px] px-3 py-2">
          Thank you. Your agency has your answers and will take it from here.
        </p>
        <button type="button" className="button" onClick={() => setDone(false)}>
          Make changes
        </button>
      </div>
    );
  return (
    <form
      className="space-y-8"
      onSubmit={(event) => {
        event.preventDefault();
        start(async () => {
          const result = await keepFilled(token, draft, true).catch(
            lost({ ok: false as const, message: "The connection dropped. Try again." }),
          );
          if (result?.ok) setDone(true);
          else setSays(result?.message ?? "");
        });
      }}
    >
      <section className="space-y-4" aria-label="The business">
        <Blank {...blank} name="name" label="Name" says="The name your customers know." />
        <Blank {...blank} name="postalAddress" label="Postal address" says="Shown at the bottom of every email." />
        <Blank {...blank} name="senderEmail" label="Your email" says="Customers’ replies go here." />
      </section>
      <Lines
        title="Branches"
        says="Each of your addresses, with its page on a review site if it has one."
        add="Add a branch"
        rows={draft.branches}
        fields={[
          { name: "name", label: "Branch", placeholder: "for example, Old Mill" },
          { name: "address", label: "Address", placeholder: "street and town" },
          { name: "site", label: "Review site", placeholder: "if you know one" },
          { name: "url", label: "Link to your page", placeholder: "https://" },
        ]}
        wrong={() => undefined}
        fresh={{ name: "", address: "", site: "", url: "" }}
        onChange={(branches) => change({ branches })}
      />
      <Services draft={draft} change={change} />
      <section aria-label="Team">
        <h2 className="text-[19px] font-semibold">Team</h2>
        <label className="sr-only" htmlFor="fill-team">
          Team, one name per line
        </label>
        <textarea
          id="fill-team"
          className="field mt-2"
          rows={4}
          value={draft.team}
          onChange={(event) => change({ team: event.target.value })}
          placeholder="One name per line"
        />
      </section>
      <Hours draft={draft} change={change} />
      <div className="space-y-2">
        <button type="submit" className="button-main min-h-[44px] w-full" disabled={pending}>
          {pending ? "One moment…" : "Send it in"}
        </button>
        <p className="text-second" role="status">
          {says || "Saved as you go. You can leave and come back with the same link."}
        </p>
      </div>
    </form>
  );
}
