"use client";

import { useRouter } from "next/navigation";
import { useId, useState } from "react";
import { sendPicture } from "./sendPicture.client";

/** A picture of one kind: chosen, replaced, or taken away. `to` is the address that takes it. */
export function PictureForm({ to, has, name }: { to: string; has: boolean; name: string }) {
  const router = useRouter();
  const id = useId();
  const [says, setSays] = useState("");
  const [pending, setPending] = useState(false);
  const send = async (file: File | null) => {
    setPending(true);
    const sent = await sendPicture(to, file);
    setSays(sent.ok ? "" : sent.says);
    setPending(false);
    if (sent.ok) router.refresh();
  };
  return (
    <span className="inline-flex flex-wrap items-center gap-2">
      <label className="button has-[:focus-visible]:outline-2 cursor-pointer" htmlFor={id}>
        {pending ? "One moment…" : has ? `Change ${name}` : `Choose a ${name}`}
        <input
          id={id}
          type="file"
          className="sr-only"
          accept={name === "logo" ? `${PICTURE_FILES},.svg` : PICTURE_FILES}
          disabled={pending}
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            if (file) void send(file);
            event.target.value = "";
          }}
        />
      </label>
      {has ? (
        <button type="button" className="button-quiet" disabled={pending} onClick={() => void send(null)}>
          No {name}
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

/** What a file chooser offers; a logo may be an SVG besides. */
export const PICTURE_FILES = ".png,.jpg,.jpeg,.webp,.avif";
