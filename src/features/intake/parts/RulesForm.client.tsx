"use client";

import { useState, useTransition } from "react";
import { toast } from "sonner";
import type { EventRule } from "@/core/calendar/rules";
import { lost } from "@/ui/lost.client";
import { saveRules } from "../feedActions";

type Named = { id: string; name: string };

/** Which events are visits, as sentences in order; the first that fits decides. */
export function RulesForm({
  slug,
  id,
  rules,
  services,
}: {
  slug: string;
  id: string;
  rules: EventRule[];
  services: Named[];
}) {
  const [list, setList] = useState(rules.map((rule, key) => ({ ...rule, key })));
  const [pending, start] = useTransition();
  const [wrong, setWrong] = useState("");
  const change = (key: number, part: Partial<EventRule>) =>
    setList(list.map((rule) => (rule.key === key ? { ...rule, ...part } : rule)));
  const move = (index: number, by: number) => {
    const next = [...list];
    const [rule] = next.splice(index, 1);
    next.splice(index + by, 0, rule);
    setList(next);
  };
  const save = () =>
    start(async () => {
      const result = await saveRules(
        slug,
        id,
        list.map(({ key: _, ...rule }) => rule),
      ).catch(lost({ ok: false as const, message: "The connection dropped and nothing was saved." }));
      setWrong(result.ok ? "" : result.message);
      if (result.ok) toast(result.message ?? "Saved.");
    });
  return (
    <div>
      <ol className="divide-rule border-rule divide-y border-y">
        {list.map((rule, index) => (
          <RuleRow
            key={rule.key}
            rule={rule}
            services={services}
            isFirst={index === 0}
            isLast={index === list.length - 1}
            onChange={(part) => change(rule.key, part)}
            onMove={(by) => move(index, by)}
            onRemove={() => setList(list.filter(({ key }) => key !== rule.key))}
          />
        ))}
      </ol>
      <p className="text-second mt-2 text-[14px]">
        The first rule that fits applies. An event that fits none isn’t a visit.
      </p>
      <div className="mt-3 flex gap-2">
        <button
          type="button"
          className="button"
          onClick={() =>
            setList([
              ...list,
              {
                key: Math.max(0, ...list.map(({ key }) => key)) + 1,
                where: "title",
                word: "",
                counts: true,
                serviceId: null,
              },
            ])
          }
        >
          Add a rule
        </button>
        <button type="button" className="button-main" disabled={pending} onClick={save}>
          {pending ? "Saving…" : "Save rules"}
        </button>
      </div>
      {wrong ? (
        <p role="alert" className="text-vermilion-deep mt-2">
          {wrong}
        </p>
      ) : null}
    </div>
  );
}

/** One sentence: events with a word in some place are visits of a service, or are none. */
function RuleRow({
  rule,
  services,
  isFirst,
  isLast,
  onChange,
  onMove,
  onRemove,
}: {
  rule: EventRule;
  services: Named[];
  isFirst: boolean;
  isLast: boolean;
  onChange: (part: Partial<EventRule>) => void;
  onMove: (by: number) => void;
  onRemove: () => void;
}) {
  const select = "field w-auto py-1 font-semibold";
  return (
    <li className="flex flex-wrap items-center gap-x-2 gap-y-1.5 py-2.5">
      <span>Events with</span>
      <input
        value={rule.word}
        onChange={(event) => onChange({ word: event.target.value })}
        aria-label="Word"
        placeholder="anything"
        maxLength={80}
        className="field w-[150px] py-1"
      />
      <span>in</span>
      <select
        value={rule.where}
        onChange={(event) => onChange({ where: event.target.value as EventRule["where"] })}
        aria-label="Where to look for the word"
        className={select}
      >
        <option value="title">the title</option>
        <option value="category">the category</option>
        <option value="place">the place</option>
        <option value="anything">anything</option>
      </select>
      <select
        value={rule.counts ? "yes" : "no"}
        onChange={(event) => onChange({ counts: event.target.value === "yes" })}
        aria-label="Are they visits?"
        className={select}
      >
        <option value="yes">are visits:</option>
        <option value="no">aren’t visits</option>
      </select>
      {rule.counts ? (
        <select
          value={rule.serviceId ?? ""}
          onChange={(event) => onChange({ serviceId: event.target.value || null })}
          aria-label="Service"
          className={select}
        >
          <option value="">the service is in the title</option>
          {services.map(({ id: key, name }) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      ) : null}
      <span className="ml-auto flex gap-1">
        <button
          type="button"
          className="button-quiet"
          disabled={isFirst}
          onClick={() => onMove(-1)}
          aria-label="Earlier"
        >
          ↑
        </button>
        <button type="button" className="button-quiet" disabled={isLast} onClick={() => onMove(1)} aria-label="Later">
          ↓
        </button>
        <button type="button" className="button-quiet" onClick={onRemove}>
          Remove
        </button>
      </span>
    </li>
  );
}
