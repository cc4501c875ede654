"use client";

import { toast } from "sonner";
import { ActionForm } from "@/ui/ActionForm.client";
import { lost } from "@/ui/lost.client";
import { Sortable, type SortableItem } from "@/ui/Sortable.client";
import { newPlan, setPlanOrder } from "../actions";

/** The plans in the order in which they take visits. */
export function PlanList({ slug, items, mayChange }: { slug: string; items: SortableItem[]; mayChange: boolean }) {
  const keep = async (ids: string[]) => {
    const result = await setPlanOrder(slug, ids).catch(
      lost({
        ok: false as const,
        message: "The connection dropped, so the order wasn’t saved.",
      }),
    );
    toast(result.message ?? "Saved.");
  };
  return <Sortable label="Plans, in order of priority" items={items} onOrder={keep} disabled={!mayChange} />;
}

/** Makes a plan from a starter or from nothing. */
export function StartFrom({ slug, from, children }: { slug: string; from: string; children: React.ReactNode }) {
  return (
    <ActionForm action={newPlan.bind(null, slug)}>
      {({ pending }) => (
        <>
          <input type="hidden" name="from" value={from} />
          <button type="submit" className="button" disabled={pending}>
            {pending ? "One moment…" : children}
          </button>
        </>
      )}
    </ActionForm>
  );
}
