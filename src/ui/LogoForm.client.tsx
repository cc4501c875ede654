"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";

/** A logo: chosen, replaced, or taken away. `to` is the address that takes it. */
export function LogoForm({ to, logoId }: { to: string; logoId: string | null }) {
  const router = useRouter();
  const [says, setSays] = useState("");
  const [pending, setPending] = useState(false);
  const send = async (file: File | null) => {
    setPending(true);
    const form = new FormData();
    if (file) form.append("logo", file);
    const answer = await fetch(to, { method: "POST", body: form }).catch(() => null);
    const told = answer && !answer.ok ? ((await answer.json().catch(() => ({}))) as { detail?: string }).detail : "";
    setSays(answer?.ok ? "" : told || "The connection was lost. Nothing was changed.");
    setPending(false);
    if (answer?.ok) router.refresh();
  };
  return (
    <span className="inline-flex flex-wrap items-center gap-2">
      <label className="button has-[:focus-visible]:outline-2 cursor-pointer" htmlFor="logo-file">
        {pending ? "One moment ..." : logoId ? "Another logo" : "Choose a logo"}
        <input
          id="logo-file"
          type="file"
          className="sr-only"
          accept=".png,.jpg,.jpeg,.webp,.avif,.svg"
          disabled={pending}
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            if (file) void send(file);
            event.target.value = "";
          }}
        />
      </label>
      {logoId ? (
        <button type="button" className="button-quiet" disabled={pending} onClick={() => void send(null)}>
          No logo
        </button>
      ) : null}
      {says ? (
        <span role="alert" className="text-vermilion-deep text-[14px]">
          {says}
        </span>
      ) : null}
    </span>
  );
}
