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
          Thank you. Your agency has it, looks through it, and goes on from there.
        </p>
        <button type="button" className="button" onClick={() => setDone(false)}>
          Change something
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
            lost({ ok: false as const, message: "The connection was lost. Try again." }),
          );
          if (result?.ok) setDone(true);
          else setSays(result?.message ?? "");
        });
      }}
    >
      <section className="space-y-4" aria-label="The business">
        <Blank {...blank} name="name" label="Name" says="As your customers know it." />
        <Blank {...blank} name="postalAddress" label="Postal address" says="Stands at the foot of every email." />
        <Blank {...blank} name="senderEmail" label="Your email" says="Customers’ replies go there." />
      </section>
      <Lines
        title="Branches"
        says="Each address, with its page on a review site if there is one."
        add="Add a branch"
        rows={draft.branches}
        fields={[
          { name: "name", label: "Branch", placeholder: "such as Old Mill" },
          { name: "address", label: "Address", placeholder: "street and town" },
          { name: "site", label: "Review site", placeholder: "if you know one" },
          { name: "url", label: "Your page there", placeholder: "https://" },
        ]}
        wrong={() => undefined}
        fresh={{ name: "", address: "", site: "", url: "" }}
        onChange={(branches) => change({ branches })}
      />
      <Services draft={draft} change={change} />
      <section aria-label="Team">
        <h2 className="text-[19px] font-semibold">Team</h2>
        <label className="sr-only" htmlFor="fill-team">
          Team, one name a line
        </label>
        <textarea
          id="fill-team"
          className="field mt-2"
          rows={4}
          value={draft.team}
          onChange={(event) => change({ team: event.target.value })}
          placeholder="One name a line"
        />
      </section>
      <Hours draft={draft} change={change} />
      <div className="space-y-2">
        <button type="submit" className="button-main min-h-[44px] w-full" disabled={pending}>
          {pending ? "One moment ..." : "That is all"}
        </button>
        <p className="text-second" role="status">
          {says || "Kept as you go. You can leave and come back by the same link."}
        </p>
      </div>
    </form>
  );
}
