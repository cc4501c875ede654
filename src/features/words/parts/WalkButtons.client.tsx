"use client";

import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { toast } from "sonner";
import type { WalkChoice } from "@/core/words/walk";
import { ActionForm } from "@/ui/ActionForm.client";
import { Copyable } from "@/ui/Copyable.client";
import { bringWords, changePiece, endWay, sendMeSample, shareWay } from "../actions";

type Plan = { slug: string; planId: string };

/** Sends the message that is shown to whoever looks, as a customer would get it. */
export function SampleButtons({ slug, planId, choice }: Plan & { choice: WalkChoice }) {
  const [pending, start] = useTransition();
  const send = (kind: "email" | "text") =>
    start(async () => {
      const result = await sendMeSample(slug, planId, choice, kind);
      if (result.ok) toast(result.message);
      else toast.error(result.message);
    });
  return (
    <div className="flex flex-wrap gap-2">
      <button type="button" className="button" disabled={pending} onClick={() => send("email")}>
        By email
      </button>
      <button type="button" className="button" disabled={pending} onClick={() => send("text")}>
        By text
      </button>
    </div>
  );
}

/** Makes a link to the whole way for somebody outside, and ends those that there are. */
export function ShareButtons({ slug, planId, open }: Plan & { open: number }) {
  const [pending, start] = useTransition();
  const [link, setLink] = useState<string | null>(null);
  return (
    <div className="space-y-2">
      {link ? (
        <Copyable text={link} label="The link" />
      ) : (
        <button
          type="button"
          className="button"
          disabled={pending}
          onClick={() =>
            start(async () => {
              const result = await shareWay(slug, planId);
              if ("link" in result) setLink(result.link);
              else toast.error(result.message);
            })
          }
        >
          Make a link
        </button>
      )}
      {open > 0 ? (
        <button
          type="button"
          className="button-quiet"
          disabled={pending}
          onClick={() =>
            start(async () => {
              const result = await endWay(slug, planId);
              if (result.ok) toast(result.message);
              setLink(null);
            })
          }
        >
          End {open === 1 ? "the link" : `${open} links`} to this preview
        </button>
      ) : null}
    </div>
  );
}

/** Takes the words of a file into the plan. */
export function BringWords({ slug, planId, revision }: Plan & { revision: number }) {
  return (
    <ActionForm action={bringWords.bind(null, slug, planId, revision)} className="space-y-2">
      {({ pending }) => (
        <>
          <p className="mb-2">A CSV or JSON file from a translator or another plan.</p>
          <label className="button has-[:focus-visible]:outline-2 cursor-pointer">
            {pending ? "Reading…" : "Choose a file"}
            <input
              type="file"
              name="file"
              className="sr-only"
              accept=".csv,.json,text/csv,application/json"
              disabled={pending}
              onChange={(event) => event.currentTarget.form?.requestSubmit()}
            />
          </label>
        </>
      )}
    </ActionForm>
  );
}

/** Writes a text without the marks on its letters, so that it takes fewer parts. */
export function PlainLetters({
  slug,
  planId,
  revision,
  piece,
  words,
}: Plan & { revision: number; piece: string; words: string }) {
  const router = useRouter();
  const [pending, start] = useTransition();
  return (
    <button
      type="button"
      className="button mt-2"
      disabled={pending}
      onClick={() =>
        start(async () => {
          const result = await changePiece(slug, planId, revision, piece, words);
          toast(result.message);
          if (result.ok) router.refresh();
        })
      }
    >
      {pending ? "Saving…" : "Use plain letters"}
    </button>
  );
}
