import { TooMuch } from "./delimited";
import { TABLE_BOUNDS, type Table } from "./table";

/**
 * Contacts as phones and address books write them: vCards of version 2.1, 3.0 (RFC 2426) and 4.0 (RFC 6350), many in one
 * file, to the table of a list. Read leniently: a property that cannot be made out is left aside, and the card stays.
 */

type Property = { name: string; types: string[]; isPreferred: boolean; value: string; parts: string[] };

const HEADERS = [
  "Name",
  "First name",
  "Last name",
  "Email",
  "Mobile",
  "Language",
  "Birth date",
  "Address",
  "Tags",
  "Note",
];

/** Whether a text is vCards. */
export function looksLikeCards(text: string): boolean {
  return /^\s*BEGIN:VCARD\s*$/im.test(text.slice(0, 200));
}

/** One row for each card. */
export function tableOfCards(text: string): Table {
  const rows: string[][] = [];
  for (const card of text.matchAll(/^BEGIN:VCARD[^\n]*\n(.*?)^END:VCARD/gims)) {
    if (rows.length === TABLE_BOUNDS.rows) throw new TooMuch("rows");
    rows.push(rowOf(propertiesOf(card[1])));
  }
  // Columns that no card fills are none.
  const filled = HEADERS.map((_, at) => rows.some((row) => row[at] !== ""));
  const kept = <T>(list: readonly T[]) => (filled.includes(true) ? list.filter((_, at) => filled[at]) : [...list]);
  return { headers: kept(HEADERS), rows: rows.map(kept), hasHeader: true, skipped: 0 };
}

function rowOf(properties: readonly Property[]): string[] {
  const all = (name: string) => properties.filter((one) => one.name === name && one.value.trim() !== "");
  const best = (name: string, suits: (one: Property) => boolean = () => true) => {
    const own = all(name);
    return own.find((one) => suits(one) && one.isPreferred) ?? own.find(suits) ?? own[0];
  };
  const email = best("EMAIL")?.value.replace(/^mailto:/i, "") ?? "";
  const mobile = best("TEL", ({ types }) => types.some((type) => /^(?:cell|mobile|iphone)$/.test(type)));
  const phone = mobile?.value.replace(/^tel:/i, "").replace(/;.*/, "") ?? "";
  const [family = "", given = ""] = best("N")?.parts ?? [];
  const full = best("FN")?.value ?? "";
  // A card must say how it is headed: whoever has no name is headed by an address.
  const isName = full !== email && !/^[\d\s()+-]*$/.test(full);
  const address = best("ADR");
  return [
    given || family || !isName ? "" : full,
    given,
    family,
    email,
    phone,
    best("LANG")?.value ?? "",
    dayOf(best("BDAY")?.value ?? ""),
    (address?.parts ?? []).filter((part) => part !== "").join(", "),
    all("CATEGORIES")
      .flatMap(({ value }) => splitAt(value, ","))
      .map(unescaped)
      .join(", "),
    best("NOTE")?.value ?? "",
  ].map((cell) => cell.trim());
}

/** The day of a BDAY, as ISO; empty where it names no year. */
function dayOf(value: string): string {
  const [, year, month, day] = /^(\d{4})-?(\d{2})-?(\d{2})/.exec(value) ?? [];
  return day ? `${year}-${month}-${day}` : "";
}

function propertiesOf(card: string): Property[] {
  return linesOf(card).flatMap((line) => {
    const colon = endOfName(line);
    if (colon < 0) return [];
    const [head, ...params] = splitAt(line.slice(0, colon), ";");
    const name = head.replace(/^.*\./, "").toUpperCase();
    const set = params.flatMap((param) => {
      const [, key, value] = /^(?:([^=]*)=)?(.*)$/s.exec(param) ?? [];
      // Version 2.1 names a type without saying that it is one.
      return value.split(",").map((one) => [(key ?? "TYPE").toUpperCase(), one.replace(/^"|"$/g, "").toLowerCase()]);
    });
    const has = (key: string, value: string) => set.some(([one, said]) => one === key && said === value);
    const raw = line.slice(colon + 1);
    const isQuoted = has("ENCODING", "quoted-printable") || has("TYPE", "quoted-printable");
    const value = isQuoted ? fromQuotedPrintable(raw) : raw;
    const isList = name === "CATEGORIES";
    return [
      {
        name,
        types: set.filter(([key]) => key === "TYPE").map(([, type]) => type),
        isPreferred: has("TYPE", "pref") || set.some(([key]) => key === "PREF"),
        value: isList ? value : unescaped(value),
        parts: splitAt(value, ";").map((part) => unescaped(part).trim()),
      },
    ];
  });
}

/** Lines, unfolded: those that begin with a space go on, and those of quoted-printable that end in "=". */
function linesOf(card: string): string[] {
  const lines: string[] = [];
  let goesOn = false;
  for (const line of card.split(/\r\n|\r|\n/)) {
    const last = lines.length - 1;
    if (goesOn && last >= 0) lines[last] = lines[last].slice(0, -1) + line;
    else if (/^[ \t]/.test(line) && last >= 0) lines[last] += line.slice(1);
    else if (line !== "") lines.push(line);
    goesOn = /^[^:]*QUOTED-PRINTABLE[^:]*:/i.test(lines.at(-1) ?? "") && line.endsWith("=");
  }
  return lines;
}

/** Where the value of a line begins: at the first colon outside quotes. */
function endOfName(line: string): number {
  let isInside = false;
  for (let index = 0; index < line.length; index++) {
    if (line[index] === '"') isInside = !isInside;
    else if (line[index] === ":" && !isInside) return index;
  }
  return line.indexOf(":");
}

/** Splits at a separator that no backslash stands before. */
function splitAt(text: string, separator: string): string[] {
  const parts = [""];
  for (let index = 0; index < text.length; index++) {
    if (text[index] === "\\" && index + 1 < text.length) parts[parts.length - 1] += text[index] + text[++index];
    else if (text[index] === separator) parts.push("");
    else parts[parts.length - 1] += text[index];
  }
  return parts;
}

const unescaped = (text: string) => text.replace(/\\([nN\\,;:])/g, (_, sign) => (/n/i.test(sign) ? "\n" : sign));

function fromQuotedPrintable(text: string): string {
  const bytes: number[] = [];
  for (let index = 0; index < text.length; index++) {
    const hex = /^=([0-9A-F]{2})/i.exec(text.slice(index, index + 3));
    if (hex) {
      bytes.push(Number.parseInt(hex[1], 16));
      index += 2;
    } else bytes.push(...new TextEncoder().encode(text[index]));
  }
  return new TextDecoder().decode(new Uint8Array(bytes));
}
