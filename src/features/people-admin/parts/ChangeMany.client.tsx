"use client";

import { useState, useTransition } from "react";
import { toast } from "sonner";
import { Dialog } from "@/ui/Dialog.client";
import { lost } from "@/ui/lost.client";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { changeMany, type ManyAction } from "../actions";
import type { Selection } from "../selection";

const TITLES = { tag: "Tag", rest: "Set a rest", exclude: "Never ask", erase: "Erase" };

export type Change = keyof typeof TITLES;

/** Tags, rests, excludes or erases everybody who was chosen, after what it needs to know was filled in. */
export function ChangeMany({
  slug,
  which,
  chosen,
  count,
  tags,
  onEnd,
  onClose,
}: {
  slug: string;
  which: Change;
  chosen: Selection;
  count: string;
  tags: string[];
  onEnd: () => void;
  onClose: () => void;
}) {
  const [pending, start] = useTransition();
  const [wrong, setWrong] = useState("");
  const submit = (event: React.FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const it = readChange(which, new FormData(event.currentTarget, (event.nativeEvent as SubmitEvent).submitter));
    if (!it) {
      setWrong("Type “erase” to continue.");
      return;
    }
    start(async () => {
      const result = await changeMany(slug, chosen, it).catch(
        lost({ ok: false, message: "The connection dropped and nothing was changed. Try again." }),
      );
      if (result?.ok) {
        toast(result.message ?? "Saved.");
        onEnd();
      } else setWrong(result?.message ?? "That didn’t work.");
    });
  };
  return (
    <Dialog open onOpenChange={onClose} title={`${TITLES[which]}: ${count}`}>
      <form onSubmit={submit} className="space-y-4">
        {which === "tag" ? <TagFields slug={slug} tags={tags} pending={pending} /> : null}
        {which === "rest" ? <RestFields pending={pending} /> : null}
        {which === "exclude" ? <ExcludeFields pending={pending} /> : null}
        {which === "erase" ? <EraseFields count={count} pending={pending} /> : null}
        {wrong ? (
          <p role="alert" className="bg-vermilion-tint text-vermilion-deep rounded-[8px] px-3 py-2">
            {wrong}
          </p>
        ) : null}
      </form>
    </Dialog>
  );
}

/** What the form says is to be done; null where erasing was not confirmed. */
function readChange(which: Change, form: FormData): ManyAction | null {
  const text = (name: string) => String(form.get(name) ?? "");
  switch (which) {
    case "tag":
      return { action: "tag", tag: text("tag"), gives: text("gives") !== "no" };
    case "rest":
      return { action: "rest", days: Number(text("days")), reason: text("reason") };
    case "exclude":
      return {
        action: "exclude",
        reason: text("gives") === "no" ? null : text("reason").trim() || "Set to never ask by hand",
      };
    case "erase":
      return text("sure").trim().toLowerCase() === "erase" ? { action: "erase", sure: "erase" } : null;
  }
}

function TagFields({ slug, tags, pending }: { slug: string; tags: string[]; pending: boolean }) {
  if (tags.length === 0)
    return (
      <p>
        No tags yet. <Link href={`/c/${slug}/set-up/tags`}>Create the first one</Link> under Set-up.
      </p>
    );
  return (
    <>
      <label className="label" htmlFor="many-tag">
        Tag
      </label>
      <select id="many-tag" name="tag" className="field">
        {tags.map((tag) => (
          <option key={tag}>{tag}</option>
        ))}
      </select>
      <div className="flex gap-2">
        <button type="submit" className="button-main" disabled={pending}>
          Add tag
        </button>
        <button type="submit" name="gives" value="no" className="button" disabled={pending}>
          Remove tag
        </button>
      </div>
    </>
  );
}

function RestFields({ pending }: { pending: boolean }) {
  return (
    <>
      <label className="label" htmlFor="many-days">
        Days from today
      </label>
      <input
        id="many-days"
        name="days"
        inputMode="numeric"
        className="field"
        defaultValue="90"
        required
        pattern="[0-9]{1,4}"
      />
      <p className="text-second text-[13px]">
        No new ask will go out to them until then. Enter 0 to let them be asked again.
      </p>
      <label className="label" htmlFor="many-reason">
        Reason (only your team sees it)
      </label>
      <input id="many-reason" name="reason" className="field" maxLength={200} />
      <button type="submit" className="button-main" disabled={pending}>
        Set rest
      </button>
    </>
  );
}

function ExcludeFields({ pending }: { pending: boolean }) {
  return (
    <>
      <label className="label" htmlFor="many-reason">
        Reason (only your team sees it)
      </label>
      <input id="many-reason" name="reason" className="field" maxLength={200} placeholder="Asked us not to" />
      <p className="text-second text-[13px]">Any ask under way for them ends straight away.</p>
      <div className="flex gap-2">
        <button type="submit" className="button-main" disabled={pending}>
          Never ask
        </button>
        <button type="submit" name="gives" value="no" className="button" disabled={pending}>
          Allow asking again
        </button>
      </div>
    </>
  );
}

function EraseFields({ count, pending }: { count: string; pending: boolean }) {
  return (
    <>
      <p>
        Names, addresses, notes and everything they wrote are permanently deleted. Visits and ratings are kept as
        anonymous counts. No list or feed will add them again. <b>This can’t be undone.</b>
      </p>
      <label className="label" htmlFor="many-sure">
        Type “erase” to continue
      </label>
      <input id="many-sure" name="sure" className="field" autoComplete="off" />
      <button type="submit" className="button-main" disabled={pending}>
        {pending ? "Erasing…" : `Erase ${count}`}
      </button>
    </>
  );
}
