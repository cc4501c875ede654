/** The end of a form that opened in place: keeps it, or closes it as it was. */
export function FormButtons({ pending, onCancel }: { pending: boolean; onCancel: () => void }) {
  return (
    <div className="flex gap-2">
      <button type="submit" className="button-main" disabled={pending}>
        {pending ? "Saving…" : "Save"}
      </button>
      <button type="button" className="button" onClick={onCancel}>
        Cancel
      </button>
    </div>
  );
}
