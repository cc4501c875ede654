import type { z } from "zod";
import type { Setting } from "@/features/clients";
import type { FilterPart } from "@/ui/FilterSentence.client";
import { filterPart, namedChoices } from "@/ui/filterPart";
import { ASKED, type directoryQuery, PEOPLE_STATES } from "../directory";

const ASKED_WORDS = { never: "never", month: "in the last 30 days", year: "in the last year", longer: "longer ago" };
const STATE_PHRASES: Record<(typeof PEOPLE_STATES)[number], string> = {
  planned: "people with a message to come",
  asked: "people who were asked and have not answered",
  answered: "people who answered",
  reviewed: "people who wrote a review",
  "would recommend": "people who would recommend you",
  undecided: "people who may recommend you",
  "would not": "people who would not recommend you",
  concern: "people with an open concern",
  resting: "people who rest",
  "opted out": "people who opted out",
  unreachable: "people nothing can reach",
  excluded: "people who are never asked",
};

type Filter = "state" | "asked" | "branch" | "tag";

/** The sentence that says whom the list of people shows. `link` gives the address with one filter changed. */
export function peopleFilters(
  setting: Setting,
  wanted: z.output<typeof directoryQuery>,
  link: (name: Filter, value: string | null) => string,
): (string | FilterPart)[] {
  return [
    "Showing ",
    filterPart({
      label: "State",
      any: "everybody",
      value: wanted.state,
      choices: PEOPLE_STATES.map((state) => ({ value: state, words: STATE_PHRASES[state] })),
      href: (value) => link("state", value),
    }),
    ", asked ",
    filterPart({
      label: "Asked",
      any: "at any time or never",
      value: wanted.asked,
      choices: ASKED.map((asked) => ({ value: asked, words: ASKED_WORDS[asked] })),
      href: (value) => link("asked", value),
    }),
    ...(setting.branches.length > 1
      ? [
          ", of ",
          filterPart({
            label: "Branch",
            any: "all branches",
            value: wanted.branch,
            choices: namedChoices(setting.branches),
            href: (value) => link("branch", value),
          }),
        ]
      : []),
    ...(setting.tags.length > 0
      ? [
          ", with ",
          filterPart({
            label: "Tag",
            any: "any tag or none",
            value: wanted.tag,
            choices: setting.tags.map(({ name }) => ({ value: name, words: `the tag “${name}”` })),
            href: (value) => link("tag", value),
          }),
        ]
      : []),
    ".",
  ];
}
