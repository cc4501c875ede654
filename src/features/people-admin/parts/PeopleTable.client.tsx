"use client";

import Link from "next/link";
import { DropdownMenu } from "radix-ui";
import { useMemo, useRef, useState, useTransition } from "react";
import { toast } from "sonner";
import { Dialog } from "@/ui/Dialog.client";
import type { ActionResult } from "@/ui/result";
import { changeMany, confirmMany, type ManyAction, previewMany } from "../actions";
import type { Selection } from "../selection";

export type PersonRow = {
  id: string;
  name: string;
  phone: string | null;
  phoneProblem: string | null;
  email: string | null;
  emailProblem: string | null;
  marks: string[];
  doNotAsk: boolean;
  lastAsked: string;
};

type Props = {
  slug: string;
  rows: PersonRow[];
  tags: string[];
  /** The filters, for actions on everybody whom they show. */
  query: string;
  total: string;
  hasMore: boolean;
  may: { ask: boolean; keep: boolean; takeOut: boolean; erase: boolean };
};

/** People in rows that can be ticked, walked through by arrow keys, and worked on together. */
export function PeopleTable({ slug, rows, tags, query, total, hasMore, may }: Props) {
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [all, setAll] = useState(false);
  const [doing, setDoing] = useState<"ask" | "tag" | "rest" | "exclude" | "erase" | null>(null);
  const body = useRef<HTMLTableSectionElement>(null);
  const here = useMemo(() => new Set(rows.map(({ id }) => id)), [rows]);
  const shown = [...ticked].filter((id) => here.has(id));
  const chosen: Selection = all ? { all: query } : { ids: shown };
  const count = all ? total : String(shown.length);
  const any = all || shown.length > 0;
  const tick = (id: string, on: boolean) => {
    setAll(false);
    const next = new Set(ticked);
    if (on) next.add(id);
    else next.delete(id);
    setTicked(next);
  };
  const everyoneHere = shown.length === rows.length && rows.length > 0;
  const end = () => {
    setDoing(null);
    setTicked(new Set());
    setAll(false);
  };
  const walk = (event: React.KeyboardEvent) => {
    if (event.key !== "ArrowDown" && event.key !== "ArrowUp") return;
    const links = [...(body.current?.querySelectorAll<HTMLAnchorElement>("a[data-person]") ?? [])];
    const at = links.indexOf(document.activeElement as HTMLAnchorElement);
    const next = links[at + (event.key === "ArrowDown" ? 1 : -1)];
    if (at < 0 || !next) return;
    event.preventDefault();
    next.focus();
  };
  const tickable = may.keep || may.ask || may.takeOut;
  const item =
    "hover:bg-mulberry-tint focus:bg-mulberry-tint flex min-h-[40px] w-full cursor-pointer items-center rounded-[7px] px-3 outline-none no-underline";
  return (
    <>
      {tickable ? (
        <div
          className={`bg-paper sticky top-[56px] z-20 flex min-h-[52px] flex-wrap items-center gap-2 py-1.5 ${any ? "" : "text-second"}`}
          aria-live="polite"
        >
          <span className="mr-2 text-[14px]">
            {any ? <b>{count} chosen</b> : "Tick people to work on several at once."}
          </span>
          {any ? (
            <>
              {may.ask ? (
                <button type="button" className="button" onClick={() => setDoing("ask")}>
                  Ask them
                </button>
              ) : null}
              {may.keep ? (
                <>
                  <button type="button" className="button" onClick={() => setDoing("tag")}>
                    Tag
                  </button>
                  <button type="button" className="button" onClick={() => setDoing("rest")}>
                    Let rest
                  </button>
                  <button type="button" className="button" onClick={() => setDoing("exclude")}>
                    Never ask
                  </button>
                </>
              ) : null}
              {may.takeOut ? (
                <DropdownMenu.Root>
                  <DropdownMenu.Trigger className="button">Export</DropdownMenu.Trigger>
                  <DropdownMenu.Portal>
                    <DropdownMenu.Content
                      sideOffset={6}
                      className="border-rule bg-sheet text-ink z-50 w-[210px] rounded-[10px] border p-1.5"
                    >
                      {(
                        [
                          ["csv", "as CSV"],
                          ["xlsx", "as Excel (.xlsx)"],
                          ["vcf", "as vCard"],
                        ] as const
                      ).map(([format, words]) => (
                        <DropdownMenu.Item key={format} className={item} onSelect={() => takeOut(slug, format, chosen)}>
                          {words}
                        </DropdownMenu.Item>
                      ))}
                    </DropdownMenu.Content>
                  </DropdownMenu.Portal>
                </DropdownMenu.Root>
              ) : null}
              {may.erase ? (
                <button type="button" className="button" onClick={() => setDoing("erase")}>
                  Erase
                </button>
              ) : null}
              {everyoneHere && hasMore && !all ? (
                <button type="button" className="button-quiet" onClick={() => setAll(true)}>
                  Choose all {total}
                </button>
              ) : null}
              <button type="button" className="button-quiet" onClick={end}>
                None
              </button>
            </>
          ) : null}
        </div>
      ) : null}
      <table className="w-full border-collapse text-left">
        <thead className="text-second text-[13px] max-sm:sr-only">
          <tr>
            {tickable ? (
              <th className="w-9 py-1.5">
                <input
                  type="checkbox"
                  className="accent-mulberry size-[18px]"
                  aria-label="Everybody on this page"
                  checked={everyoneHere}
                  onChange={(event) => {
                    setAll(false);
                    setTicked(event.target.checked ? new Set(here) : new Set());
                  }}
                />
              </th>
            ) : null}
            <th className="py-1.5 pr-4 font-medium">Name</th>
            <th className="py-1.5 pr-4 font-medium">Mobile</th>
            <th className="py-1.5 pr-4 font-medium">Email</th>
            <th className="py-1.5 font-medium">Last asked</th>
          </tr>
        </thead>
        <tbody ref={body} onKeyDown={walk} className="divide-rule border-rule divide-y border-y">
          {rows.map((person) => (
            <tr
              key={person.id}
              className={`max-sm:relative max-sm:block max-sm:py-2 max-sm:pl-9 ${all || ticked.has(person.id) ? "bg-mulberry-tint" : ""}`}
            >
              {tickable ? (
                <td className="w-9 py-2 max-sm:absolute max-sm:top-1 max-sm:left-0">
                  <input
                    type="checkbox"
                    className="accent-mulberry size-[18px]"
                    aria-label={person.name}
                    checked={all || ticked.has(person.id)}
                    onChange={(event) => tick(person.id, event.target.checked)}
                  />
                </td>
              ) : null}
              <td className="py-2 pr-4 max-sm:block max-sm:py-0">
                <Link href={`/c/${slug}/people/${person.id}`} className="name-link" data-person="">
                  {person.name}
                </Link>
                {person.doNotAsk ? <span className="tag bg-ochre-tint text-ochre-deep ml-2">do not ask</span> : null}
                {person.marks.map((mark) => (
                  <span key={mark} className="tag bg-mulberry-tint text-ink ml-2">
                    {mark}
                  </span>
                ))}
              </td>
              <td className="py-2 pr-4 whitespace-nowrap max-sm:block max-sm:py-0">
                <Address text={person.phone} problem={person.phoneProblem} />
              </td>
              <td className="py-2 pr-4 [overflow-wrap:anywhere] max-sm:block max-sm:py-0">
                <Address text={person.email} problem={person.emailProblem} />
              </td>
              <td className="text-second py-2 whitespace-nowrap max-sm:block max-sm:py-0">
                <span className="sm:hidden">asked </span>
                {person.lastAsked}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {doing === "ask" ? <AskMany slug={slug} chosen={chosen} onEnd={end} onClose={() => setDoing(null)} /> : null}
      {doing && doing !== "ask" ? (
        <Action
          slug={slug}
          which={doing}
          chosen={chosen}
          count={count}
          tags={tags}
          onEnd={end}
          onClose={() => setDoing(null)}
        />
      ) : null}
    </>
  );
}

function Address({ text, problem }: { text: string | null; problem: string | null }) {
  if (!text || !problem) return text;
  return (
    <span className="text-second">
      {problem === "landline" ? text : <s>{text}</s>} {problem}
    </span>
  );
}

/** A form that the browser sends itself, so that it saves the file it gets. */
function takeOut(slug: string, format: string, chosen: Selection): void {
  const form = document.createElement("form");
  form.method = "post";
  form.action = `/c/${slug}/people/export`;
  const add = (name: string, value: string) => {
    const input = document.createElement("input");
    input.type = "hidden";
    input.name = name;
    input.value = value;
    form.append(input);
  };
  add("format", format);
  add("chosen", JSON.stringify(chosen));
  document.body.append(form);
  form.submit();
  form.remove();
}

type Preview = Awaited<ReturnType<typeof previewMany>>;

/** Every message that asking would send, word for word, and everyone left out with the reason; then one button. */
function AskMany({
  slug,
  chosen,
  onEnd,
  onClose,
}: {
  slug: string;
  chosen: Selection;
  onEnd: () => void;
  onClose: () => void;
}) {
  const [preview, setPreview] = useState<Preview | null>(null);
  const [pending, start] = useTransition();
  const [requestKey] = useState(() => crypto.randomUUID());
  const begun = useRef(false);
  if (!begun.current) {
    begun.current = true;
    previewMany(slug, chosen).then(setPreview, () =>
      setPreview({ ok: false, message: "That could not be worked out. Check the connection and try again." }),
    );
  }
  const seen = preview?.ok ? preview : null;
  const reasons = new Map<string, string[]>();
  for (const { name, why } of seen?.leftOut ?? []) reasons.set(why, [...(reasons.get(why) ?? []), name]);
  const confirm = () =>
    start(async () => {
      const result = await confirmMany(
        slug,
        (seen?.asked ?? []).map(({ personId }) => personId),
        requestKey,
      ).catch((): ActionResult => ({ ok: false, message: "Nothing was asked: the connection is lost. Try again." }));
      toast(result?.message ?? "");
      if (result?.ok) onEnd();
    });
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={
        seen
          ? `${seen.asked.length === 0 ? "Nobody" : seen.asked.length} would be asked.`
          : "Working out who would be asked"
      }
      lead={
        seen && seen.more > 0 ? `Only the first 500 are asked at once; ${seen.more} more stay for the next time.` : null
      }
    >
      {preview && !preview.ok ? <p role="alert">{preview.message}</p> : null}
      {!preview ? <p className="text-second">Looking at each of them ...</p> : null}
      {seen ? (
        <>
          <ul
            className="divide-rule border-rule max-h-[38vh] divide-y overflow-y-auto border-y"
            aria-label="Messages that would leave"
          >
            {seen.asked.map((one) => (
              <li key={one.personId} className="py-2.5">
                <details>
                  <summary className="flex justify-between gap-4">
                    <span>
                      <b>{one.name}</b>{" "}
                      <span className="text-second">
                        by {one.channel} to {one.to}
                      </span>
                    </span>
                    <span className="text-second whitespace-nowrap">{one.leaves}</span>
                  </summary>
                  {one.subject ? <p className="mt-2 font-semibold">{one.subject}</p> : null}
                  <p className="text-second mt-1 whitespace-pre-wrap [overflow-wrap:anywhere]">{one.body}</p>
                </details>
              </li>
            ))}
          </ul>
          {seen.leftOut.length > 0 ? (
            <div className="mt-4">
              <h3 className="font-semibold">{seen.leftOut.length} left out</h3>
              <ul className="text-second mt-1 max-h-[20vh] overflow-y-auto">
                {[...reasons].map(([why, names]) => (
                  <li key={why}>
                    <b className="text-ink">{names.length}</b> {why}: {names.slice(0, 6).join(", ")}
                    {names.length > 6 ? ` and ${names.length - 6} more` : ""}
                  </li>
                ))}
              </ul>
            </div>
          ) : null}
          <div className="mt-5 flex gap-2">
            {seen.asked.length > 0 ? (
              <button type="button" className="button-main" disabled={pending} onClick={confirm}>
                {pending ? "Asking ..." : `Ask ${seen.asked.length}`}
              </button>
            ) : null}
            <button type="button" className="button" onClick={onClose}>
              Ask nobody
            </button>
          </div>
        </>
      ) : null}
    </Dialog>
  );
}

const TITLES = { tag: "Tag", rest: "Let rest", exclude: "Never ask", erase: "Erase" };

function Action({
  slug,
  which,
  chosen,
  count,
  tags,
  onEnd,
  onClose,
}: {
  slug: string;
  which: keyof typeof TITLES;
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
    const form = new FormData(event.currentTarget, (event.nativeEvent as SubmitEvent).submitter);
    const text = (name: string) => String(form.get(name) ?? "");
    const actions: Record<keyof typeof TITLES, ManyAction | null> = {
      tag: { action: "tag", tag: text("tag"), gives: text("gives") !== "no" },
      rest: { action: "rest", days: Number(text("days")), reason: text("reason") },
      exclude: {
        action: "exclude",
        reason: text("gives") === "no" ? null : text("reason").trim() || "Excluded by hand",
      },
      erase: text("sure").trim().toLowerCase() === "erase" ? { action: "erase", sure: "erase" } : null,
    };
    const it = actions[which];
    if (!it) {
      setWrong("Write the word erase to go on.");
      return;
    }
    start(async () => {
      const result = await changeMany(slug, chosen, it).catch(
        (): ActionResult => ({ ok: false, message: "Nothing was changed: the connection is lost. Try again." }),
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
        {which === "tag" ? (
          tags.length > 0 ? (
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
          ) : (
            <p>
              There are no tags yet. <Link href={`/c/${slug}/set-up`}>Make the first one</Link> under Set-up.
            </p>
          )
        ) : null}
        {which === "rest" ? (
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
        ) : null}
        {which === "exclude" ? (
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
        ) : null}
        {which === "erase" ? (
          <>
            <p>
              Names, addresses, notes and everything they wrote are removed for good. Visits and ratings stay as
              numbers. They will not be taken in again from any list or feed. <b>This cannot be undone.</b>
            </p>
            <label className="label" htmlFor="many-sure">
              Write “erase” to go on
            </label>
            <input id="many-sure" name="sure" className="field" autoComplete="off" />
            <button type="submit" className="button-main" disabled={pending}>
              {pending ? "Erasing ..." : `Erase ${count}`}
            </button>
          </>
        ) : null}
        {wrong ? (
          <p role="alert" className="bg-vermilion-tint text-vermilion-deep rounded-[8px] px-3 py-2">
            {wrong}
          </p>
        ) : null}
      </form>
    </Dialog>
  );
}
