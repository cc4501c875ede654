"use client";

import { useRouter } from "next/navigation";
import { useEffect, useRef, useTransition } from "react";

/** Search as one types; what is typed lives in the address. */
export function PeopleSearch({
  base,
  query,
  typed,
  focus,
}: {
  base: string;
  query: string;
  typed: string;
  focus: boolean;
}) {
  const router = useRouter();
  const [pending, go] = useTransition();
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (focus) input.current?.focus();
  }, [focus]);
  return (
    <form role="search" action={base} className="relative max-w-[460px]">
      <label className="sr-only" htmlFor="people-search">
        Search people by name, email, phone, tag or note
      </label>
      <input
        ref={input}
        id="people-search"
        name="q"
        className="field"
        defaultValue={typed}
        placeholder="Name, email, phone, tag or note"
        autoComplete="off"
        onChange={(event) => {
          const { value } = event.target;
          clearTimeout(timer.current);
          timer.current = setTimeout(() => {
            const next = new URLSearchParams(query);
            if (value.trim()) next.set("q", value);
            else next.delete("q");
            go(() => router.replace(next.size > 0 ? `${base}?${next}` : base));
          }, 200);
        }}
      />
      {pending ? <span className="text-second absolute top-2 right-3 text-[14px]">looking…</span> : null}
    </form>
  );
}
