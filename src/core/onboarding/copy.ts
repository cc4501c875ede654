import { PLAIN_LOOK } from "../words/look";
import type { ClientFileInput } from "./clientFile";

/** What a client that is made like another has of its own, as it was typed. */
export type OwnOfCopy = Pick<ClientFileInput, "name" | "textNumber" | "senderEmail" | "postalAddress">;

/**
 * A client like another: services, plans, tags, hours and rules are the same. What is the other one's own stays there:
 * addresses, pictures, links, feeds, people, views, a privacy note; and where a branch or words name the other business,
 * they name the new one.
 */
export function copiedFile(file: ClientFileInput, own: OwnOfCopy): unknown {
  const renamed = deepReplaced(file, file.name, own.name) as ClientFileInput;
  const { look, privacyNote: _, ...settings } = renamed.settings ?? {};
  return {
    ...renamed,
    ...own,
    logo: null,
    header: null,
    portrait: null,
    settings: { ...settings, ...(look ? { look: { ...PLAIN_LOOK, typeface: look.typeface } } : {}) },
    branches: renamed.branches.map((branch) => ({
      ...branch,
      // The only branch of a business is mostly called as the business or its street is.
      name: renamed.branches.length === 1 ? own.name : branch.name,
      address: "",
      phone: null,
      look: null,
      reviewPages: [],
    })),
    team: [],
    feeds: [],
    names: [],
    readings: [],
    views: [],
  };
}

/** The value with one text in place of another, in every string of it. */
function deepReplaced(value: unknown, from: string, to: string): unknown {
  if (typeof value === "string") return from === "" ? value : value.split(from).join(to);
  if (Array.isArray(value)) return value.map((each) => deepReplaced(each, from, to));
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, deepReplaced(each, from, to)]));
}
