import { z } from "zod";
import { normaliseEmail } from "../contacts/email";
import { normalisePhone } from "../contacts/phone";
import { sendHoursSchema, weekHoursSchema } from "../plans/planRules";
import { STARTERS } from "../plans/starters";
import { CONNECTOR_IDS } from "../reviews/sites";
import { weekOf } from "../time/sendHours";
import { isZone } from "../time/zone";
import { cleanText } from "../words/clean";
import { lookSchema } from "../words/look";
import { typedText } from "../words/typed";
import {
  feedPart,
  knownNamePart,
  optionalText,
  planPart,
  readingPart,
  settingsPart,
  tagPart,
  viewPart,
} from "./fileParts";

/**
 * A client as one JSON file: what the page that starts one fills in, what an import reads, what an export writes.
 * Version 2; files of version 1 are read as well. docs/client-file.md describes it for whoever writes one.
 */

export const CLIENT_FILE_VERSION = 2;

/** No two of one name, however they are capitalised. */
const once = <T extends { name: string }>(list: readonly T[]) =>
  new Set(list.map(({ name }) => name.toLowerCase())).size === list.length;

const COUNTRY = "Two capital letters (ISO 3166-1), such as GB.";
const ZONE = "That isn’t a time zone. Use one like Europe/London.";

/** Monday to Saturday, nine to seven. */
const USUAL_WEEK = weekOf([0, 1, 2, 3, 4, 5], 9 * 60, 19 * 60);

/** A picture that the file holds itself. */
const packedPicture = (tooLarge: string) =>
  z
    .string()
    .max(400_000, tooLarge)
    .regex(/^[A-Za-z0-9+/]*={0,2}$/, "A picture in base 64.")
    .nullable()
    .default(null);

export const clientFile = z
  .object(
    {
      estima: z.literal("client", { error: "This isn’t a client file: “estima” must say “client”." }).default("client"),
      version: z
        .union([z.literal(1), z.literal(CLIENT_FILE_VERSION)], {
          error: "We can only read versions 1 and 2 of client files.",
        })
        .default(CLIENT_FILE_VERSION),
      name: typedText(80, "Enter the name of the business."),
      country: z.string(COUNTRY).regex(/^[A-Z]{2}$/, COUNTRY),
      zone: z.string(ZONE).refine(isZone, ZONE),
      colour: z
        .string()
        .regex(/^#[0-9a-fA-F]{6}$/, "A colour such as #2F5D50.")
        .default("#6A2156"),
      senderEmail: z
        .string("Enter the sender email.")
        .transform((typed) => normaliseEmail(typed) ?? "")
        .refine((email) => email !== "", "That isn’t an email address."),
      textNumber: typedText(30, "Enter the text sender number."),
      postalAddress: typedText(300, "Enter the postal address. It’s at the bottom of every email."),
      sendHours: sendHoursSchema.default({ text: USUAL_WEEK, email: USUAL_WEEK }),
      branches: z
        .array(
          z.object({
            name: typedText(60, "Every branch needs a name."),
            address: z.string().transform(cleanText).pipe(z.string().trim().max(300)).default(""),
            zone: z.string(ZONE).refine(isZone, ZONE).nullable().default(null),
            region: z.string().max(10).nullable().default(null),
            phone: optionalText(40),
            /** When somebody is there to answer; null for the hours in which emails leave. */
            officeHours: weekHoursSchema.nullable().default(null),
            /** Where it looks different from the business, beside pictures. */
            look: z
              .object({ colour: z.string().regex(/^#[0-9a-fA-F]{6}$/), look: lookSchema })
              .partial()
              .nullable()
              .default(null),
            reviewPages: z
              .array(
                z.object({
                  site: typedText(60, "Enter the name of the review site."),
                  url: z.url({ protocol: /^https?$/, error: "Enter the full address of the page, with https://." }),
                  accountDomains: z.array(z.string().max(253)).max(50).default([]),
                  connector: z.enum(CONNECTOR_IDS).nullable().default(null),
                  placeId: z.string().max(100).nullable().default(null),
                  scale: z.enum(["five", "ten", "recommend"]).default("five"),
                  connectorUrl: z
                    .url({ protocol: /^https?$/ })
                    .nullable()
                    .default(null),
                }),
              )
              .max(6, "Up to six review pages per branch.")
              .default([]),
          }),
          "Add at least one branch.",
        )
        .min(1, "Add at least one branch.")
        .max(100)
        .refine(once, "Two branches have the same name."),
      services: z
        .array(
          z.object({
            name: typedText(60, "Every service needs a name."),
            neverAsk: z.boolean("true or false").default(false),
            retired: z.boolean("true or false").default(false),
          }),
          "Add at least one service.",
        )
        .min(1, "Add at least one service.")
        .max(200)
        .refine(once, "Two services have the same name."),
      team: z
        .array(
          z.object({
            name: typedText(60, "Every team member needs a name."),
            retired: z.boolean("true or false").default(false),
          }),
        )
        .max(200)
        .refine(once, "Two team members have the same name.")
        .default([]),
      plan: z
        .enum(STARTERS.map(({ key }) => key) as [string, ...string[]], "Choose one of the plans.")
        .default("appointment"),
      /** Pictures, in base 64: a PNG, and two JPEGs. */
      logo: packedPicture("This logo is too big."),
      header: packedPicture("This picture is too big."),
      portrait: packedPicture("This picture is too big."),
      settings: settingsPart.default({}),
      tags: z.array(tagPart).max(300).refine(once, "Two tags have the same name.").nullable().default(null),
      plans: z.array(planPart).max(50).nullable().default(null),
      feeds: z.array(feedPart).max(100).default([]),
      views: z.array(viewPart).max(40).refine(once, "Two views have the same name.").default([]),
      names: z.array(knownNamePart).max(5000).default([]),
      readings: z.array(readingPart).max(500).default([]),
    },
    'A client file is one object: { "name": … }.',
  )
  .transform((file, context) => {
    const number = normalisePhone(file.textNumber, file.country)?.number;
    if (!number) {
      context.addIssue({
        code: "custom",
        path: ["textNumber"],
        message: "That isn’t a phone number in that country.",
      });
      return z.NEVER;
    }
    for (const { path, kind, name } of mentions(file))
      if (!knows(file, kind, name))
        context.addIssue({ code: "custom", path, message: `There’s no ${kind} called “${name}” in this file.` });
    return { ...file, textNumber: number };
  });
export type ClientFile = z.output<typeof clientFile>;

type Named = { name: string };
type Lists = {
  branches: readonly Named[];
  services: readonly Named[];
  team: readonly Named[];
  tags: readonly Named[] | null;
};

const knows = (file: Lists, kind: "branch" | "service" | "team" | "tag", name: string) =>
  ({ branch: file.branches, service: file.services, team: file.team, tag: file.tags ?? [] })[kind].some(
    (one) => one.name === name,
  );

type Mention = { path: (string | number)[]; kind: "branch" | "service" | "team" | "tag"; name: string };

/** Wherever a file names something of its own. */
function mentions(file: {
  plans: z.output<typeof planPart>[] | null;
  feeds: z.output<typeof feedPart>[];
  names: z.output<typeof knownNamePart>[];
  readings: z.output<typeof readingPart>[];
}): Mention[] {
  const found: Mention[] = [];
  const add = (kind: Mention["kind"], name: string | null | undefined, ...path: (string | number)[]) => {
    if (typeof name === "string") found.push({ path, kind, name });
  };
  for (const [at, { rules }] of (file.plans ?? []).entries()) {
    for (const [index, name] of (rules.begins.services ?? []).entries())
      add("service", name, "plans", at, "rules", "begins", "services", index);
    for (const [index, name] of (rules.begins.branches ?? []).entries())
      add("branch", name, "plans", at, "rules", "begins", "branches", index);
  }
  for (const [at, feed] of file.feeds.entries()) {
    add("branch", feed.branch, "feeds", at, "branch");
    add("service", feed.service, "feeds", at, "service");
    for (const [index, rule] of (feed.rules ?? []).entries())
      add("service", rule.service, "feeds", at, "rules", index, "service");
  }
  for (const [at, { kind, means }] of file.names.entries()) add(kind, means, "names", at, "means");
  for (const [at, { choice }] of file.readings.entries()) {
    add("service", choice.service, "readings", at, "choice", "service");
    add("branch", choice.branch, "readings", at, "choice", "branch");
  }
  return found;
}
/** As it is typed or written: nothing in it was checked. */
export type ClientFileInput = z.input<typeof clientFile>;

export type FileFault = { line: number; path: string; message: string };

/**
 * Reads a client file: the client, or what is wrong, each with the line on which it stands (1 for the first) and why.
 */
export function readClientFile(text: string): { file: ClientFile } | { faults: FileFault[] } {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return {
      faults: [
        {
          line: lineOfError(text, error),
          path: "",
          message: "This isn’t valid JSON: something’s missing or extra here.",
        },
      ],
    };
  }
  const parsed = clientFile.safeParse(value);
  if (parsed.success) return { file: parsed.data };
  const { issues } = parsed.error;
  const lines = linesOf(
    text,
    issues.map(({ path }) => path),
  );
  const faults = issues.map(({ path, message }, index) => ({
    line: lines[index],
    path: path.map(String).join("."),
    message,
  }));
  return { faults: faults.sort((a, b) => a.line - b.line) };
}

function lineOfError(text: string, error: unknown): number {
  const message = error instanceof Error ? error.message : "";
  const line = /line (\d+)/.exec(message)?.[1];
  if (line) return Number(line);
  const position = /position (\d+)/.exec(message)?.[1];
  return position ? lineAt(text, Number(position)) : lineAt(text, text.length);
}

const lineAt = (text: string, position: number) => text.slice(0, position).split("\n").length;

/** Values that are looked for: which paths end at or below one, and those inside it. */
type Wanted = { paths: number[]; inside: Map<PropertyKey, Wanted> };

/**
 * The line of the value at each path; of one that is missing, that of what should hold it. The text is valid JSON, and is
 * walked through once, however many paths there are.
 */
function linesOf(text: string, paths: readonly (readonly PropertyKey[])[]): number[] {
  const root: Wanted = { paths: [], inside: new Map() };
  for (const [index, path] of paths.entries()) {
    let at = root;
    at.paths.push(index);
    for (const part of path) {
      const inside = at.inside.get(part) ?? { paths: [], inside: new Map() };
      at.inside.set(part, inside);
      at = inside;
      at.paths.push(index);
    }
  }
  const places: number[] = new Array(paths.length).fill(0);
  place(text, skipSpace(text, 0), root, places);
  return linesAt(text, places);
}

/** Sets the place of every path at or below the value that begins at `at`; gives where the value ends. */
function place(text: string, at: number, wanted: Wanted, places: number[]): number {
  for (const index of wanted.paths) places[index] = at;
  const isList = text[at] === "[";
  if (wanted.inside.size === 0 || (!isList && text[at] !== "{")) return endOf(text, at);
  let next = skipSpace(text, at + 1);
  for (let index = 0; next < text.length && text[next] !== "]" && text[next] !== "}"; index++) {
    let name: PropertyKey = index;
    if (!isList) {
      const end = endOf(text, next);
      name = JSON.parse(text.slice(next, end)) as string;
      next = skipSpace(text, end);
    }
    const child = wanted.inside.get(name);
    next = skipSpace(text, child ? place(text, next, child, places) : endOf(text, next));
  }
  return Math.min(next + 1, text.length);
}

/** The lines of many places, counted in one pass. */
function linesAt(text: string, places: readonly number[]): number[] {
  const lines: number[] = new Array(places.length).fill(1);
  const order = [...places.keys()].sort((a, b) => places[a] - places[b]);
  let line = 1;
  let at = 0;
  for (const index of order) {
    for (let end = text.indexOf("\n", at); end >= 0 && end < places[index]; end = text.indexOf("\n", at)) {
      line += 1;
      at = end + 1;
    }
    lines[index] = line;
  }
  return lines;
}

const skipSpace = (text: string, at: number) => {
  let found = at;
  while (/[\s,:]/.test(text[found] ?? "")) found++;
  return found;
};

/** Where a value that begins at `at` ends. */
function endOf(text: string, at: number): number {
  const opening = text[at];
  if (opening === '"') {
    let end = at + 1;
    while (text[end] !== '"') end += text[end] === "\\" ? 2 : 1;
    return end + 1;
  }
  if (opening !== "{" && opening !== "[") {
    let end = at;
    while (end < text.length && !/[\s,\]}]/.test(text[end])) end++;
    return end;
  }
  let depth = 0;
  for (let end = at; end < text.length; end++) {
    const letter = text[end];
    if (letter === '"') end = endOf(text, end) - 1;
    else if (letter === "{" || letter === "[") depth++;
    else if (letter === "}" || letter === "]") {
      depth--;
      if (depth === 0) return end + 1;
    }
  }
  return text.length;
}
