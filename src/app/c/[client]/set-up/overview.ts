import { sayPhone } from "@/core/contacts/phone";
import { sitesInNeed } from "@/core/reviews/sites";
import { capital, sayAgo, sayCount } from "@/core/time/say";
import { listKeys } from "@/features/api";
import { auditTrail, type TrailEntry } from "@/features/audit";
import { recordOf } from "@/features/audit/parts/EntryDetails";
import { loadSetting, type Setting } from "@/features/clients";
import { listOwnerRules } from "@/features/concerns";
import { listPhones } from "@/features/desk";
import { feedNumbers, feedProblems, listFeeds, openNames } from "@/features/intake";
import { staffOf } from "@/features/notices";
import { countWaiting } from "@/features/visits";
import { auditSentence, siteProblemHelp, siteProblemWords } from "@/locales/operations";
import type { Access } from "@/platform/access";
import { withClient } from "@/platform/database";

/** One part of Set-up: how things are there, in a sentence or two, and what needs somebody, if anything does. */
export type SetUpPart = {
  name: string;
  /** Its page, below the client. */
  path: string;
  /** What needs attention, and the button that leads to it. */
  needs?: { says: string; path: string; button: string };
  says: string;
};

const listed = new Intl.ListFormat("en-GB", { type: "conjunction" });

/** Every part of Set-up as it is now, those that need somebody first; `mayName`: whether to tell of names to match. */
export async function loadOverview(access: Access, mayName: boolean, now: number): Promise<SetUpPart[]> {
  return withClient(access, async (tx) => {
    const setting = await loadSetting(tx);
    const feeds = (await listFeeds(tx, access)).filter(({ state }) => state === "on");
    const numbers = await feedNumbers(tx, access);
    const [troubled] = (await feedProblems(tx, access)).filter(({ setUp }) => setUp);
    const names = mayName ? await openNames(tx, access) : [];
    const waiting = names.length > 0 ? await countWaiting(tx, access) : 0;
    const owners = await listOwnerRules(tx, access);
    const staff = owners.length > 0 ? await staffOf(tx) : [];
    const phones = await listPhones(tx, access);
    const keys = await listKeys(tx, access);
    const [latest] = await auditTrail(tx, access, null, null);
    const last = Math.max(...feeds.map(({ id }) => numbers.get(id)?.last ?? 0), 0);
    const all: SetUpPart[] = [
      pagesPart(setting, now),
      {
        name: "Feeds",
        path: "set-up/feeds",
        ...(troubled ? { needs: { says: `${troubled.title}. ${troubled.words}`, ...troubled } } : {}),
        says:
          feeds.length === 0
            ? "No feed yet. Visits come in from lists, or by hand."
            : last > 0 || feeds.some(({ id }) => (numbers.get(id)?.visits ?? 0) > 0)
              ? `${capital(sayCount(feeds.length, "feed brings", "feeds bring"))} visits in.${last > 0 ? ` The last one came ${sayAgo(last, now)}.` : ""}`
              : `${capital(sayCount(feeds.length, "feed is", "feeds are"))} connected. Nothing has come in through ${feeds.length === 1 ? "it" : "them"} yet.`,
      },
      businessPart(setting),
      servicesPart(setting),
      {
        name: "Answering",
        path: "set-up/answering",
        says: `Unhappy customers hear from you within ${sayCount(setting.client.answerWithinHours, "office hour")}. ${ownersSay(setting, owners, staff)}`,
      },
      tagsPart(setting),
      {
        name: "Names to match",
        path: "set-up/names",
        ...(names.length > 0
          ? {
              needs: {
                says: `${capital(sayCount(names.length, "name from lists and feeds hasn’t", "names from lists and feeds haven’t"))} been matched.`,
                path: "set-up/names",
                button: names.length === 1 ? "Match it" : "Match them",
              },
            }
          : {}),
        says:
          names.length === 0
            ? "We recognise every name from your lists and feeds."
            : waiting > 0
              ? `${capital(sayCount(waiting, "visit is", "visits are"))} waiting for it.`
              : "No visit is waiting for it.",
      },
      {
        name: "Shared phones",
        path: "set-up/phones",
        says:
          phones.length === 0
            ? "No shared phone at the desk or in the van."
            : `${capital(sayCount(phones.length, "shared phone"))}: ${listed.format(phones.slice(0, 3).map(({ name }) => name))}${phones.length > 3 ? " and others" : ""}.`,
      },
      {
        name: "API keys",
        path: "set-up/keys",
        says: keys.length === 0 ? "No API key." : `${capital(sayCount(keys.length, "API key"))} in use.`,
      },
      {
        name: "Who did what",
        path: "set-up/changes",
        says: latest ? `${latest.who} ${deedOf(latest)} ${sayAgo(latest.at, now)}.` : "Nothing recorded yet.",
      },
    ];
    const shown = all.filter(({ path }) => mayName || path !== "set-up/names");
    return [...shown.filter(({ needs }) => needs), ...shown.filter(({ needs }) => !needs)];
  });
}

function pagesPart({ listings, branches }: Setting, now: number): SetUpPart {
  const path = "set-up/pages";
  const name = "Review pages";
  const sites = [...new Set(listings.map(({ site }) => site))];
  const bare = branches.filter(({ id }) => !listings.some(({ branchId }) => branchId === id));
  const read = new Set(listings.flatMap(({ connector, site }) => (connector ? [site] : [])));
  const says =
    listings.length === 0
      ? "Add the page on each review site where customers can write."
      : `Customers are sent to ${listed.format(sites)}. ${read.size === 0 ? "No site’s reviews are collected." : `Reviews are collected from ${listed.format([...read])}.`}`;
  const [problem] = sitesInNeed(listings, now);
  const lost = listings.find((one) => one.problem);
  if (problem) {
    const { says: what, button } = siteProblemHelp(problem.problem);
    return { name, path, needs: { says: `We can’t reach ${problem.site}. ${what}`, path, button }, says };
  }
  if (lost?.problem)
    return {
      name,
      path,
      needs: {
        says: `The link to ${lost.site} is broken: ${siteProblemWords(lost.problem)}.`,
        path,
        button: "Check the links",
      },
      says,
    };
  if (bare.length > 0)
    return {
      name,
      path,
      needs: {
        says:
          listings.length === 0
            ? "No review page yet."
            : `${listed.format(bare.map((one) => one.name))} has no review page yet.`,
        path,
        button: "Add a review page",
      },
      says,
    };
  return { name, path, says };
}

function businessPart({ client, branches }: Setting): SetUpPart {
  const { name, senderEmail, textNumber, logo } = client;
  return {
    name: "The business",
    path: "set-up/business",
    says: `${name} sends emails from ${senderEmail} and texts from ${sayPhone(textNumber)}. ${capital(sayCount(branches.length, "branch", "branches"))}.${logo ? "" : " No logo yet."}`,
  };
}

function servicesPart({ services, team }: Setting): SetUpPart {
  const offered = services.filter(({ retired }) => !retired);
  const never = offered.filter(({ neverAsk }) => neverAsk).map(({ name }) => name);
  return {
    name: "Services and team",
    path: "set-up/services",
    says: `${capital(sayCount(offered.length, "service"))}${never.length > 0 ? `; we never ask about ${listed.format(never.map((one) => one.toLowerCase()))}` : ""}. ${capital(sayCount(team.filter(({ retired }) => !retired).length, "team member"))}.`,
  };
}

function tagsPart({ tags }: Setting): SetUpPart {
  const never = tags.filter(({ effect }) => effect === "do not ask").map(({ name }) => `“${name}”`);
  return {
    name: "Tags",
    path: "set-up/tags",
    says:
      tags.length === 0
        ? "No tags yet."
        : `${capital(sayCount(tags.length, "tag"))}. ${never.length > 0 ? `People tagged ${listed.format(never)} are never asked.` : "None of them keeps anyone from being asked."}`,
  };
}

/** Who gets concerns, by branch, as far as rules say. */
function ownersSay(
  { branches }: Setting,
  rules: readonly { branchId: string | null; teamMemberId: string | null; userId: string }[],
  staff: readonly { id: string; name: string }[],
): string {
  const nameOf = (userId: string) => staff.find(({ id }) => id === userId)?.name;
  const said = branches.flatMap(({ id, name }) => {
    const rule = rules.find(({ branchId, teamMemberId }) => branchId === id && teamMemberId === null);
    const owner = rule && nameOf(rule.userId);
    return owner ? [`${name}’s concerns go to ${owner}`] : [];
  });
  const rest = rules.find(({ branchId, teamMemberId }) => branchId === null && teamMemberId === null);
  const others = rest && nameOf(rest.userId);
  if (said.length === 0) return others ? `Concerns go to ${others}.` : "Concerns are handled by whoever picks them up.";
  return `${said.slice(0, 3).join("; ")}${said.length > 3 ? "; and so on" : ""}.`;
}

function deedOf(entry: TrailEntry): string {
  const { count } = recordOf(entry.details);
  const { before, name, after } = auditSentence({ ...entry, count: typeof count === "number" ? count : 0 });
  return `${before}${name ?? ""}${after}`;
}
