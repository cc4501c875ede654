import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { drizzle } from "drizzle-orm/node-postgres";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import pg from "pg";
import { hashOfFiles } from "./hashOfFiles";
import { ROOT } from "./local";

/**
 * Brings a database up to date as its owner and gives the address for the program's role `estima_app`, which owns
 * nothing. Without `appPassword` the role must exist already; then only its rights are set.
 */
export async function prepareDatabase(ownerUrl: string, appPassword: string | null): Promise<string> {
  const pool = new pg.Pool({ connectionString: ownerUrl, max: 1 });
  try {
    await setRole(pool, appPassword);
    await migrate(drizzle(pool), { migrationsFolder: join(ROOT, "db/migrations") });
    const { runMigrations } = await import("graphile-worker");
    await runMigrations({ connectionString: ownerUrl });
    await setRights(pool);
  } finally {
    await pool.end();
  }
  return appUrlOf(ownerUrl, appPassword);
}

/** The role belongs to the whole server: somebody who prepares another database on it may change it just now. */
async function setRole(pool: Pick<pg.Pool, "query">, appPassword: string | null, tries = 5): Promise<void> {
  const { rows } = await pool.query("select 1 from pg_roles where rolname = 'estima_app'");
  if (!appPassword) {
    if (rows.length === 0)
      throw new Error(
        "The role estima_app does not exist. Create it, or set ESTIMA_APP_PASSWORD. See docs/running.md.",
      );
    return;
  }
  const sql = rows.length > 0 ? "alter" : "create";
  try {
    await pool.query(`${sql} role estima_app login nosuperuser nobypassrls password ${pg.escapeLiteral(appPassword)}`);
  } catch (error) {
    const isAtOnce = ["23505", "42710", "XX000"].includes((error as { code?: string }).code ?? "");
    if (!isAtOnce || tries <= 1) throw error;
    await setRole(pool, appPassword, tries - 1);
  }
}

/** Sets functions, policies and rights anew. Whoever reads the tables meanwhile may stand in its way: it is tried again. */
async function setRights(pool: pg.Pool, tries = 5): Promise<void> {
  try {
    await pool.query(readFileSync(join(ROOT, "db/security.sql"), "utf8"));
  } catch (error) {
    const isDeadlock = (error as { code?: string }).code === "40P01";
    if (!isDeadlock || tries <= 1) throw error;
    await setRights(pool, tries - 1);
  }
}

/** The address by which the program's role reaches a database. */
export function appUrlOf(ownerUrl: string, appPassword: string | null): string {
  const url = new URL(ownerUrl);
  url.username = "estima_app";
  url.password = appPassword ?? "";
  return url.toString();
}

/** Empties and makes a database anew. Refuses any whose name does not say that it may be thrown away. */
export function recreateDatabase(ownerUrl: string, name: string): Promise<string> {
  return asAdmin(ownerUrl, (admin) => replaceDatabase(admin, ownerUrl, name));
}

/**
 * The same, already brought up to date: a copy of a template, which takes a tenth of the time of running every
 * migration. The template is made once on a server for each state of the `db` folder. Gives the owner's address; the
 * program's role has `appPassword` afterwards.
 */
export function recreatePrepared(ownerUrl: string, name: string, appPassword: string): Promise<string> {
  return asAdmin(ownerUrl, async (admin) => {
    const template = `${TEMPLATE}_${hashOfFiles(["db"]).slice(0, 12)}`;
    // One process makes the template; others that need it at the same time wait here.
    await admin.query("select pg_advisory_lock(hashtext('estima template'))");
    const { rows } = await admin.query<{ datname: string }>("select datname from pg_database where datname like $1", [
      `${TEMPLATE}\\_%`,
    ]);
    if (!rows.some(({ datname }) => datname === template)) {
      for (const { datname } of rows) await admin.query(`drop database ${datname} with (force)`);
      const making = `${TEMPLATE}_unfinished`;
      await prepareDatabase(await replaceDatabase(admin, ownerUrl, making), appPassword);
      await admin.query(`alter database ${making} rename to ${template}`);
    } else await setRole(admin, appPassword);
    await admin.query("select pg_advisory_unlock(hashtext('estima template'))");
    return replaceDatabase(admin, ownerUrl, name, template);
  });
}

const TEMPLATE = "estima_template";

async function asAdmin<T>(ownerUrl: string, work: (admin: pg.Client) => Promise<T>): Promise<T> {
  const admin = new pg.Client({ connectionString: databaseAt(ownerUrl, "postgres") });
  await admin.connect();
  try {
    return await work(admin);
  } finally {
    await admin.end();
  }
}

async function replaceDatabase(admin: pg.Client, ownerUrl: string, name: string, template?: string): Promise<string> {
  if (!/^estima(_[a-z0-9_]+)?$/.test(name)) throw new Error(`Refusing to drop the database ${name}.`);
  await admin.query(`drop database if exists ${name} with (force)`);
  await admin.query(`create database ${name}${template ? ` template ${template}` : ""}`);
  // A copy has the tables' rights, and not the database's own (db/security.sql).
  await admin.query(`revoke temporary on database ${name} from public`);
  return databaseAt(ownerUrl, name);
}

function databaseAt(ownerUrl: string, name: string): string {
  const url = new URL(ownerUrl);
  url.pathname = `/${name}`;
  return url.toString();
}

/** Brings an empty database up to a migration and no further, for what was kept at that time. */
export async function migrateUpTo(ownerUrl: string, tag: string): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "estima-migrations-"));
  const pool = new pg.Pool({ connectionString: ownerUrl, max: 1 });
  try {
    cpSync(join(ROOT, "db/migrations"), folder, { recursive: true });
    const journal = join(folder, "meta/_journal.json");
    const { entries, ...rest } = JSON.parse(readFileSync(journal, "utf8")) as { entries: { tag: string }[] };
    const last = entries.findIndex((entry) => entry.tag === tag);
    if (last < 0) throw new Error(`There is no migration ${tag}.`);
    writeFileSync(journal, JSON.stringify({ ...rest, entries: entries.slice(0, last + 1) }));
    await migrate(drizzle(pool), { migrationsFolder: folder });
  } finally {
    await pool.end();
    rmSync(folder, { recursive: true });
  }
}

/** The newest migration. */
export function latestMigration(): string {
  const { entries } = JSON.parse(readFileSync(join(ROOT, "db/migrations/meta/_journal.json"), "utf8")) as {
    entries: { tag: string }[];
  };
  return entries[entries.length - 1].tag;
}
