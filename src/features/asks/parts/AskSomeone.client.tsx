"use client";

import { useRouter } from "next/navigation";
import { useCallback, useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { Dialog } from "@/ui/Dialog.client";
import { type AskForm, type AskPreview, type Candidate, confirmAsk, findToAsk, previewAsk } from "../actions";

type Choice = { id: string; name: string };
type Props = { slug: string; services: Choice[]; branches: Choice[]; team: Choice[]; aboutLabel: string };

const newKey = () => crypto.randomUUID();

/** "Ask someone", from every page: by its button, by the key A, or by `?ask=<person>`. */
export function AskSomeone(props: Props) {
  const [open, setOpen] = useState(false);
  const [person, setPerson] = useState<Candidate | null>(null);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.key.toLowerCase() !== "a" || event.ctrlKey || event.metaKey || event.altKey) return;
      if (target.closest("input, textarea, select, [contenteditable], [role=dialog]")) return;
      event.preventDefault();
      setOpen(true);
    };
    const onAsk = (event: Event) => {
      setPerson((event as CustomEvent<Candidate>).detail);
      setOpen(true);
    };
    addEventListener("keydown", onKey);
    addEventListener("estima:ask", onAsk);
    return () => {
      removeEventListener("keydown", onKey);
      removeEventListener("estima:ask", onAsk);
    };
  }, []);
  const change = (next: boolean) => {
    setOpen(next);
    if (!next) setPerson(null);
  };
  return (
    <>
      <button type="button" className="button-main" onClick={() => setOpen(true)}>
        Ask someone <kbd className="key hidden sm:inline">A</kbd>
      </button>
      <Dialog
        open={open}
        onOpenChange={change}
        title={person ? `Ask ${person.name}` : "Whom do you want to ask?"}
        lead={person?.last ?? undefined}
      >
        {person ? (
          <Compose {...props} person={person} back={() => setPerson(null)} done={() => change(false)} />
        ) : (
          <Pick {...props} pick={setPerson} />
        )}
      </Dialog>
    </>
  );
}

function Pick({ slug, pick, services, branches }: Props & { pick: (person: Candidate) => void }) {
  const [typed, setTyped] = useState("");
  const [found, setFound] = useState<Candidate[] | null>(null);
  useEffect(() => {
    let current = true;
    const timer = setTimeout(
      async () => {
        const list = await findToAsk(slug, typed).catch(() => []);
        if (current) setFound(list);
      },
      typed ? 180 : 0,
    );
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [slug, typed]);
  const fresh = (): Candidate => ({
    id: "new",
    name: "someone new",
    reach: "",
    last: null,
    serviceId: services[0]?.id ?? null,
    branchId: branches[0]?.id ?? null,
    teamMemberId: null,
    about: null,
    visitId: null,
    canText: true,
  });
  return (
    <div>
      <label className="label" htmlFor="ask-search">
        Name, phone or email
      </label>
      <input
        id="ask-search"
        className="field"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        autoComplete="off"
        // biome-ignore lint/a11y/noAutofocus: the dialog was opened to type here
        autoFocus
        placeholder="odette, 07700 900123 ..."
      />
      <p className="text-second mt-4 mb-1 text-[14px]" aria-live="polite">
        {found === null
          ? "Looking ..."
          : typed
            ? found.length === 0
              ? "Nobody here has that name or address."
              : `${found.length} found`
            : found.length
              ? "Here lately"
              : "Nobody was here lately."}
      </p>
      <ul className="divide-rule border-rule divide-y border-y">
        {(found ?? []).map((person) => (
          <li key={person.id}>
            <button
              type="button"
              onClick={() => pick(person)}
              className="hover:bg-mulberry-tint flex min-h-[56px] w-full flex-wrap items-baseline gap-x-4 px-2 py-2 text-left"
            >
              <b>{person.name}</b>
              <span className="text-second text-[14px]">{person.last ?? person.reach}</span>
            </button>
          </li>
        ))}
      </ul>
      <button type="button" className="button mt-4" onClick={() => pick(fresh())}>
        Add someone new
      </button>
    </div>
  );
}

function Compose({
  slug,
  services,
  branches,
  team,
  aboutLabel,
  person,
  back,
  done,
}: Props & { person: Candidate; back: () => void; done: () => void }) {
  const router = useRouter();
  const isNew = person.id === "new";
  const [form, setForm] = useState<AskForm>(() => ({
    personId: person.id,
    name: "",
    phone: "",
    email: "",
    serviceId: person.serviceId ?? services[0]?.id ?? "",
    branchId: person.branchId ?? branches[0]?.id ?? "",
    teamMemberId: person.teamMemberId ?? "",
    about: person.about ?? "",
    visitId: person.visitId,
    channel: person.canText ? "text" : "email",
    planId: "",
    requestKey: newKey(),
  }));
  const [preview, setPreview] = useState<AskPreview | null>(null);
  const [sending, setSending] = useState(false);
  const sent = useRef(false);
  const complete = !isNew || (form.name?.trim() && (form.phone?.trim() || form.email?.trim()));
  // What the preview depends on; the visit that was picked stands only as long as its details do.
  const change = useCallback(
    (part: Partial<AskForm>, keepsVisit = false) =>
      setForm((before) => ({ ...before, ...part, ...(keepsVisit ? {} : { visitId: null }) })),
    [],
  );

  useEffect(() => {
    if (!complete) {
      setPreview(null);
      return;
    }
    let current = true;
    const timer = setTimeout(
      async () => {
        const next = await previewAsk(slug, form).catch(
          (): AskPreview => ({ ok: false, message: "The connection was lost. Nothing was sent; try again." }),
        );
        if (current) setPreview(next);
      },
      isNew ? 350 : 0,
    );
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [slug, form, complete, isNew]);

  const confirm = async () => {
    if (sent.current) return;
    sent.current = true;
    setSending(true);
    try {
      const result = await confirmAsk(slug, form);
      if (result.ok) {
        toast(result.message ?? "Asked.");
        router.refresh();
        done();
        return;
      }
      setPreview({ ok: false, message: result.message, fields: result.fields });
    } catch {
      setPreview({ ok: false, message: "The connection was lost. Press again: it will not be sent twice." });
    }
    sent.current = false;
    setSending(false);
  };
  const wrong = (field: string) => {
    const text = preview && !preview.ok ? preview.fields?.[field] : undefined;
    return text ? (
      <p role="alert" className="text-vermilion-deep mt-1 text-[14px]">
        {text}
      </p>
    ) : null;
  };
  const select = (
    id: string,
    label: string,
    value: string,
    list: Choice[],
    onChange: (value: string) => void,
    none?: string,
  ) => (
    <div>
      <label className="label" htmlFor={id}>
        {label}
      </label>
      <select id={id} className="field" value={value} onChange={(event) => onChange(event.target.value)}>
        {none ? <option value="">{none}</option> : null}
        {list.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </select>
    </div>
  );
  return (
    <div>
      {isNew ? (
        <div className="mb-4 grid gap-3 sm:grid-cols-3">
          <div>
            <label className="label" htmlFor="ask-name">
              Name
            </label>
            <input
              id="ask-name"
              className="field"
              value={form.name}
              onChange={(event) => change({ name: event.target.value })}
            />
            {wrong("name")}
          </div>
          <div>
            <label className="label" htmlFor="ask-phone">
              Mobile
            </label>
            <input
              id="ask-phone"
              className="field"
              inputMode="tel"
              value={form.phone}
              onChange={(event) => change({ phone: event.target.value })}
            />
            {wrong("phone")}
          </div>
          <div>
            <label className="label" htmlFor="ask-email">
              Email
            </label>
            <input
              id="ask-email"
              className="field"
              inputMode="email"
              value={form.email}
              onChange={(event) => change({ email: event.target.value })}
            />
            {wrong("email")}
          </div>
        </div>
      ) : null}
      <details className="mb-4" open={isNew}>
        <summary className="text-second text-[14px]">About which visit, and how</summary>
        <div className="mt-3 grid gap-3 sm:grid-cols-2">
          {select("ask-service", "Service", form.serviceId, services, (value) => change({ serviceId: value }))}
          {select("ask-branch", "Branch", form.branchId, branches, (value) => change({ branchId: value }))}
          {select(
            "ask-member",
            "Team member",
            String(form.teamMemberId ?? ""),
            team,
            (value) => change({ teamMemberId: value }),
            "nobody in particular",
          )}
          <div>
            <label className="label" htmlFor="ask-about">
              {aboutLabel}
            </label>
            <input
              id="ask-about"
              className="field"
              value={form.about}
              onChange={(event) => change({ about: event.target.value })}
            />
            {wrong("about")}
          </div>
          {select(
            "ask-channel",
            "By",
            form.channel,
            [
              { id: "text", name: "text" },
              { id: "email", name: "email" },
            ],
            (value) => change({ channel: value as "text" | "email" }, true),
          )}
          {preview?.ok && preview.plans.length > 1
            ? select("ask-plan", "With the plan", form.planId || preview.planId, preview.plans, (value) =>
                change({ planId: value }, true),
              )
            : null}
        </div>
      </details>
      <div aria-live="polite">
        {preview?.ok ? (
          <div className="bg-paper border-rule rounded-[12px] border p-4">
            <p className="mb-2">
              <b>{preview.leaves === "now" ? "Leaves now" : `Leaves ${preview.leaves}`}</b> as{" "}
              {preview.channel === "text" ? "a text" : "an email"} to {preview.to}.
              <span className="text-second block text-[14px]">
                {preview.instead} {preview.why} {preview.afterwards}
              </span>
            </p>
            <div className="bg-sheet border-rule max-h-[240px] overflow-y-auto rounded-[10px] border px-4 py-3 whitespace-pre-wrap [overflow-wrap:anywhere]">
              {preview.subject ? <p className="mb-2 font-semibold">{preview.subject}</p> : null}
              {preview.body}
            </div>
            {preview.parts ? (
              <p className="text-second mt-2 text-[13px]">
                {preview.parts} {preview.parts === 1 ? "part" : "parts"}, {preview.body.length} characters
              </p>
            ) : null}
            {preview.advice.map((line) => (
              <p key={line} className="bg-ochre-tint text-ochre-deep mt-2 rounded-[8px] px-3 py-1.5 text-[14px]">
                {line}. You can ask all the same.
              </p>
            ))}
          </div>
        ) : preview ? (
          <p role="alert" className="bg-vermilion-tint text-vermilion-deep rounded-[10px] px-4 py-3">
            {preview.fields && Object.keys(preview.fields).length > 0
              ? "Fix what is marked above, then it can be sent."
              : preview.message}
          </p>
        ) : (
          <p className="text-second bg-paper rounded-[10px] px-4 py-3">
            {complete ? "Working out what will be sent ..." : "Give a name, and a mobile number or an email address."}
          </p>
        )}
      </div>
      <div className="mt-5 flex flex-wrap justify-between gap-3">
        <button type="button" className="button" onClick={back}>
          Somebody else
        </button>
        <button
          type="button"
          className="button-main min-h-[44px] px-6"
          disabled={!preview?.ok || sending}
          onClick={confirm}
        >
          {sending ? "Asking ..." : preview?.ok && preview.advice.length ? "Ask all the same" : "Ask"}
        </button>
      </div>
    </div>
  );
}
