"use client";

import { useRef, useState, useTransition } from "react";
import { toast } from "sonner";
import { Dialog } from "@/ui/Dialog.client";
import { lost } from "@/ui/lost.client";
import { confirmMany, previewMany } from "../actions";
import type { Selection } from "../selection";

type Preview = Awaited<ReturnType<typeof previewMany>>;

/** Every message that asking would send, word for word, and everyone left out with the reason; then one button. */
export function AskMany({
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
      setPreview({ ok: false, message: "We couldn’t work that out. Check your connection and try again." }),
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
      ).catch(lost({ ok: false, message: "The connection dropped and nobody was asked. Try again." }));
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
        seen && seen.more > 0
          ? `Only the first 500 can be asked together. Ask the other ${seen.more} afterwards.`
          : null
      }
    >
      {preview && !preview.ok ? <p role="alert">{preview.message}</p> : null}
      {!preview ? <p className="text-second">Checking each of them…</p> : null}
      {seen ? (
        <>
          <ul
            className="divide-rule border-rule max-h-[38vh] divide-y overflow-y-auto border-y"
            aria-label="Messages that would go out"
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
                {pending ? "Asking…" : `Ask ${seen.asked.length}`}
              </button>
            ) : null}
            <button type="button" className="button" onClick={onClose}>
              Cancel
            </button>
          </div>
        </>
      ) : null}
    </Dialog>
  );
}
