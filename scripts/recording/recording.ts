import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, brotliDecompressSync, constants } from "node:zlib";
import pg from "pg";
import { copyInto } from "../bench/copy";
import { ROOT } from "../local";
import { canonical, type Recorded, type RecordedTable } from "./canonical";

/**
 * The demo's two months as they were lived, kept in the repository: tables column by column, journals of the stand-ins
 * line by line, each file compressed. Addresses and secrets are placeholders, filled in when it is loaded.
 */

export const RECORDING = join(ROOT, "demo/recording");

/** What a recording says of itself. */
export type Manifest = { migration: string; endsAt: number; days: number };

/** Tables that say nothing of the history: accounts and the clock are made anew, the library's own and views stay away. */
const LEFT_OUT = [
  ...["users", "accounts", "sessions", "verifications", "seats", "demo_clock"],
  ...["api_repeats", "outlook_marks", "people_matches", "rate_limits"],
];

/** Columns that say who last worked on a row, which is over. */
const CLAIMS = ["claim_id", "claimed_until"];

const JOURNALS = ["mail", "texts", "waypost", "townsfolk", "guides"];

/** The addresses of a local copy, by the names that stand for them in a recording. */
export function placeholders(env: Record<string, string>): [name: string, address: string][] {
  const [waypost, daybook, town] = env.OUTBOUND_ALLOW.split(",");
  return [
    ["app", env.APP_URL],
    ["waypost", waypost],
    ["daybook", daybook],
    ["town", town],
  ];
}

const hide = (text: string, of: [string, string][]) =>
  of.reduce((all, [name, address]) => all.replaceAll(address, `{{${name}}}`), text);
const show = (text: string, of: [string, string][]) =>
  of.reduce((all, [name, address]) => all.replaceAll(`{{${name}}}`, address), text);

/** The mail as it reads: its parts decoded, its boundary and date without chance. */
function plainMail(line: string): string {
  const entry = JSON.parse(line) as { kind: string; mail?: { raw: string; at: number } };
  if (!entry.mail) return line;
  const { raw, at } = entry.mail;
  const boundary = /boundary="([^"]+)"/.exec(raw)?.[1];
  const [head, ...parts] = boundary ? raw.split(`--${boundary}`) : [raw];
  const decoded = parts.map((part) =>
    /quoted-printable/i.test(part)
      ? part
          .replace(/quoted-printable/i, "8bit")
          .replace(/(\r\n\r\n)([\s\S]*)$/, (_, gap, body) => gap + fromQuoted(body))
      : part,
  );
  const whole = [head, ...decoded].join("--part").replace(boundary ?? "\u0000", "part");
  const dated = whole.replace(/^Date: .*$/m, `Date: ${new Date(at).toUTCString().replace("GMT", "+0000")}`);
  // The tag proves that an address is ours: it is made of the secret.
  const untagged = dated.replace(/(\+[0-9a-f-]{36})\.[a-z0-9_-]{16}@/g, "$1.{{tag}}@");
  return JSON.stringify({ ...entry, mail: { ...entry.mail, raw: untagged } });
}

const fromQuoted = (text: string) =>
  Buffer.from(
    text.replace(/=\r\n/g, "").replace(/=([0-9A-F]{2})/g, (_, code) => String.fromCharCode(Number.parseInt(code, 16))),
    "latin1",
  ).toString("utf8");

/** Reads what a database and the journals of a town hold now. */
export async function capture(ownerUrl: string, folder: string, env: Record<string, string>): Promise<Recorded> {
  const of = placeholders(env);
  const db = new pg.Client({ connectionString: ownerUrl });
  await db.connect();
  const tables: RecordedTable[] = [];
  for (const [name, columns] of await tablesOf(db)) {
    const list = columns.map((column) => (CLAIMS.includes(column) ? "null" : `"${column}"::text`)).join(", ");
    const { rows } = await db.query({ text: `select ${list} from "${name}"`, rowMode: "array" });
    const sealed = columns.indexOf("connector_key");
    for (const row of rows) if (sealed >= 0 && row[sealed]) row[sealed] = "{{sealed}}";
    const hidden = rows.map((row: (string | null)[]) => row.map((value) => (value === null ? null : hide(value, of))));
    if (rows.length > 0) tables.push({ name, columns, rows: hidden });
  }
  await db.end();
  const journals = JOURNALS.flatMap((name) => {
    const file = join(folder, `${name}.jsonl`);
    if (!existsSync(file)) return [];
    const lines = readFileSync(file, "utf8").split("\n").filter(Boolean);
    return [{ name, lines: (name === "mail" ? lines.map(plainMail) : lines).map((line) => hide(line, of)) }];
  });
  return canonical({ tables, journals });
}

/** Tables that a recording holds, those first that others refer to, with their columns but for computed ones. */
async function tablesOf(db: pg.Client): Promise<[string, string[]][]> {
  const { rows } = await db.query<{ name: string; columns: string[]; needs: string[] }>(`
    select c.relname as name,
      (select array_agg(a.attname::text order by a.attnum) from pg_attribute a where a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped and a.attgenerated = '') as columns,
      (select coalesce(array_agg(distinct f.confrelid::regclass::text), '{}') from pg_constraint f where f.conrelid = c.oid and f.contype = 'f' and f.confrelid <> c.oid) as needs
    from pg_class c where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') and not c.relispartition order by 1`);
  const left = new Map(rows.filter(({ name }) => !LEFT_OUT.includes(name)).map((row) => [row.name, row]));
  const found: [string, string[]][] = [];
  while (left.size > 0) {
    const free = [...left.values()].filter(({ needs }) => !needs.some((need) => left.has(need)));
    if (free.length === 0) throw new Error(`Tables refer to each other in a circle: ${[...left.keys()].join(", ")}`);
    for (const { name, columns } of free) {
      found.push([name, columns]);
      left.delete(name);
    }
  }
  return found;
}

/** The same table with its columns one after the other, which compresses better. */
type Columnar = { name: string; columns: Record<string, (string | null)[]> };

const columnar = ({ name, columns, rows }: RecordedTable): Columnar => ({
  name,
  columns: Object.fromEntries(columns.map((column, n) => [column, rows.map((row) => row[n])])),
});

function rowsOf({ name, columns }: Columnar): RecordedTable {
  const names = Object.keys(columns);
  const count = columns[names[0]]?.length ?? 0;
  return { name, columns: names, rows: Array.from({ length: count }, (_, n) => names.map((each) => columns[each][n])) };
}

const pack = (value: unknown) => {
  const bytes = Buffer.from(JSON.stringify(value));
  return brotliCompressSync(bytes, {
    params: { [constants.BROTLI_PARAM_QUALITY]: 10, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length },
  });
};
const unpack = <T>(file: string): T => JSON.parse(brotliDecompressSync(readFileSync(file)).toString("utf8")) as T;

/** Writes a recording in place of what was there; `first` is what its first days had left. Gives its bytes. */
export function writeRecording(manifest: Manifest, whole: Recorded, first: Recorded): number {
  rmSync(RECORDING, { recursive: true, force: true });
  mkdirSync(RECORDING, { recursive: true });
  let size = 0;
  const keep = (name: string, value: unknown) => {
    const bytes = pack(value);
    size += bytes.length;
    writeFileSync(join(RECORDING, `${name}.br`), bytes);
  };
  writeFileSync(join(RECORDING, "manifest.json"), `${JSON.stringify(manifest, null, 2)}\n`);
  for (const [n, table] of whole.tables.entries()) keep(`${String(n).padStart(2, "0")}-${table.name}`, columnar(table));
  for (const { name, lines } of whole.journals) keep(`journal-${name}`, lines);
  keep("first-days", first);
  return size;
}

/** What the recording says of itself; null where there is none. */
export function readManifest(): Manifest | null {
  const file = join(RECORDING, "manifest.json");
  return existsSync(file) ? (JSON.parse(readFileSync(file, "utf8")) as Manifest) : null;
}

/** What the recording's first days had left. */
export function readFirstDays(): Recorded {
  return unpack(join(RECORDING, "first-days.br"));
}

/** The whole of the recording. */
export function readRecording(): Recorded {
  const files = readdirSync(RECORDING).sort();
  return {
    tables: files.filter((file) => /^\d\d-/.test(file)).map((file) => rowsOf(unpack<Columnar>(join(RECORDING, file)))),
    journals: files
      .filter((file) => file.startsWith("journal-"))
      .map((file) => ({ name: file.slice(8, -3), lines: unpack<string[]>(join(RECORDING, file)) })),
  };
}

/**
 * Loads what was recorded into a database of its migration and a town's folder. `secrets` seals a connector's key, and
 * gives the tag of a reply address.
 */
export async function loadRecording(
  ownerUrl: string,
  folder: string,
  env: Record<string, string>,
  secrets: { sealedKey: (placeUrl: string) => string; tag: (messageId: string) => string },
  { tables, journals }: Recorded = readRecording(),
): Promise<void> {
  const of = placeholders(env);
  const db = new pg.Client({ connectionString: ownerUrl });
  await db.connect();
  try {
    await db.query("begin");
    for (const table of tables) {
      const url = table.columns.indexOf("connector_url");
      const row = (values: (string | null)[]) =>
        values.map((value) =>
          value === null ? null : value === "{{sealed}}" ? secrets.sealedKey(values[url] ?? "") : show(value, of),
        );
      await copyInto(
        db,
        `"${table.name}"`,
        table.columns.map((column) => `"${column}"`),
        table.rows.map(row),
      );
    }
    await db.query("commit");
    await db.query("analyze");
  } finally {
    await db.end();
  }
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  for (const { name, lines: hidden } of journals) {
    const lines = hidden.map((line) =>
      show(line, of).replace(
        /\+([0-9a-f-]{36})\.\{\{tag\}\}@/g,
        (_, id: string) => `+${id}.${secrets.tag(id).toLowerCase()}@`,
      ),
    );
    writeFileSync(join(folder, `${name}.jsonl`), `${lines.join("\n")}\n`);
  }
}
