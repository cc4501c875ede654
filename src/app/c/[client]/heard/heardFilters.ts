import { THEMES } from "@/core/themes/themes";
import { sayDay } from "@/core/time/say";
import { LANGUAGE_NAMES, LANGUAGES } from "@/core/words/languages";
import { todayOf } from "@/features/clients";
import { viewQuery } from "@/features/reviews";
import { themeWords } from "@/locales/themes";
import type { FilterPart } from "@/ui/FilterSentence.client";
import { filterPart, namedChoices } from "@/ui/filterPart";
import { countChoices } from "./actions";
import type { Seen, Wanted } from "./loadHeard";

/** What Heard can be narrowed down by, as a sentence. */

type Narrowing =
  | "site"
  | "branch"
  | "member"
  | "rating"
  | "words"
  | "answered"
  | "language"
  | "since"
  | "from"
  | "to"
  | "theme"
  | "q";
export type Change = Partial<Record<Narrowing | "state" | "who" | "order" | "show" | "before", string | null>>;

/** By branch and by site, where there are several; all reviews by what they are as well. */
export function filtersOf(
  { setting, staff }: Seen,
  wanted: Wanted,
  it: { slug: string; userId: string; link: (change: Change) => string; now: number },
) {
  const { branches, listings, team } = setting;
  const { slug, userId, link, now } = it;
  const today = todayOf(setting, now);
  const address = viewQuery(wanted);
  const part = (
    name: Exclude<Narrowing, "q" | "from" | "to"> | "state" | "who" | "order",
    label: string,
    any: string,
    choices: readonly { value: string; words: string }[],
  ) =>
    filterPart({
      label,
      any,
      value: wanted[name],
      choices,
      href: (value) => link({ [name]: value, before: null }),
      ...(wanted.show === "reviews" && name !== "since"
        ? { counts: countChoices.bind(null, slug, name, address) }
        : {}),
    });
  const dayPart = (name: "from" | "to", label: string, any: string): FilterPart => {
    const chosen = wanted[name];
    return {
      label,
      words: chosen ? sayDay("UTC", Date.parse(chosen), now) : any,
      clear: chosen ? link({ [name]: null, before: null }) : null,
      choices: { day: chosen, today, href: link({ [name]: "{day}", before: null }) },
    };
  };
  const memberPart = () =>
    part(
      "member",
      "Team member",
      "anybody",
      team.map(({ id, name }) => ({ value: id, words: name })),
    );
  const choices = (pairs: Record<string, string>) => Object.entries(pairs).map(([value, words]) => ({ value, words }));
  const sites = [...new Set(listings.map(({ site }) => site))];
  const bySite = sites.length > 1 && ["waiting", "reviews", "aside", "planned"].includes(wanted.show);
  const filters: (string | FilterPart)[] = [];
  if (wanted.show === "waiting")
    filters.push(
      part("order", "Order", "unhappiest first", [{ value: "date", words: "latest first" }]),
      branches.length > 1 || bySite ? ", " : ".",
    );
  const whoPart = () =>
    part("who", "Who’s handling them", "handled by anyone", [
      { value: userId, words: "yours" },
      { value: "nobody", words: "not picked up yet" },
      ...staff.filter(({ id }) => id !== userId).map(({ id, name }) => ({ value: id, words: `${name}’s` })),
    ]);
  if (wanted.show === "concerns")
    filters.push(
      "Showing ",
      part("state", "Which", "all", [{ value: "open", words: "open ones" }]),
      ", ",
      whoPart(),
      ...(team.length > 0 ? [", about visits with ", memberPart()] : []),
      branches.length > 1 ? ", " : ".",
    );
  if (wanted.show === "kind")
    filters.push(
      "Showing ",
      part("state", "Which", "all of them", [{ value: "unread", words: "the ones nobody has read yet" }]),
      branches.length > 1 ? ", " : ".",
    );
  if (wanted.show === "conversations")
    filters.push(
      "Showing ",
      part("state", "Which", "waiting ones", [
        { value: "aside", words: "ones set aside" },
        { value: "all", words: "all" },
      ]),
      ", ",
      whoPart(),
      branches.length > 1 ? ", " : ".",
    );
  if (wanted.show === "reviews")
    filters.push(
      "Showing ",
      part(
        "rating",
        "Rating",
        "every review",
        choices({ unhappy: "unhappy reviews", mixed: "mixed reviews", happy: "happy reviews" }),
      ),
      ", ",
      part(
        "words",
        "With words",
        "with or without comments",
        choices({ with: "with a comment", without: "without a comment" }),
      ),
      ", ",
      part("answered", "Answered", "answered or not", choices({ yes: "answered", no: "not answered" })),
      ", in ",
      part(
        "language",
        "Language",
        "any language",
        LANGUAGES.map((value) => ({ value, words: LANGUAGE_NAMES[value] })),
      ),
      ", about ",
      part(
        "theme",
        "What they mention",
        "anything",
        THEMES.map((theme) => ({ value: theme, words: themeWords(theme).toLowerCase() })),
      ),
      ", from ",
      part(
        "since",
        "Since when",
        "any time",
        choices({
          week: "the last seven days",
          month: "the last 30 days",
          quarter: "the last three months",
          days: "dates I choose",
        }),
      ),
      ...(wanted.since === "days"
        ? [": ", dayPart("from", "From", "the start"), " to ", dayPart("to", "To", "today")]
        : []),
      ...(team.length > 0 ? [", after visits with ", memberPart()] : []),
      branches.length > 1 || bySite ? ", " : ".",
    );
  const begins = (first: string) => (filters.length === 0 ? first : first.toLowerCase());
  if (branches.length > 1)
    filters.push(
      begins("At "),
      part("branch", "Branch", "all branches", namedChoices(branches)),
      bySite ? ", on " : ".",
    );
  else if (bySite) filters.push(begins("On "));
  if (bySite)
    filters.push(
      part(
        "site",
        "Site",
        "all sites",
        sites.map((site) => ({ value: site, words: site })),
      ),
      ".",
    );
  return filters;
}
