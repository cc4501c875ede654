import ICAL from "ical.js";
import { groupOf } from "@/core/answers/recommendation";
import { sayPhone } from "@/core/contacts/phone";
import { DAY, formatDay, toLocal } from "@/core/time/zone";
import { harmless, toCsv } from "@/features/intake";
import { bareName, type Person } from "@/features/people";
import { lastVisitsUntil } from "@/features/visits";
import { anyOf, type Tx } from "@/platform/database";
import { people } from "@/schema/people";

/**
 * People as files: CSV, a workbook, or vCards (RFC 6350). Cells that a spreadsheet would run as formulas are made
 * harmless.
 */

export const FORMATS = ["csv", "xlsx", "vcf"] as const;
export type Format = (typeof FORMATS)[number];

const HEADER = [
  "Customer number",
  "First name",
  "Last name",
  "Email",
  "Email state",
  "Mobile",
  "Mobile state",
  "Language",
  "Birth date",
  "Address",
  "Tags",
  "Never ask",
  "Note",
  "Last visit",
  "Last asked",
  "Last answered",
  "Would recommend",
];

/**
 * People as they are kept, with their last visit as of `now`: whoever is booked for a later day was last here before
 * that.
 */
async function load(tx: Tx, ids: string[], now: number): Promise<Person[]> {
  const list: Person[] = [];
  for (let from = 0; from < ids.length; from += 5000) {
    list.push(
      ...(await tx
        .select()
        .from(people)
        .where(anyOf(people.id, ids.slice(from, from + 5000)))
        .orderBy(people.family, people.given, people.id)),
    );
  }
  const booked = list.flatMap(({ id, lastVisitAt }) => (lastVisitAt !== null && lastVisitAt > now ? [id] : []));
  const past = await lastVisitsUntil(tx, booked, now);
  return list.map((person) =>
    person.lastVisitAt !== null && person.lastVisitAt > now
      ? { ...person, lastVisitAt: past.get(person.id) ?? null }
      : person,
  );
}

function rowOf(person: Person, zone: string): string[] {
  const day = (at: number | null) => (at === null ? "" : formatDay(Math.floor(toLocal(zone, at) / DAY)));
  return [
    person.externalId ?? "",
    person.given,
    person.family,
    person.email ?? "",
    person.emailOptedOutAt ? "opted out" : person.emailBouncedAt ? "bounced" : person.email ? "works" : "",
    person.phone ?? "",
    person.textOptedOutAt
      ? "opted out"
      : person.textBouncedAt
        ? "bounced"
        : person.phone
          ? person.phoneTakesTexts
            ? "works"
            : "landline"
          : "",
    person.language ?? "",
    person.birthDate ?? "",
    person.postalAddress ?? "",
    person.tags.join(", "),
    person.doNotAsk ?? "",
    person.note,
    day(person.lastVisitAt),
    day(person.lastAskedAt),
    day(person.lastAnsweredAt),
    groupOf(person.lastRecommend) ?? "",
  ];
}

/** People as a file of the wanted format, as of `now` (milliseconds, UTC); days are those of `zone`. */
export async function exportPeople(
  tx: Tx,
  ids: string[],
  format: Format,
  zone: string,
  now: number,
): Promise<{ body: string | Uint8Array; type: string }> {
  const list = await load(tx, ids, now);
  if (format === "csv")
    return { body: toCsv([HEADER, ...list.map((person) => rowOf(person, zone))]), type: "text/csv; charset=utf-8" };
  if (format === "vcf") return { body: list.map(vCard).join(""), type: "text/vcard; charset=utf-8" };
  const { default: Excel } = await import("exceljs");
  const book = new Excel.Workbook();
  const sheet = book.addWorksheet("People");
  sheet.addRow(HEADER).font = { bold: true };
  for (const person of list) sheet.addRow(rowOf(person, zone).map(harmless));
  return {
    body: new Uint8Array(await book.xlsx.writeBuffer()),
    type: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
  };
}

/** A person as a vCard 4.0 (RFC 6350), in the form that the calendar library writes out (jCard, RFC 7095). */
function vCard(person: Person): string {
  const { email, phone, postalAddress, birthDate, language, tags, note } = person;
  const name = bareName(person) || email || (phone ? sayPhone(phone) : "No name");
  const properties: unknown[][] = [
    ["version", {}, "text", "4.0"],
    ["uid", {}, "text", `urn:uuid:${person.id}`],
    ["fn", {}, "text", name],
    ["n", {}, "text", [person.family, person.given, "", "", ""]],
  ];
  if (email) properties.push(["email", {}, "text", email]);
  if (phone) properties.push(["tel", { type: person.phoneTakesTexts ? "cell" : "voice" }, "uri", `tel:${phone}`]);
  if (postalAddress)
    properties.push(["adr", { label: postalAddress }, "text", ["", "", postalAddress, "", "", "", ""]]);
  if (birthDate) properties.push(["bday", {}, "date-and-or-time", birthDate]);
  if (language) properties.push(["lang", {}, "language-tag", language]);
  if (tags.length > 0) properties.push(["categories", {}, "text", ...tags]);
  if (note) properties.push(["note", {}, "text", note]);
  return `${ICAL.stringify(["vcard", properties, []])}\r\n`;
}
