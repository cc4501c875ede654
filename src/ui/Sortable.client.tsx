"use client";

import { ArrowDown, ArrowUp, GripVertical } from "lucide-react";
import { type ReactNode, useEffect, useRef, useState } from "react";

export type SortableItem = { key: string; name: string; content: ReactNode };

/**
 * A list whose order people set: by dragging, or with the two buttons of each row, which also serve the keyboard.
 * `onOrder` gets the keys in their new order.
 */
export function Sortable({
  items,
  label,
  onOrder,
  disabled = false,
}: {
  items: SortableItem[];
  label: string;
  onOrder: (keys: string[]) => void;
  disabled?: boolean;
}) {
  const [order, setOrder] = useState(items.map(({ key }) => key));
  const [dragged, setDragged] = useState<string | null>(null);
  const [says, setSays] = useState("");
  const focusNext = useRef<string | null>(null);
  const box = useRef<HTMLOListElement>(null);
  const known = items.map(({ key }) => key).join("\n");
  useEffect(() => setOrder(known.split("\n").filter(Boolean)), [known]);
  useEffect(() => {
    if (!focusNext.current) return;
    const buttons = [...(box.current?.querySelectorAll<HTMLButtonElement>("[data-move]") ?? [])];
    const [key] = focusNext.current.split("\n");
    const wanted = buttons.find((button) => button.dataset.move === focusNext.current);
    (wanted?.disabled
      ? buttons.find((button) => button.dataset.move?.startsWith(`${key}\n`) && !button.disabled)
      : wanted
    )?.focus();
    focusNext.current = null;
  });
  const move = (key: string, to: number, keep: boolean) => {
    const next = order.filter((one) => one !== key);
    next.splice(Math.max(0, Math.min(next.length, to)), 0, key);
    setOrder(next);
    if (keep && next.join("\n") !== known) onOrder(next);
    return next;
  };
  const shown = order.flatMap((key) => items.find((item) => item.key === key) ?? []);
  const step = (key: string, by: -1 | 1) => {
    const next = move(key, order.indexOf(key) + by, true);
    focusNext.current = `${key}\n${by}`;
    const name = items.find((item) => item.key === key)?.name ?? "";
    setSays(`${name} is now number ${next.indexOf(key) + 1} of ${next.length}.`);
  };
  return (
    <>
      <ol ref={box} aria-label={label} className="divide-rule border-rule divide-y border-y">
        {shown.map((item, index) => (
          <li
            key={item.key}
            draggable={!disabled}
            onDragStart={(event) => {
              setDragged(item.key);
              event.dataTransfer.effectAllowed = "move";
              event.dataTransfer.setData("text/plain", item.name);
            }}
            onDragEnter={() => dragged && dragged !== item.key && move(dragged, index, false)}
            onDragOver={(event) => dragged && event.preventDefault()}
            onDrop={(event) => event.preventDefault()}
            onDragEnd={() => {
              setDragged(null);
              if (order.join("\n") !== known) onOrder(order);
            }}
            className={`flex items-center gap-2 py-2 ${dragged === item.key ? "opacity-50" : ""}`}
          >
            {disabled ? null : <GripVertical size={17} aria-hidden="true" className="text-edge shrink-0 cursor-grab" />}
            <div className="min-w-0 flex-1">{item.content}</div>
            {disabled || shown.length < 2 ? null : (
              <span className="flex shrink-0">
                {([-1, 1] as const).map((by) => (
                  <button
                    key={by}
                    type="button"
                    data-move={`${item.key}\n${by}`}
                    aria-label={`Move ${item.name} ${by < 0 ? "up" : "down"} one place`}
                    disabled={by < 0 ? index === 0 : index === shown.length - 1}
                    onClick={() => step(item.key, by)}
                    className="text-second hover:text-ink grid size-[30px] place-items-center rounded-[7px] disabled:opacity-30"
                  >
                    {by < 0 ? <ArrowUp size={16} /> : <ArrowDown size={16} />}
                  </button>
                ))}
              </span>
            )}
          </li>
        ))}
      </ol>
      <p aria-live="polite" className="sr-only">
        {says}
      </p>
    </>
  );
}
