import type { FilterPart } from "./FilterSentence.client";

/**
 * The underlined part of a filter sentence for one value of the address.
 *
 * @example
 * filterPart({ label: "Branch", any: "all branches", value: wanted.branch, choices, href: (branch) => link({ branch }) })
 */
export function filterPart(it: {
  /** What it narrows down, for screen readers. */
  label: string;
  /** What it says when nothing is set, and the first of the choices. */
  any: string;
  value: string | null | undefined;
  choices: readonly { value: string; words: string; count?: string }[];
  /** The address with a value, or with none. */
  href: (value: string | null) => string;
}): FilterPart {
  const { label, any, choices, href } = it;
  const value = it.value ?? null;
  return {
    label,
    words: choices.find((choice) => choice.value === value)?.words ?? any,
    clear: value === null ? null : href(null),
    choices: [
      { href: href(null), words: any, isHere: value === null },
      ...choices.map(({ value: each, ...rest }) => ({ href: href(each), isHere: each === value, ...rest })),
    ],
  };
}

/** Things with a name as choices. */
export function namedChoices(list: readonly { id: string; name: string }[]): { value: string; words: string }[] {
  return list.map(({ id, name }) => ({ value: id, words: name }));
}
