"use client";

import { useState, useTransition } from "react";
import { toast } from "sonner";
import { Dialog } from "@/ui/Dialog.client";
import { lost } from "@/ui/lost.client";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { changeMany, type ManyAction } from "../actions";
import type { Selection } from "../selection";

const TITLES = { tag: "Tag", rest: "Let rest", exclude: "Never ask", erase: "Erase" };

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
      setWrong("Write the word erase to go on.");
      return;
    }
    start(async () => {
      const result = await changeMany(slug, chosen, it).catch(
        lost({ ok: false, message: "Nothing was changed: the connection is lost. Try again." }),
      );
      if (result?.ok) {
        toast(result.message ?? "Saved.");
        onEnd();
      } else setWrong(result?.message ?? "That did not work.");
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
      return { action: "exclude", reason: text("gives") === "no" ? null : text("reason").trim() || "Excluded by hand" };
    case "erase":
      return text("sure").trim().toLowerCase() === "erase" ? { action: "erase", sure: "erase" } : null;
  }
}

function TagFields({ slug, tags, pending }: { slug: string; tags: string[]; pending: boolean }) {
  if (tags.length === 0)
    return (
      <p>
        There are no tags yet. <Link href={`/c/${slug}/set-up/tags`}>Make the first one</Link> under Set-up.
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
          Give this tag
        </button>
        <button type="submit" name="gives" value="no" className="button" disabled={pending}>
          Take it from them
        </button>
      </div>
    </>
  );
}

function RestFields({ pending }: { pending: boolean }) {
  return (
    <>
      <label className="label" htmlFor="many-days">
        For how many days from today
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
        Nothing of an ask that has not begun yet will leave. With 0 they may be asked again.
      </p>
      <label className="label" htmlFor="many-reason">
        Why, for your team
      </label>
      <input id="many-reason" name="reason" className="field" maxLength={200} />
      <button type="submit" className="button-main" disabled={pending}>
        Let them rest
      </button>
    </>
  );
}

function ExcludeFields({ pending }: { pending: boolean }) {
  return (
    <>
      <label className="label" htmlFor="many-reason">
        Why, for your team
      </label>
      <input id="many-reason" name="reason" className="field" maxLength={200} placeholder="Asked us not to" />
      <p className="text-second text-[13px]">What is under way for them ends at once.</p>
      <div className="flex gap-2">
        <button type="submit" className="button-main" disabled={pending}>
          Never ask them
        </button>
        <button type="submit" name="gives" value="no" className="button" disabled={pending}>
          Let plans ask again
        </button>
      </div>
    </>
  );
}

function EraseFields({ count, pending }: { count: string; pending: boolean }) {
  return (
    <>
      <p>
        Names, addresses, notes and everything they wrote are removed for good. Visits and ratings stay as numbers. They
        will not be taken in again from any list or feed. <b>This cannot be undone.</b>
      </p>
      <label className="label" htmlFor="many-sure">
        Write “erase” to go on
      </label>
      <input id="many-sure" name="sure" className="field" autoComplete="off" />
      <button type="submit" className="button-main" disabled={pending}>
        {pending ? "Erasing ..." : `Erase ${count}`}
      </button>
    </>
  );
}
