import { sayPhone } from "@/core/contacts/phone";
import { DAY, formatDay, toLocal } from "@/core/time/zone";
import { harmless, toCsv } from "@/features/intake";
import { nameOf, type Person } from "@/features/people";
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
  "Do not ask",
  "Note",
  "Last visit",
  "Last asked",
  "Last answered",
];

async function load(tx: Tx, ids: string[]): Promise<Person[]> {
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
  return list;
}

function rowOf(person: Person, zone: string): string[] {
  const day = (at: number | null) => (at === null ? "" : formatDay(Math.floor(toLocal(zone, at) / DAY)));
  return [
    person.externalId ?? "",
    person.given,
    person.family,
    person.email ?? "",
    person.emailOptedOutAt ? "opted out" : person.emailBouncedAt ? "came back" : person.email ? "works" : "",
    person.phone ?? "",
    person.textOptedOutAt
      ? "opted out"
      : person.textBouncedAt
        ? "came back"
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
  ];
}

/** People as a file of the wanted format; days are those of `zone`. */
export async function exportPeople(
  tx: Tx,
  ids: string[],
  format: Format,
  zone: string,
): Promise<{ body: string | Uint8Array; type: string }> {
  const list = await load(tx, ids);
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

function vCard(person: Person): string {
  const text = (value: string) =>
    value.replaceAll("\\", "\\\\").replaceAll("\n", "\\n").replaceAll(",", "\\,").replaceAll(";", "\\;");
  const lines = [
    "BEGIN:VCARD",
    "VERSION:4.0",
    `UID:urn:uuid:${person.id}`,
    `FN:${text(nameOf(person) || person.email || (person.phone ? sayPhone(person.phone) : "Nameless"))}`,
    `N:${text(person.family)};${text(person.given)};;;`,
    ...(person.email ? [`EMAIL:${text(person.email)}`] : []),
    ...(person.phone ? [`TEL;VALUE=uri;TYPE=${person.phoneTakesTexts ? "cell" : "voice"}:tel:${person.phone}`] : []),
    ...(person.postalAddress
      ? [
          `ADR;LABEL="${person.postalAddress.replaceAll('"', "'").replaceAll("\n", " ")}":;;${text(person.postalAddress)};;;;`,
        ]
      : []),
    ...(person.birthDate ? [`BDAY:${person.birthDate.replaceAll("-", "")}`] : []),
    ...(person.language ? [`LANG:${person.language}`] : []),
    ...(person.tags.length > 0 ? [`CATEGORIES:${person.tags.map(text).join(",")}`] : []),
    ...(person.note ? [`NOTE:${text(person.note)}`] : []),
    "END:VCARD",
  ];
  return `${lines.map(fold).join("\r\n")}\r\n`;
}

/** Lines longer than 75 octets go on in the next, behind a space. */
function fold(line: string): string {
  const parts: string[] = [];
  let part = "";
  let size = 0;
  for (const letter of line) {
    const bytes = Buffer.byteLength(letter);
    if (size + bytes > 74) {
      parts.push(part);
      part = " ";
      size = 1;
    }
    part += letter;
    size += bytes;
  }
  return [...parts, part].join("\r\n");
}
