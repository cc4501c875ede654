"use client";

import { LetterForm } from "@/features/concerns/parts/ConcernForms.client";
import { ActionForm } from "@/ui/ActionForm.client";
import { read, readAll, thank } from "../actions";

/** Marks a private note as read. */
export const ReadButton = ({ slug, id }: { slug: string; id: string }) => (
  <ActionForm action={read.bind(null, slug, id)}>
    {({ pending }) => (
      <button type="submit" className="button" disabled={pending}>
        Mark as read
      </button>
    )}
  </ActionForm>
);

/** Marks all of them as read, or those of a branch. */
export const ReadAllButton = ({ slug, branchId }: { slug: string; branchId: string | null }) => (
  <ActionForm action={readAll.bind(null, slug, branchId)}>
    {({ pending }) => (
      <button type="submit" className="button-quiet" disabled={pending}>
        Mark all as read
      </button>
    )}
  </ActionForm>
);

type Props = {
  slug: string;
  id: string;
  channels: { channel: "text" | "email"; to: string }[];
  name: string;
  signature?: string | null;
  seenAt: number;
};

/** Thanks whoever wrote a note. */
export const ThankForm = ({ slug, ...it }: Props) => <LetterForm action={thank.bind(null, slug, it.id)} {...it} />;
