import type { z } from "zod";
import type { Setting } from "@/features/clients";
import type { FilterPart } from "@/ui/FilterSentence.client";
import { filterPart, namedChoices } from "@/ui/filterPart";
import { ASKED, type directoryQuery, PEOPLE_STATES } from "../directory";

const ASKED_WORDS = { never: "never", month: "in the last 30 days", year: "in the last year", longer: "longer ago" };
type State = (typeof PEOPLE_STATES)[number];
/** What is said of people in each state, after "people"; of one person, where that reads differently. */
const STATE_CLAUSES: Record<State, readonly [string, string?]> = {
  planned: ["with a message on its way"],
  asked: ["who’ve been asked and haven’t answered", "who’s been asked and hasn’t answered"],
  answered: ["who’ve answered", "who’s answered"],
  reviewed: ["who’ve left a review", "who’s left a review"],
  "would recommend": ["who’d recommend you"],
  undecided: ["who might recommend you"],
  "would not": ["who wouldn’t recommend you"],
  concern: ["with an open concern"],
  resting: ["who are resting", "who is resting"],
  "opted out": ["who’ve opted out", "who’s opted out"],
  unreachable: ["we can’t reach"],
  excluded: ["who are never asked", "who is never asked"],
};

/** "who’ve opted out": what `count` people in a state have in common. */
export function stateClause(state: State, count: number): string {
  const [many, one] = STATE_CLAUSES[state];
  return count === 1 ? (one ?? many) : many;
}

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
      any: "everyone",
      value: wanted.state,
      choices: PEOPLE_STATES.map((state) => ({ value: state, words: `people ${stateClause(state, 2)}` })),
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
