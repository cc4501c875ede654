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
  /** How many each choice would leave, asked for when the menu opens. */
  counts?: FilterPart["counts"];
}): FilterPart {
  const { label, any, choices, href, counts } = it;
  const value = it.value ?? null;
  return {
    label,
    words: choices.find((choice) => choice.value === value)?.words ?? any,
    clear: value === null ? null : href(null),
    choices: [
      { href: href(null), words: any, value: null, isHere: value === null },
      ...choices.map((choice) => ({ href: href(choice.value), isHere: choice.value === value, ...choice })),
    ],
    ...(counts ? { counts } : {}),
  };
}

/** Things with a name as choices. */
export function namedChoices(list: readonly { id: string; name: string }[]): { value: string; words: string }[] {
  return list.map(({ id, name }) => ({ value: id, words: name }));
}
