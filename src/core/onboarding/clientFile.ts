import { z } from "zod";
import { normaliseEmail } from "../contacts/email";
import { normalisePhone } from "../contacts/phone";
import { sendHoursSchema } from "../plans/planRules";
import { STARTERS } from "../plans/starters";
import { weekOf } from "../time/sendHours";
import { isZone } from "../time/zone";
import { cleanText } from "../words/clean";
import { typedText } from "../words/typed";

/**
 * A client as one JSON file: what the page that starts one fills in, what an import reads. Version 1. docs/client-file.md
 * describes it for whoever writes one.
 */

export const CLIENT_FILE_VERSION = 1;

const named = (most: number, what: string) =>
  z.array(z.object({ name: typedText(60, `Give each ${what} a name.`) })).max(most);

/** No two of one name, however they are capitalised. */
const once = <T extends { name: string }>(list: readonly T[]) =>
  new Set(list.map(({ name }) => name.toLowerCase())).size === list.length;

const COUNTRY = "Two capital letters (ISO 3166-1), such as GB.";
const ZONE = "This is no time zone. Write one such as Europe/London.";

/** Monday to Saturday, nine to seven. */
const USUAL_WEEK = weekOf([0, 1, 2, 3, 4, 5], 9 * 60, 19 * 60);

export const clientFile = z
  .object(
    {
      estima: z.literal("client", { error: "This is no client file: “estima” must say “client”." }).default("client"),
      version: z
        .literal(CLIENT_FILE_VERSION, { error: "Only version 1 of client files is known here." })
        .default(CLIENT_FILE_VERSION),
      name: typedText(80, "Write the name of the business."),
      country: z.string(COUNTRY).regex(/^[A-Z]{2}$/, COUNTRY),
      zone: z.string(ZONE).refine(isZone, ZONE),
      colour: z
        .string()
        .regex(/^#[0-9a-fA-F]{6}$/, "A colour such as #2F5D50.")
        .default("#6A2156"),
      senderEmail: z
        .string("Write the address that emails come from.")
        .transform((typed) => normaliseEmail(typed) ?? "")
        .refine((email) => email !== "", "This is not an email address."),
      textNumber: typedText(30, "Write the number that texts come from."),
      postalAddress: typedText(300, "Write the postal address; every email carries it."),
      sendHours: sendHoursSchema.default({ text: USUAL_WEEK, email: USUAL_WEEK }),
      branches: z
        .array(
          z.object({
            name: typedText(60, "Give each branch a name."),
            address: z.string().transform(cleanText).pipe(z.string().trim().max(300)).default(""),
            reviewPages: z
              .array(
                z.object({
                  site: typedText(60, "Name the review site."),
                  url: z.url({ protocol: /^https?$/, error: "Write the whole address of the page, with https://." }),
                }),
              )
              .max(6, "At most six review pages for a branch.")
              .default([]),
          }),
          "A business has at least one branch.",
        )
        .min(1, "A business has at least one branch.")
        .max(100)
        .refine(once, "Two branches have one name."),
      services: z
        .array(
          z.object({
            name: typedText(60, "Give each service a name."),
            neverAsk: z.boolean("true or false").default(false),
          }),
          "Name at least one service.",
        )
        .min(1, "Name at least one service.")
        .max(200)
        .refine(once, "Two services have one name."),
      team: named(200, "team member").refine(once, "Two of the team have one name.").default([]),
      plan: z
        .enum(STARTERS.map(({ key }) => key) as [string, ...string[]], "Choose one of the plans.")
        .default("appointment"),
    },
    'A client file is one object: { "name": … }.',
  )
  .transform((file, context) => {
    const number = normalisePhone(file.textNumber, file.country)?.number;
    if (!number) {
      context.addIssue({
        code: "custom",
        path: ["textNumber"],
        message: "This is not a phone number of that country.",
      });
      return z.NEVER;
    }
    return { ...file, textNumber: number };
  });
export type ClientFile = z.output<typeof clientFile>;
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
          message: "This is no JSON: something is missing or too much here.",
        },
      ],
    };
  }
  const parsed = clientFile.safeParse(value);
  if (parsed.success) return { file: parsed.data };
  const faults = parsed.error.issues.map(({ path, message }) => ({
    line: lineOf(text, path),
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

/** The line on which a value stands; of one that is missing, that of what should hold it. */
function lineOf(text: string, path: readonly PropertyKey[]): number {
  let at = skipSpace(text, 0);
  for (const part of path) {
    const next = childOf(text, at, part);
    if (next === null) break;
    at = next;
  }
  return lineAt(text, at);
}

const skipSpace = (text: string, at: number) => {
  let found = at;
  while (/[\s,:]/.test(text[found] ?? "")) found++;
  return found;
};

/** Where the value of a key or an index begins, within the object or list that begins at `at`. The text is valid JSON. */
function childOf(text: string, at: number, part: PropertyKey): number | null {
  const isList = text[at] === "[";
  if (!isList && text[at] !== "{") return null;
  for (let place = skipSpace(text, at + 1), index = 0; text[place] !== "]" && text[place] !== "}"; index++) {
    let value = place;
    let name: PropertyKey = index;
    if (!isList) {
      const end = endOf(text, place);
      name = JSON.parse(text.slice(place, end)) as string;
      value = skipSpace(text, end);
    }
    if (name === part) return value;
    place = skipSpace(text, endOf(text, value));
    if (place >= text.length) return null;
  }
  return null;
}

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
