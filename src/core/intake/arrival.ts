import type { VisitOutcome } from "../asks/findings";
import { normaliseEmail } from "../contacts/email";
import { familyName, givenName, splitName } from "../contacts/name";
import { normalisePhone, type Phone, suggestPhone } from "../contacts/phone";
import { shortKey } from "../shortKey";
import { DAY, formatDay, fromLocal, HOUR } from "../time/zone";
import { type DateOrder, readDate, readTime } from "./dates";
import { type Field, readOutcome, readYesNo, VISIT_FIELDS } from "./fields";
import type { Remark } from "./remarks";
import { VISIT_KINDS, type VisitKind } from "./visitKinds";

export { VISIT_KINDS, type VisitKind };

/**
 * One person, and perhaps one visit, as they arrive by any way in: cleaned, checked and ready to be kept. Instants
 * are milliseconds (UTC).
 */
export type Arrival = {
  person: ArrivingPerson;
  visit: ArrivingVisit | null;
  /** What somebody should look at, though it can be kept. */
  remarks: Remark[];
};

export type ArrivingPerson = {
  externalId: string | null;
  given: string;
  family: string;
  email: string | null;
  phone: Phone | null;
  language: string | null;
  /** ISO 8601 day. */
  birthDate: string | null;
  postalAddress: string | null;
  guardian: { given: string; family: string; email: string | null; phone: Phone | null } | null;
  /** As written; which tags they are is settled by picking. */
  tags: string[];
  note: string;
  /** Whether they agreed to be written to; null when nothing is said. */
  consent: boolean | null;
};

export type ArrivingVisit = {
  externalId: string | null;
  kind: VisitKind;
  endsAt: number;
  /** Where only a day was said, the instants from which and before which it lies. */
  day?: { from: number; to: number };
  outcome: VisitOutcome;
  /** Words as they came; null when nothing is said. */
  service: string | null;
  branch: string | null;
  teamMember: string | null;
  about: string | null;
};

/** A row that cannot be kept, with everything that is wrong with it. */
export type Unusable = { problems: Remark[] };

export type ArrivalSetting = {
  country: string;
  zone: string;
  now: number;
  order: DateOrder;
  /** Of birth dates; that of the visits where it is left out. */
  birthOrder?: DateOrder;
  since1904?: boolean;
  kind?: VisitKind;
  /** Rows that name a visit but no day: they happened today, or are people only. */
  undated: "today" | "no visit";
};

const LIMITS: Partial<Record<Field, number>> = {
  "full name": 120,
  "given name": 120,
  "family name": 120,
  note: 2000,
  about: 60,
  service: 120,
  branch: 120,
  "team member": 120,
};

/**
 * Reads one row's fields. A wrong value that can be done without becomes a remark; a row is unusable when nobody could
 * be reached or recognised by it, or when its visit cannot be placed in time.
 */
export function parseArrival(fields: Partial<Record<Field, string>>, setting: ArrivalSetting): Arrival | Unusable {
  const problems: Remark[] = [];
  const remarks: Remark[] = [];
  const cell = (field: Field) => {
    const text = (fields[field] ?? "").trim();
    const most = LIMITS[field];
    if (most && text.length > most) {
      remarks.push({ code: "cut", field, most });
      return text.slice(0, most).trim();
    }
    return text;
  };

  const externalId = numberOf(cell("customer number"));
  const name = nameOf(cell("full name"), cell("given name"), cell("family name"));
  const email = readEmails(cell("email"), "email", remarks);
  const phone = readPhones(cell("phone"), "phone", setting.country, remarks);
  const guardian = readGuardian(
    cell("guardian name"),
    cell("guardian email"),
    cell("guardian phone"),
    setting,
    remarks,
  );
  const birthDate = readBirthDate(cell("birth date"), setting, remarks);
  const spare = [...email.others, ...phone.others];
  const note = [cell("note").replace(/\n/g, " · "), spare.length > 0 ? `Also: ${spare.join(", ")}` : ""]
    .filter(Boolean)
    .join(" · ")
    .slice(0, 2000);

  if (!email.first && !phone.first && !externalId && !guardian) {
    const wrong = remarks.filter(({ field }) => field === "email" || field === "phone");
    problems.push(...(wrong.length > 0 ? wrong : [{ code: "no address" as const, field: "email" as const }]));
  }
  if (!name.given && !name.family && !email.first && !phone.first)
    problems.push({ code: "no name", field: "full name" });

  const visit = readVisit(fields, cell, setting, problems, remarks);
  if (problems.length > 0) return { problems };
  const said = cell("consent");
  const consent = said ? readYesNo(said) : null;
  if (said && consent === null) remarks.push({ code: "neither yes nor no", field: "consent", text: short(said) });
  return {
    person: {
      externalId,
      ...name,
      email: email.first,
      phone: phone.first,
      language: readLanguage(cell("language")),
      birthDate,
      postalAddress: cell("postal address").replace(/\n/g, ", ").slice(0, 300) || null,
      guardian,
      tags: [
        ...new Set(
          cell("tags")
            .split(/[,;|\n]/)
            .map((tag) => tag.trim().slice(0, 40))
            .filter(Boolean),
        ),
      ].slice(0, 20),
      note,
      consent,
    },
    visit,
    remarks,
  };
}

/** A name of a column that says what it is stays that: a family name alone is nobody's first name. */
function nameOf(full: string, given: string, family: string): { given: string; family: string } {
  if (!given && !family) return splitName(full);
  const whole = full && !(given && family) ? splitName(full) : { given: "", family: "" };
  return { given: given ? givenName(given) : whole.given, family: family ? familyName(family) : whole.family };
}

/**
 * A number in somebody's books, without the ".0" of a spreadsheet; longer ones end in a stamp that tells them apart.
 */
function numberOf(text: string): string | null {
  const plain = /^\d+\.0$/.test(text) ? text.slice(0, -2) : text;
  return shortKey(plain, 100) || null;
}

function readEmails(text: string, field: Field, remarks: Remark[]): { first: string | null; others: string[] } {
  if (!text) return { first: null, others: [] };
  const whole = normaliseEmail(text);
  const pieces = whole
    ? [whole]
    : text
        .split(/[\s,;/|<>]+/)
        .filter((piece) => piece.includes("@"))
        .slice(0, MOST_ADDRESSES);
  const good = [
    ...new Set((pieces.length > 0 ? pieces : [text]).flatMap((piece) => normaliseEmail(withoutMarks(piece)) ?? [])),
  ];
  if (good.length === 0) {
    remarks.push({ code: "not an email", field, text: short(text) });
    return { first: null, others: [] };
  }
  if (good.length > 1) remarks.push({ code: "several emails", field, used: good[0] });
  return { first: good[0], others: good.slice(1) };
}

function readPhones(
  text: string,
  field: Field,
  country: string,
  remarks: Remark[],
): { first: Phone | null; others: string[] } {
  if (!text) return { first: null, others: [] };
  const whole = normalisePhone(fromFloat(text), country);
  if (whole) return { first: whole, others: [] };
  const found = [
    ...new Map(
      text
        .split(/[,;/|\n]|\sor\s/i)
        .slice(0, MOST_ADDRESSES)
        .flatMap((piece) => {
          const phone = normalisePhone(fromFloat(piece), country);
          return phone ? [[phone.number, phone] as const] : [];
        }),
    ).values(),
  ];
  if (found.length === 0) {
    remarks.push(wrongPhone(field, text));
    return { first: null, others: [] };
  }
  // A mobile comes before a landline: texts can reach it.
  found.sort((a, b) => Number(b.canText) - Number(a.canText));
  if (found.length > 1) remarks.push({ code: "several phones", field, used: found[0].number });
  return { first: found[0], others: found.slice(1).map(({ number }) => number) };
}

/** What is wrong with a phone, and what would be right where that can be told. */
function wrongPhone(field: Field, text: string): Remark {
  if (ROUNDED.test(text.trim())) return { code: "phone rounded", field, text: short(text) };
  const abroad = suggestPhone(text);
  if (abroad) return { code: "phone abroad", field, text: short(text), suggested: abroad.number };
  return { code: "not a phone", field, text: short(text) };
}

/** So many addresses of one cell are looked at. */
const MOST_ADDRESSES = 10;

/** A piece without punctuation at its end. */
function withoutMarks(piece: string): string {
  let end = piece.length;
  while (end > 0 && ".,;)".includes(piece[end - 1])) end--;
  return piece.slice(0, end);
}

const ROUNDED = /^([+-]?\d+(?:[.,]\d+)?)e\+?(\d{1,3})$/i;

/** "4.47700900123E+11" and "447700900123.0", as spreadsheets leave them, to their digits. */
function fromFloat(text: string): string {
  const float = text.length > 40 ? null : ROUNDED.exec(text.trim());
  if (!float) return text.trim();
  const number = Number(`${float[1].replace(",", ".")}e${float[2]}`);
  // Digits that the rounding swallowed cannot be made up again.
  const digits = float[1].replace(/\D/g, "").length;
  return Number.isSafeInteger(number) && digits > Number(float[2]) ? String(number) : text.trim();
}

function readGuardian(
  name: string,
  email: string,
  phone: string,
  setting: ArrivalSetting,
  remarks: Remark[],
): ArrivingPerson["guardian"] {
  if (!name && !email && !phone) return null;
  const reach = {
    email: readEmails(email, "guardian email", remarks).first,
    phone: readPhones(phone, "guardian phone", setting.country, remarks).first,
  };
  if (!reach.email && !reach.phone) {
    remarks.push({ code: "guardian without address", field: "guardian name" });
    return null;
  }
  return { ...splitName(name || "Guardian"), ...reach };
}

function readBirthDate(text: string, setting: ArrivalSetting, remarks: Remark[]): string | null {
  if (!text) return null;
  const read = readDate(text, setting.birthOrder ?? setting.order, setting.since1904);
  if (read.ok && read.local < setting.now) return formatDay(Math.floor(read.local / DAY));
  remarks.push({ code: "not a birth date", field: "birth date", text: short(text) });
  return null;
}

function readVisit(
  fields: Partial<Record<Field, string>>,
  cell: (field: Field) => string,
  setting: ArrivalSetting,
  problems: Remark[],
  remarks: Remark[],
): ArrivingVisit | null {
  if (!VISIT_FIELDS.some((field) => (fields[field] ?? "").trim() !== "")) return null;
  const date = cell("visit date");
  const time = cell("visit time");
  let endsAt: number | null = null;
  let day: ArrivingVisit["day"];
  if (date) {
    const read = readDate(date, setting.order, setting.since1904);
    if (!read.ok) {
      problems.push({ code: "not a date", field: "visit date", text: short(date), order: setting.order });
      return null;
    }
    if (read.isUtc) endsAt = read.local;
    else endsAt = withTime(read.local, read.hasTime, time, setting, problems);
    if (!read.hasTime && !time) {
      const midnight = Math.floor(read.local / DAY) * DAY;
      day = { from: fromLocal(setting.zone, midnight), to: fromLocal(setting.zone, midnight + DAY) };
    }
  } else if (time && readDate(time, setting.order).ok) {
    const read = readDate(time, setting.order, setting.since1904);
    if (read.ok) endsAt = read.isUtc ? read.local : fromLocal(setting.zone, read.local);
  } else if (setting.undated === "today") {
    const today = Math.floor((setting.now + offset(setting)) / DAY) * DAY;
    endsAt = time ? withTime(today, false, time, setting, problems) : setting.now;
  } else {
    remarks.push({ code: "no day", field: "visit date" });
    return null;
  }
  if (endsAt === null) return null;
  if (endsAt > setting.now + 731 * DAY) {
    problems.push({ code: "too far ahead", field: "visit date" });
    return null;
  }
  const said = cell("outcome");
  let outcome = said ? readOutcome(said) : null;
  if (said && !outcome) remarks.push({ code: "unknown outcome", field: "outcome", text: short(said) });
  outcome ??= endsAt > setting.now ? "booked" : "finished";
  if (outcome === "finished" && endsAt > setting.now) outcome = "booked";
  return {
    externalId: numberOf(cell("visit number")),
    kind: setting.kind ?? "appointment",
    endsAt,
    ...(day ? { day } : {}),
    outcome,
    service: cell("service") || null,
    branch: cell("branch") || null,
    teamMember: cell("team member") || null,
    about: cell("about") || null,
  };
}

function offset({ zone, now }: ArrivalSetting): number {
  return now - fromLocal(zone, now);
}

/** A day without a time ends at six in the evening, or now if that is still to come today. */
function withTime(
  day: number,
  hasTime: boolean,
  time: string,
  setting: ArrivalSetting,
  problems: Remark[],
): number | null {
  if (hasTime) return fromLocal(setting.zone, day);
  const midnight = Math.floor(day / DAY) * DAY;
  if (time) {
    const read = readTime(time);
    const dated = read === null ? readDate(time, setting.order, setting.since1904) : null;
    if (read !== null) return fromLocal(setting.zone, midnight + read);
    if (dated?.ok && dated.hasTime) return fromLocal(setting.zone, midnight + (dated.local % DAY));
    problems.push({ code: "not a time", field: "visit time", text: short(time) });
    return null;
  }
  const evening = fromLocal(setting.zone, midnight + 18 * HOUR);
  const isToday =
    fromLocal(setting.zone, midnight) <= setting.now && setting.now < fromLocal(setting.zone, midnight + DAY);
  return isToday && evening > setting.now ? setting.now : evening;
}

const LANGUAGES: Record<string, string> = {
  english: "en",
  ingles: "en",
  anglais: "en",
  englisch: "en",
  spanish: "es",
  espanol: "es",
  espagnol: "es",
  spanisch: "es",
  espanhol: "es",
  french: "fr",
  frances: "fr",
  francais: "fr",
  franzosisch: "fr",
  german: "de",
  aleman: "de",
  allemand: "de",
  deutsch: "de",
  alemao: "de",
  portuguese: "pt",
  portugues: "pt",
  portugais: "pt",
  portugiesisch: "pt",
};

/** A BCP 47 primary language, from a tag ("de-AT") or a name in five languages; null for anything else. */
function readLanguage(text: string): string | null {
  const key = text.normalize("NFKD").replace(/\p{M}/gu, "").toLowerCase().trim();
  if (/^[a-z]{2}(?:[-_][a-z0-9]{2,8})?$/.test(key)) return key.slice(0, 2);
  return LANGUAGES[key] ?? null;
}

function short(text: string): string {
  return text.length > 40 ? `${text.slice(0, 39)}…` : text;
}
