"use client";

import { useRouter } from "next/navigation";
import { useCallback, useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { lost } from "@/ui/lost.client";
import { type AskForm, type AskPreview, type Candidate, confirmAsk, previewAsk } from "../actions";
import type { AskChoices } from "./ComposeAsk.client";

/**
 * What is filled in to ask one person, what would be sent, and the asking itself. The preview follows the form; one
 * request key makes a second press ask nobody twice.
 */
export function useAskForm({ slug, services, branches }: AskChoices, person: Candidate, done: () => void) {
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
    requestKey: crypto.randomUUID(),
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
          lost({ ok: false, message: "The connection dropped and nothing was sent. Try again." }),
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
      setPreview({ ok: false, message: "The connection dropped. Press again; it won’t be sent twice." });
    }
    sent.current = false;
    setSending(false);
  };
  const wrongIn = (field: string) => (preview && !preview.ok ? preview.fields?.[field] : undefined);
  return { form, change, preview, isNew, isComplete: Boolean(complete), isSending: sending, confirm, wrongIn };
}
