import { sayCount } from "@/core/time/say";
import { formatDay } from "@/core/time/zone";
import type { Plan } from "@/features/plans";
import type { FilterPart } from "@/ui/FilterSentence.client";
import type { RehearsalView } from "../rehearsalView";

export type RehearsalLink = (change: Record<string, string | number | null>) => string;

/** Whether days of one's own are chosen, instead of one of the offered periods. */
export const isOwnPeriod = ({ wanted, today }: RehearsalView) =>
  wanted.on === "past" && wanted.from !== null && wanted.from !== formatDay(today - 30);

/** A version in words. */
export function versionName(plan: Plan, name: string | null): string {
  if (name === "force") return "the live version";
  if (name?.startsWith("v")) return `version ${name.slice(1)}`;
  return plan.draft ? "your changes" : "the plan";
}

/** The sentence that says on what a plan is rehearsed, and beside which other version. */
export function rehearsalFilters(view: RehearsalView, link: RehearsalLink): (string | FilterPart)[] {
  const { wanted, today, plan, versions, lists } = view;
  const on = (words: string, change: Record<string, string | null>, isHere: boolean) => ({
    href: link({ on: "past", from: null, to: null, day: null, reason: null, list: null, ...change }),
    words,
    isHere,
  });
  const periods = [
    on("the last seven days", {}, wanted.on === "past" && wanted.from === null),
    on(
      "the last 30 days",
      { from: formatDay(today - 30) },
      wanted.on === "past" && wanted.from === formatDay(today - 30),
    ),
    on("other dates", { from: formatDay(today - 14), to: formatDay(today) }, isOwnPeriod(view)),
    on("visits booked in the next 14 days", { on: "booked" }, wanted.on === "booked"),
    on("a list", { on: "list" }, wanted.on === "list"),
  ];
  const others = versionsBeside(plan, versions, wanted.version);
  return [
    "Rehearsed on ",
    {
      label: "Which visits",
      words: periods.find(({ isHere }) => isHere)?.words ?? "the last seven days",
      clear: null,
      choices: periods,
    },
    ...(wanted.on === "list" && lists.length > 0
      ? [
          ": ",
          {
            label: "List",
            words: lists.find(({ id }) => id === wanted.list)?.name ?? "choose one",
            clear: null,
            choices: lists.map((list) => ({
              href: link({ list: list.id, day: null }),
              words: `${list.name}${list.state === "ready" ? ", not imported yet" : ""}`,
              count: sayCount(list.total, "row"),
              isHere: list.id === wanted.list,
            })),
          },
        ]
      : []),
    ...(others.length > 0
      ? [
          ", compared with ",
          {
            label: "Compared with",
            words: others.find(([name]) => name === wanted.against)?.[1] ?? "nothing",
            clear: wanted.against ? link({ against: null }) : null,
            choices: others.map(([name, words]) => ({
              href: link({ against: name }),
              words,
              isHere: name === wanted.against,
            })),
          },
        ]
      : []),
    ".",
  ];
}

/** The versions of a plan beside the one that is shown, with their names in words. */
function versionsBeside(plan: Plan, versions: { version: number }[], shown: string | null): [string, string][] {
  const older = versions.filter(({ version }) => version !== plan.version).slice(0, 6);
  const names: [string, string][] = [
    ...(plan.draft ? [["draft", "your changes"] as [string, string]] : []),
    ...(plan.version > 0 ? [["force", "the live version"] as [string, string]] : []),
    ...older.map(({ version }): [string, string] => [`v${version}`, `version ${version}`]),
  ];
  return names.filter(([name]) => name !== (shown ?? (plan.draft ? "draft" : "force")));
}
